import { computed, watch } from 'vue'
import { floats } from '../api/floats'
import { number } from '../format'
import CellsCard from '../parts/CellsCard.vue'
import { useBlade } from '../stores/blade'
import { useCells } from '../stores/cells'
import { rough } from '../stores/grain'
import { useProject } from '../stores/project'
import { CellLines } from '../view/CellLines'
import type { Kind } from './Kind'

/** Shards, blocks, rings, chops. */
export const cells: Kind = {
    id: 'cells',
    station: 'cut',
    choices: [{ value: 'cells', text: 'Cells', hint: 'Broken into shards, blocks or rings', key: 'x', icon: 'M3 3h18v14H3z|M3 9l7 2 4-8M10 11l2 6M10 11l11 2' }],
    card: CellsCard,
    is: ({ blade }) => blade?.kind === 'cells',
    told(settings, long) {
        const b = settings.blade
        if (b?.kind !== 'cells') return settings.do
        const seed = b.seed !== undefined && ['uniform', 'even', 'gathered', 'chop'].includes(b.by) ? `, seed ${b.seed}` : ''
        const what = {
            uniform: `${b.count as number} cells`, even: `${b.count as number} even cells`, gathered: `${b.count as number} cells gathered`, points: `cells around ${long['blade.points'] ?? b.points?.length ?? 0} points`,
            blocks: b.brick ? 'bricks' : 'blocks', rings: `${b.rings} rings, ${b.sectors} sectors`, chop: `chop, ${b.rounds} rounds`,
        }[b.by]
        return `Cut into ${what}${seed}${settings.smallest ? `, least ${number(100 * settings.smallest, 2)} %` : ''}${settings.kerf ? `, kerf ${settings.kerf}` : ''}${rough(settings.grain)}`
    },
    edit: (step) => useCells().load(step),
    chosen: () => 'cells',
    choose() {
        const blade = useBlade()
        blade.kind = 'cells'
        blade.series = false
        blade.touched()
        useCells().done = false
        useCells().ask()
    },
    left() {
        useCells().done = false
        useCells().ask()
    },
    run: () => useCells().run(),
    taken: () => useCells().ask(),
    picked() {
        useCells().done = false
        useCells().ask()
    },
    forget: () => useCells().forget(),
    marks() {
        const cells = useCells()
        // Places that cells gather around, while pieces stand where they really are.
        const places = cells.done ? [] : cells.by === 'gathered' ? cells.places : cells.by === 'rings' && cells.through ? [cells.through] : []
        return { points: places.flat() }
    },
    draw(view, active) {
        const lines = view.add(new CellLines())
        const project = useProject()
        const forecast = computed(() => (active() && !project.busy && project.spread === 0 ? useCells().forecast : null))
        watch(forecast, (now) => {
            lines.show(floats(now?.skin ?? ''), floats(now?.inner ?? ''))
            view.redraw()
        })
    },
    click({ point }) {
        const blade = useBlade()
        const cells = useCells()
        if (blade.placing !== 'place') return false
        if (cells.by === 'rings') {
            blade.placing = 'none'
            cells.set({ through: point })
        } else cells.set({ places: [...cells.places, point] })
        return true
    },
    asking() {
        if (useBlade().placing !== 'place') return undefined
        return useCells().by === 'rings' ? 'Click on the skin: the rings go round that place.' : 'Click on the skin where pieces are to gather; more places with more clicks.'
    },
}
