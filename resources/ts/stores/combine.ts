import { defineStore } from 'pinia'
import { api } from '../api/client'
import type { Piece, Step, StepQuestion } from '../api/types'
import { useProject } from './project'

export type Combining = 'unite' | 'subtract' | 'common'

interface State {
    open: boolean
    way: Combining
    /** Names of the pieces that are taken out of the others. */
    tools: string[]
    spend: boolean
    working: boolean
}

/** Several pieces and what is to be made of them. */
export const useCombine = defineStore('combine', {
    state: (): State => ({ open: false, way: 'unite', tools: [], spend: true, working: false }),
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
            const more = state.way === 'subtract' ? { with: state.tools, spend: state.spend } : {}
            return { step: { do: state.way, ...more }, pieces: this.targets.map((piece) => piece.id) }
        },
        ready(state): boolean {
            return !useProject().busy && !state.working && this.targets.length > 0 && (state.way === 'subtract' ? state.tools.length > 0 : this.pieces.length > 1)
        },
        sentence(state): string {
            if (state.way === 'unite') return 'Pieces that overlap or touch face to face become one, without walls between them. One that meets no other stays as it is.'
            if (state.way === 'common') return 'Only what is in all of the pieces stays.'
            if (!state.tools.length) return 'Mark what is to be taken out of the others.'
            return this.targets.length ? 'What is marked is taken out of the others; the faces that it leaves are inside.' : 'Leave at least one piece unmarked: something must stay.'
        },
    },
    actions: {
        start() {
            const project = useProject()
            project.problem = ''
            this.$patch({ open: true, way: 'unite', spend: true, tools: [] })
        },
        load(step: Step) {
            const { do: way, with: tools, spend } = step.settings
            this.$patch({ open: true, way: way as Combining, tools: tools ?? [], spend: spend ?? true })
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
            if (!project.project || !this.ready) return
            project.problem = ''
            project.result = ''
            this.working = true
            try {
                const editing = project.editing
                const run = editing === null ? await api.start(project.project.id, this.question) : await api.edit(project.project.id, editing, this.question)
                if (await project.follow(run)) {
                    project.picked = []
                    this.close()
                }
            } catch (error) {
                project.refused(error)
            } finally {
                this.working = false
            }
        },
    },
})
