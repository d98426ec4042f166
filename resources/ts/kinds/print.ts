import { computed, watch } from 'vue'
import { usePlates } from '../stores/plates'
import { usePrints } from '../stores/prints'
import { useShown } from '../stores/shown'
import { CellLines } from '../view/CellLines'
import { LayerSheet } from '../view/LayerSheet'
import type { Kind } from './Kind'
import { bedLines } from './plates'

/** A plate in layers, as the simulated printer prints it. */
export const print: Kind = {
    id: 'print',
    station: 'plate',
    choices: [],
    is: () => false,
    told: () => '',
    edit: () => undefined,
    forget: () => usePrints().forget(),
    placed: () => usePrints().placed,
    pick: () => usePrints().placed !== null,
    extent: () => usePrints().extent,
    marks: () => ({ points: usePrints().header?.troubles.flatMap(({ at }) => at) ?? [] }),
    key(event) {
        const prints = usePrints()
        if (!prints.count) return false
        const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1, PageUp: 20, PageDown: -20, Home: -1e6, End: 1e6 }[event.key]
        if (by !== undefined) prints.show(prints.layer + (event.shiftKey ? 10 : 1) * by)
        else if (event.key === ' ') void (prints.playing ? prints.pause() : prints.play())
        else return false
        return true
    },
    draw(view, active) {
        const beds = view.add(new CellLines(0.5))
        const sheet = view.add(new LayerSheet())
        const shown = computed(() => active() && usePlates().total > 0)
        watch([shown, () => usePlates().margin, () => usePlates().bed], () => {
            beds.show(new Float32Array(), new Float32Array(shown.value ? bedLines(0, 0) : []))
            useShown().images.print = shown.value ? 1 : 0
            view.redraw()
        }, { immediate: true })
        watch([shown, () => usePrints().header, () => usePrints().layer], () => {
            const { header, layers, layer, height } = usePrints()
            sheet.show(shown.value && header && layers ? layers.outlines(layer) : [], height)
            view.redraw()
        }, { immediate: true })
    },
}
