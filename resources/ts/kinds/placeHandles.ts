import { computed, watch } from 'vue'
import type { Vector } from '../api/types'
import { number } from '../format'
import { usePlace } from '../stores/place'
import { useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import { MoveArrows } from '../view/MoveArrows'
import { TurnRing } from '../view/TurnRing'
import type { View3d } from '../view/View3d'

/** What pieces are placed by in the view: arrows to move and to scale them, a ring to turn them. */
export function drawHandles(view: View3d, active: () => boolean): void {
    const arrows = view.add(new MoveArrows())
    const rings = view.add(new TurnRing())
    const project = useProject()
    const place = usePlace()
    /** What is at hand to be dragged, in the middle of what is taken. */
    const free = computed(() => active() && !project.busy && project.spread <= 0 && project.taken.length > 0)
    const middle = computed(() => project.box.min.map((low, k) => (low + project.box.max[k]) / 2) as Vector)
    const extent = computed(() => project.box.max.map((high, k) => high - project.box.min[k]))
    let before: Vector = [0, 0, 0]
    const handle = computed(() => {
        if (!free.value || (place.way !== 'move' && place.way !== 'scale')) return null
        const isMove = place.way === 'move'
        return {
            at: isMove ? (middle.value.map((c, k) => c + place.by[k]) as Vector) : middle.value, size: 0.25 * Math.hypot(...extent.value),
            taken: () => { before = isMove ? place.by : place.times },
            dragged(axis: number, by: number) {
                if (isMove) place.set({ by: before.map((one, k) => (k === axis ? Math.round(10 * (one + by)) / 10 : one)) as Vector })
                // Both ends go as far: in steps of a hundredth.
                else if (extent.value[axis] > 0) place.scale(axis, Math.max(0.01, Math.round(100 * (before[axis] + (2 * by) / extent.value[axis])) / 100))
            },
        }
    })
    let turned = 0
    const ring = computed(() => {
        if (!free.value || place.way !== 'about') return null
        const { step } = place.question
        return {
            at: 'through' in step && step.through && step.through !== 'centre' ? step.through : middle.value, axis: step.about ?? ([0, 0, 1] as Vector), size: 0.4 * Math.hypot(...extent.value), degrees: place.degrees,
            taken: () => { turned = place.degrees },
            // In steps of 5 degrees; numbers are for the rest.
            dragged: (by: number) => place.set({ degrees: Math.max(-360, Math.min(360, 5 * Math.round((turned + by) / 5))) }),
        }
    })
    watch([handle, ring], ([arrow, circle]) => {
        arrows.set(arrow)
        rings.set(circle)
        const tip = rings.tip()
        useShown().handles = tip ? [{ at: tip, name: 'turn', text: `${number(place.degrees, 0)}°` }] : arrows.tips()
        view.redraw()
    }, { immediate: true })
}
