import { computed, watch } from 'vue'
import { api } from '../api/client'
import type { Vector } from '../api/types'
import { number } from '../format'
import TurnCard from '../parts/TurnCard.vue'
import { useBlade } from '../stores/blade'
import { useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import { useTurn } from '../stores/turn'
import { Reflections } from '../view/Reflections'
import { brought, turned } from '../view/turns'
import type { Kind } from './Kind'

const AXES = 'XYZ'

/** X, −Z, or the numbers of a direction that is no axis. */
function along(direction: Vector): string {
    const k = direction.findIndex((part) => part !== 0)
    const isAxis = direction.filter((part) => part !== 0).length === 1
    return isAxis ? `${direction[k] < 0 ? '−' : ''}${AXES[k]}` : direction.map((part) => number(part, 2)).join(', ')
}

/** Pieces are turned about an axis, or stood on a face. */
export const turn: Kind = {
    id: 'turn',
    station: 'cut',
    choices: [{ value: 'turn', text: 'Turn', hint: 'Turn pieces, or stand them on a face' }],
    card: TurnCard,
    is: (settings) => settings.do === 'turn',
    told(settings) {
        if (settings.face) return `Turn ${along(settings.face)} to ${along(settings.towards ?? [0, 0, -1])}`
        return `Turn ${number(settings.degrees ?? 0, (settings.degrees ?? 0) % 1 ? 2 : 0)}° about ${along(settings.about ?? [0, 0, 1])}`
    },
    edit: (step) => useTurn().load(step),
    chosen: () => 'turn',
    choose() {
        const blade = useBlade()
        blade.kind = 'turn'
        blade.series = false
        useTurn().set({})
    },
    left() {
        useTurn().face = null
    },
    run: () => useTurn().run(),
    taken: () => useTurn().ask(),
    forget: () => useTurn().forget(),
    /** Where the pieces will stand, drawn sheer. */
    draw(view, active) {
        const images = view.add(new Reflections())
        const project = useProject()
        const turn = useTurn()
        const shown = computed(() => {
            if (!active() || turn.done || project.busy || project.spread > 0 || !project.taken.length) return null
            const { about, degrees, face, towards, through } = turn.question.step
            const { min, max } = project.box
            const place = through === undefined || through === 'centre' ? (min.map((low, k) => (low + max[k]) / 2) as Vector) : through
            const to = face ? brought(face, towards ?? [0, 0, -1], place) : about ? turned(about, degrees ?? 0, place) : null
            return to && { to: [to], ahead: [], pieces: new Set(project.taken.map((piece) => piece.id)) }
        })
        watch(shown, (now) => {
            images.set(now)
            useShown().images.turn = now?.to.length ?? 0
            view.redraw()
        }, { immediate: true })
    },
    async click({ piece, face }) {
        const blade = useBlade()
        if (blade.placing !== 'face') return false
        const answer = await api.face(piece.mesh, face)
        blade.placing = 'none'
        useTurn().set({ way: 'face', face: answer.normal })
        return true
    },
    asking: () => (useBlade().placing === 'face' ? 'Click a face: the pieces will stand on it.' : undefined),
}
