import { defineStore } from 'pinia'
import { api } from '../api/client'
import { latest } from '../api/latest'
import type { CombineForecast, Piece, Run, Step, StepQuestion } from '../api/types'
import { count, label, list, mm, volume } from '../format'
import { asked } from './asked'
import { useBlade } from './blade'
import { title, useProject } from './project'

export type Combining = 'unite' | 'subtract' | 'common' | 'divide'

interface State {
    way: Combining
    /** Names of the pieces that are taken out of the others, or along whose skin these are cut. */
    tools: string[]
    spend: boolean
    /** Of a cut: what is around, what is within, or both. */
    keep: 'both' | 'ahead' | 'behind'
    /** Millimetres by which what is taken out is widened before. */
    gap: number
    /** It is done; nothing is shown until something is set. */
    done: boolean
    forecast: CombineForecast | null
    /** Looks for overlaps. */
    looking: Run | null
}

const DONE: Record<Combining, string> = { unite: 'They are united.', subtract: 'It is taken out.', common: 'What they have in common is left.', divide: 'The cut is made.' }

const forecasts = latest(
    (q: StepQuestion & { project: number }) => asked(() => api.foreseeLong<CombineForecast>(q.project, { step: q.step, pieces: q.pieces }), (run) => { useCombine().looking = run }),
    (answer) => { useCombine().forecast = answer },
    (error) => useProject().refused(error),
)

