import { defineStore } from 'pinia'
import { api } from '../api/client'
import type { Keep, Step, StepQuestion, Vector } from '../api/types'
import { count, mm } from '../format'
import { distance, simplified, type Flat } from '../view/lines'
import type { PenAt, Sight } from '../view/Layer'
import { alongView, page, towards } from '../view/sight'
import { useBlade } from './blade'
import { foreseen, type Foreseen } from './foreseen'
import { grainOf, grainSettings, roughly, type Grain } from './grain'
import { useProject } from './project'
import { useShown } from './shown'

export type Drawing = 'line' | 'grid' | 'file'
export type Shape = 'stroke' | 'outline' | 'grid'

interface State extends Foreseen {
    way: Drawing
    shape: Shape
    lines: Vector[][]
    sight: Sight
    smooth: boolean
    /** Millimetres down; null through everything. */
    depth: number | null
    kerf: number
    grain: Grain | null
    /** The line is laid into the skin where it is seen, and nothing is cut. */
    score: boolean
    keep: Exclude<Keep, 'outline'>
    columns: number
    rows: number
    turn: number
    /** Outlines of a file, about their middle, mm. */
    file: { name: string; lines: Flat[][]; size: Flat } | null
    /** Millimetres wide, and moved on the page. */
    wide: number
    across: number
    up: number
    /** The line that is being drawn, and where its corners are on the page. */
    going: Vector[]
    pages: Flat[]
    /** Where the pointer is meanwhile, and what is said beside it. */
    pointer: { x: number; y: number; place: Vector; says: string } | null
}

/** Pixels: a press this near to the beginning closes the line; a move this far is drawing by hand; what is drawn by hand keeps this near to the pointer's way. */
const [CLOSE, HAND, WITHIN] = [12, 5, 1.1]
/** Corners that are offered to be dragged. */
export const MOST_CORNERS = 80

let byHand = false
let pressed: Flat | null = null
let lastClick = 0

const forecasts = foreseen(() => useDrawn())

