import { defineStore } from 'pinia'
import { api } from '../api/client'
import { latest } from '../api/latest'
import type {
    CutSettings, Keep, KerfSide, ProfileAnswer, Seal, SectionAnswer, SeriesSettings, SidesAnswer, Step, StepQuestion, StopsAnswer, Vector, Wander, WidthsAnswer,
} from '../api/types'
import { count, mm } from '../format'
import { anglesOf, dot, facing, moved, reach } from '../view/direction'
import { grainOf, grainSettings, NO_GRAIN, roughly, type Grain } from './grain'
import { title, useProject } from './project'

/** What the next press in the view means, besides turning it. */
export type Placing = 'none' | 'line' | 'face' | 'points' | 'paint' | 'place' | 'draw'
export type Spacing = 'stops' | 'step' | 'parts'

interface State {
    /** Which kind is set: see kinds/index.ts. */
    kind: string
    centre: Vector
    turn: number
    tilt: number
    /** A facing that is exact where degrees would round: of a face, or typed. */
    vector: Vector | null
    keep: Keep
    seal: Seal
    edge: number | null
    kerf: number
    kerfSide: KerfSide
    catch: number
    score: boolean
    /** Roughness of its surface; null for smooth. */
    grain: Grain | null
    /** Faces that the cut is limited to, of one piece. */
    faces: { piece: number; list: number[] } | null
    shown: boolean
    placing: Placing
    points: Vector[]
    series: boolean
    spacing: Spacing
    stops: number[]
    from: number
    step: number
    times: number
    parts: number
    wander: Wander | null
    section: SectionAnswer | null
    /** Does the blade cut anything? Told only by an answer about the blade and the pieces as they are now: an answer that comes late switches nothing off. */
    cuts: boolean
    sides: SidesAnswer | null
    /** As it was answered last; see freshProfile. */
    profile: ProfileAnswer | null
    profileFacing: string
    widths: WidthsAnswer | null
    plan: StopsAnswer | null
}

type Section = Parameters<typeof api.section>[1] & { project: number }
type Sides = Parameters<typeof api.sides>[1] & { project: number }
type Stops = Parameters<typeof api.stops>[1] & { project: number }
/** A question, and what it is about: see about() below. */
type About<Question> = { asked: Question; about: string }

const refused = (error: unknown) => useProject().refused(error)
const sections = latest(({ asked }: About<Section>) => api.section(asked.project, asked), (answer, q) => {
    const blade = useBlade()
    blade.section = answer
    if (!blade.series && q.about === blade.about) blade.cuts = blade.cutCount > 0
}, refused)
const bothSides = latest((q: Sides) => api.sides(q.project, q), (answer) => { useBlade().sides = answer }, refused)
const plans = latest(({ asked }: About<Stops>) => api.stops(asked.project, asked), (answer, q) => {
    const blade = useBlade()
    blade.plan = answer
    if (blade.series && q.about === blade.about) blade.cuts = blade.stopsInside > 0
}, refused)
const profiles = latest((q: Section) => api.profile(q.project, q), (answer, q) => {
    useBlade().profile = answer
    useBlade().profileFacing = JSON.stringify(q.facing)
    thin.ask(q)
}, refused)
const thin = latest((q: Section) => api.widths(q.project, q), (answer) => { useBlade().widths = answer }, refused)
let profiled = ''
let resting: ReturnType<typeof setTimeout> | undefined
let moves = 0

/** The faces that a step is limited to, with the piece they belong to. */
function facesOf(step: Step): { piece: number; list: number[] } | null {
    const piece = useProject().tookBy(step.id)[0]
    return step.settings.faces && piece ? { piece: piece.id, list: step.settings.faces } : null
}

