import { defineStore } from 'pinia'
import { api } from '../api/client'
import { latest, onlyRefusals } from '../api/latest'
import type { CellsBlade, CellsBy, CellsForecast, Seal, Step, StepQuestion, StepSettings, Vector } from '../api/types'
import { count } from '../format'
import { useBlade } from './blade'
import { grainOf, grainSettings, roughly, type Grain } from './grain'
import { useProject } from './project'

/** A direction: along an axis, or one that a recipe gave. */
export type Along = 'X' | 'Y' | 'Z' | 'own'

interface State {
    by: CellsBy
    count: number
    seed: number
    /** How many times longer than wide along a direction; 1 for not at all. */
    times: number
    along: Along
    places: Vector[]
    falloff: number
    points: Vector[]
    verticesOf: number | null
    bySize: boolean
    blocks: Vector
    size: Vector
    turned: Vector
    brick: boolean
    wander: number
    axis: Along
    /** What the rings go round: the middle of the piece when null. */
    through: Vector | null
    /** Directions that are no axis: of longer cells, and of the rings. */
    own: { along: Vector; axis: Vector }
    rings: number
    sectors: number
    layers: number
    rounds: number
    /** Directions of a chop: the world's axes when null. */
    chopAlong: Vector[] | null
    shift: number
    tilt: number
    kerf: number
    grain: Grain | null
    seal: Seal
    edge: number | null
    /** Percent of the piece's volume. */
    smallest: number
    apart: boolean
    wall: number
    forecast: CellsForecast | null
    /** Why there is no forecast. */
    refusal: string
    asked: boolean
    /** The cut is made; nothing is foreseen until something is picked or set. */
    done: boolean
}

const AXES: Record<'X' | 'Y' | 'Z', Vector> = { X: [1, 0, 0], Y: [0, 1, 0], Z: [0, 0, 1] }

function named(direction: Vector | undefined): Along {
    if (!direction) return 'Z'
    return (['X', 'Y', 'Z'] as const).find((_, k) => direction[k] > 0 && direction.every((c, l) => l === k || c === 0)) ?? 'own'
}

const WORLD: Vector[] = [AXES.X, AXES.Y, AXES.Z]

const forecasts = latest(
    (q: StepQuestion & { project: number }) => api.foresee<CellsForecast>(q.project, { step: q.step, pieces: q.pieces }),
    // Each answer is an object of its own: patching would merge it into the one before.
    (answer) => {
        told(answer, '')
        // At rest, the same on the pieces themselves: what was about, drawn from a rough mesh, or apart in one cell, becomes exact.
        waiting = setTimeout(() => useCells().tryOut(), REST)
    },
    (error) => told(null, error instanceof Error ? error.message : 'The cells could not be worked out.'),
)

/** Milliseconds without a change after which a step is tried out. */
const REST = 350
let waiting: ReturnType<typeof setTimeout> | undefined

const tries = latest(
    (q: StepQuestion & { project: number }) => api.foresee<CellsForecast>(q.project, { step: q.step, pieces: q.pieces, tried: true }),
    // What is too large, or fails, stays as it was foreseen.
    (answer) => { if (!answer.left_out) told(answer, '') },
    onlyRefusals((words) => told(null, words)),
)

function still() {
    clearTimeout(waiting)
    tries.drop()
}

function told(forecast: CellsForecast | null, refusal: string) {
    const cells = useCells()
    cells.forecast = forecast
    cells.refusal = refusal
    cells.asked = false
}