/** What is drawn across the view, and what a cut along it would make. */
export const useDrawn = defineStore('drawn', {
    state: (): State => ({
        way: 'line', shape: 'stroke', lines: [], sight: { along: [0, 1, 0] }, smooth: false, depth: null, kerf: 0, grain: null, score: false, keep: 'both', columns: 2, rows: 2, turn: 0, file: null, wide: 0, across: 0, up: 0,
        going: [], pages: [], pointer: null, forecast: null, refusal: '', asked: false, done: false,
    }),
    getters: {
        middle(): Vector {
            const { min, max } = useProject().box
            return min.map((low, k) => (low + max[k]) / 2) as Vector
        },
        /** The lines as they cut. */
        cutting(state): Vector[][] {
            if (state.way === 'line') return state.lines
            const { right, up } = page(towards(state.sight, this.middle))
            const at = (u: number, v: number) => this.middle.map((c, k) => c + u * right[k] + v * up[k]) as Vector
            if (state.way === 'file') {
                if (!state.file) return []
                const times = state.wide / (state.file.size[0] || 1)
                return state.file.lines.map((line) => line.map(([x, y]) => at(times * x + state.across, times * y + state.up)))
            }
            const { min, max } = useProject().box
            const extent = (along: Vector) => along.reduce((sum, c, k) => sum + Math.abs(c) * (max[k] - min[k]), 0)
            const [c, s] = [Math.cos((state.turn * Math.PI) / 180), Math.sin((state.turn * Math.PI) / 180)]
            const [u, v] = [right.map((x, k) => c * x + s * up[k]) as Vector, right.map((x, k) => c * up[k] - s * x) as Vector]
            const [wide, high] = [extent(u), extent(v)]
            const reach = 0.6 * Math.hypot(wide, high)
            const on = (a: number, b: number) => this.middle.map((m, k) => m + a * u[k] + b * v[k]) as Vector
            const between = (n: number, size: number) => Array.from({ length: n - 1 }, (_, k) => size * ((k + 1) / n - 0.5))
            return [...between(state.columns, wide).map((a) => [on(a, -reach), on(a, reach)]), ...between(state.rows, high).map((b) => [on(-reach, b), on(reach, b)])]
        },
        cutShape(state): Shape {
            return state.way === 'grid' ? 'grid' : state.way === 'file' ? 'outline' : state.shape
        },
        question(state): StepQuestion {
            // As many digits as the pieces need.
            const { min, max } = useProject().box
            const digits = 10 ** Math.max(0, 6 - Math.ceil(Math.log10(Math.max(1e-9, Math.hypot(...min.map((low, k) => max[k] - low))))))
            const tidy = (line: Vector[]) => line.map((place) => place.map((c) => Math.round(c * digits) / digits + 0) as Vector)
            const lines = this.cutting.map(tidy)
            const line = { kind: 'drawn' as const, shape: this.cutShape, ...(lines.length === 1 ? { points: lines[0] } : { lines }), ...state.sight, smooth: state.smooth }
            if (state.score) return { step: { do: 'score', blade: line, seen: true }, pieces: useProject().takenIds }
            return {
                step: {
                    do: 'cut', keep: this.cutShape === 'grid' ? 'both' : state.keep, kerf: state.kerf, ...(state.grain ? { grain: grainSettings(state.grain) } : {}),
                    blade: { ...line, ...(state.depth === null ? {} : { depth_mm: state.depth }) },
                },
                pieces: useProject().takenIds,
            }
        },
        /** What is missing before anything can be worked out. */
        missing(state): string {
            if (this.cutting.length) return !state.score && this.cutShape === 'stroke' && state.depth !== null && state.kerf <= 0 ? 'A line that goes down to a depth parts nothing: give it a kerf, which makes it a groove, or let it go through.' : ''
            return { line: 'Draw a line across the pieces, by hand or corner by corner.', grid: 'Give it two columns or rows.', file: 'Choose an SVG file with outlines or letters.' }[state.way]
        },
        ready(state): boolean {
            const project = useProject()
            return !project.busy && !state.done && project.taken.length > 0 && !this.missing && !state.refusal && ((state.forecast?.cut ?? 0) > 0 || (state.forecast?.left_out ?? 0) > 0)
        },
        sentence(state): string {
            const project = useProject()
            if (!project.living.length) return 'There is nothing to cut yet.'
            if (project.editing === null && !project.visible.length) return 'Every piece is hidden: show at least one.'
            if (project.busy) return project.busyWords
            if (state.done) return `${state.score ? 'It is scored' : 'The cut is made'}. Draw the next one, or change a setting.`
            if (this.missing) return this.missing
            if (state.refusal) return state.refusal
            const { forecast } = state
            if (!forecast) return 'The cut is being worked out.'
            const of = project.editing === null ? `${forecast.cut} of ${count(project.living.length, 'piece', 'pieces')}` : count(project.taken.length, 'piece', 'pieces')
            const again = project.editing === null ? '' : ` Runs step ${project.stepOf(project.editing)?.number} and what follows it again.`
            const what = { stroke: 'the line', outline: 'the outline', grid: 'the lines' }[this.cutShape]
            if (forecast.left_out && !forecast.cut) return `Cuts along ${what}; ${count(forecast.left_out, 'piece is', 'pieces are')} too fine to be foreseen.${again}`
            if (!forecast.cut) return forecast.loose ? `${this.cutting.length > 1 ? 'The lines end' : 'The line ends'} within the pieces, which hang together beside the end: lead it out, or back to where it began.` : `${this.cutting.length > 1 ? 'The lines meet' : `${what[0].toUpperCase()}${what.slice(1)} meets`} none of the pieces.`
            if (state.score) return `Scores ${of} along ${what}, where it is seen: lays its edges into the mesh, separates nothing.${again}`
            const down = state.depth === null ? '' : `, ${mm(state.depth)} deep`
            const width = state.kerf > 0 ? `, removes ${mm(state.kerf)} along it` : ''
            const stays = this.cutShape === 'grid' || state.keep === 'both' ? '' : `, keeps what is ${this.sideName(state.keep)}`
            return `Cuts ${of} along ${what}${down} into ${forecast.about ? 'about ' : ''}${count(forecast.pieces, 'piece', 'pieces')}${width}${roughly(state.grain)}${stays}.${again}`
        },
        sideName() {
            return (side: 'ahead' | 'behind'): string => (this.cutShape === 'outline' ? { ahead: 'around', behind: 'within' }[side] : side)
        },
    },
    actions: {
        set(change: Partial<State>) {
            this.$patch({ ...change, done: false } as never)
            useProject().showAsIs()
            this.ask()
        },
        ask() {
            const project = useProject()
            if (this.done || useBlade().kind !== 'drawn' || !project.project || !project.taken.length || this.missing || this.going.length) {
                forecasts.drop()
                return
            }
            forecasts.ask({ ...this.question, project: project.project.id })
        },
        /** The view as it is now becomes the line of sight; lines that were drawn stay where they are. */
        look() {
            this.set({ sight: { along: alongView(useShown().seen) } })
        },
        choose(way: Drawing) {
            useBlade().placing = way === 'line' && !this.lines.length ? 'draw' : 'none'
            this.set({ way, going: [], pages: [], pointer: null, ...(way === 'line' ? {} : { sight: { along: alongView(useShown().seen) }, smooth: false }) })
        },
        anew() {
            this.set({ way: 'line', lines: [], shape: 'stroke', going: [], pages: [] })
            useBlade().placing = 'draw'
        },
        async read(file: File) {
            try {
                const { lines, size } = await api.outlines(file)
                // As it is, or so large that it fits.
                const { min, max } = useProject().box
                const room = Math.hypot(...min.map((low, k) => max[k] - low))
                this.set({ way: 'file', file: { name: file.name, lines, size }, wide: Math.round(10 * Math.min(size[0], room)) / 10, across: 0, up: 0, sight: { along: alongView(useShown().seen) } })
            } catch (error) {
                useProject().refused(error)
            }
        },
        move(line: number, corner: number, to: Vector) {
            this.set({ lines: this.lines.map((one, l) => (l === line ? one.map((place, k) => (k === corner ? to : place)) : one)) })
        },
        /** The pen: a press sets a corner, a drag draws by hand; near its beginning the line closes. */
        down(at: PenAt, sight: Sight) {
            pressed = [at.x, at.y]
            byHand = false
            if (!this.going.length) {
                this.$patch({ lines: [], sight, shape: 'stroke', done: false })
                useProject().showAsIs()
            } else if (this.closes(at)) {
                this.finish(true)
                return
            } else if (performance.now() - lastClick < 350 && this.pages.length > 1 && Math.hypot(at.x - (this.pages.at(-1) as Flat)[0], at.y - (this.pages.at(-1) as Flat)[1]) < CLOSE) {
                this.finish(false)
                return
            }
            lastClick = performance.now()
            this.going.push(at.place)
            this.pages.push([at.x, at.y])
            this.say(at)
        },
        drawTo(at: PenAt, isDown: boolean) {
            if (isDown && pressed && this.going.length) {
                byHand ||= Math.hypot(at.x - pressed[0], at.y - pressed[1]) > HAND
                const last = this.pages.at(-1) as Flat
                if (byHand && Math.hypot(at.x - last[0], at.y - last[1]) > 2) {
                    this.going.push(at.place)
                    this.pages.push([at.x, at.y])
                }
            }
            this.say(at)
        },
        lift(at: PenAt) {
            pressed = null
            if (!byHand || this.going.length < 3) return
            byHand = false
            const first = this.pages[0]
            const length = this.pages.slice(1).reduce((sum, [x, y], k) => sum + Math.hypot(x - this.pages[k][0], y - this.pages[k][1]), 0)
            const closes = length > 60 && Math.hypot(at.x - first[0], at.y - first[1]) < CLOSE
            const kept = simplified(this.pages, WITHIN)
            this.going = kept.map((k) => this.going[k])
            this.pages = kept.map((k) => this.pages[k])
            if (closes && this.going.length > 3) {
                this.going.pop()
                this.pages.pop()
            }
            this.finish(closes)
        },
        closes(at: PenAt): boolean {
            return this.pages.length > 2 && Math.hypot(at.x - this.pages[0][0], at.y - this.pages[0][1]) < CLOSE
        },
        say(at: PenAt) {
            const begun = this.going.length > 0
            const gone = this.pages.length > 2 || this.pages.slice(1).some((one) => distance(one, this.pages[0], this.pages[0]) > 60)
            let says: string
            if (!begun) says = at.isOver ? 'begin beside the piece, or go round and close' : 'begin here: press, or draw'
            else if (gone && Math.hypot(at.x - this.pages[0][0], at.y - this.pages[0][1]) < CLOSE) says = 'closes here'
            else if (at.isOver) says = 'lead it out, or back to its beginning'
            else says = byHand ? 'let go: the line ends here' : 'press twice, or Enter: the line ends here'
            this.pointer = { x: at.x, y: at.y, place: at.place, says }
        },
        finish(closed: boolean) {
            // A second press at one place is no corner.
            const line = this.going.filter((place, k) => !k || place.some((c, j) => c !== this.going[k - 1][j]))
            if (line.length < (closed ? 3 : 2)) return
            useBlade().placing = 'none'
            pressed = null
            this.set({ lines: [line], shape: closed ? 'outline' : 'stroke', keep: 'both', going: [], pages: [], pointer: null })
        },
        /** What is not finished is let go of. */
        leave() {
            pressed = null
            this.$patch({ going: [], pages: [], pointer: null })
        },
        back() {
            this.going.pop()
            this.pages.pop()
        },
        load(step: Step) {
            const { blade, keep, kerf, grain } = step.settings
            if (blade?.kind !== 'drawn') return
            useBlade().kind = 'drawn'
            this.set({
                way: 'line', shape: blade.shape ?? 'stroke', lines: blade.lines ?? [blade.points ?? []], sight: blade.eye ? { eye: blade.eye } : { along: blade.along ?? [0, 1, 0] }, smooth: blade.smooth ?? false,
                depth: ('depth_mm' in blade ? blade.depth_mm : null) ?? null, kerf: kerf ?? 0, grain: grainOf(grain), score: step.settings.do === 'score', keep: (keep ?? 'both') as State['keep'], going: [], pages: [], pointer: null,
            })
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
            this.$patch({ done: true, lines: [] })
            // What was asked meanwhile is about a line that is not there any more.
            forecasts.drop()
            if (!this.score) project.partALittle()
        },
    },
})
