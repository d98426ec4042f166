import CombineDialog from '../parts/CombineDialog.vue'
import { count } from '../format'
import { useCombine } from '../stores/combine'
import type { Kind } from './Kind'

/** Several pieces become one, are taken out of each other, or are left with what they have in common; set in a dialog, opened from what is picked. */
export const combine: Kind = {
    id: 'combine',
    station: 'cut',
    choices: [],
    dialog: CombineDialog,
    is: (settings) => settings.do === 'unite' || settings.do === 'subtract' || settings.do === 'common',
    told(settings) {
        if (settings.do === 'unite') return 'Unite'
        return settings.do === 'common' ? 'Keep what is common' : `Take out ${settings.with?.length === 1 ? settings.with[0] : count(settings.with?.length ?? 0, 'piece', 'pieces')}`
    },
    edit: (step) => useCombine().load(step),
    forget: () => useCombine().$reset(),
}
