import { defineStore } from 'pinia'
import { api, Unanswered } from '../api/client'
import { said } from '../api/latest'
import type { Piece, Project, Run, Said, Step, StepQuestion, Vector } from '../api/types'
import { label } from '../format'
import { asked } from './asked'

interface State {
    project: Project | null
    hidden: number[]
    picked: number[]
    run: Run | null
    result: string
    problem: string
    spread: number
    /** A step whose pieces are shown as they were before it. */
    before: number | null
    /** A step whose settings are being changed. */
    editing: number | null
    /** The connection was lost while something was watched. */
    lost: boolean
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

export const title = (piece: Piece) => piece.title ?? label(piece.name)

/** What goes to the server one after the other, in the order it was asked for. */
let turns: Promise<unknown> = Promise.resolve()

/** Fits that were asked for last. */
let learning = ''

/** The run that brings in a project, until its page opens. */
let making: { id: number; run: Run } | null = null

/** The open project: what the server knows of it, and what the person has picked and hidden. */
export const useProject = defineStore('project', {
    state: (): State => ({ project: null, hidden: [], picked: [], run: null, result: '', problem: '', spread: 0, before: null, editing: null, lost: false }),
    getters: {
        living: (state): Piece[] => state.project?.pieces.filter((piece) => !piece.spent) ?? [],
        byId: (state): Map<number, Piece> => new Map(state.project?.pieces.map((piece) => [piece.id, piece])),
        hiddenIds: (state): Set<number> => new Set(state.hidden),
        pickedIds: (state): Set<number> => new Set(state.picked),
        visible(): Piece[] {
            return this.living.filter((piece) => !this.hiddenIds.has(piece.id))
        },
        tookBy: (state) => (step: number): Piece[] => state.project?.pieces.filter((piece) => piece.spent_by === step) ?? [],
        /** What a cut takes: the picked pieces, or else every visible one; for a step that is edited, what it took. */
        taken(): Piece[] {
            if (this.editing !== null) return this.tookBy(this.editing)
            const picked = this.visible.filter((piece) => this.pickedIds.has(piece.id))
            return picked.length ? picked : this.visible
        },
        takenIds(): number[] | null {
            if (this.editing !== null) return this.taken.map((piece) => piece.id)
            return this.taken.length === this.living.length ? null : this.taken.map((piece) => piece.id)
        },
        /** What the view shows: the living pieces, or for a step that is compared or edited what it took in place of what came of it. */
        shown(): Piece[] {
            const step = this.editing ?? this.before
            if (step === null) return this.living
            const took = this.tookBy(step)
            const ids = new Set(took.map((piece) => piece.id))
            const known = new Map<number, boolean>()
            const isOf = (piece: Piece): boolean => {
                const found = known.get(piece.id) ?? piece.parents.some((id) => ids.has(id) || isOfId(id))
                known.set(piece.id, found)
                return found
            }
            const isOfId = (id: number): boolean => {
                const piece = this.byId.get(id)
                return piece !== undefined && isOf(piece)
            }
            return [...took, ...this.living.filter((piece) => !isOf(piece))]
        },
        box(): { min: Vector; max: Vector } {
            return around(this.taken)
        },
        whole(): { min: Vector; max: Vector } {
            return around(this.shown)
        },
        busy: (state): boolean => state.run !== null && !state.run.over,
        /** What keeps the button off while a step is under way. */
        busyWords(state): string {
            const what = this.checking ? 'A check' : 'A step'
            return state.run?.status === 'waiting' ? `${what} waits for its turn.` : `${what} is at work.`
        },
        /** Only a check is at work, which changes nothing and begins by itself. */
        checking(state): boolean {
            return this.busy && state.run?.kind === 'check'
        },
        /** A step is at work: nothing can be undone until it is over. */
        held(): boolean {
            return this.busy && !this.checking
        },
    },
    actions: {
        stepOf(id: number | null): Step | null {
            return this.project?.steps.find((step) => step.id === id) ?? null
        },
        /** A project was made by this run: whoever opens it is told what came of it, however quick it was. */
        made(id: number, run: Run) {
            making = { id, run }
        },
        async open(id: number) {
            this.$reset()
            learning = ''
            const made = making?.id === id ? making.run : null
            making = null
            try {
                this.take(await api.project(id))
                if (made) void this.follow(made)
                else if (this.project?.run && !this.project.run.over) void this.follow(this.project.run)
                else if (this.project && !this.living.length && this.project.run?.message) this.problem = this.project.run.message
            } catch (error) {
                this.refused(error)
            }
        },
        /** After a cut: so far apart that one sees what parted. */
        partALittle() {
            const { min, max } = this.whole
            this.spread = Math.round(0.06 * Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]))
        },
        /** Pieces are shown where they really are, as they are now: what is foreseen is drawn beside them. */
        showAsIs() {
            this.spread = 0
            this.before = null
        },
        take(project: Project) {
            this.project = project
            const ids = new Set(this.living.map((piece) => piece.id))
            this.hidden = this.hidden.filter((id) => ids.has(id))
            // What a piece became under its own name (moved, mended, painted) stays picked.
            const became = (id: number): number => {
                const next = ids.has(id) ? undefined : this.project?.pieces.find((piece) => piece.parents.includes(id) && piece.name === this.byId.get(id)?.name)
                return next ? became(next.id) : id
            }
            this.picked = this.picked.map(became).filter((id, n, all) => ids.has(id) && all.indexOf(id) === n)
            const steps = new Set(project.steps.map((step) => step.id))
            if (this.before !== null && !steps.has(this.before)) this.before = null
            if (this.editing !== null && !steps.has(this.editing)) this.editing = null
            void this.learnFits()
        },
        /** Of pieces whose boxes are too large for the printer: has it found out whether they fit in some turn, and takes that up. */
        async learnFits() {
            const id = this.project?.id
            const unsure = this.living.filter((piece) => piece.fit?.unsure).map((piece) => piece.mesh)
            const question = [id, this.project?.printer?.id, ...unsure].join()
            if (id === undefined || !unsure.length || learning === question) return
            learning = question
            try {
                const told = await asked(() => api.fits(id), () => undefined)
                if (!told?.looked_at || this.project?.id !== id) return
                const fits = new Map((await api.project(id)).pieces.map((piece) => [piece.mesh, piece.fit]))
                for (const piece of this.project?.pieces ?? []) piece.fit = fits.get(piece.mesh) ?? piece.fit
            } catch {
                // It is told as its box is, and asked again when the project is opened again.
            }
        },
        refused(error: unknown) {
            this.problem = said(error)
        },
        /**
         * Has a step made, or the one that is edited made again, and sees it to its end; false when it was refused or failed, which is said. Another step may be named;
         * null makes a new one.
         */
        async work(question: StepQuestion, step?: number | null): Promise<boolean> {
            if (!this.project) return false
            const editing = step === undefined ? this.editing : step
            this.problem = ''
            this.result = ''
            try {
                return await this.follow(editing === null ? await api.start(this.project.id, question) : await api.edit(this.project.id, editing, question))
            } catch (error) {
                this.refused(error)
                return false
            }
        },
        /** Has pieces checked; null where a step is at work. What is asked for meanwhile waits until the check is under way, and can stop it. */
        async check(pieces: number[] | null): Promise<Run | null> {
            return this.inTurn(async () => {
                if (!this.project || this.busy) return null
                return (this.run = await api.check(this.project.id, pieces))
            })
        },
        /** Watches a run to its end, then takes up what it made. */
        async follow(run: Run): Promise<boolean> {
            const id = this.project?.id
            this.run = run
            this.problem = ''
            this.result = ''
            try {
                while (!this.run.over) {
                    await pause(150)
                    this.run = await this.persist(() => api.run(run.id))
                    if (this.project?.id !== id) return false
                }
                const { status, message } = this.run
                if (id !== undefined) this.take(await this.persist(() => api.project(id)))
                if (status === 'done') this.result = message ?? ''
                else this.problem = message ?? ''
                return status === 'done'
            } catch (error) {
                this.refused(error)
                return false
            } finally {
                this.run = null
            }
        },
        /** Asks until there is an answer: a lost connection does not end the work that is watched. What is refused stays refused. */
        async persist<T>(ask: () => Promise<T>): Promise<T> {
            const id = this.project?.id
            for (let wait = 300; ; wait = Math.min(5000, 2 * wait)) {
                try {
                    const answer = await ask()
                    if (this.lost) this.problem = ''
                    this.lost = false
                    return answer
                } catch (error) {
                    if (!(error instanceof Unanswered) || this.project?.id !== id) throw error
                    this.lost = true
                    this.problem = 'The connection to Isotome is lost; the work goes on there, and this page asks until it is back.'
                    await pause(wait)
                }
            }
        },
        async stop() {
            if (this.run) await api.cancel(this.run.id).catch((error: unknown) => this.refused(error))
        },
        /** A change of mind that the server makes at once; several are made one after the other, as they were asked for. */
        turn(change: (project: number) => Promise<Said>): Promise<void> {
            return this.inTurn(() => this.turnNow(change))
        },
        inTurn<T>(act: () => Promise<T>): Promise<T> {
            const mine = turns.then(act)
            turns = mine.catch(() => undefined)
            return mine
        },
        async turnNow(change: (project: number) => Promise<Said>) {
            if (!this.project) return
            if (this.held) {
                this.problem = `${this.busyWords} Wait for it, or stop it first.`
                return
            }
            const id = this.project.id
            if (this.checking) await this.stop()
            while (this.busy) await pause(50)
            if (this.project?.id !== id) return
            this.problem = ''
            try {
                const answer = await change(this.project.id)
                this.before = null
                this.editing = null
                this.take(answer.project)
                this.spread = 0
                this.result = answer.said
            } catch (error) {
                this.refused(error)
            }
        },
        undo() {
            return this.turn((id) => api.undo(id))
        },
        redo() {
            return this.turn((id) => api.redo(id))
        },
        rejoin(what: { step?: number; piece?: number }) {
            return this.turn((id) => api.rejoin(id, what))
        },
        async change(change: { pieces: number[]; title?: string | null; colour?: string }) {
            if (!this.project) return
            try {
                this.take(await api.name(this.project.id, change))
            } catch (error) {
                this.refused(error)
            }
        },
        /** How the inside looks; null for plain. */
        async dress(inside: Parameters<typeof api.change>[1]['inside']) {
            if (!this.project) return
            this.problem = ''
            try {
                this.take(await api.change(this.project.id, { inside }))
            } catch (error) {
                this.refused(error)
            }
        },
        /** A picture of the person's own for the inside. */
        async dressWith(picture: File) {
            if (!this.project) return
            this.problem = ''
            try {
                this.take(await api.insidePicture(this.project.id, picture))
            } catch (error) {
                this.refused(error)
            }
        },
        async choosePrinter(printer: number | null) {
            if (!this.project) return
            try {
                this.take(await api.change(this.project.id, { printer }))
            } catch (error) {
                this.refused(error)
            }
        },
        pick(id: number, more: boolean) {
            if (more) this.picked = this.pickedIds.has(id) ? this.picked.filter((one) => one !== id) : [...this.picked, id]
            else this.picked = this.picked.length === 1 && this.picked[0] === id ? [] : [id]
        },
        hide(ids: number[]) {
            const all = ids.every((id) => this.hiddenIds.has(id))
            this.hidden = all ? this.hidden.filter((one) => !ids.includes(one)) : [...new Set([...this.hidden, ...ids])]
        },
        isolate(id: number) {
            const others = this.living.filter((piece) => piece.id !== id).map((piece) => piece.id)
            const already = others.length > 0 && others.every((one) => this.hiddenIds.has(one)) && !this.hiddenIds.has(id)
            this.hidden = already ? [] : others
        },
        /** Isolates the next piece, or the one before. */
        step(by: number) {
            const pieces = this.living
            if (pieces.length < 2) return
            const alone = this.visible.length === 1 ? pieces.indexOf(this.visible[0]) : by > 0 ? -1 : 0
            const next = pieces[(alone + by + pieces.length) % pieces.length]
            this.hidden = pieces.filter((piece) => piece !== next).map((piece) => piece.id)
        },
        showAll() {
            this.hidden = []
        },
    },
})

function around(pieces: Piece[]): { min: Vector; max: Vector } {
    const min: Vector = [Infinity, Infinity, Infinity]
    const max: Vector = [-Infinity, -Infinity, -Infinity]
    for (const piece of pieces) {
        for (let k = 0; k < 3; k++) {
            min[k] = Math.min(min[k], piece.min[k])
            max[k] = Math.max(max[k], piece.max[k])
        }
    }
    return pieces.length ? { min, max } : { min: [0, 0, 0], max: [0, 0, 0] }
}
