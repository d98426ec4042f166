import { computed, watch } from 'vue'
import { usePlates } from '../stores/plates'
import { useShown } from '../stores/shown'
import { CellLines } from '../view/CellLines'
import type { Kind } from './Kind'

/** Pieces on plates: nothing is made of them; here is where they are drawn, and the beds under them. */
export const plates: Kind = {
    id: 'plates',
    station: 'plate',
    choices: [],
    is: () => false,
    told: () => '',
    edit: () => undefined,
    forget: () => usePlates().forget(),
    placed: () => usePlates().placed,
    extent: () => usePlates().extent,
    draw(view, active) {
        const layer = view.add(new CellLines(0.5))
        const lines = computed(() => {
            const { answer, corners, margin, plates: all } = usePlates()
            if (!active() || !answer || !all.length) return []
            const [width, depth] = answer.bed
            const rectangle = (x: number, y: number, w: number, d: number) => [[x, y], [x + w, y], [x + w, y + d], [x, y + d]].flatMap(([a, b], n, round) => [a, b, 0, ...round[(n + 1) % 4], 0])
            return corners.flatMap(([x, y]) => [...rectangle(x, y, width, depth), ...(margin > 0 ? rectangle(x + margin, y + margin, width - 2 * margin, depth - 2 * margin) : [])])
        })
        watch(lines, (now) => {
            // Of what is there, not of what will be cut: in the colour of ink.
            layer.show(new Float32Array(), new Float32Array(now))
            useShown().images.plates = now.length ? 1 : 0
            view.redraw()
        }, { immediate: true })
    },
}
