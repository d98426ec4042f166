import { number } from '../format'
import { useCheck } from '../stores/check'
import type { Kind } from './Kind'

const WORDS = { join: 'join vertices', doubled: 'doubled faces', slivers: 'slivers', inner: 'inner faces', turn: 'turn faces', close: 'close rims' }

/** Mends and thickening; the Check station has one card for all of them. */
export const mend: Kind = {
    id: 'mend',
    station: 'check',
    choices: [],
    is: (settings) => settings.do === 'mend' || settings.do === 'thicken',
    told(settings) {
        if (settings.do === 'thicken') return `Thicken by ${number(settings.thickness_mm ?? 0, 1)} mm`
        return settings.only ? `Mend: ${WORDS[settings.only]}` : 'Mend all'
    },
    edit: () => useCheck().leave(),
}
