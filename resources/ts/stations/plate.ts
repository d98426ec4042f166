import { plan } from '../kinds/plan'
import PlateCard from '../parts/PlateCard.vue'
import { usePlan } from '../stores/plan'
import type { Station } from './Station'

export const plate: Station = {
    id: 'plate',
    title: 'Plate',
    card: () => PlateCard,
    kind: () => plan,
    run: () => void (usePlan().alternative ? usePlan().cut() : usePlan().look()),
    hints: ['A plan proposes cuts after which every piece fits the printer.', 'Look through the alternatives: their cuts are drawn on the piece.', 'Nothing is cut before you press the button.'],
}
