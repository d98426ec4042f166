import { defineStore } from 'pinia'
import type { Material, Piece, Step, StepQuestion } from '../api/types'
import { fitting } from '../api/fitting'
import { useProject } from './project'

/** Pictures that are always there. */
export const STUFF = [
    { value: 'stone', text: 'Stone', hint: 'Broken stone, with grains' },
    { value: 'oak', text: 'Oak', hint: 'Split wood' },
    { value: 'clay', text: 'Clay', hint: 'Fired clay' },
    { value: 'plaster', text: 'Plaster', hint: 'Cast plaster' },
] as const

export type Paint = 'colour' | (typeof STUFF)[number]['value'] | 'own'

/** Bytes of a picture in a step: it travels within the recipe. */
const LARGEST = 600_000

interface State {
    open: boolean
    material: string
    /** Its faces have coordinates that a picture can lie on. */
    places: boolean
    /** The piece from whose list it was opened; none while a step is edited. */
    piece: Piece | null
    everywhere: boolean
    look: Paint
    colour: string
    /** A picture of the person's own, as a data: address. */
    own: string
    /** What it is, in words. */
    ownWords: string
    times: number
    working: boolean
}

/** Another look for a material, as it is set. */
export const usePaint = defineStore('paint', {
    state: (): State => ({ open: false, material: '', places: true, piece: null, everywhere: true, look: 'colour', colour: '#ffffff', own: '', ownWords: '', times: 1, working: false }),
    getters: {
        question(state): StepQuestion {
            const look = state.look === 'colour' ? { colour: state.colour } : { picture: state.look === 'own' ? state.own : state.look, times: state.times }
            return { step: { do: 'paint', material: state.material, ...look }, pieces: state.piece && !state.everywhere ? [state.piece.id] : useProject().editing === null ? null : useProject().takenIds }
        },
        ready(state): boolean {
            return !useProject().busy && !state.working && (state.look !== 'own' || state.own !== '')
        },
    },
    actions: {
        start(piece: Piece, material: Material) {
            useProject().problem = ''
            this.$patch({ open: true, piece, material: material.name, places: material.places, look: 'colour', colour: material.colour, everywhere: true })
        },
        load(step: Step) {
            const { material, colour, picture, times } = step.settings
            const stuff = STUFF.find(({ value }) => value === picture)?.value
            this.$patch({
                open: true, piece: null, places: true, material: material ?? '', look: colour ? 'colour' : (stuff ?? 'own'), colour: colour ?? this.colour, times: typeof times === 'number' ? times : 1,
                ...(colour || stuff ? {} : { own: picture ?? '', ownWords: 'the picture of this step' }),
            })
        },
        /** Takes a picture of the person's own; one that is too large is made smaller. */
        async take(file: File) {
            this.working = true
            try {
                const { uri, words } = await fitting(file, LARGEST)
                this.$patch({ own: uri, ownWords: words, look: 'own' })
            } catch (error) {
                useProject().problem = error instanceof Error ? error.message : String(error)
            } finally {
                this.working = false
            }
        },
        close() {
            this.open = false
            const project = useProject()
            if (this.piece === null) project.editing = null
        },
        async run() {
            const project = useProject()
            if (!this.ready) return
            this.working = true
            if (await project.work(this.question, this.piece === null ? project.editing : null)) this.close()
            this.working = false
        },
    },
})
