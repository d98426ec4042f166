import { defineStore } from 'pinia'
import type { Keep, Step, StepQuestion, Vector } from '../api/types'
import { count, mm } from '../format'
import { dot } from '../view/direction'
import type { Flat } from '../view/lines'
import { alongView, cross } from '../view/sight'
import { useBlade } from './blade'
import { foreseen, type Foreseen } from './foreseen'
import { grainOf, grainSettings, roughly, type Grain } from './grain'
import { useProject } from './project'
import { useShown } from './shown'

interface State extends Foreseen {
    /** The direction in which it runs straight. */
    along: Vector
    /** Corners: across and height, mm. None while the blade is flat still. */
    profile: Flat[]
    smooth: boolean
    kerf: number
    grain: Grain | null
    keep: Exclude<Keep, 'outline'>
}

const AXES: Vector[] = [[0, 1, 0], [1, 0, 0], [0, 0, 1]]
const unit = (v: Vector): Vector => v.map((c) => c / (Math.hypot(...v) || 1) + 0) as Vector
/** A tenth of a millimetre, or what the pieces need. */
const tidy = (value: number) => Math.round(value * 100) / 100 + 0

const forecasts = foreseen(() => useBent())

/** A flat blade whose edge has corners; where it stands is the blade's own store. */
export const useBent = defineStore('bent', {
    state: (): State => ({ along: [0, 1, 0], profile: [], smooth: false, kerf: 0, grain: null, keep: 'both', forecast: null, refusal: '', asked: false, done: false }),
    getters: {
        /** The direction it runs in, square to its facing: the set one, or another axis where that is the facing. */
        straight(state): Vector {
            const { facing } = useBlade()
            for (const along of [state.along, ...AXES]) {
                const on = dot(along, facing)
                const left = along.map((c, k) => c - on * facing[k]) as Vector
                if (Math.hypot(...left) > 0.05) return unit(left)
            }
            return [1, 0, 0]
        },
        across(): Vector {
            return unit(cross(this.straight, useBlade().facing))
        },
        /** How far the pieces reach along a direction from the blade's middle. */
        reach() {
            return (direction: Vector): number => {
                const { min, max } = useProject().box
                return direction.reduce((sum, c, k) => sum + Math.abs(c) * (max[k] - min[k]), 0)
            }
        },
        corners(state): Flat[] {
            if (state.profile.length) return state.profile
            const quarter = tidy(this.reach(this.across) / 4)
            return [[-quarter, 0], [0, 0], [quarter, 0]]
        },
        question(state): StepQuestion {
            const blade = useBlade()
            return {
                step: { do: 'cut', keep: state.keep, kerf: state.kerf, ...(state.grain ? { grain: grainSettings(state.grain) } : {}), blade: { kind: 'bent', through: blade.centre, facing: blade.facing, along: this.straight, profile: this.corners, smooth: state.smooth } },
                pieces: useProject().takenIds,
            }
        },
        ready(state): boolean {
            const project = useProject()
            return !project.busy && !state.done && project.taken.length > 0 && !state.refusal && ((state.forecast?.cut ?? 0) > 0 || (state.forecast?.left_out ?? 0) > 0)
        },
        sentence(state): string {
            const project = useProject()
            if (!project.living.length) return 'There is nothing to cut yet.'
            if (project.editing === null && !project.visible.length) return 'Every piece is hidden: show at least one.'
            if (project.busy) return project.busyWords
            if (state.done) return 'The cut is made. Move the blade for the next one.'
            if (state.refusal) return state.refusal
            const { forecast } = state
            if (!forecast) return 'The cut is being worked out.'
            if (!forecast.cut && !forecast.left_out) return 'The blade meets none of the pieces: move it.'
            const of = project.editing === null ? `${forecast.cut} of ${count(project.living.length, 'piece', 'pieces')}` : count(project.taken.length, 'piece', 'pieces')
            const again = project.editing === null ? '' : ` Runs step ${project.stepOf(project.editing)?.number} and what follows it again.`
            const side = { both: 'keeps both sides', ahead: 'keeps what is ahead', behind: 'keeps what is behind' }[state.keep]
            const flat = this.corners.every(([, height]) => height === 0) ? ' Drag a corner to bend it.' : ''
            return `Cuts ${of} into ${forecast.about ? 'about ' : ''}${count(forecast.pieces, 'piece', 'pieces')}, ${side}${state.kerf > 0 ? `, removes ${mm(state.kerf)} between` : ''}${roughly(state.grain)}.${flat}${again}`
        },
    },
    actions: {
        set(change: Partial<State>) {
            this.$patch({ ...change, done: false } as never)
            useProject().showAsIs()
            useBlade().shown = true
            this.ask()
        },
        ask() {
            const project = useProject()
            if (this.done || useBlade().kind !== 'bent' || !project.project || !project.taken.length) {
                forecasts.drop()
                return
            }
            forecasts.ask({ ...this.question, project: project.project.id })
        },
        /** It runs in the direction in which one looks now. */
        look() {
            this.set({ along: alongView(useShown().seen) })
        },
        /** A place in space as a corner. */
        cornerAt(place: Vector): Flat {
            const blade = useBlade()
            const from = place.map((c, k) => c - blade.centre[k])
            return [tidy(dot(from, this.across)), tidy(dot(from, blade.facing))]
        },
        /** A corner in space, at the blade's middle, or moved along it. */
        placeOf([x, height]: Flat, moved = 0): Vector {
            const blade = useBlade()
            return blade.centre.map((c, k) => c + x * this.across[k] + height * blade.facing[k] + moved * this.straight[k]) as Vector
        },
        load(step: Step) {
            const { blade, keep, kerf, grain } = step.settings
            if (blade?.kind !== 'bent') return
            const own = useBlade()
            own.kind = 'bent'
            own.series = false
            own.setVector(blade.facing)
            own.centre = blade.through
            this.set({ along: blade.along, profile: blade.profile, smooth: blade.smooth ?? false, kerf: kerf ?? 0, grain: grainOf(grain), keep: (keep ?? 'both') as State['keep'] })
        },
        forget() {
            forecasts.drop()
            this.$reset()
        },
        async run() {
            const project = useProject()
            if (!this.ready) return
            const { question } = this
            forecasts.drop()
            if (!(await project.work(question))) {
                this.ask()
                return
            }
            project.editing = null
            this.done = true
            forecasts.drop()
            useBlade().shown = false
            project.partALittle()
        },
    },
})
