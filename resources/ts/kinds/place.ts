import { Vector3 } from 'three'
import { computed, watch } from 'vue'
import { api } from '../api/client'
import type { StepSettings, Vector } from '../api/types'
import { number } from '../format'
import PlaceCard from '../parts/PlaceCard.vue'
import { useBlade } from '../stores/blade'
import { useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import { usePlace } from '../stores/place'
import { downOf } from '../stores/plates'
import { Reflections } from '../view/Reflections'
import { brought, moved, scaled, turned, mapped } from '../view/places'
import type { Kind } from './Kind'
import { drawHandles } from './placeHandles'

const AXES = 'XYZ'

/** X, −Z, or the numbers of a direction that is no axis. */
function along(direction: Vector): string {
    const k = direction.findIndex((part) => part !== 0)
    const isAxis = direction.filter((part) => part !== 0).length === 1
    return isAxis ? `${direction[k] < 0 ? '−' : ''}${AXES[k]}` : direction.map((part) => number(part, 2)).join(', ')
}

/** Does a map bring anything in a box elsewhere, by more than anybody sees? */
function moves(map: number[], min: Vector, max: Vector): boolean {
    return [min, max].some((corner) => new Vector3(...corner).applyMatrix4(mapped(map)).distanceTo(new Vector3(...corner)) > 0.05)
}

/** The map of a step that places pieces; the middle is what stays. */
function at({ by, times, face, towards, about, degrees }: StepSettings, middle: Vector) {
    if (by) return moved(by)
    if (typeof times === 'object') return scaled(times, middle)
    return face ? brought(face, towards ?? [0, 0, -1], middle) : about ? turned(about, degrees ?? 0, middle) : null
}

/** Pieces are turned about an axis, stood on a face, laid down, moved or scaled. */
export const place: Kind = {
    id: 'place',
    station: 'cut',
    over(piece) {
        const { way, over, stands, idle } = usePlace()
        return way === 'lay' && over && !idle && stands?.map.length && useProject().taken[0]?.id === piece ? downOf(stands.map) : undefined
    },
    choices: [{ value: 'place', text: 'Place', hint: 'Turn, lay down, move or scale pieces, or stand them on a face', key: 'p', icon: 'M3 9h9v8H3z|M12 9 21 2M16 2h5v5' }],
    card: PlaceCard,
    is: (settings) => settings.do === 'turn' || settings.do === 'lay' || settings.do === 'move' || settings.do === 'scale',
    told(settings) {
        if (settings.do === 'lay') return Array.isArray(settings.on) ? `Lay down on ${along(settings.on)}` : 'Lay down'
        if (settings.do === 'move') return `Move by ${(settings.by ?? []).map((part) => number(part, 2)).join(', ')} mm`
        if (settings.do === 'scale') {
            const [x, y, z] = typeof settings.times === 'object' ? settings.times : ([1, 1, 1] as Vector)
            return x === y && y === z ? `Scale ${number(x, 4)} times` : `Scale ${[x, y, z].map((part) => number(part, 4)).join(', ')} times`
        }
        if (settings.face) return `Turn ${along(settings.face)} to ${along(settings.towards ?? [0, 0, -1])}`
        return `Turn ${number(settings.degrees ?? 0, (settings.degrees ?? 0) % 1 ? 2 : 0)}° about ${along(settings.about ?? [0, 0, 1])}`
    },
    edit: (step) => usePlace().load(step),
    chosen: () => 'place',
    choose() {
        const blade = useBlade()
        blade.kind = 'place'
        blade.series = false
        usePlace().set({})
    },
    left() {
        usePlace().face = null
    },
    run: () => usePlace().run(),
    taken: () => usePlace().ask(),
    forget: () => usePlace().forget(),
    /** Where the pieces will stand, drawn sheer. */
    draw(view, active) {
        const images = view.add(new Reflections())
        const project = useProject()
        const place = usePlace()
        const shown = computed(() => {
            if (!active() || place.done || project.busy || project.spread > 0 || !project.taken.length) return null
            const { step } = place.question
            const { min, max } = project.box
            const through = 'through' in step ? step.through : undefined
            const middle = through === undefined || through === 'centre' ? (min.map((low, k) => (low + max[k]) / 2) as Vector) : through
            const to = place.idle ? null : place.way === 'lay' ? (place.stands?.map.length && moves(place.stands.map, min, max) ? mapped(place.stands.map) : null) : at(step as StepSettings, middle)
            return to && { to: [to], ahead: [], pieces: new Set(project.taken.map((piece) => piece.id)) }
        })
        drawHandles(view, active)
        watch(shown, (now) => {
            images.set(now)
            useShown().images.place = now?.to.length ?? 0
            view.redraw()
        }, { immediate: true })
    },
    async click({ piece, face }) {
        const blade = useBlade()
        if (blade.placing !== 'face') return false
        const answer = await api.face(piece.mesh, face)
        blade.placing = 'none'
        usePlace().set(usePlace().way === 'lay' ? { on: answer.normal } : { way: 'face', face: answer.normal })
        return true
    },
    asking: () => (useBlade().placing === 'face' ? (usePlace().way === 'lay' ? 'Click a face: it will lie below.' : 'Click a face: the pieces will stand on it.') : undefined),
}
