import { defineStore } from 'pinia'
import { api } from '../api/client'
import { latest } from '../api/latest'
import type { Step, StepQuestion, TurnForecast, Vector } from '../api/types'
import { count, number } from '../format'
import { useBlade } from './blade'
import { useProject } from './project'

export type Axis = 'X' | 'Y' | 'Z'

const AXES: Record<Axis, Vector> = { X: [1, 0, 0], Y: [0, 1, 0], Z: [0, 0, 1] }

interface State {
    /** About an axis, or onto a face. */
    way: 'about' | 'face'
    axis: Axis
    /** The axis of a step that is edited, where it is none of the three; until another is chosen. */
    own: Vector | null
    degrees: number
    /** Outward direction of the face to stand on. */
    face: Vector | null
    /** Where that is brought, of a step that is edited. */
    towards: Vector
    through: 'centre' | 'origin'
    /** The place of a step that is edited, until another is chosen. */
    place: Vector | null
    /** The turn is made; none is shown until something is set. */
    done: boolean
    forecast: TurnForecast | null
}

const forecasts = latest(
    (q: StepQuestion & { project: number }) => api.foresee<TurnForecast>(q.project, { step: q.step, pieces: q.pieces }),
    (answer) => { useTurn().forecast = answer },
    (error) => useProject().refused(error),
)

/** A turn as it is set. */
export const useTurn = defineStore('turn', {
    state: (): State => ({ way: 'about', axis: 'X', own: null, degrees: 90, face: null, towards: [0, 0, -1], through: 'centre', place: null, done: false, forecast: null }),
    getters: {
        question(state): StepQuestion {
            const through: Vector | 'centre' = state.place ?? (state.through === 'origin' ? [0, 0, 0] : 'centre')
            const step = state.way === 'face'
                ? { do: 'turn' as const, face: state.face ?? ([0, 0, -1] as Vector), towards: state.towards, through }
                : { do: 'turn' as const, about: state.own ?? AXES[state.axis], degrees: state.degrees, through }
            return { step, pieces: useProject().takenIds }
        },
        /** Coordinates only change places and signs. */
        exact(state): boolean {
            return state.way === 'about' ? state.own === null && state.degrees % 90 === 0 : state.face !== null && [state.face, state.towards].every((d) => d.filter((part) => part !== 0).length === 1)
        },
        ready(state): boolean {
            const project = useProject()
            return !project.busy && !state.done && project.taken.length > 0 && (state.way === 'face' ? state.face !== null : state.degrees % 360 !== 0)
        },
        sentence(state): string {
            const project = useProject()
            if (!project.living.length) return 'There is nothing to turn yet.'
            if (project.editing === null && !project.visible.length) return 'Every piece is hidden: show at least one.'
            if (project.busy) return project.busyWords
            if (state.done) return 'The turn is made. Set the next one.'
            if (state.way === 'face' && !state.face) return 'Click the face that the pieces are to stand on.'
            if (state.way === 'about' && state.degrees % 360 === 0) return 'A whole turn changes nothing: set other degrees.'
            const of = project.editing === null ? `${project.taken.length} of ${count(project.living.length, 'piece', 'pieces')}` : count(project.taken.length, 'piece', 'pieces')
            const again = project.editing === null ? '' : ` Runs step ${project.stepOf(project.editing)?.number} and what follows it again.`
            const what = state.way === 'face' ? `Stands ${of} on the clicked face` : `Turns ${of} by ${number(state.degrees, state.degrees % 1 ? 2 : 0)}° about ${state.own ? 'an axis' : state.axis}`
            const place = state.place ? 'a place' : state.through === 'origin' ? 'the origin' : project.taken.length > 1 ? 'their common middle' : 'its middle'
            return `${what}, through ${place}.${this.exact ? ' Exact: coordinates only change places and signs.' : ''}${again}`
        },
    },
    actions: {
        set(change: Partial<State>) {
            this.$patch({ ...change, done: false } as never)
            const project = useProject()
            // Where the pieces will stand is drawn beside where they really are.
            project.spread = 0
            project.before = null
            this.ask()
        },
        /** How large the pieces will be; the blade's kind says whether anybody wants to know. */
        ask() {
            const project = useProject()
            if (useBlade().kind !== 'turn' || !project.project || !this.ready) {
                forecasts.drop()
                this.forecast = null
                return
            }
            forecasts.ask({ ...this.question, project: project.project.id })
        },
        forget() {
            forecasts.drop()
            this.$reset()
        },
        load(step: Step) {
            const { about, degrees, face, towards, through } = step.settings
            const axis = about ? (['X', 'Y', 'Z'] as const).find((_, k) => about[k] > 0 && about.every((part, l) => l === k || part === 0)) : undefined
            const place = through !== undefined && through !== 'centre' ? through : null
            const isOrigin = place?.every((part) => part === 0) ?? false
            this.set({
                way: face ? 'face' : 'about', axis: axis ?? this.axis, own: about && !axis ? about : null, degrees: degrees ?? 90, face: face ?? null, towards: towards ?? [0, 0, -1],
                through: isOrigin ? 'origin' : 'centre', place: isOrigin ? null : place,
            })
        },
        async run() {
            const project = useProject()
            if (!project.project || !this.ready) return
            project.problem = ''
            project.result = ''
            try {
                const editing = project.editing
                const run = editing === null ? await api.start(project.project.id, this.question) : await api.edit(project.project.id, editing, this.question)
                if (await project.follow(run)) {
                    project.editing = null
                    this.face = null
                    this.done = true
                    this.ask()
                }
            } catch (error) {
                project.refused(error)
            }
        },
    },
})
