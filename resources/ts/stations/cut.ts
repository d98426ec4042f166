import { choose, CHOSEN, current } from '../kinds'
import BladeCard from '../parts/BladeCard.vue'
import ProfileRail from '../parts/ProfileRail.vue'
import { useBlade } from '../stores/blade'
import type { Station } from './Station'

export const cut: Station = {
    id: 'cut',
    title: 'Cut',
    card: () => current().card ?? BladeCard,
    rail: () => (current().rail?.() ? ProfileRail : null),
    kind: current,
    run: () => void current().run?.(),
    key(event) {
        const blade = useBlade()
        const by = event.altKey ? 1 : 5
        if (current().key?.(event)) return true
        const kind = CHOSEN.flatMap(({ choices }) => choices).find(({ key }) => key === event.key)
        if (kind) {
            choose(kind.value === 'series' && blade.series ? 'flat' : kind.value)
            return true
        }
        switch (event.key) {
            case '1':
            case '2':
            case '3':
                blade.setAxis((['X', 'Y', 'Z'] as const)[Number(event.key) - 1])
                break
            case 'ArrowUp':
            case 'ArrowDown':
                blade.setPlace(blade.place + (event.key === 'ArrowUp' ? 1 : -1) * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1))
                break
            case 'ArrowLeft':
            case 'ArrowRight':
                blade.setTilt(blade.tilt + (event.key === 'ArrowRight' ? by : -by))
                break
            case ',':
            case '.':
                blade.setTurn(blade.turn + (event.key === '.' ? by : -by))
                break
            case '0':
                blade.centreOnTaken()
                break
            case 'l':
                blade.placing = blade.placing === 'line' ? 'none' : 'line'
                blade.touched()
                break
            default:
                return false
        }
        blade.shown = true
        return true
    },
    hints: ['Drag the grip to slide the blade, the rim to tilt it, or press L and draw a line.', 'The line under the button always says what will happen.', 'Every cut is kept in the lineage: edit it, or take it back on its own branch.'],
}
