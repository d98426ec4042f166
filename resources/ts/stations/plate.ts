import { pegs } from '../kinds/pegs'
import { plan } from '../kinds/plan'
import PegsCard from '../parts/PegsCard.vue'
import PlanCard from '../parts/PlanCard.vue'
import { usePegs } from '../stores/pegs'
import { usePlan } from '../stores/plan'
import { usePlate } from '../stores/plate'
import type { Station } from './Station'

const isPegs = () => usePlate().work === 'pegs'

export const plate: Station = {
    id: 'plate',
    title: 'Plate',
    card: () => (isPegs() ? PegsCard : PlanCard),
    kind: () => (isPegs() ? pegs : plan),
    run: () => void (isPegs() ? usePegs().run() : usePlan().alternative ? usePlan().cut() : usePlan().look()),
    hints: ['A plan proposes cuts after which every piece fits the printer.', 'Pegs find their own places in the faces that pieces share; their edges are drawn before they are made.', 'Nothing is cut before you press the button.'],
}
