import { defineStore } from 'pinia'
import { api } from '../api/client'
import type { CheckCounts, CheckReport, MendPreview, Piece, Run, Step, StepQuestion } from '../api/types'
import { asked } from './asked'
import { useProject } from './project'
import { useShown } from './shown'

interface State {
    /** The piece that is looked at. */
    piece: number | null
    known: Record<string, CheckCounts>
    report: CheckReport | null
    /** Which place of which fault is shown. */
    at: { fault: string; n: number } | null
    preview: { question: StepQuestion; words: string; answer: MendPreview } | null
    trying: boolean
    /** Works out what a mend would change. */
    run: Run | null
}

/** The Check station: what is known of each piece, what is pointed out, and what a mend would change. */
export const useCheck = defineStore('check', {
    state: (): State => ({ piece: null, known: {}, report: null, at: null, preview: null, trying: false, run: null }),
    getters: {
        /** The mend, or the thickening, whose settings are being changed. */
        editing(): Step | null {
            const project = useProject()
            const step = project.stepOf(project.editing)
            return step && (step.settings.do === 'mend' || step.settings.do === 'thicken') ? step : null
        },
        /** The piece that somebody wants to be looked at, if nothing else is picked; the one picked in the list; else the first that is not sound. */
        looked(): Piece | null {
            const project = useProject()
            if (this.editing) return project.taken.find((piece) => project.pickedIds.has(piece.id)) ?? project.taken[0] ?? null
            const wanted = project.living.find((piece) => piece.id === this.piece)
            if (wanted && (!project.picked.length || project.pickedIds.has(wanted.id))) return wanted
            const picked = project.living.find((piece) => project.pickedIds.has(piece.id))
            return picked ?? project.living.find((piece) => !piece.watertight) ?? project.living[0] ?? null
        },
    },
    actions: {
        async load() {
            const project = useProject()
            const id = project.project?.id
            if (id === undefined) return
            try {
                this.known = await api.checks(id)
            } catch (error) {
                project.refused(error)
            }
        },
        async look() {
            const shown = useShown()
            shown.clear()
            this.at = null
            this.preview = null
            const mesh = this.looked?.mesh
            this.report = null
            if (!mesh || !this.known[mesh]) return
            try {
                const report = await api.report(mesh)
                if (this.looked?.mesh === mesh) this.report = report
            } catch (error) {
                useProject().refused(error)
            }
        },
        async check() {
            const project = useProject()
            if (!project.project || project.busy) return
            try {
                // What was done before it stays to be read: the card shows the check itself.
                const said = project.result
                const run = await project.check(this.editing ? project.takenIds : null)
                if (run && (await project.follow(run))) project.result = said || project.result
                await this.load()
                await this.look()
            } catch (error) {
                project.refused(error)
            }
        },
        async tryOut(question: StepQuestion, words: string) {
            const project = useProject()
            if (!project.project || project.busy) return
            this.trying = true
            project.problem = ''
            try {
                const id = project.project.id
                const mesh = this.looked?.mesh
                const answer = await asked(() => api.foreseeLong<MendPreview>(id, question), (run) => { this.run = run })
                // Meanwhile the person may have gone on to another piece.
                if (answer === null || this.looked?.mesh !== mesh) return
                this.preview = { question, words, answer }
                useShown().mark({ triangles: answer.removed_faces, added: answer.added_faces })
            } catch (error) {
                project.refused(error)
            } finally {
                this.trying = false
            }
        },
        async stop() {
            if (this.run) await api.cancel(this.run.id).catch((error: unknown) => useProject().refused(error))
        },
        leave() {
            this.preview = null
            useShown().clear()
        },
        async mend(question: StepQuestion) {
            const project = useProject()
            if (project.busy) return
            this.leave()
            // The card looks at what came of it, as at every piece that it does not know.
            const step = this.editing
            if (await project.work(question, step?.id ?? null) && step) project.editing = null
        },
    },
})