/** Cells as they are set, and what they would make. */
export const useCells = defineStore('cells', {
    state: (): State => ({
        by: 'uniform', count: 20, seed: 1, times: 1, along: 'Z', places: [], falloff: 30, points: [], verticesOf: null, bySize: false, blocks: [2, 2, 4], size: [50, 50, 50],
        turned: [0, 0, 0], brick: false, wander: 0, axis: 'Z', through: null, own: { along: [0, 0, 1], axis: [0, 0, 1] }, rings: 3, sectors: 8, layers: 1, rounds: 3, chopAlong: null, shift: 0.1, tilt: 10, kerf: 0, grain: null, seal: 'lean', edge: null,
        smallest: 0, apart: true, wall: 0, forecast: null, refusal: '', asked: false, done: false,
    }),
    getters: {
        blade(state): CellsBlade {
            const of = { kind: 'cells' as const, by: state.by }
            const stretch = state.times !== 1 ? { stretch: { along: state.along === 'own' ? state.own.along : AXES[state.along], times: state.times } } : {}
            switch (state.by) {
                case 'gathered':
                    return { ...of, count: state.count, seed: state.seed, places: state.places, falloff: state.falloff, ...stretch }
                case 'points':
                    return { ...of, ...(state.verticesOf === null ? { points: state.points } : { vertices_of: state.verticesOf, count: state.count }), ...stretch }
                case 'blocks':
                    return { ...of, ...(state.bySize ? { size: state.size } : { count: state.blocks }), turned: state.turned, brick: state.brick, wander: state.wander, seed: state.seed }
                case 'rings':
                    return { ...of, axis: state.axis === 'own' ? state.own.axis : AXES[state.axis], ...(state.through ? { through: state.through } : {}), rings: state.rings, sectors: state.sectors, layers: state.layers, wander: state.wander, seed: state.seed }
                case 'chop':
                    return { ...of, rounds: state.rounds, ...(state.chopAlong ? { along: state.chopAlong } : {}), shift: state.shift, tilt: state.tilt, seed: state.seed }
                default:
                    return { ...of, count: state.count, seed: state.seed, ...stretch }
            }
        },
        /** A chop's cuts are flat. */
        isRough: (state): boolean => state.grain !== null && state.by !== 'chop',
        /** How the walls are closed: rough ones have triangles of their own. */
        surface(): Pick<StepSettings, 'seal' | 'edge_mm' | 'grain'> {
            if (this.isRough && this.grain) return { seal: this.seal === 'open' ? 'open' : 'lean', grain: grainSettings(this.grain) }
            return { seal: this.seal, ...(this.seal === 'even' && this.edge ? { edge_mm: this.edge } : {}) }
        },
        question(): StepQuestion {
            return {
                step: {
                    do: 'cut', blade: this.blade, kerf: this.kerf, ...this.surface,
                    smallest: this.smallest / 100, apart: this.apart, wall_mm: this.wall,
                },
                pieces: useProject().takenIds,
            }
        },
        /** What is missing before anything can be worked out. */
        missing(): string {
            if (this.by === 'gathered' && !this.places.length) return 'Click on the skin where the pieces are to gather.'
            if (this.by === 'points' && this.verticesOf === null && this.points.length < 2) return 'Give two or more points, or the piece whose vertices they are.'
            return ''
        },
        ready(): boolean {
            const project = useProject()
            return !project.busy && !this.done && project.taken.length > 0 && !this.missing && !this.refusal && ((this.forecast?.pieces ?? 0) > 1 || (this.forecast?.left_out ?? 0) > 0)
        },
        sentence(): string {
            const project = useProject()
            if (!project.living.length) return 'There is nothing to shatter yet.'
            if (project.editing === null && !project.visible.length) return 'Every piece is hidden: show at least one.'
            if (project.busy) return project.busyWords
            if (this.done) return 'The cut is made. Pick pieces, or change a setting, for the next one.'
            if (this.missing) return this.missing
            if (this.refusal) return this.refusal
            const of = project.editing === null ? `${project.taken.length} of ${count(project.living.length, 'piece', 'pieces')}` : count(project.taken.length, 'piece', 'pieces')
            const ends = `${this.kerf > 0 ? `, removes ${this.kerf} mm between` : ''}${this.wall > 0 ? `, leaves a wall of ${this.wall} mm` : ''}${this.isRough ? roughly(this.grain) : ''}${this.isRough && this.seal !== 'open' ? '' : { open: ', left open', lean: ', sealed', even: ', sealed with even triangles' }[this.seal]}`
            const again = project.editing === null ? '' : ` Runs step ${project.stepOf(project.editing)?.number} and what follows it again.`
            if (!this.forecast) return 'The cells are being worked out.'
            if (this.forecast.left_out) return `Shatters ${of}${ends}. ${count(this.forecast.left_out, 'piece is', 'pieces are')} too fine to be foreseen.${again}`
            if (this.forecast.pieces < 2) return this.by === 'chop' ? 'Nothing can be chopped that small: let the least be less.' : 'One cell holds all of it: give more cells, or smaller ones.'
            if (this.by === 'chop') return `Halves each of ${of} ${this.rounds} times over, into ${this.forecast.about ? 'about ' : ''}${this.forecast.pieces} pieces${ends}.${again}`
            return `Shatters ${of} into ${this.forecast.about ? 'about ' : ''}${this.forecast.pieces} pieces${this.smallest > 0 ? `, small ones joined` : ''}${ends}.${again}`
        },
    },
    actions: {
        set(change: Partial<State>) {
            this.$patch(change as never)
            this.done = false
            // What is foreseen is drawn where the pieces really stand.
            useProject().spread = 0
            this.ask()
        },
        ask() {
            const project = useProject()
            still()
            if (this.done || useBlade().kind !== 'cells' || !project.project || !project.taken.length || this.missing) {
                this.forecast = null
                this.refusal = ''
                return
            }
            this.asked = true
            forecasts.ask({ ...this.question, project: project.project.id })
        },
        /** What the step would make, made for a try. */
        tryOut() {
            const project = useProject()
            if (!this.done && !this.asked && !project.busy && project.project && project.taken.length) tries.ask({ ...this.question, project: project.project.id })
        },
        forget() {
            still()
            forecasts.drop()
            this.$reset()
        },
        load(step: Step) {
            const { settings } = step
            const blade = settings.blade
            if (blade?.kind !== 'cells') return
            this.$patch({
                by: blade.by, seed: blade.seed ?? 1, times: blade.stretch?.times ?? 1, along: named(blade.stretch?.along), places: blade.places ?? [], falloff: blade.falloff ?? 30,
                points: blade.points ?? [], verticesOf: null, bySize: blade.size !== undefined, size: blade.size ?? [50, 50, 50], turned: blade.turned ?? [0, 0, 0], brick: blade.brick ?? false,
                wander: blade.wander ?? 0, axis: named(blade.axis), through: blade.through ?? null, own: { along: blade.stretch?.along ?? [0, 0, 1], axis: blade.axis ?? [0, 0, 1] }, rings: blade.rings ?? 3, sectors: blade.sectors ?? 8, layers: blade.layers ?? 1, rounds: blade.rounds ?? 3, chopAlong: JSON.stringify(blade.along ?? WORLD) === JSON.stringify(WORLD) ? null : (blade.along ?? null), shift: blade.shift ?? 0,
                tilt: blade.tilt ?? 0, kerf: settings.kerf ?? 0, grain: grainOf(settings.grain), seal: settings.seal ?? 'lean', edge: settings.edge_mm ?? null, smallest: 100 * (settings.smallest ?? 0), apart: settings.apart ?? true,
                wall: settings.wall_mm ?? 0,
            })
            if (typeof blade.count === 'number') this.count = blade.count
            else if (blade.count) this.blocks = blade.count
            useBlade().kind = 'cells'
            this.done = false
            this.ask()
        },
        async run() {
            const project = useProject()
            if (!this.ready) return
            this.done = true
            still()
            this.done = await project.work(this.question)
            this.forecast = null
            if (!this.done) {
                this.ask()
                return
            }
            project.editing = null
            project.partALittle()
        },
    },
})
