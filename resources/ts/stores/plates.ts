import { defineStore } from 'pinia'
import { Matrix4 } from 'three'
import { api, type LaidQuestion, type PlatesQuestion } from '../api/client'
import { latest, said } from '../api/latest'
import type { Crowding, LaidPlate, Piece, Placing, PlateSettings, Run, Vector } from '../api/types'
import { count } from '../format'
import type { Placed } from '../kinds/Kind'
import { asked } from './asked'
import { title, useProject } from './project'
import { useShown } from './shown'

interface State {
    /** Left free at every side of the bed, mm; the printer's own when null. */
    ownMargin: number | null
    /** Between any two pieces, mm. */
    spacing: number
    turned: boolean
    /** Degrees that pieces are turned by; 0 for freely. */
    step: number
    /** How many there shall be of a piece, by its number; one of those that are not named. */
    copies: Record<number, number>
    plates: LaidPlate[]
    /** As they were before each change by hand. */
    before: LaidPlate[][]
    /** What they were packed with. */
    packedWith: string
    /** What is kept on the server, of which project. */
    version: number
    of: number | null
    crowding: Crowding[]
    /** The copy that is picked on a plate, by its label. */
    held: string | null
    /** Shows where skin hangs over. */
    over: boolean
    waits: boolean
    /** The run that packs, or writes files. */
    working: Run | null
    problem: string
}

/** Beds stand beside each other, so far apart, by their width. */
const APART = 0.12

/** Copies that are drawn beside the first have numbers from here on. */
const COPIES = 8_000_000

/** Layouts that can be taken back. */
const BACK = 50

/** Pieces lie on whole millimetres, and at the margin when they are nearer to it than this, mm. */
const SNAP = 2

export const labelOf = ({ piece, copy }: { piece: string; copy: number }) => (copy === 1 ? piece : `${piece} copy ${copy}`)

/** The same pose moved on the bed. */
const moved = (pose: number[], x: number, y: number) => pose.map((c, k) => (k === 9 ? c + x : k === 10 ? c + y : c))

/** The same pose turned about the upright through a place of the bed. */
function turnedBy(pose: number[], degrees: number, x: number, y: number): number[] {
    const c = Math.cos((degrees * Math.PI) / 180)
    const s = Math.sin((degrees * Math.PI) / 180)
    return pose.map((_, i) => {
        const k = i - (i % 3)
        const u = pose[k] - (k === 9 ? x : 0)
        const v = pose[k + 1] - (k === 9 ? y : 0)
        return [c * u - s * v + (k === 9 ? x : 0), s * u + c * v + (k === 9 ? y : 0), pose[k + 2]][i % 3]
    })
}

