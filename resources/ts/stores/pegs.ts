import { defineStore } from 'pinia'
import { api } from '../api/client'
import { latest } from '../api/latest'
import type { JoinForecast, PegsOfFace, Piece, Run, Step, StepQuestion, Vector } from '../api/types'
import { count, label } from '../format'
import { asked } from './asked'
import { askAgain, letGo, makeIt, plainly, unjoinable } from './joining'
import { usePlate } from './plate'
import { title, useProject } from './project'
import { useSettings } from './settings'

export type PegStyle = 'pin' | 'dowel' | 'magnet'
export type PegShape = 'round' | 'square' | 'hexagon' | 'dovetail'

interface State {
    style: PegStyle
    shape: PegShape
    /** Mm; null lets each face decide. */
    diameter: number | null
    length: number | null
    /** On each face; null for two where there is room. */
    count: number | null
    /** The printer's fit gap when null. */
    clearance: number | null
    rim: number
    wall: number
    taper: number
    degrees: number
    oneWay: boolean
    swap: boolean
    /** Places by hand. */
    at: Vector[]
    done: boolean
    forecast: JoinForecast<PegsOfFace> | null
    problem: string
    /** Looks for places. */
    looking: Run | null
}

const forecasts = latest(
    (q: StepQuestion & { project: number }) => asked(() => api.foreseeLong<JoinForecast<PegsOfFace>>(q.project, { step: q.step, pieces: q.pieces }), (run) => { usePegs().looking = run }),
    (answer) => { usePegs().forecast = answer },
    (error) => { usePegs().problem = plainly(error) },
)

const WORDS: Record<PegStyle, [string, string]> = { pin: ['pin', 'pins'], dowel: ['dowel', 'dowels'], magnet: ['pair of pockets', 'pairs of pockets'] }

/** Pegs across the faces that pieces share: what is wished for, and where they will be. */
export const usePegs = defineStore('pegs', {
    state: (): State => ({
        style: 'pin', shape: 'round', diameter: null, length: null, count: null, clearance: null, rim: 1.2, wall: 1.2, taper: 0.8, degrees: 0, oneWay: true, swap: false, at: [],
        done: false, forecast: null, problem: '', looking: null,
    }),
    getters: {
        gap: (state): number => state.clearance ?? useProject().project?.printer?.gap ?? 0.3,
        pieces: (): Piece[] => useProject().taken,
        question(state): StepQuestion {
            const { style, shape, rim, wall, degrees } = state
            return {
                step: {
                    do: 'pegs', style, shape: style === 'magnet' ? 'round' : shape, clearance_mm: this.gap, rim_mm: rim, wall_mm: wall, taper_mm: state.taper, degrees, one_way: state.oneWay, swap: state.swap,
                    ...(state.diameter === null ? {} : { diameter_mm: state.diameter }), ...(state.length === null ? {} : { length_mm: state.length }),
                    ...(state.count === null ? {} : { count: state.count }), ...(state.at.length ? { at: state.at } : {}),
                },
                pieces: useProject().takenIds,
            }
        },
        /** Is anybody looking? */
        isAtHand: (): boolean => useSettings().station === 'plate' && usePlate().work === 'pegs',
        missing(): string {
            return unjoinable(this.pieces)
        },
        total(state): number {
            return state.forecast?.faces.reduce((sum, face) => sum + face.pegs.length, 0) ?? 0
        },
        ready(state): boolean {
            return !useProject().busy && !state.done && !this.missing && !state.problem && this.total > 0
        },
        sentence(state): string {
            const project = useProject()
            if (project.busy) return project.busyWords
            if (state.done) return 'The pegs are there. Change a setting for the next ones.'
            if (this.missing) return this.missing
            if (state.problem) return state.problem
            if (!state.forecast) return 'Looks where pegs can go.'
            const faces = state.forecast.faces.filter((face) => face.pegs.length).length
            const without = state.forecast.faces.length - faces
            const turning = state.forecast.faces.filter((face) => face.pegs.length && face.ways !== 1).length
            const again = project.editing === null ? '' : ` Runs step ${project.stepOf(project.editing)?.number} and what follows it again.`
            return `Makes ${count(this.total, ...WORDS[state.style])} across ${count(faces, 'face', 'faces')}.${without ? ` ${count(without, 'face has', 'faces have')} no room.` : ''}${turning ? ` ${count(turning, 'face goes', 'faces go')} together in more than one way.` : ''}${again}`
        },
    },
    actions: {
        set(change: Partial<State>) {
            this.$patch({ ...change, done: false } as never)
            useProject().showAsIs()
            this.ask()
        },
        /** Where they will be. */
        ask() {
            askAgain(this, forecasts)
        },
        stop() {
            letGo(this, forecasts)
        },
        load(step: Step) {
            const own = step.settings
            usePlate().work = 'pegs'
            this.set({
                style: (own.style ?? 'pin') as PegStyle, shape: (own.shape ?? 'round') as PegShape, diameter: own.diameter_mm ?? null, length: own.length_mm ?? null, count: typeof own.count === 'number' ? own.count : null, clearance: own.clearance_mm ?? 0.3,
                rim: own.rim_mm ?? 1.2, wall: own.wall_mm ?? 1.2, taper: own.taper_mm ?? 0.8, degrees: own.degrees ?? 0, oneWay: own.one_way ?? true, swap: own.swap ?? false, at: (own.at as Vector[] | undefined) ?? [],
            })
        },
        forget() {
            this.stop()
            this.$patch({ at: [], done: false, forecast: null, problem: '' })
        },
        titleOf(name: string): string {
            const piece = this.pieces.find((one) => one.name === name)
            return piece ? title(piece) : label(name)
        },
        async run() {
            if (await makeIt(this)) this.at = []
        },
    },
})
