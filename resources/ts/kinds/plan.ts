import { computed, watch } from 'vue'
import type { PlanAlternative, Vector } from '../api/types'
import { useBlade } from '../stores/blade'
import { usePlan } from '../stores/plan'
import { useProject } from '../stores/project'
import { CellLines } from '../view/CellLines'
import type { Kind } from './Kind'

/** Of a circle. */
const CORNERS = 36

/** The sections of a plan's cuts, as lines: two places each. */
function lines({ cuts }: PlanAlternative): Float32Array {
    const places: number[] = []
    for (const { outlines } of cuts) {
        for (const outline of outlines) outline.forEach((at, n) => places.push(...at, ...outline[(n + 1) % outline.length]))
    }
    return new Float32Array(places)
}

/** A ball as three circles. */
function ball({ at, radius }: { at: Vector; radius: number }): number[] {
    const lines: number[] = []
    for (let axis = 0; axis < 3; axis++) {
        for (let n = 0; n < CORNERS; n++) {
            for (const angle of [n, n + 1].map((k) => (2 * Math.PI * k) / CORNERS)) {
                const place: Vector = [...at]
                place[(axis + 1) % 3] += radius * Math.cos(angle)
                place[(axis + 2) % 3] += radius * Math.sin(angle)
                lines.push(...place)
            }
        }
    }
    return lines
}

/** Plans: they leave cuts, which are steps of another kind; here is what they draw before those are made. */
export const plan: Kind = {
    id: 'plan',
    station: 'plate',
    choices: [],
    is: () => false,
    told: () => '',
    edit: () => undefined,
    forget: () => usePlan().forget(),
    marks: () => ({ lines: usePlan().whole.flatMap(ball) }),
    click({ point }) {
        if (useBlade().placing !== 'place') return false
        usePlan().keep(point)
        return true
    },
    asking: () => (useBlade().placing === 'place' ? 'Click what must stay whole: no cut will go through it.' : undefined),
    draw(view, active) {
        const layer = view.add(new CellLines())
        const now = computed(() => (active() && useProject().spread === 0 ? usePlan().alternative : null))
        watch(now, (alternative) => {
            layer.show(alternative ? lines(alternative) : new Float32Array(), new Float32Array())
            view.redraw()
        })
    },
}
