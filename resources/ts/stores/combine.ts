import { defineStore } from 'pinia'
import type { Piece, Step, StepQuestion } from '../api/types'
import { mm } from '../format'
import { useProject } from './project'

export type Combining = 'unite' | 'subtract' | 'common'

interface State {
    open: boolean
    way: Combining
    /** Names of the pieces that are taken out of the others. */
    tools: string[]
    spend: boolean
    /** Millimetres by which what is taken out is widened before. */
    gap: number
    working: boolean
}

/** Several pieces and what is to be made of them. */
export const useCombine = defineStore('combine', {
    state: (): State => ({ open: false, way: 'unite', tools: [], spend: true, gap: 0, working: false }),
    getters: {
        /** The pieces it is about: those that are picked, or that the edited step took. */
        pieces(): Piece[] {
            const project = useProject()
            return project.editing === null ? project.living.filter((piece) => project.pickedIds.has(piece.id)) : project.taken
        },
        targets(state): Piece[] {
            return state.way === 'subtract' ? this.pieces.filter((piece) => !state.tools.includes(piece.name)) : this.pieces
        },
        question(state): StepQuestion {
            const more = state.way === 'subtract' ? { with: state.tools, spend: state.spend, gap_mm: state.gap } : {}
            return { step: { do: state.way, ...more }, pieces: this.targets.map((piece) => piece.id) }
        },
        ready(state): boolean {
            return !useProject().busy && !state.working && this.targets.length > 0 && (state.way === 'subtract' ? state.tools.length > 0 : this.pieces.length > 1)
        },
        sentence(state): string {
            if (state.way === 'unite') return 'Pieces that overlap or touch face to face become one, without walls between them. One that meets no other stays as it is.'
            if (state.way === 'common') return 'Only what is in all of the pieces stays.'
            if (!state.tools.length) return 'Mark what is to be taken out of the others.'
            return this.targets.length ? `What is marked is ${state.gap > 0 ? `widened by ${mm(state.gap)} all round and ` : ''}taken out of the others; the faces that it leaves are inside.` : 'Leave at least one piece unmarked: something must stay.'
        },
    },
    actions: {
        start() {
            const project = useProject()
            project.problem = ''
            this.$patch({ open: true, way: 'unite', spend: true, gap: 0, tools: [] })
        },
        load(step: Step) {
            const { do: way, with: tools, spend, gap_mm: gap } = step.settings
            this.$patch({ open: true, way: way as Combining, tools: tools ?? [], spend: spend ?? true, gap: gap ?? 0 })
        },
        mark(name: string, isTool: boolean) {
            this.tools = isTool ? [...this.tools, name] : this.tools.filter((one) => one !== name)
        },
        close() {
            this.open = false
            useProject().editing = null
        },
        async run() {
            const project = useProject()
            if (!this.ready) return
            this.working = true
            if (await project.work(this.question)) {
                project.picked = []
                this.close()
            }
            this.working = false
        },
    },
})