/** Pieces laid down and packed on the printer's plates: what is wished for, where they lie, moved by hand, and as files. */
export const usePlates = defineStore('plates', {
    state: (): State => ({
        ownMargin: null, spacing: 2, turned: true, step: 0, copies: {}, plates: [], before: [], packedWith: '', version: 0, of: null, crowding: [], held: null, over: false, waits: false, working: null, problem: '',
    }),
    getters: {
        pieces: (): Piece[] => useProject().taken,
        margin(state): number {
            return state.ownMargin ?? useProject().project?.printer?.margin ?? 2
        },
        /** Width, depth, height. */
        bed(): Vector {
            const printer = useProject().project?.printer
            return printer ? [printer.x, printer.y, printer.z] : [0, 0, 0]
        },
        /** By which a layout is made: others make it old. */
        settings(state): string {
            const printer = useProject().project?.printer
            return [printer?.x, printer?.y, printer?.z, printer?.round, this.margin, state.spacing, state.turned, state.step].join()
        },
        living: (): Map<string, Piece> => new Map(useProject().living.map((piece) => [piece.name, piece])),
        /** What lies on plates and is still as it was. */
        laid(state): LaidPlate[] {
            return state.plates.map((plate) => ({ ...plate, pieces: plate.pieces.filter((one) => this.living.get(one.piece)?.mesh === one.mesh) }))
        },
        gone(state): number {
            return state.plates.reduce((sum, plate, n) => sum + plate.pieces.length - this.laid[n].pieces.length, 0)
        },
        wanted(state): { piece: Piece; copy: number }[] {
            return this.pieces.flatMap((piece) => Array.from({ length: state.copies[piece.id] ?? 1 }, (_, n) => ({ piece, copy: n + 1 })))
        },
        /** Copies that shall be on a plate and are not. */
        missing(): number {
            const there = new Set(this.laid.flatMap(({ pieces }) => pieces.map(labelOf)))
            return this.wanted.filter(({ piece, copy }) => !there.has(labelOf({ piece: piece.name, copy }))).length
        },
        isOld(state): boolean {
            return state.plates.length > 0 && (this.gone > 0 || this.missing > 0 || state.packedWith !== this.settings)
        },
        question(state): PlatesQuestion {
            return {
                margin: this.margin, spacing: state.spacing, turned: state.turned, step: state.step, pieces: useProject().takenIds,
                copies: Object.entries(state.copies).filter(([, count]) => count > 1).map(([piece, count]) => ({ piece: Number(piece), count })), plates: this.laid,
            }
        },
        laidQuestion(state): LaidQuestion {
            return { margin: this.margin, spacing: state.spacing, plates: this.laid }
        },
        total(): number {
            return this.laid.reduce((sum, { pieces }) => sum + pieces.length, 0)
        },
        columns(state): number {
            return Math.ceil(Math.sqrt(state.plates.length))
        },
        /** Corners of the beds in the view. */
        corners(state): [number, number][] {
            const [x, y] = this.bed
            return state.plates.map((_, n) => [(n % this.columns) * x * (1 + APART), -Math.floor(n / this.columns) * y * (1 + APART)])
        },
        /** What is drawn, and where it is in the layout. */
        drawn(state): (Placed & { plate: number; index: number; label: string })[] {
            let copies = 0
            return this.laid.flatMap(({ pieces }, plate) => pieces.map((one, index) => {
                const [x, y] = this.corners[plate]
                const label = labelOf(one)
                const piece = (this.living.get(one.piece) as Piece).id
                return { id: one.copy === 1 ? piece : COPIES + copies++, piece, pose: poseMatrix(one.pose, x, y), picked: label === state.held, plate, index, label, over: state.over ? downOf(one.pose) : undefined }
            }))
        },
        placed(): Placed[] | null {
            return this.drawn.length ? this.drawn : null
        },
        extent(): { min: Vector; max: Vector } | null {
            if (!this.drawn.length) return null
            const [x, y, z] = this.bed
            return { min: [0, this.corners[this.corners.length - 1][1], 0], max: [(this.columns - 1) * x * (1 + APART) + x, y, z / 3] }
        },
        /** The copy that is picked: where it is in the layout. */
        holding(state): { plate: number; index: number; one: Placing; box: [number, number, number, number] | null } | null {
            for (const [plate, { pieces }] of this.laid.entries()) {
                const index = pieces.findIndex((one) => labelOf(one) === state.held)
                if (index >= 0) return { plate, index, one: pieces[index], box: state.crowding[plate]?.boxes[index] ?? null }
            }
            return null
        },
        /** Of which the copies are set: the one that is picked on a plate, else those that are taken. */
        copied(): Piece[] {
            const held = this.living.get(this.holding?.one.piece ?? '')
            return held ? [held] : this.pieces
        },
        unstable(): string[] {
            return this.laid.flatMap(({ pieces }) => pieces).filter(({ stable }) => !stable).map(labelOf)
        },
        /** What is wrong, in words, by plate. */
        troubles(state): string[] {
            return this.laid.map((_, n) => {
                const { near = [], beyond = [] } = state.crowding[n] ?? {}
                const over = near.filter(({ mm }) => mm <= 0).length
                const close = near.length - over
                return [over ? count(over, 'overlap', 'overlaps') : '', close ? `${close} too near` : '', beyond.length ? `${beyond.length} beyond the bed` : ''].filter(Boolean).join(', ')
            })
        },
        ready(state): boolean {
            return !useProject().busy && !state.waits && useProject().project?.printer !== null && this.pieces.length > 0
        },
        sentence(state): string {
            const project = useProject()
            const printer = project.project?.printer
            if (!printer) return 'Choose a printer beside the project’s name: plates are as large as its bed.'
            if (!project.living.length) return 'There is no piece yet.'
            if (!this.pieces.length) return 'Every piece is hidden: show at least one.'
            if (project.busy) return project.busyWords
            if (state.waits) return 'Packs the pieces; you can go on working meanwhile.'
            if (state.problem) return state.problem
            const wanted = this.wanted.length
            if (!this.total) return `Lays ${count(wanted, 'piece', 'pieces')} down and packs ${wanted > 1 ? 'them' : 'it'} on as few plates of ${printer.name} as it finds. The pieces stay where they are.`
            if (this.gone) return `${count(this.gone, 'piece has', 'pieces have')} changed since they were packed; pack again.`
            if (this.missing) return `${count(this.missing, 'piece is', 'pieces are')} not on a plate; pack again.`
            const troubles = this.troubles.flatMap((text, n) => (text ? [`plate ${n + 1}: ${text}`] : []))
            if (troubles.length) return `Not as it should be on ${troubles.join('; ')}.`
            if (state.packedWith !== this.settings) return 'The plates were packed with other settings; pack again, or leave them so.'
            return `${count(this.total, 'piece', 'pieces')} on ${count(state.plates.length, 'plate', 'plates')}${this.unstable.length ? `; ${count(this.unstable.length, 'piece does', 'pieces do')} not stand by ${this.unstable.length > 1 ? 'themselves' : 'itself'}` : ', all stand by themselves'}.`
        },
    },
    actions: {
        set(change: Partial<Pick<State, 'ownMargin' | 'spacing' | 'turned' | 'step' | 'over'>>) {
            Object.assign(this, change)
            this.problem = ''
            if (this.total) this.judge()
        },
        setCopies(count: number) {
            for (const piece of this.copied) this.copies[piece.id] = count
            this.problem = ''
        },
        /** As they were kept. */
        async load() {
            const id = useProject().project?.id
            if (id === undefined || this.of === id) return
            try {
                const kept = await api.keptPlates(id)
                if (useProject().project?.id !== id) return
                this.take(kept)
                this.of = id
                if (this.total) {
                    this.look()
                    this.judge()
                }
            } catch (error) {
                this.problem = said(error)
            }
        },
        take(kept: { version: number; settings: PlateSettings | null; plates: LaidPlate[] }) {
            this.version = kept.version
            this.plates = kept.plates
            this.before = []
            if (!kept.settings) return
            const { margin, spacing, turned, step, copies } = kept.settings
            this.$patch({ ownMargin: margin, spacing, turned, step })
            this.copies = Object.fromEntries(copies.map((one) => [one.piece, one.count]))
            this.packedWith = this.settings
        },
        async pack() {
            const project = useProject()
            const id = project.project?.id
            if (id === undefined || !this.ready) return
            const locked = this.laid.filter((plate) => plate.locked)
            const question = { ...this.question, plates: locked }
            const settings = this.settings
            this.problem = ''
            this.waits = true
            try {
                const answer = await asked(() => api.plates(id, question), (run) => { this.working = run })
                if (!answer || project.project?.id !== id) return
                this.remember()
                this.plates = [...locked, ...answer.plates.map((pieces) => ({ locked: false, pieces }))]
                this.packedWith = settings
                this.crowding = []
                this.look()
                this.keep()
            } catch (error) {
                this.problem = said(error)
            } finally {
                this.waits = false
            }
            if (this.total) this.judge()
        },
        remember() {
            if (this.plates.length) this.before = [...this.before.slice(-BACK), this.plates]
        },
        /** The last change by hand is taken back. */
        back() {
            const before = this.before.at(-1)
            if (!before) return
            this.before = this.before.slice(0, -1)
            this.plates = before
            this.judge()
            this.keep()
        },
        /** Keeps the layout on the server, as it is when what was asked before is answered. */
        keep() {
            const id = useProject().project?.id
            if (id !== undefined) keeping.ask(id)
        },
        async notKept(error: unknown) {
            const id = useProject().project?.id
            this.problem = said(error)
            const kept = id === undefined ? null : await api.keptPlates(id).catch(() => null)
            // Somebody else's are newer.
            if (kept && kept.version !== this.version) {
                this.take(kept)
                this.judge()
            }
        },
        /** Asks what overlaps; the last one asked is answered. */
        judge() {
            const id = useProject().project?.id
            if (id !== undefined) judging.ask({ id, question: this.laidQuestion })
        },
        /** Another layout, by hand. */
        change(plates: LaidPlate[]) {
            this.remember()
            this.plates = plates
            this.problem = ''
            this.judge()
            this.keep()
        },
        lock(plate: number) {
            this.plates = this.laid.map((one, n) => (n === plate ? { ...one, locked: !one.locked } : one))
            this.keep()
        },
        /** The copy that is picked, to another pose, or plate. */
        place(pose: number[], plate?: number): LaidPlate[] {
            const holding = this.holding
            if (!holding) return this.laid
            const next = { ...holding.one, pose }
            return this.laid.map((one, n) => {
                if (plate === undefined || plate === holding.plate) return n === holding.plate ? { ...one, pieces: one.pieces.map((other, k) => (k === holding.index ? next : other)) } : one
                if (n === plate) return { ...one, pieces: [...one.pieces, next] }
                return n === holding.plate ? { ...one, pieces: one.pieces.filter((_, k) => k !== holding.index) } : one
            })
        },
        canMove(): boolean {
            return this.holding !== null && !this.plates[this.holding.plate].locked && !this.waits
        },
        /** Its lower left corner, on its bed. */
        moveTo(x: number, y: number) {
            const holding = this.holding
            if (!holding?.box || !this.canMove()) return
            this.change(this.place(moved(holding.one.pose, x - holding.box[0], y - holding.box[1])))
        },
        turnBy(degrees: number) {
            const holding = this.holding
            if (!holding?.box || !this.canMove()) return
            const [x0, y0, x1, y1] = holding.box
            this.change(this.place(turnedBy(holding.one.pose, degrees, (x0 + x1) / 2, (y0 + y1) / 2)))
        },
        /** On another plate, at the same place; on a new one for one more than there are. */
        moveToPlate(plate: number) {
            const holding = this.holding
            if (!holding || !this.canMove() || plate === holding.plate || this.plates[plate]?.locked) return
            const plates = plate < this.plates.length ? this.place(holding.one.pose, plate) : [...this.place(holding.one.pose, -1), { locked: false, pieces: [holding.one] }]
            this.change(plates.filter(({ pieces, locked }, n) => pieces.length || locked || n === plate))
        },
        /** Dragged in the view, from a pose and a box, by so much. */
        drag(from: { pose: number[]; plate: number; box: [number, number, number, number] }, by: [number, number]) {
            if (!this.canMove()) return
            const [width, depth] = this.bed
            const [cx, cy] = this.corners[from.plate]
            const middle = [0, 1].map((k) => (from.box[k] + from.box[k + 2]) / 2 + by[k] + [cx, cy][k])
            const onto = this.corners.findIndex(([x, y], n) => !this.plates[n].locked && middle[0] >= x && middle[0] <= x + width && middle[1] >= y && middle[1] <= y + depth)
            const plate = onto < 0 ? from.plate : onto
            const shift = [0, 1].map((k) => {
                const low = from.box[k] + by[k] + [cx, cy][k] - this.corners[plate][k]
                const high = low + from.box[k + 2] - from.box[k]
                const side = this.bed[k] - this.margin
                const snapped = Math.abs(low - this.margin) < SNAP ? this.margin : Math.abs(high - side) < SNAP ? side - (from.box[k + 2] - from.box[k]) : Math.round(low)
                return snapped - from.box[k]
            })
            this.plates = this.place(moved(from.pose, shift[0], shift[1]), plate)
            this.judge()
        },
        /** Turned in the view, from a pose. */
        spin(from: { pose: number[]; box: [number, number, number, number] }, degrees: number) {
            if (!this.canMove()) return
            this.plates = this.place(turnedBy(from.pose, degrees, (from.box[0] + from.box[2]) / 2, (from.box[1] + from.box[3]) / 2))
            this.judge()
        },
        /** What was dragged is let go of; it was so before. */
        dropped(before: LaidPlate[]) {
            if (before === this.plates) return
            this.before = [...this.before.slice(-BACK), before]
            this.judge()
            this.keep()
        },
        /** Picks by what was drawn. */
        pick(id: number | null): boolean {
            const one = this.drawn.find((other) => other.id === id)
            this.held = one && one.label !== this.held ? one.label : null
            return true
        },
        /** All plates in the view. */
        look() {
            if (this.extent) useShown().fly = this.extent
        },
        lookAt(plate: number) {
            const [x, y] = this.corners[plate]
            useShown().fly = { min: [x, y, 0], max: [x + this.bed[0], y + this.bed[1], this.bed[2] / 4] }
        },
        /** Has the files written, and hands them to the browser. */
        async takeOut(as: '3mf' | 'stl') {
            const id = useProject().project?.id
            if (id === undefined || this.waits) return
            this.problem = ''
            this.waits = true
            try {
                const files = await asked(() => api.plateFiles(id, { ...this.laidQuestion, as }), (run) => { this.working = run })
                if (files === null) return
                const link = document.createElement('a')
                link.href = files.url
                link.download = files.name
                link.click()
            } catch (error) {
                this.problem = said(error)
            } finally {
                this.waits = false
            }
        },
        async stop() {
            if (this.working) await api.cancel(this.working.id).catch((error: unknown) => { this.problem = said(error) })
        },
        forget() {
            this.$reset()
        },
        titleOf(one: { piece: string; copy: number }): string {
            const piece = this.living.get(one.piece)
            return (piece ? title(piece) : one.piece) + (one.copy > 1 ? `, copy ${one.copy}` : '')
        },
    },
})

const judging = latest(
    ({ id, question }: { id: number; question: LaidQuestion }) => asked(() => api.crowding(id, question), () => undefined),
    (answer, { question }) => {
        // Of the layout as it is now.
        if (answer && JSON.stringify(question) === JSON.stringify(usePlates().laidQuestion)) usePlates().crowding = answer.plates
    },
    (error) => { usePlates().problem = said(error) },
)

const keeping = latest(
    (id: number) => api.keepPlates(id, { ...usePlates().question, version: usePlates().version }),
    ({ version }) => { usePlates().version = version },
    (error) => void usePlates().notKept(error),
)

export function poseMatrix(p: number[], x: number, y: number): Matrix4 {
    return new Matrix4(p[0], p[3], p[6], p[9] + x, p[1], p[4], p[7], p[10] + y, p[2], p[5], p[8], p[11], 0, 0, 0, 1)
}

/** Straight down and where the bed is, as the piece itself stands. */
export const downOf = (p: number[]): { down: Vector; bed: number } => ({ down: [-p[2], -p[5], -p[8]], bed: p[11] })