/** Several pieces, what is to be made of them, and what overlaps what before it is made. */
export const useCombine = defineStore('combine', {
    state: (): State => ({ way: 'unite', tools: [], spend: true, keep: 'both', gap: 0, done: false, forecast: null, looking: null }),
    getters: {
        pieces: (): Piece[] => useProject().taken,
        usesTools: (state): boolean => state.way === 'subtract' || state.way === 'divide',
        targets(state): Piece[] {
            return this.usesTools ? this.pieces.filter((piece) => !state.tools.includes(piece.name)) : this.pieces
        },
        /** Marked, and there: a step that is edited may have tools that stayed. */
        marked(state): string[] {
            return useProject().editing === null ? state.tools.filter((name) => this.pieces.some((piece) => piece.name === name)) : state.tools
        },
        question(state): StepQuestion {
            const pieces = this.targets.map((piece) => piece.id)
            if (state.way === 'divide') return { step: { do: 'cut', blade: { kind: 'body', with: this.marked }, keep: state.keep, spend: state.spend }, pieces }
            return { step: { do: state.way, ...(state.way === 'subtract' ? { with: this.marked, spend: state.spend, gap_mm: state.gap } : {}) }, pieces }
        },
        /** What is missing to ask or to run it; empty when nothing is. */
        missing(state): string {
            const project = useProject()
            if (!project.living.length) return 'There is nothing to combine yet.'
            if (project.editing === null && !project.visible.length) return 'Every piece is hidden: show at least one.'
            if (!this.usesTools) return this.pieces.length > 1 ? '' : 'One piece alone combines with nothing: pick two or more, or none for all.'
            if (!this.marked.length) return state.way === 'divide' ? 'Mark what is to cut the others.' : 'Mark what is to be taken out of the others.'
            return this.targets.length ? '' : 'Leave at least one piece unmarked: something must stay.'
        },
        open(): Piece[] {
            return this.pieces.filter((piece) => !piece.watertight)
        },
        /** Pairs that the step is about: a cut-out must overlap, and is made by what is marked. */
        pairs(state): CombineForecast['pairs'] {
            const told = state.forecast?.pairs ?? []
            if (state.way === 'common') return told.filter((pair) => pair.common_mm3 > 0)
            return state.way === 'unite' ? told : told.filter((pair) => pair.common_mm3 > 0 && this.marked.includes(pair.one) !== this.marked.includes(pair.other))
        },
        /** Names of pieces that hang together by what they share, group by group. */
        groups(): string[][] {
            const root = new Map<string, string>()
            const find = (name: string): string => {
                const up = root.get(name) ?? name
                return up === name ? name : find(up)
            }
            for (const { one, other } of this.pairs) {
                root.set(one, root.get(one) ?? one)
                root.set(other, root.get(other) ?? other)
                root.set(find(one), find(other))
            }
            const groups = new Map<string, string[]>()
            for (const name of root.keys()) groups.set(find(name), [...(groups.get(find(name)) ?? []), name])
            return [...groups.values()]
        },
        /** Titles of pieces that meet no other. */
        alone(): string[] {
            const met = new Set(this.groups.flat())
            return this.forecast ? this.targets.filter((piece) => !met.has(piece.name)).map(title) : []
        },
        ready(state): boolean {
            const project = useProject()
            if (project.busy || state.done || this.missing || this.open.length) return false
            return !state.forecast || (state.way === 'common' ? state.forecast.volume_mm3 > 0 : this.pairs.length > 0)
        },
        sentence(state): string {
            const project = useProject()
            if (project.busy) return project.busyWords
            if (state.done) return `${DONE[state.way]} Set the next one.`
            if (this.missing) return this.missing
            if (this.open.length) return `${list(this.open.slice(0, 3).map(title))}${this.open.length > 3 ? ` and ${this.open.length - 3} more` : ''} ${this.open.length > 1 ? 'are' : 'is'} not watertight: mend ${this.open.length > 1 ? 'them' : 'it'} first, or hide ${this.open.length > 1 ? 'them' : 'it'}.`
            const again = project.editing === null ? '' : ` Runs step ${project.stepOf(project.editing)?.number} and what follows it again.`
            if (!state.forecast) return `${this.says}${again}`
            if (state.way === 'common') return state.forecast.volume_mm3 > 0 ? `Leaves ${volume(state.forecast.volume_mm3)} that is in all of ${count(this.pieces.length, 'piece', 'pieces')}.${again}` : `No place is in all of the ${this.pieces.length} pieces: move them until they overlap.`
            if (!this.pairs.length) return state.way === 'unite' ? `None of the ${this.pieces.length} pieces meets another: move them until they overlap or touch face to face.` : 'What is marked meets none of the others: move it until it does.'
            const alone = this.alone.length ? ` ${this.alone.length > 3 ? `${this.alone.length} pieces meet` : `${list(this.alone)} ${this.alone.length > 1 ? 'meet' : 'meets'}`} no other and ${this.alone.length > 1 ? 'stay as they are' : 'stays as it is'}.` : ''
            if (state.way === 'unite') {
                const [first, ...more] = this.groups
                return `${more.length ? `Unites ${this.groups.flat().length} pieces in ${this.groups.length} groups` : `Makes one piece of ${first.length}`}.${alone}${again}`
            }
            const cut = this.targets.filter((piece) => this.pairs.some((pair) => pair.one === piece.name || pair.other === piece.name)).length
            if (state.way === 'divide') return `Cuts ${count(cut, 'piece', 'pieces')} along the skin of what is marked: ${volume(state.forecast.volume_mm3)} of ${cut === 1 ? 'it' : 'them'} within.${alone}${again}`
            return `Takes ${volume(state.forecast.volume_mm3)} out of ${count(cut, 'piece', 'pieces')}.${alone}${again}`
        },
        /** What it does in general. */
        says(state): string {
            if (state.way === 'unite') return 'Pieces that overlap or touch face to face become one, without walls between them.'
            if (state.way === 'common') return 'Only what is in all of the pieces stays.'
            if (state.way === 'divide') return 'The others are cut along the skin of what is marked, with the same faces on both sides.'
            return `What is marked is ${state.gap > 0 ? `widened by ${mm(state.gap)} all round and ` : ''}taken out of the others; the faces that it leaves are inside.`
        },
    },
    actions: {
        set(change: Partial<State>) {
            this.$patch({ ...change, done: false } as never)
            useProject().showAsIs()
            this.ask()
        },
        /** What overlaps; the blade's kind says whether anybody wants to know. */
        ask() {
            const project = useProject()
            this.stop()
            this.forecast = null
            if (useBlade().kind !== 'combine' || !project.project || project.busy || this.done || this.missing) return
            forecasts.ask({ ...this.question, project: project.project.id })
        },
        /** Lets go of what is being looked for. */
        stop() {
            forecasts.drop()
            const run = this.looking
            this.looking = null
            if (run && !run.over) void api.cancel(run.id).catch(() => undefined)
        },
        load(step: Step) {
            const { do: way, with: tools, spend, gap_mm: gap, blade, keep } = step.settings
            if (blade?.kind === 'body') this.set({ way: 'divide', tools: blade.with ?? [], spend: spend ?? false, keep: (keep ?? 'both') as State['keep'] })
            else this.set({ way: way as Combining, tools: tools ?? [], spend: spend ?? true, gap: gap ?? 0 })
        },
        mark(name: string, isTool: boolean) {
            this.set({ tools: isTool ? [...this.tools, name] : this.tools.filter((one) => one !== name) })
        },
        forget() {
            this.stop()
            this.$reset()
        },
        /** Of a piece that may be gone. */
        titleOf(name: string): string {
            const piece = this.pieces.find((one) => one.name === name) ?? useProject().living.find((one) => one.name === name)
            return piece ? title(piece) : label(name)
        },
        async run() {
            const project = useProject()
            if (!this.ready) return
            const { question } = this
            this.stop()
            if (!(await project.work(question))) return
            project.editing = null
            project.picked = []
            this.$patch({ done: true, tools: [], forecast: null })
        },
    },
})
