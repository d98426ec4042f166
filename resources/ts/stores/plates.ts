import { defineStore } from 'pinia'
import { Matrix4 } from 'three'
import { api, type PlatesQuestion } from '../api/client'
import { said } from '../api/latest'
import type { Piece, PlatesAnswer, Run, Vector } from '../api/types'
import { count } from '../format'
import { asked } from './asked'
import { title, useProject } from './project'
import { useShown } from './shown'

interface State {
    /** Left free at every side of the bed, mm. */
    margin: number
    /** Between any two pieces, mm. */
    spacing: number
    turned: boolean
    answer: PlatesAnswer | null
    /** What the answer is about: it is old when this is not so any more. */
    about: string
    waits: boolean
    /** The run that packs, or writes files. */
    working: Run | null
    problem: string
}

/** Beds stand beside each other, so far apart, by their width. */
const APART = 0.12

/** Pieces laid down and packed on the printer's plates: what is wished for, where they lie, and as files. */
export const usePlates = defineStore('plates', {
    state: (): State => ({ margin: 2, spacing: 2, turned: true, answer: null, about: '', waits: false, working: null, problem: '' }),
    getters: {
        pieces: (): Piece[] => useProject().taken,
        question(state): PlatesQuestion {
            return { margin: state.margin, spacing: state.spacing, turned: state.turned, pieces: useProject().takenIds }
        },
        /** All that decides the answer. */
        asks(): string {
            return [useProject().project?.printer?.id, JSON.stringify(this.question), ...this.pieces.map((piece) => piece.mesh)].join()
        },
        isOld(state): boolean {
            return state.answer !== null && state.about !== this.asks
        },
        plates(state): PlatesAnswer['plates'] {
            return state.answer && !this.isOld ? state.answer.plates : []
        },
        columns(): number {
            return Math.ceil(Math.sqrt(this.plates.length))
        },
        /** Corners of the beds in the view. */
        corners(state): [number, number][] {
            const [x, y] = state.answer?.bed ?? [0, 0]
            return this.plates.map((_, n) => [(n % this.columns) * x * (1 + APART), -Math.floor(n / this.columns) * y * (1 + APART)])
        },
        /** Where pieces are drawn, by their number. */
        placed(): Map<number, Matrix4> | null {
            if (!this.plates.length) return null
            const byName = new Map(useProject().living.map((piece) => [piece.name, piece.id]))
            const placed = new Map<number, Matrix4>()
            for (const [n, plate] of this.plates.entries()) {
                const [x, y] = this.corners[n]
                for (const { name, pose: p } of plate) {
                    const id = byName.get(name)
                    if (id !== undefined) placed.set(id, new Matrix4(p[0], p[3], p[6], p[9] + x, p[1], p[4], p[7], p[10] + y, p[2], p[5], p[8], p[11], 0, 0, 0, 1))
                }
            }
            return placed
        },
        extent(state): { min: Vector; max: Vector } | null {
            if (!state.answer || !this.plates.length) return null
            const [x, y, z] = state.answer.bed
            return { min: [0, this.corners[this.corners.length - 1][1], 0], max: [(this.columns - 1) * x * (1 + APART) + x, y, z / 3] }
        },
        unstable(): string[] {
            return this.plates.flat().filter(({ stable }) => !stable).map(({ name }) => name)
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
            if (this.isOld) return 'The plates are for other settings or pieces; pack again.'
            if (!this.plates.length) return `Lays ${count(this.pieces.length, 'piece', 'pieces')} down and packs ${this.pieces.length > 1 ? 'them' : 'it'} on as few plates of ${printer.name} as it finds. The pieces stay where they are.`
            return `${count(this.plates.flat().length, 'piece', 'pieces')} on ${count(this.plates.length, 'plate', 'plates')}${this.unstable.length ? `; ${count(this.unstable.length, 'piece does', 'pieces do')} not stand by ${this.unstable.length > 1 ? 'themselves' : 'itself'}` : ', all stand by themselves'}.`
        },
    },
    actions: {
        set(change: Partial<Pick<State, 'margin' | 'spacing' | 'turned'>>) {
            Object.assign(this, change)
            this.problem = ''
        },
        async pack() {
            const project = useProject()
            const id = project.project?.id
            if (id === undefined || !this.ready) return
            const about = this.asks
            this.problem = ''
            this.waits = true
            try {
                const answer = await asked(() => api.plates(id, this.question), (run) => { this.working = run })
                if (!answer || project.project?.id !== id) return
                this.answer = answer
                this.about = about
                this.look()
            } catch (error) {
                this.problem = said(error)
            } finally {
                this.waits = false
            }
        },
        /** All plates in the view. */
        look() {
            if (this.extent) useShown().fly = this.extent
        },
        /** Has the files written, and hands them to the browser. */
        async takeOut(as: '3mf' | 'stl') {
            const id = useProject().project?.id
            if (id === undefined || this.waits) return
            this.problem = ''
            this.waits = true
            try {
                const files = await asked(() => api.plateFiles(id, this.question, as), (run) => { this.working = run })
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
            this.answer = null
            this.problem = ''
        },
        titleOf(name: string): string {
            const piece = useProject().living.find((one) => one.name === name)
            return piece ? title(piece) : name
        },
    },
})
