import { defineStore } from 'pinia'
import { api } from '../api/client'
import { latest } from '../api/latest'
import type { LayForecast, PlaceForecast, Run, Step, StepQuestion, Vector } from '../api/types'
import { count, number } from '../format'
import { asked } from './asked'
import { useBlade } from './blade'
import { useProject } from './project'

export type Axis = 'X' | 'Y' | 'Z'
export type Way = 'about' | 'face' | 'lay' | 'move' | 'scale'

const AXES: Record<Axis, Vector> = { X: [1, 0, 0], Y: [0, 1, 0], Z: [0, 0, 1] }

const DONE: Record<Way, string> = { about: 'The turn is made.', face: 'They stand.', lay: 'They lie on the bed.', move: 'The move is made.', scale: 'The scaling is made.' }

interface State {
    /** Turned about an axis, stood on a face, laid down each by itself, moved along, or scaled. */
    way: Way
    axis: Axis
    /** The axis of a step that is edited, where it is none of the three; until another is chosen. */
    own: Vector | null
    degrees: number
    /** Outward direction of the face to stand on. */
    face: Vector | null
    /** What is to lie below; null for the face on which each stands best. */
    on: Vector | null
    /** How they will stand. */
    stands: LayForecast | null
    /** Shows where skin will hang over. */
    over: boolean
    /** Looks for faces to stand on. */
    looking: Run | null
    /** Where that is brought, of a step that is edited. */
    towards: Vector
    /** How far along each axis, mm. */
    by: Vector
    /** How many times as large along each axis. */
    times: Vector
    /** All three factors are one. */
    alike: boolean
    through: 'centre' | 'origin'
    /** The place of a step that is edited, until another is chosen. */
    place: Vector | null
    /** It is done; nothing is shown until something is set. */
    done: boolean
    forecast: PlaceForecast | null
}

const forecasts = latest(
    (q: StepQuestion & { project: number }) => api.foresee<PlaceForecast>(q.project, { step: q.step, pieces: q.pieces }),
    (answer) => { usePlace().forecast = answer },
    (error) => useProject().refused(error),
)

const standings = latest(
    (q: StepQuestion & { project: number }) => asked(() => api.foreseeLong<LayForecast>(q.project, { step: q.step, pieces: q.pieces }), (run) => { usePlace().looking = run }),
    (answer) => {
        usePlace().stands = answer
        usePlace().looking = null
    },
    (error) => useProject().refused(error),
)

