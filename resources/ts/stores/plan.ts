import { defineStore } from 'pinia'
import { api } from '../api/client'
import { said } from '../api/latest'
import type { Piece, PlanAlternative, PlanAnswer, Run, Vector } from '../api/types'
import { asked } from './asked'
import { useProject } from './project'

interface State {
    /** Left free at every side of the bed, mm; the printer's own when null. */
    ownMargin: number | null
    /** Removed by every cut, mm; the printer's own when null. */
    ownGap: number | null
    /** Width of pegs that cut faces should have room for, mm. */
    peg: number
    /** Balls that no cut may go through. */
    whole: { at: Vector; radius: number }[]
    answer: PlanAnswer | null
    /** What the answer is about: it is old when this is not so any more. */
    about: string
    /** Which of the alternatives is shown. */
    chosen: number
    /** The run that looks for cuts. */
    looking: Run | null
    waits: boolean
    problem: string
}

const largest = (pieces: Piece[]) => pieces.reduce<Piece | null>((most, piece) => (piece.fit && !piece.fit.fits && piece.fit.over_mm > (most?.fit?.over_mm ?? 0) ? piece : most), null)

/** Cuts after which every piece fits the printer: what is wished for, what is proposed, and which of it is shown. */
export const usePlan = defineStore('plan', {
    state: (): State => ({ ownMargin: null, ownGap: null, peg: 6, whole: [], answer: null, about: '', chosen: 0, looking: null, waits: false, problem: '' }),
    getters: {
        margin: (state): number => state.ownMargin ?? useProject().project?.printer?.margin ?? 0,
        gap: (state): number => state.ownGap ?? useProject().project?.printer?.gap ?? 0.3,
        /** The piece that is planned for: the one that is picked, or else the one that is most too large. */
        piece(): Piece | null {
            const project = useProject()
            const picked = project.living.filter((piece) => project.pickedIds.has(piece.id))
            return picked.length === 1 ? picked[0] : largest(project.living)
        },
        /** All that decides the answer. */
        question(): string {
            const printer = useProject().project?.printer
            return [this.piece?.id, this.piece?.mesh, printer?.id, this.margin, this.gap, this.peg, JSON.stringify(this.whole)].join()
        },
        isOld(): boolean {
            return this.answer !== null && this.about !== this.question
        },
        alternative(): PlanAlternative | null {
            return this.isOld ? null : (this.answer?.alternatives[this.chosen] ?? null)
        },
    },
    actions: {
        async look() {
            const project = useProject()
            const id = project.project?.id
            const piece = this.piece
            if (id === undefined || !piece || this.waits) return
            const about = this.question
            this.problem = ''
            this.waits = true
            project.showAsIs()
            try {
                const answer = await asked(() => api.plan(id, { piece: piece.id, margin: this.margin, gap: this.gap, peg: this.peg, whole: this.whole }), (run) => { this.looking = run })
                if (!answer || project.project?.id !== id) return
                this.answer = answer
                this.about = about
                this.chosen = 0
            } catch (error) {
                this.problem = said(error)
            } finally {
                this.waits = false
            }
        },
        /** A cut of the shown alternative stands elsewhere along its facing: what comes of all cuts then is asked. */
        move(n: number, offset: number) {
            return this.revise((cuts) => cuts.map((cut, k) => (k === n ? { ...cut, through: cut.facing.map((part) => part * offset) as Vector } : cut)))
        },
        /** What does not fit after the cuts as they are is cut further. */
        more() {
            return this.revise((cuts) => cuts, true)
        },
        async revise(change: (cuts: { of: string; through: Vector; facing: Vector }[]) => { of: string; through: Vector; facing: Vector }[], more = false) {
            const project = useProject()
            const id = project.project?.id
            const piece = this.piece
            const plan = this.alternative
            const chosen = this.chosen
            if (id === undefined || !piece || !plan || this.waits) return
            const about = this.question
            const cuts = change(plan.cuts.map(({ of, through, facing }) => ({ of, through, facing })))
            this.problem = ''
            this.waits = true
            try {
                const answer = await asked(() => api.plan(id, { piece: piece.id, margin: this.margin, gap: this.gap, peg: this.peg, whole: this.whole, cuts, more }), (run) => { this.looking = run })
                if (answer && this.answer && this.about === about) this.answer.alternatives[chosen] = answer.alternatives[0]
            } catch (error) {
                this.problem = said(error)
            } finally {
                this.waits = false
            }
        },
        /** A place that must stay whole; as large as a twentieth of the piece, to begin with. */
        keep(at: Vector) {
            const piece = this.piece
            const size = piece ? Math.hypot(...piece.max.map((high, k) => high - piece.min[k])) : 100
            this.wish({ whole: [...this.whole, { at, radius: Number((size / 20).toPrecision(2)) }] })
        },
        async stop() {
            if (this.looking) await api.cancel(this.looking.id).catch((error: unknown) => { this.problem = said(error) })
        },
        /** Makes the cuts of the alternative that is shown. */
        async cut() {
            const project = useProject()
            const id = project.project?.id
            const plan = this.alternative
            if (id === undefined || !plan?.steps.length || project.busy) return
            try {
                if (await project.follow(await api.apply(id, { isotome_recipe: 1, units: 'mm', steps: plan.steps }, 'plan'))) {
                    this.answer = null
                    project.partALittle()
                }
            } catch (error) {
                project.refused(error)
            }
        },
        /** Another wish; what was wrong before is not said any more. */
        wish(to: Partial<Pick<State, 'ownMargin' | 'ownGap' | 'peg' | 'whole'>>) {
            Object.assign(this, to)
            this.problem = ''
        },
        forget() {
            this.answer = null
            this.problem = ''
            this.chosen = 0
            this.whole = []
        },
    },
})
