import { defineStore } from 'pinia'
import { api } from '../api/client'
import type { Keep, Seal, SectionAnswer, Vector } from '../api/types'
import { count, mm } from '../format'
import { dot, facing, moved, reach } from '../view/direction'
import { useProject } from './project'

interface State {
    centre: Vector
    turn: number
    tilt: number
    keep: Keep
    seal: Seal
    kerf: number
    shown: boolean
    section: SectionAnswer | null
    asking: boolean
}

let waiting: AbortController | null = null
let again = false

/** The blade as it stands, what it would leave, and the section that the server sees there. */
export const useBlade = defineStore('blade', {
    state: (): State => ({
        centre: [0, 0, 0], turn: 0, tilt: 0, keep: 'both', seal: 'lean', kerf: 0, shown: true, section: null, asking: false,
    }),
    getters: {
        facing: (state): Vector => facing(state.turn, state.tilt),
        axis: (state): 'X' | 'Y' | 'Z' | '' => {
            if (state.tilt === 0) return 'Z'
            if (state.tilt === 90) return state.turn === 0 ? 'X' : state.turn === 90 ? 'Y' : ''
            return ''
        },
        reach(): [number, number] {
            const { min, max } = useProject().box
            return reach(min, max, this.facing)
        },
        /** Distance from the low end of the taken pieces' box, mm. */
        place(): number {
            return dot(this.centre, this.facing) - this.reach[0]
        },
        extent(): number {
            return this.reach[1] - this.reach[0]
        },
        share(): number {
            return this.extent > 0 ? (100 * this.place) / this.extent : 0
        },
        cutCount(): number {
            return this.section?.pieces.filter((piece) => piece.cuts).length ?? 0
        },
        outlineCount(): number {
            return this.section?.pieces.reduce((sum, piece) => sum + piece.outlines.length, 0) ?? 0
        },
        openLines(): number {
            return this.section?.pieces.reduce((sum, piece) => sum + piece.lines.length, 0) ?? 0
        },
        ready(): boolean {
            return this.shown && this.cutCount > 0 && !useProject().busy
        },
        /** What the button will do, in one line that is always true. */
        sentence(): string {
            const project = useProject()
            if (!project.living.length) return 'There is nothing to cut yet.'
            if (!project.visible.length) return 'Every piece is hidden: show at least one to cut it.'
            if (project.busy) return 'A step is at work.'
            if (!this.section) return 'The section is being worked out.'
            const taken = project.taken.length
            if (!this.shown) return 'The cut is made. Move the blade to place the next one.'
            if (!this.cutCount) {
                const [low, high] = this.reach
                const at = dot(this.centre, this.facing)
                const which = taken === 1 ? 'the piece' : `all ${taken} pieces`
                if (at > high) return `The blade misses ${which} by ${mm(at - high)}: move it back.`
                if (at < low) return `The blade misses ${which} by ${mm(low - at)}: move it ahead.`
                return `The blade passes through no material here: move it or tilt it.`
            }
            const what = `Cuts ${this.cutCount} of ${count(project.living.length, 'piece', 'pieces')}`
            if (this.keep === 'outline') return `${what}, keeps only the section face, as a flat sheet.`
            const side = { both: 'keeps both sides', ahead: 'keeps what is ahead', behind: 'keeps what is behind' }[this.keep]
            const kerf = this.kerf > 0 ? `, removes ${this.kerf} mm between` : ''
            const seal = this.seal === 'open' ? ', leaves the cut open' : ', sealed'
            const gap =
                this.openLines && this.seal !== 'open'
                    ? ` ${count(this.openLines, 'outline', 'outlines')} cannot be closed: the mesh has open edges there.`
                    : ''
            return `${what}, ${side}${kerf}${seal}.${gap}`
        },
    },
    actions: {
        /** To the middle of what the blade takes. */
        centreOnTaken() {
            const { min, max } = useProject().box
            this.centre = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2]
            this.touched()
        },
        setAxis(axis: 'X' | 'Y' | 'Z') {
            this.turn = axis === 'Y' ? 90 : 0
            this.tilt = axis === 'Z' ? 0 : 90
            this.touched()
        },
        setTurn(turn: number) {
            this.turn = ((((turn + 180) % 360) + 360) % 360) - 180
            this.touched()
        },
        setTilt(tilt: number) {
            this.tilt = Math.max(0, Math.min(180, tilt))
            this.touched()
        },
        setPlace(place: number) {
            this.centre = moved(this.centre, this.facing, place - this.place)
            this.touched()
        },
        /** The blade was moved or set: it is shown, and pieces stand where they really are. */
        touched() {
            this.shown = true
            useProject().spread = 0
            void this.ask()
        },
        /** Asks for the section; while an answer is under way only the newest question waits. */
        async ask() {
            const project = useProject()
            if (!project.project || !project.taken.length) {
                this.section = null
                return
            }
            if (waiting) {
                again = true
                return
            }
            waiting = new AbortController()
            this.asking = true
            try {
                do {
                    again = false
                    this.section = await api.section(
                        project.project.id, { through: this.centre, facing: this.facing, pieces: project.takenIds }, waiting.signal,
                    )
                } while (again)
            } catch (error) {
                if (!(error instanceof DOMException)) project.refused(error)
            } finally {
                waiting = null
                this.asking = false
            }
        },
        async cut() {
            const project = useProject()
            if (!project.project || !this.ready) return
            project.problem = ''
            try {
                const run = await api.cut(project.project.id, {
                    through: this.centre, facing: this.facing, pieces: project.takenIds, keep: this.keep, seal: this.seal, kerf: this.kerf,
                })
                if (await project.follow(run)) {
                    this.shown = false
                    const { min, max } = project.whole
                    project.spread = project.living.length > 1 ? Math.round(0.06 * Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2])) : 0
                }
                void this.ask()
            } catch (error) {
                project.refused(error)
            }
        },
    },
})
