import { computed, watch } from 'vue'
import type { Vector } from '../api/types'
import { number } from '../format'
import { useMotion } from '../stores/motion'
import { useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import { MoveArrows } from '../view/MoveArrows'
import { TurnRing } from '../view/TurnRing'
import type { View3d } from '../view/View3d'

/** What a key is set by in the view: arrows that shift its group, and a ring that turns it about the key's axis. */
export function drawKeyHandles(view: View3d, active: () => boolean): void {
    const arrows = view.add(new MoveArrows())
    const rings = view.add(new TurnRing())
    const motion = useMotion()
    const size = computed(() => {
        const { min, max } = useProject().whole
        return Math.hypot(...max.map((high, k) => high - min[k]))
    })
    let shift: Vector = [0, 0, 0]
    let degrees = 0
    const shown = computed(() => (active() && motion.key && motion.group ? { at: motion.group, key: motion.key } : null))
    watch(shown, (now) => {
        arrows.set(now && {
            at: now.at, size: 0.2 * size.value,
            taken: () => { shift = now.key.shift },
            dragged: (axis, by) => motion.setKey({ shift: shift.map((c, k) => (k === axis ? Math.round(10 * (c + by)) / 10 : c)) as Vector }),
        })
        rings.set(now && {
            at: now.at, axis: now.key.about, size: 0.28 * size.value, degrees: now.key.degrees,
            taken: () => { degrees = now.key.degrees },
            // In steps of 5 degrees; numbers are for the rest.
            dragged: (by) => motion.setKey({ degrees: 5 * Math.round((degrees + by) / 5) }),
        })
        const tip = rings.tip()
        if (active()) useShown().handles = now ? [...arrows.tips(), ...(tip ? [{ at: tip, name: 'turn', text: `${number(now.key.degrees, 0)}°` }] : [])] : []
        view.redraw()
    })
}
