import PaintDialog from '../parts/PaintDialog.vue'
import { STUFF, usePaint } from '../stores/paint'
import type { Kind } from './Kind'

/** Materials that pieces came with are given another look; set in a dialog, opened from the list of materials. */
export const paint: Kind = {
    id: 'paint',
    station: 'cut',
    choices: [],
    dialog: PaintDialog,
    is: (settings) => settings.do === 'paint',
    told: ({ material, colour, picture }) => `Paint ${material ?? ''}: ${colour ?? (STUFF.find(({ value }) => value === picture)?.text.toLowerCase() ?? 'own picture')}`,
    edit: (step) => usePaint().load(step),
    forget: () => usePaint().$reset(),
}
