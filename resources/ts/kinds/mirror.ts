import { computed, watch } from 'vue'
import { floats } from '../api/floats'
import type { Vector } from '../api/types'
import MirrorCard from '../parts/MirrorCard.vue'
import { useBlade } from '../stores/blade'
import { useMirror } from '../stores/mirror'
import { useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import { ColourMap } from '../view/ColourMap'
import { aboutAxis, overPlanes, Reflections } from '../view/Reflections'
import type { Kind } from './Kind'

/** Reflections over the blade's plane, copies about an axis, and how symmetric a piece is. */
export const mirror: Kind = {
    id: 'mirror',
    station: 'cut',
    choices: [{ value: 'mirror', text: 'Mirror', hint: 'A half and its reflection', key: 'm', icon: 'M9 3v14H2zM15 3v14h7z|M12 0v3M12 6v3M12 12v3M12 18v2' }],
    card: MirrorCard,
    is: (settings) => settings.do === 'mirror',
    told(settings) {
        if (settings.copies) return `${settings.copies.count} copies about an axis`
        const planes = settings.planes?.length ?? 1
        return `Mirror${planes > 1 ? ` over ${planes} planes` : ''}, ${{ one: 'one body', two: 'two pieces', reflection: 'reflection' }[settings.gives ?? 'one']}${settings.catch ? `, catch ${settings.catch}` : ''}`
    },
    edit: (step) => useMirror().load(step),
    chosen: () => 'mirror',
    choose() {
        const blade = useBlade()
        blade.kind = 'mirror'
        blade.series = false
        blade.touched()
        if (blade.axis === 'Z') blade.setAxis('X')
        useMirror().place('origin')
    },
    left() {
        useMirror().symmetry = null
    },
    run: () => useMirror().run(),
    taken: () => useMirror().ask(),
    moved: () => useMirror().ask(),
    forget: () => useMirror().forget(),
    blade() {
        const mirror = useMirror()
        if (mirror.copying) return null
        return { keep: mirror.stays, lost: mirror.kept.slice(1).map(({ facing, offset }) => ({ facing: facing.map((c) => -c) as Vector, offset: -offset })) }
    },
    /** Rims that it would leave open. */
    marks: () => ({ lines: images() ? (useMirror().forecast?.unjoined ?? []).flat() : [] }),
    draw(view, active) {
        const reflections = view.add(new Reflections())
        const map = view.add(new ColourMap())
        watch(computed(() => (active() ? images() : null)), (now) => {
            reflections.set(now)
            useShown().images.mirror = now?.to.length ?? 0
            view.redraw()
        })
        watch(() => (active() ? useMirror().symmetry : null), (now) => {
            map.show(floats(now?.map ?? ''), now?.largest ?? 0)
            view.cover(now?.piece ?? null)
        })
    },
}

/** What it will add, while it is set. */
function images() {
    const blade = useBlade()
    const mirror = useMirror()
    const project = useProject()
    if (!blade.shown || project.busy || project.spread > 0 || mirror.symmetry || mirror.forecast?.refusal) return null
    const { planes, copies } = mirror.question.step
    const to = copies ? aboutAxis(copies.through ?? [0, 0, 0], copies.axis, copies.count) : overPlanes(planes ?? [])
    return { to, ahead: mirror.kept, pieces: new Set(project.taken.map((piece) => piece.id)) }
}