/** Where pieces are to be placed. */
export const usePlace = defineStore('place', {
    state: (): State => ({ way: 'about', axis: 'X', own: null, degrees: 90, face: null, on: null, stands: null, over: false, looking: null, towards: [0, 0, -1], by: [0, 0, 0], times: [1, 1, 1], alike: true, through: 'centre', place: null, done: false, forecast: null }),
    getters: {
        question(state): StepQuestion {
            const through: Vector | 'centre' = state.place ?? (state.through === 'origin' ? [0, 0, 0] : 'centre')
            const steps = {
                about: { do: 'turn' as const, about: state.own ?? AXES[state.axis], degrees: state.degrees, through },
                face: { do: 'turn' as const, face: state.face ?? ([0, 0, -1] as Vector), towards: state.towards, through },
                lay: { do: 'lay' as const, on: state.on ?? ('best' as const) },
                move: { do: 'move' as const, by: state.by },
                scale: { do: 'scale' as const, times: state.times, through },
            }
            return { step: steps[state.way], pieces: useProject().takenIds }
        },
        /** Coordinates only change places and signs. */
        exact(state): boolean {
            if (state.way === 'about') return state.own === null && state.degrees % 90 === 0
            return state.way === 'face' && state.face !== null && [state.face, state.towards].every((d) => d.filter((part) => part !== 0).length === 1)
        },
        /** Why nothing would happen as it is set; empty when something would. */
        idle(state): string {
            if (state.way === 'face') return state.face ? '' : 'Click the face that the pieces are to stand on.'
            if (state.way === 'lay') return ''
            if (state.way === 'about') return state.degrees % 360 === 0 ? 'A whole turn changes nothing: set other degrees.' : ''
            if (state.way === 'move') return state.by.every((part) => part === 0) ? 'Set how far the pieces are to move.' : ''
            return state.times.every((part) => part === 1) ? 'Set how large the pieces are to be.' : ''
        },
        ready(state): boolean {
            const project = useProject()
            return !project.busy && !state.done && project.taken.length > 0 && this.idle === ''
        },
        sentence(state): string {
            const project = useProject()
            if (!project.living.length) return 'There is nothing to place yet.'
            if (project.editing === null && !project.visible.length) return 'Every piece is hidden: show at least one.'
            if (project.busy) return project.busyWords
            if (state.done) return `${DONE[state.way]} Set the next one.`
            if (this.idle) return this.idle
            const of = project.editing === null ? `${project.taken.length} of ${count(project.living.length, 'piece', 'pieces')}` : count(project.taken.length, 'piece', 'pieces')
            const again = project.editing === null ? '' : ` Runs step ${project.stepOf(project.editing)?.number} and what follows it again.`
            const place = state.place ? 'a place' : state.through === 'origin' ? 'the origin' : project.taken.length > 1 ? 'their common middle' : 'its middle'
            if (state.way === 'lay') return `Lays ${of} on ${state.on ? 'the chosen face' : project.taken.length > 1 ? 'the face on which each stands best' : 'the face on which it stands best'}, at the height 0.${again}`
            if (state.way === 'move') return `Moves ${of} by ${state.by.map((part) => number(part, 2)).join(', ')} mm along X, Y, Z.${again}`
            if (state.way === 'scale') {
                const times = state.alike ? `${number(state.times[0], 4)} times as large` : `${state.times.map((part) => number(part, 4)).join(', ')} times as large along X, Y, Z`
                return `Makes ${of} ${times}; ${place} stays.${again}`
            }
            const what = state.way === 'face' ? `Stands ${of} on the clicked face` : `Turns ${of} by ${number(state.degrees, state.degrees % 1 ? 2 : 0)}° about ${state.own ? 'an axis' : state.axis}`
            return `${what}, through ${place}.${this.exact ? ' Exact: coordinates only change places and signs.' : ''}${again}`
        },
    },
    actions: {
        set(change: Partial<State>) {
            this.$patch({ ...change, done: false } as never)
            useProject().showAsIs()
            this.ask()
        },
        /** How large the pieces will be; the blade's kind says whether anybody wants to know. */
        ask() {
            const project = useProject()
            this.stop()
            if (useBlade().kind !== 'place' || !project.project || !this.ready) return
            if (this.way === 'lay') {
                standings.ask({ ...this.question, project: project.project.id })
                return
            }
            forecasts.ask({ ...this.question, project: project.project.id })
        },
        /** Lets go of what is being asked. */
        stop() {
            forecasts.drop()
            standings.drop()
            const run = this.looking
            this.$patch({ forecast: null, looking: null })
            if (this.way !== 'lay') this.stands = null
            if (run && !run.over) void api.cancel(run.id).catch(() => undefined)
        },
        /** One factor; all three when they are alike. */
        scale(axis: number, factor: number) {
            const kept = Math.min(1e4, Math.max(1e-4, factor))
            this.set({ times: this.times.map((one, k) => (this.alike || k === axis ? kept : one)) as Vector })
        },
        forget() {
            this.stop()
            this.$reset()
        },
        load(step: Step) {
            const { do: does, about, degrees, face, towards, through, by, on } = step.settings
            const times = typeof step.settings.times === 'object' ? step.settings.times : null
            const axis = about ? (['X', 'Y', 'Z'] as const).find((_, k) => about[k] > 0 && about.every((part, l) => l === k || part === 0)) : undefined
            const place = through !== undefined && through !== 'centre' ? through : null
            const isOrigin = place?.every((part) => part === 0) ?? false
            this.set({
                way: does === 'move' || does === 'scale' || does === 'lay' ? does : face ? 'face' : 'about', by: by ?? [0, 0, 0], times: times ?? [1, 1, 1],
                alike: !times || (times[0] === times[1] && times[1] === times[2]), axis: axis ?? this.axis, own: about && !axis ? about : null, degrees: degrees ?? 90, face: face ?? null, on: Array.isArray(on) ? on : null, towards: towards ?? [0, 0, -1],
                through: isOrigin ? 'origin' : 'centre', place: isOrigin ? null : place,
            })
        },
        async run() {
            const project = useProject()
            if (!this.ready || !(await project.work(this.question))) return
            project.editing = null
            this.$patch({ face: null, on: null, stands: null, by: [0, 0, 0], times: [1, 1, 1], done: true })
            this.ask()
        },
    },
})
