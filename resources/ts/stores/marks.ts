import { defineStore } from 'pinia'
import { api } from '../api/client'
import { latest } from '../api/latest'
import type { JoinForecast, MarkOfFace, Piece, Run, Step, StepQuestion } from '../api/types'
import { count } from '../format'
import { asked } from './asked'
import { askAgain, letGo, makeIt, plainly, unjoinable } from './joining'
import { usePlate } from './plate'
import { useProject } from './project'
import { useSettings } from './settings'

interface State {
    first: number
    arrow: boolean
    raised: boolean
    /** Height of the signs, mm; null lets each face decide. */
    size: number | null
    depth: number
    rim: number
    wall: number
    done: boolean
    forecast: JoinForecast<MarkOfFace> | null
    problem: string
    /** Looks for places. */
    looking: Run | null
}

const forecasts = latest(
    (q: StepQuestion & { project: number }) => asked(() => api.foreseeLong<JoinForecast<MarkOfFace>>(q.project, { step: q.step, pieces: q.pieces }), (run) => { useMarks().looking = run }),
    (answer) => { useMarks().forecast = answer },
    (error) => { useMarks().problem = plainly(error) },
)

/** Numbers and arrows on the faces that pieces share: what is wished for, and where they will be. */
export const useMarks = defineStore('marks', {
    state: (): State => ({ first: 1, arrow: true, raised: false, size: null, depth: 0.6, rim: 1, wall: 1.2, done: false, forecast: null, problem: '', looking: null }),
    getters: {
        pieces: (): Piece[] => useProject().taken,
        question(state): StepQuestion {
            const { first, arrow, raised, size, depth, rim, wall } = state
            return { step: { do: 'mark', first, arrow, raised, depth_mm: depth, rim_mm: rim, wall_mm: wall, ...(size === null ? {} : { size_mm: size }) }, pieces: useProject().takenIds }
        },
        /** Is anybody looking? */
        isAtHand: (): boolean => useSettings().station === 'plate' && usePlate().work === 'marks',
        missing(): string {
            return unjoinable(this.pieces)
        },
        total(state): number {
            return state.forecast?.faces.filter((face) => face.why === null).length ?? 0
        },
        ready(state): boolean {
            return !useProject().busy && !state.done && !this.missing && !state.problem && this.total > 0
        },
        sentence(state): string {
            const project = useProject()
            if (project.busy) return project.busyWords
            if (state.done) return 'The marks are there. Change a setting for further ones.'
            if (this.missing) return this.missing
            if (state.problem) return state.problem
            if (!state.forecast) return 'Looks where marks can be.'
            const without = state.forecast.faces.length - this.total
            const again = project.editing === null ? '' : ` Runs step ${project.stepOf(project.editing)?.number} and what follows it again.`
            return `${state.raised ? 'Raises' : 'Engraves'} a number on ${count(this.total, 'face', 'faces')}, the same on both pieces.${without ? ` ${count(without, 'face has', 'faces have')} no room.` : ''}${again}`
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
        load({ settings: own }: Step) {
            usePlate().work = 'marks'
            this.set({ first: typeof own.first === 'number' ? own.first : 1, arrow: own.arrow ?? true, raised: own.raised ?? false, size: own.size_mm ?? null, depth: own.depth_mm ?? 0.6, rim: own.rim_mm ?? 1, wall: own.wall_mm ?? 1.2 })
        },
        forget() {
            this.stop()
            this.$patch({ done: false, forecast: null, problem: '' })
        },
        async run() {
            await makeIt(this)
        },
    },
})
