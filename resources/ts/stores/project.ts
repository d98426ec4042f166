import { defineStore } from 'pinia'
import { api, Refused } from '../api/client'
import type { Piece, Project, Run, Vector } from '../api/types'

interface State {
    project: Project | null
    hidden: number[]
    picked: number[]
    run: Run | null
    result: string
    problem: string
    spread: number
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

/** The open project: what the server knows of it, and what the person has picked and hidden. */
export const useProject = defineStore('project', {
    state: (): State => ({ project: null, hidden: [], picked: [], run: null, result: '', problem: '', spread: 0 }),
    getters: {
        living: (state): Piece[] => state.project?.pieces.filter((piece) => !piece.spent) ?? [],
        visible(): Piece[] {
            return this.living.filter((piece) => !this.hidden.includes(piece.id))
        },
        /** What a cut takes: the picked pieces, or else every visible one. */
        taken(): Piece[] {
            const picked = this.visible.filter((piece) => this.picked.includes(piece.id))
            return picked.length ? picked : this.visible
        },
        takenIds(): number[] | null {
            return this.taken.length === this.living.length ? null : this.taken.map((piece) => piece.id)
        },
        box(): { min: Vector; max: Vector } {
            return around(this.taken)
        },
        whole(): { min: Vector; max: Vector } {
            return around(this.living)
        },
        busy: (state): boolean => state.run !== null && !state.run.over,
    },
    actions: {
        async open(id: number) {
            this.$reset()
            try {
                this.take(await api.project(id))
                if (this.project?.run && !this.project.run.over) void this.follow(this.project.run)
                else if (this.project && !this.living.length && this.project.run?.message) this.problem = this.project.run.message
            } catch (error) {
                this.refused(error)
            }
        },
        take(project: Project) {
            this.project = project
            const ids = new Set(this.living.map((piece) => piece.id))
            this.hidden = this.hidden.filter((id) => ids.has(id))
            this.picked = this.picked.filter((id) => ids.has(id))
        },
        refused(error: unknown) {
            this.problem = error instanceof Refused ? error.message : 'Something unexpected went wrong in this window; reload it. Your work is kept.'
            if (!(error instanceof Refused)) console.error(error)
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
                    this.run = await api.run(run.id)
                    if (this.project?.id !== id) return false
                }
                const { status, message } = this.run
                if (id !== undefined) this.take(await api.project(id))
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
        async stop() {
            if (this.run) await api.cancel(this.run.id).catch((error: unknown) => this.refused(error))
        },
        async rejoin() {
            if (!this.project || !this.project.steps.length || this.busy) return
            const last = this.project.steps[this.project.steps.length - 1]
            this.problem = ''
            try {
                this.take((await api.rejoin(this.project.id)).project)
                this.spread = 0
                this.result = `Rejoined: ${last.report.took.length === 1 ? 'the piece' : 'the pieces'} cut last ${last.report.took.length === 1 ? 'is' : 'are'} whole again.`
            } catch (error) {
                this.refused(error)
            }
        },
        pick(id: number, more: boolean) {
            if (more) this.picked = this.picked.includes(id) ? this.picked.filter((one) => one !== id) : [...this.picked, id]
            else this.picked = this.picked.length === 1 && this.picked[0] === id ? [] : [id]
        },
        hide(id: number) {
            this.hidden = this.hidden.includes(id) ? this.hidden.filter((one) => one !== id) : [...this.hidden, id]
        },
        isolate(id: number) {
            const others = this.living.filter((piece) => piece.id !== id).map((piece) => piece.id)
            const already = others.length > 0 && others.every((one) => this.hidden.includes(one)) && !this.hidden.includes(id)
            this.hidden = already ? [] : others
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
