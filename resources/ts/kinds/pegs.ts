import { computed, watch } from 'vue'
import { floats } from '../api/floats'
import { useBlade } from '../stores/blade'
import { usePegs } from '../stores/pegs'
import { useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import { CellLines } from '../view/CellLines'
import type { Kind } from './Kind'

/** Pegs across the faces that pieces share. */
export const pegs: Kind = {
    id: 'pegs',
    station: 'plate',
    choices: [],
    is: (settings) => settings.do === 'pegs',
    told({ style, shape, diameter_mm: wide, length_mm: long, at }) {
        const size = wide ? ` ${wide}${long ? ` × ${long}` : ''}` : ''
        return `${style === 'dowel' ? 'Dowels' : style === 'magnet' ? 'Magnet pockets' : 'Pegs'}${size}${shape && shape !== 'round' ? `, ${shape}` : ''}${Array.isArray(at) ? ', by hand' : ''}`
    },
    edit: (step) => usePegs().load(step),
    run: () => usePegs().run(),
    taken: () => usePegs().ask(),
    picked() {
        if (useProject().picked.length && usePegs().isAtHand) usePegs().set({})
    },
    forget: () => usePegs().forget(),
    click({ point }) {
        if (useBlade().placing !== 'place') return false
        usePegs().set({ at: [...usePegs().at, point] })
        return true
    },
    asking: () => (useBlade().placing === 'place' ? 'Click where a peg is to be, on a cut face: hide the piece that covers it.' : undefined),
    draw(view, active) {
        const layer = view.add(new CellLines())
        const lines = computed(() => (active() && !useProject().busy && useProject().spread === 0 ? usePegs().forecast?.lines : null) ?? '')
        watch(lines, (now) => {
            layer.show(floats(now), new Float32Array())
            useShown().images.pegs = now ? 1 : 0
            view.redraw()
        }, { immediate: true })
    },
}
