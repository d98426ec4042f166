import { computed, watch } from 'vue'
import type { PlanAlternative } from '../api/types'
import { usePlan } from '../stores/plan'
import { useProject } from '../stores/project'
import { CellLines } from '../view/CellLines'
import type { Kind } from './Kind'

/** The sections of a plan's cuts, as lines: two places each. */
function lines({ cuts }: PlanAlternative): Float32Array {
    const places: number[] = []
    for (const { outlines } of cuts) {
        for (const outline of outlines) outline.forEach((at, n) => places.push(...at, ...outline[(n + 1) % outline.length]))
    }
    return new Float32Array(places)
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
    draw(view, active) {
        const layer = view.add(new CellLines())
        const now = computed(() => (active() && useProject().spread === 0 ? usePlan().alternative : null))
        watch(now, (alternative) => {
            layer.show(alternative ? lines(alternative) : new Float32Array(), new Float32Array())
            view.redraw()
        })
    },
}
