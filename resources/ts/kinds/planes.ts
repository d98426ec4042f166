import { computed, watch } from 'vue'
import { api } from '../api/client'
import type { Vector } from '../api/types'
import BladeCard from '../parts/BladeCard.vue'
import { number } from '../format'
import { useBlade } from '../stores/blade'
import { rough } from '../stores/grain'
import { useProject } from '../stores/project'
import { anglesOf, dot } from '../view/direction'
import { Squares } from '../view/Squares'
import type { Kind } from './Kind'

/** Flat blades: one, or a series. */
export const planes: Kind = {
    id: 'planes',
    station: 'cut',
    choices: [
        { value: 'flat', text: 'Flat', hint: 'One flat blade', key: 'o', icon: 'M3 3h18v14H3z|M0 14 24 6' },
        { value: 'series', text: 'Series', hint: 'Several parallel blades', key: 's', icon: 'M3 3h18v14H3z|M7 1v18M12 1v18M17 1v18' },
    ],
    card: BladeCard,
    is: ({ blade }) => blade?.kind === 'flat' || blade?.kind === 'series',
    told(settings, long) {
        const b = settings.blade
        if (b?.kind !== 'flat' && b?.kind !== 'series') return settings.do
        const [x, y, z] = b.facing
        const { turn, tilt } = anglesOf(b.facing.map((c) => c / Math.hypot(x, y, z)) as Vector)
        const facing = z === 1 ? 'Z' : x === 1 ? 'X' : y === 1 ? 'Y' : `tilt ${number(tilt, 1)}°, turn ${number(turn, 1)}°`
        const what = settings.do === 'score' ? 'Score' : 'Cut'
        const wander = b.wander ? `, wander ${b.wander.seed}` : rough(settings.grain)
        if (settings.faces) return `${what} within ${long.faces ?? settings.faces.length} faces, ${facing}`
        if (b.parts) return `${what} into ${b.parts} parts, ${facing}${wander}`
        if (b.stops) return `${what} at ${long['blade.stops'] ?? b.stops.length} stops, ${facing}${wander}`
        if (b.step) return `${what} every ${number(b.step, 1)} mm, ${b.count} times, ${facing}${wander}`
        const place = b.through ? dot(b.through, b.facing) / Math.hypot(x, y, z) : 0
        const more = [settings.keep && settings.keep !== 'both' ? settings.keep : '', settings.kerf ? `kerf ${settings.kerf}` : '', settings.seal && settings.seal !== 'lean' ? settings.seal : ''].filter(Boolean)
        return `${what} ${facing}, ${number(place, 1)} mm${more.length ? `, ${more.join(', ')}` : ''}${rough(settings.grain)}`
    },
    edit: (step) => useBlade().load(step),
    chosen: () => (useBlade().series ? 'series' : 'flat'),
    choose(choice) {
        const blade = useBlade()
        blade.kind = 'planes'
        blade.setSeries(choice === 'series')
    },
    run: () => useBlade().cut(),
    forget: () => useBlade().forget(),
    rail: () => true,
    blade() {
        const blade = useBlade()
        if (blade.series && blade.spacing === 'parts') return null
        return { keep: blade.score || blade.series ? 'both' : blade.keep, lost: [] }
    },
    /** The faces that the cut is limited to, as triangles. */
    marks(shape) {
        const { faces } = useBlade()
        const piece = faces ? useProject().byId.get(faces.piece) : undefined
        const drawn = piece ? shape(piece.mesh) : undefined
        if (!faces || !drawn) return {}
        const places = drawn.geometry.getAttribute('position').array
        const triangles: number[] = []
        for (const face of faces.list) for (let i = 0; i < 9; i++) triangles.push(places[9 * face + i] + drawn.centre[i % 3])
        return { triangles }
    },
    /** Blades of a series where they would really cut, wander included. */
    draw(view, active) {
        const squares = view.add(new Squares())
        const stops = computed(() => {
            const blade = useBlade()
            if (!active() || !blade.series || !blade.shown || !blade.plan) return []
            return blade.plan.pieces.flatMap(({ piece, planes }) => {
                const one = useProject().byId.get(piece)
                if (!one) return []
                const middle = one.min.map((low, k) => (low + one.max[k]) / 2) as Vector
                const reach = 0.36 * Math.hypot(...one.min.map((low, k) => one.max[k] - low))
                return planes.map((plane) => ({ ...plane, middle, size: reach }))
            })
        })
        watch(stops, (now) => {
            squares.show(now)
            view.redraw()
        })
    },
    async click({ piece, face }) {
        const blade = useBlade()
        if (blade.placing !== 'paint') return false
        const { region } = await api.face(piece.mesh, face)
        const before = blade.faces?.piece === piece.id ? blade.faces.list : []
        const had = new Set(before)
        const list = region.every((one) => had.has(one)) ? before.filter((one) => !region.includes(one)) : [...new Set([...before, ...region])]
        blade.faces = list.length ? { piece: piece.id, list: list.sort((a, b) => a - b) } : null
        blade.touched()
        return true
    },
    asking: () => (useBlade().placing === 'paint' ? 'Click flat parts of one piece: the cut stays within them. A second click takes a part out.' : undefined),
}
