import { computed, watch } from 'vue'
import { floats } from '../api/floats'
import { count } from '../format'
import CombineCard from '../parts/CombineCard.vue'
import { useBlade } from '../stores/blade'
import { useCombine } from '../stores/combine'
import { useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import { Region } from '../view/Region'
import type { Kind } from './Kind'

/** Several pieces become one, are taken out of each other, or are left with what they have in common. */
export const combine: Kind = {
    id: 'combine',
    station: 'cut',
    choices: [{ value: 'combine', text: 'Combine', hint: 'Unite pieces, take some out of others, keep what they have in common, or cut with one', key: 'u', icon: 'M2 2h12v11H2z|M10 8h12v10H10z' }],
    card: CombineCard,
    is: (settings) => settings.do === 'unite' || settings.do === 'subtract' || settings.do === 'common' || settings.blade?.kind === 'body',
    told(settings) {
        const pieces = (names: string[] = []) => (names.length === 1 ? names[0] : count(names.length, 'piece', 'pieces'))
        if (settings.blade?.kind === 'body') return `Cut with ${pieces(settings.blade.with)}${settings.keep === 'behind' ? ', within' : settings.keep === 'ahead' ? ', around' : ''}`
        if (settings.do === 'unite') return 'Unite'
        return settings.do === 'common' ? 'Keep what is common' : `Take out ${pieces(settings.with)}${settings.gap_mm ? `, gap ${settings.gap_mm}` : ''}`
    },
    edit: (step) => useCombine().load(step),
    chosen: () => 'combine',
    choose() {
        const blade = useBlade()
        blade.kind = 'combine'
        blade.series = false
        useCombine().set({})
    },
    left: () => useCombine().ask(),
    run: () => useCombine().run(),
    taken: () => useCombine().ask(),
    /** What was just made let go of what was picked. */
    picked() {
        if (useProject().picked.length) useCombine().set({})
    },
    forget: () => useCombine().forget(),
    /** Where pieces meet, seen through them. */
    draw(view, active) {
        const region = view.add(new Region())
        const project = useProject()
        const surface = computed(() => (active() && !project.busy && project.spread === 0 ? useCombine().forecast?.surface : null) ?? '')
        watch(surface, (now) => {
            region.show(floats(now))
            useShown().images.combine = now ? 1 : 0
            view.redraw()
        }, { immediate: true })
    },
}