/** The blade as it stands, what it would leave, and what the server sees there. */
export const useBlade = defineStore('blade', {
    state: (): State => ({
        kind: 'planes',
        centre: [0, 0, 0], turn: 0, tilt: 0, vector: null, keep: 'both', seal: 'lean', edge: null, kerf: 0, kerfSide: 'centre', catch: 0, score: false, faces: null,
        shown: true, placing: 'none', points: [], series: false, grain: null, spacing: 'stops', stops: [], from: 0, step: 50, times: 3, parts: 2, wander: null,
        section: null, cuts: false, sides: null, profile: null, profileFacing: '', widths: null, plan: null,
    }),
    getters: {
        facing: (state): Vector => state.vector ?? facing(state.turn, state.tilt),
        axis(): 'X' | 'Y' | 'Z' | '' {
            const [x, y, z] = this.facing
            return x === 1 ? 'X' : y === 1 ? 'Y' : z === 1 ? 'Z' : ''
        },
        reach(): [number, number] {
            const { min, max } = useProject().box
            return reach(min, max, this.facing)
        },
        /** Distance from the origin along the facing, mm. */
        offset(): number {
            return dot(this.centre, this.facing)
        },
        /** Distance from the low end of the taken pieces' box, mm. */
        place(): number {
            return this.offset - this.reach[0]
        },
        extent(): number {
            return this.reach[1] - this.reach[0]
        },
        share(): number {
            return this.extent > 0 ? (100 * this.place) / this.extent : 0
        },
        cutCount(): number {
            return this.section?.pieces.filter((piece) => piece.cuts).length ?? 0
        },
        outlineCount(): number {
            return this.section?.pieces.reduce((sum, piece) => sum + piece.outlines.length, 0) ?? 0
        },
        openLines(): number {
            return this.section?.pieces.reduce((sum, piece) => sum + piece.lines.length, 0) ?? 0
        },
        /** The series as the recipe writes it. */
        seriesSettings(): SeriesSettings | null {
            if (!this.series) return null
            const wander = this.wander ? { wander: this.wander } : {}
            if (this.spacing === 'parts') return { parts: this.parts, ...wander }
            if (this.spacing === 'step') return { from: this.from, step: this.step, count: this.times, ...wander }
            return { stops: this.stops, ...wander }
        },
        /** Stops that lie within what is taken. */
        stopsInside(): number {
            const plan = this.plan
            if (plan && this.spacing === 'parts') return this.parts - 1
            return plan ? plan.stops.filter((stop) => stop > plan.low && stop < plan.high).length : 0
        },
        /** The profile, unless it was answered for another facing: places on it would be elsewhere. */
        freshProfile(): ProfileAnswer | null {
            return this.profileFacing === JSON.stringify(this.facing) ? this.profile : null
        },
        question(): { through: Vector; facing: Vector; pieces: number[] | null } {
            return { through: this.centre, facing: this.facing, pieces: this.faces ? [this.faces.piece] : useProject().takenIds }
        },
        settings(): CutSettings {
            const series = this.seriesSettings
            return {
                ...this.question, keep: series?.wander ? 'both' : this.keep, seal: this.seal, edge_mm: this.edge, kerf: this.kerf, kerf_side: this.kerfSide, catch: this.catch,
                score: this.score && !series, faces: series ? null : (this.faces?.list ?? null), series,
            }
        },
        /** The same as the recipe writes it: a cut, a score, a cut within faces, a series, each with what it has. */
        asked(): StepQuestion {
            const { pieces, facing, through, series, faces, score, keep, kerf, kerf_side, seal, edge_mm: edge, catch: reaching } = this.settings
            const limits = faces ? { faces } : {}
            const blade = series ? { kind: 'series' as const, facing, ...series } : { kind: 'flat' as const, through, facing }
            if (score) return { step: { do: 'score', blade, ...limits }, pieces }
            if (faces) return { step: { do: 'cut', blade, faces }, pieces }
            if (this.isRough) return { step: { do: 'cut', blade, grain: grainSettings(this.grain ?? NO_GRAIN), ...(series ? {} : { keep }), kerf, kerf_side }, pieces }
            return { step: { do: 'cut', blade, keep, kerf, kerf_side, seal, ...(seal === 'even' && edge !== null ? { edge_mm: edge } : {}), catch: reaching }, pieces }
        },
        /** A grain is for one flat blade that parts things, or a series that keeps all. */
        isRough: (state): boolean => state.grain !== null && (state.series ? !state.wander && state.keep === 'both' : !state.score && !state.faces && state.keep !== 'outline'),
        ready(): boolean {
            if (!this.shown || useProject().busy) return false
            if (this.faces && !this.score && this.seal !== 'open') return false
            return this.cuts
        },
        /** Tells one question about the blade and the pieces from every other. */
        about(): string {
            return JSON.stringify([this.question.through, this.facing, this.seriesSettings, useProject().taken.map((piece) => piece.mesh)])
        },
        /** What the button will do, in one line that is always true. */
        sentence(): string {
            const project = useProject()
            if (!project.living.length) return 'There is nothing to cut yet.'
            if (project.editing === null && !project.visible.length) return 'Every piece is hidden: show at least one to cut it.'
            if (project.busy) return project.busyWords
            if (!this.shown) return 'The cut is made. Move the blade to place the next one.'
            const end = this.editing
            if (this.series) return this.seriesSentence + (this.stopsInside ? end : '')
            if (!this.section) return 'The section is being worked out.'
            const taken = project.taken.length
            if (!this.cutCount) {
                const [low, high] = this.reach
                const at = this.offset
                const which = taken === 1 ? 'the piece' : `all ${taken} pieces`
                if (at > high) return `The blade misses ${which} by ${mm(at - high)}: move it back.`
                if (at < low) return `The blade misses ${which} by ${mm(low - at)}: move it ahead.`
                return `The blade passes through no material here: move it or tilt it.`
            }
            const of = project.editing === null ? count(project.living.length, 'piece', 'pieces') : count(taken, 'piece', 'pieces')
            const faces = this.faces ? `, only within ${count(this.faces.list.length, 'picked face', 'picked faces')} of ${this.facesOf}` : ''
            if (this.score) return `Scores ${this.cutCount} of ${of}${faces}: lays the section's edges into the mesh, separates nothing.${end}`
            if (this.faces && this.seal !== 'open') return 'A cut within picked faces stays open: set Seal to Open, or score only.'
            const what = `Cuts ${this.cutCount} of ${of}${faces}`
            if (this.keep === 'outline') return `${what}, keeps only the section face, as a flat sheet.${end}`
            const side = { both: 'keeps both sides', ahead: 'keeps what is ahead', behind: 'keeps what is behind' }[this.keep]
            return `${what}, ${side}${this.removes}${this.sealed}.${this.gap}${end}`
        },
        facesOf(): string {
            const piece = this.faces ? useProject().byId.get(this.faces.piece) : undefined
            return piece ? title(piece) : 'the piece'
        },
        removes(): string {
            return this.kerf > 0 ? `, removes ${this.kerf} mm between` : ''
        },
        sealed(): string {
            if (this.isRough) return roughly(this.grain)
            return { open: ', leaves the cut open', lean: ', sealed', even: ', sealed with even triangles' }[this.seal]
        },
        gap(): string {
            return this.openLines && this.seal !== 'open' ? ` ${count(this.openLines, 'outline', 'outlines')} cannot be closed: the mesh has open edges there.` : ''
        },
        editing(): string {
            const step = useProject().stepOf(useProject().editing)
            return step ? ` Runs step ${step.number} and what follows it again.` : ''
        },
        seriesSentence(): string {
            const project = useProject()
            if (!this.plan) return 'The stops are being worked out.'
            if (!this.stopsInside) return 'No stop lies within the pieces: place one on the rail.'
            const which = project.taken.length === 1 ? '1 piece' : `${project.taken.length} pieces`
            const at = this.spacing === 'parts' ? `into ${this.parts} equal parts each` : `at ${count(this.stopsInside, 'stop', 'stops')}`
            const side = this.wander || this.keep === 'both' ? 'keeps all' : { ahead: 'keeps what is ahead of the last', behind: 'keeps what is behind the first', outline: 'keeps only the section faces' }[this.keep]
            const over = this.plan.slabs.filter((slab) => slab.over > 0).length
            return `Cuts ${which} ${at}, ${side}${this.removes}${this.sealed}${this.wander ? ', with wander' : ''}.`
                + (over && this.spacing !== 'parts' ? ` ${count(over, 'part is', 'parts are')} taller than the printer.` : '')
        },
    },
    actions: {
        /** To the middle of what the blade takes. */
        centreOnTaken() {
            const { min, max } = useProject().box
            this.centre = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2]
            this.touched()
        },
        setAxis(axis: 'X' | 'Y' | 'Z') {
            this.vector = null
            this.turn = axis === 'Y' ? 90 : 0
            this.tilt = axis === 'Z' ? 0 : 90
            this.turned()
        },
        setTurn(turn: number) {
            this.vector = null
            const turned = ((((turn + 180) % 360) + 360) % 360) - 180
            this.turn = turned === -180 ? 180 : turned
            this.turned()
        },
        setTilt(tilt: number) {
            this.vector = null
            this.tilt = Math.max(0, Math.min(180, tilt))
            this.turned()
        },
        /** Any direction; degrees follow it. */
        setVector(vector: Vector) {
            const length = Math.hypot(...vector)
            if (!(length > 0) || !Number.isFinite(length)) return
            const unit = vector.map((c) => c / length) as Vector
            const angles = anglesOf(unit)
            this.turn = angles.turn
            this.tilt = angles.tilt
            // The quarter turns are exact without it.
            const round = facing(angles.turn, angles.tilt)
            this.vector = round.every((c, k) => Math.abs(c - unit[k]) < 1e-12) ? null : unit
            this.turned()
        },
        /** Through a point; the handle stays beside the middle of what is taken. */
        setThrough(point: Vector) {
            const { min, max } = useProject().box
            const middle = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2] as Vector
            this.centre = moved(middle, this.facing, dot(point, this.facing) - dot(middle, this.facing))
            this.touched()
        },
        setPlace(place: number) {
            this.centre = moved(this.centre, this.facing, place - this.place)
            this.touched()
        },
        setOffset(offset: number) {
            this.centre = moved(this.centre, this.facing, offset - this.offset)
            this.touched()
        },
        flip() {
            this.setVector(this.facing.map((c) => -c + 0) as Vector)
        },
        /** Distances along another facing mean nothing any more. */
        turned() {
            if (this.series && this.spacing !== 'parts') {
                this.series = false
                this.stops = []
            }
            this.touched()
        },
        /** The blade was moved or set: it is shown, and pieces stand where they really are. */
        touched() {
            moves++
            this.shown = true
            const project = useProject()
            project.spread = 0
            project.before = null
            this.ask()
        },
        /** Asks for all that is shown of the blade; only the newest question of each kind waits. */
        ask() {
            const project = useProject()
            if (!project.project || !project.taken.length) {
                this.section = null
                this.cuts = false
                this.sides = null
                return
            }
            const question = { ...this.question, project: project.project.id }
            const about = this.about
            sections.ask({ asked: question, about })
            bothSides.ask({ ...question, kerf: this.kerf, kerf_side: this.kerfSide, catch: this.catch })
            if (this.series) plans.ask({ asked: { ...question, series: this.seriesSettings }, about })
            // The profile is the same wherever the blade stands; it waits until the hand rests.
            const key = JSON.stringify([question.facing, project.taken.map((piece) => piece.mesh)])
            if (key === profiled && this.profile) return
            clearTimeout(resting)
            resting = setTimeout(() => {
                profiled = key
                this.widths = null
                profiles.ask(question)
            }, 250)
        },
        forget() {
            for (const one of [sections, bothSides, plans, profiles, thin]) one.drop()
            clearTimeout(resting)
            profiled = ''
            this.$reset()
        },
        setSeries(on: boolean) {
            this.series = on
            this.plan = null
            this.cuts = false
            this.score = false
            this.faces = null
            if (on && !this.stops.length) this.stops = [this.offset]
            if (on) this.from = this.reach[0] + this.step
            this.touched()
        },
        setStops(stops: number[]) {
            this.stops = [...stops].sort((a, b) => a - b)
            this.spacing = 'stops'
            if (this.stops.length) this.setOffset(this.stops[Math.min(this.stops.length - 1, Math.floor(this.stops.length / 2))])
            this.touched()
        },
        /** The settings of a step that is to be changed. */
        load(step: Step) {
            const { blade, keep, kerf, kerf_side: side, edge_mm: edge, catch: reaching } = step.settings
            // A cut within faces stays open, and does not say so.
            const seal = step.settings.do === 'cut' && step.settings.faces ? 'open' : step.settings.seal
            if (blade?.kind !== 'flat' && blade?.kind !== 'series') return
            this.$patch({
                kind: 'planes',
                keep: keep ?? 'both', kerf: kerf ?? 0, kerfSide: side ?? 'centre', seal: seal ?? 'lean', edge: edge ?? null, catch: reaching ?? 0,
                score: step.settings.do === 'score', faces: facesOf(step), series: false, plan: null, grain: grainOf(step.settings.grain),
            })
            this.setVector(blade.facing)
            if (blade.kind === 'flat' && blade.through) {
                this.setThrough(blade.through)
                return
            }
            this.series = true
            this.wander = blade.wander ? { shift: 0, tilt: 0, seed: 1, ...blade.wander } : null
            if (blade.parts !== undefined) this.$patch({ spacing: 'parts', parts: blade.parts })
            else if (blade.step !== undefined) this.$patch({ spacing: 'step', from: blade.from ?? 0, step: blade.step, times: blade.count ?? 1 })
            else this.$patch({ spacing: 'stops', stops: blade.stops ?? [] })
            this.centreOnTaken()
        },
        async cut() {
            const project = useProject()
            if (!this.ready) return
            const before = moves
            if (await project.work(this.asked)) {
                project.editing = null
                this.faces = null
                // Who has placed the next blade meanwhile goes on with it.
                if (moves === before) {
                    this.shown = false
                    this.placing = 'none'
                }
                if (moves === before && project.living.length > 1 && !this.score) project.partALittle()
                else project.spread = 0
            }
            this.ask()
        },
    },
})
