import { defineStore } from 'pinia'
import { api } from '../api/client'
import { latest } from '../api/latest'
import type { Band, Gives, Keep, MirrorForecast, Run, Step, StepQuestion, SymmetryAnswer, Vector } from '../api/types'
import { count, mm, number } from '../format'
import { asked } from './asked'
import { useBlade } from './blade'
import { useProject } from './project'

export type Axis = 'X' | 'Y' | 'Z'
export type Through = 'origin' | 'centre' | 'low' | 'high'

interface State {
    copying: boolean
    keep: 'ahead' | 'behind'
    /** The other side is cut off first; else the whole is mirrored. */
    halves: boolean
    catch: number
    gives: Gives
    band: Band
    /** Degrees below which kinks of the seam are smoothed; 0 for none. */
    smooth: number
    /** Further planes square to these axes. */
    also: Axis[]
    through: Through
    copies: number
    copyAxis: Axis
    /** As the step that is edited has them, until they are set anew. */
    further: { through: Vector; facing: Vector }[] | null
    about: { through: Vector; axis: Vector } | null
    forecast: MirrorForecast | null
    symmetry: (SymmetryAnswer & { piece: number }) | null
    measuring: boolean
    /** Works out how symmetric the piece is. */
    measuringRun: Run | null
}

const AXES: Record<Axis, Vector> = { X: [1, 0, 0], Y: [0, 1, 0], Z: [0, 0, 1] }

const forecasts = latest(
    (q: StepQuestion & { project: number }) => asked(() => api.foreseeLong<MirrorForecast>(q.project, { step: q.step, pieces: q.pieces }), () => undefined),
    (answer) => { if (answer) useMirror().forecast = answer },
    (error) => useProject().refused(error),
)

/** A mirror as it is set; its first plane is where the blade is. */
export const useMirror = defineStore('mirror', {
    state: (): State => ({
        copying: false, keep: 'behind', halves: true, catch: 0, gives: 'one', band: 'none', smooth: 0, also: [], through: 'origin', copies: 6, copyAxis: 'Z',
        further: null, about: null, forecast: null, symmetry: null, measuring: false, measuringRun: null,
    }),
    getters: {
        /** Places that the further planes, or the copies' axis, go through. */
        at(state): Vector {
            const { min, max } = useProject().box
            return min.map((low, k) => ({ origin: 0, centre: (low + max[k]) / 2, low, high: max[k] })[state.through]) as Vector
        },
        question(): StepQuestion {
            const blade = useBlade()
            const pieces = useProject().takenIds
            if (this.copying) return { step: { do: 'mirror', copies: { ...(this.about ?? { through: this.at, axis: AXES[this.copyAxis] }), count: this.copies }, catch: this.catch }, pieces }
            const side = this.keep === 'ahead' ? 1 : -1
            // The further planes keep the side on which most of the piece is.
            const { min, max } = useProject().box
            const more = this.further ?? this.also.filter((axis) => axis !== blade.axis).map((axis) => {
                const k = 'XYZ'.indexOf(axis)
                const isHigh = (min[k] + max[k]) / 2 >= this.at[k]
                return { through: this.at, facing: AXES[axis].map((c) => (isHigh ? c : -c) * side + 0) as Vector }
            })
            const through = blade.facing.map((c) => c * blade.offset) as Vector
            return {
                step: {
                    do: 'mirror', planes: [{ through, facing: blade.facing }, ...more], keep: this.keep, cut: this.halves, catch: this.catch, gives: this.gives,
                    band: this.halves ? 'none' : this.band, smooth: this.gives === 'one' ? this.smooth : 0,
                },
                pieces,
            }
        },
        /** Planes ahead of which things stay; none when the whole is mirrored. */
        kept(): { facing: Vector; offset: number }[] {
            const { planes, cut, keep } = this.question.step
            if (!planes || !cut) return []
            const sign = keep === 'ahead' ? 1 : -1
            return planes.map(({ through, facing }) => {
                const length = Math.hypot(...facing)
                const ahead = facing.map((c) => (sign * c) / length) as Vector
                return { facing: ahead, offset: ahead.reduce((sum, c, k) => sum + c * through[k], 0) }
            })
        },
        /** What of a piece stays as it is, and is drawn solid. */
        stays(state): Keep {
            if (state.copying) return 'both'
            // None of it: both sides are drawn faded.
            if (state.gives === 'reflection') return 'outline'
            return state.halves ? state.keep : 'both'
        },
        ready(): boolean {
            const project = useProject()
            return !project.busy && project.taken.length > 0 && (this.copying || (this.forecast !== null && !this.forecast.refusal))
        },
        sentence(): string {
            const project = useProject()
            if (!project.living.length) return 'There is nothing to mirror yet.'
            if (project.editing === null && !project.visible.length) return 'Every piece is hidden: show at least one.'
            if (project.busy) return project.busyWords
            const of = project.editing === null ? `${project.taken.length} of ${count(project.living.length, 'piece', 'pieces')}` : count(project.taken.length, 'piece', 'pieces')
            const again = project.editing === null ? '' : ` Runs step ${project.stepOf(project.editing)?.number} and what follows it again.`
            const f = this.forecast
            if (this.copying) {
                const wide = f?.span && f.span > 360 / this.copies + 0.25 ? ` It takes ${number(f.span, 0)}° of the turn, more than the ${number(360 / this.copies, 1)}° of each copy: they overlap or interlock.` : ''
                return `Makes ${this.copies} copies of ${of} about ${this.about ? 'an axis' : this.copyAxis}, joined where they meet.${wide}${again}`
            }
            if (!f) return 'The plane is being looked at.'
            if (f.refusal) return f.refusal
            const planes = this.question.step.planes?.length ?? 1
            const what = { one: 'joined into one body', two: 'as two pieces', reflection: 'keeping only the reflection' }[this.gives]
            const rim = f.rims && this.gives === 'one' && f.gap > this.catch ? ` The rim is up to ${mm(f.gap, 2)} off the plane: catch ${mm(f.weld, 2)} to join it.` : ''
            const over = planes > 1 ? ` over ${planes} planes` : ''
            if (this.halves) return `Keeps what is ${this.keep} of ${of} and mirrors it${over}, ${what}.${rim}${again}`
            if (f.crosses) return `Mirrors the whole of ${of}${over}; the reflection overlaps it, and both stay bodies of their own.${again}`
            if (f.apart > 0) return `Mirrors the whole of ${of}${over}; the two stand ${mm(f.apart)} apart${this.band === 'none' ? '' : `, joined by a ${this.band} band`}.${again}`
            return `Mirrors the whole of ${of}${over}, ${what}.${rim}${again}`
        },
    },
    actions: {
        set(change: Partial<State>) {
            this.$patch(change as never)
            useBlade().shown = true
            this.ask()
        },
        ask() {
            const project = useProject()
            const blade = useBlade()
            if (blade.kind !== 'mirror' || !project.project || !project.taken.length) return
            forecasts.ask({ ...this.question, project: project.project.id })
        },
        forget() {
            forecasts.drop()
            this.$reset()
        },
        /** The plane through the origin, the middle or an end of the pieces, as it faces now. */
        place(through: Through) {
            this.through = through
            const blade = useBlade()
            if (through === 'origin') blade.setOffset(0)
            else if (through === 'centre') blade.setPlace(blade.extent / 2)
            else blade.setPlace(through === 'low' ? 0 : blade.extent)
            // The side that has more of it.
            if (through !== 'centre') this.keep = blade.place <= blade.extent / 2 ? 'ahead' : 'behind'
            this.ask()
        },
        load(step: Step) {
            const { planes, copies, keep, cut, catch: reaching, gives, band, smooth } = step.settings
            const blade = useBlade()
            blade.kind = 'mirror'
            blade.shown = true
            if (copies) {
                this.$patch({ copying: true, copies: copies.count, copyAxis: copies.axis[0] ? 'X' : copies.axis[1] ? 'Y' : 'Z', about: { through: copies.through, axis: copies.axis }, catch: reaching ?? 0 })
                return
            }
            if (!planes?.length) return
            this.$patch({
                copying: false, keep: keep === 'ahead' ? 'ahead' : 'behind', halves: cut ?? true, catch: reaching ?? 0, gives: gives ?? 'one', band: band ?? 'none', smooth: smooth ?? 0,
                further: planes.length > 1 ? planes.slice(1) : null,
                also: planes.slice(1).map(({ facing }) => (facing[0] ? 'X' : facing[1] ? 'Y' : 'Z')),
            })
            blade.setVector(planes[0].facing)
            blade.setThrough(planes[0].through)
            this.ask()
        },
        async measure(best: boolean) {
            const project = useProject()
            const blade = useBlade()
            const piece = project.taken[0]
            if (!project.project || !piece) return
            this.measuring = true
            try {
                const through = blade.facing.map((c) => c * blade.offset) as Vector
                const id = project.project.id
                const facing = blade.facing
                const told = await asked(() => api.symmetry(id, { piece: piece.id, ...(best ? {} : { through, facing }) }), (run) => { this.measuringRun = run })
                if (told === null) return
                this.symmetry = { ...told, piece: piece.id }
                if (best) {
                    blade.setVector(this.symmetry.facing)
                    blade.setThrough(this.symmetry.through)
                    this.ask()
                }
            } catch (error) {
                project.refused(error)
            } finally {
                this.measuring = false
            }
        },
        async stopMeasuring() {
            if (this.measuringRun) await api.cancel(this.measuringRun.id).catch((error: unknown) => useProject().refused(error))
        },
        async run() {
            const project = useProject()
            if (!this.ready) return
            this.symmetry = null
            if (!(await project.work(this.question))) return
            project.editing = null
            useBlade().shown = false
            project.spread = 0
        },
    },
})
