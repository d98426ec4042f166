import { marks } from '../kinds/marks'
import { pegs } from '../kinds/pegs'
import { plan } from '../kinds/plan'
import { plates } from '../kinds/plates'
import { print } from '../kinds/print'
import LayersRail from '../parts/LayersRail.vue'
import MarksCard from '../parts/MarksCard.vue'
import PegsCard from '../parts/PegsCard.vue'
import PlanCard from '../parts/PlanCard.vue'
import PlanRail from '../parts/PlanRail.vue'
import PlatesCard from '../parts/PlatesCard.vue'
import PrintCard from '../parts/PrintCard.vue'
import { useMarks } from '../stores/marks'
import { usePegs } from '../stores/pegs'
import { usePlan } from '../stores/plan'
import { usePlates } from '../stores/plates'
import { usePlate } from '../stores/plate'
import { usePrints } from '../stores/prints'
import type { Station } from './Station'

const WORKS = {
    plan: { card: PlanCard, kind: plan, run: () => void (usePlan().alternative ? usePlan().cut() : usePlan().look()) },
    pegs: { card: PegsCard, kind: pegs, run: () => void usePegs().run() },
    plates: { card: PlatesCard, kind: plates, run: () => void usePlates().pack() },
    print: { card: PrintCard, kind: print, run: () => void (usePrints().header ? usePrints().print() : usePrints().look()) },
    marks: { card: MarksCard, kind: marks, run: () => void useMarks().run() },
}
const work = () => WORKS[usePlate().work]

export const plate: Station = {
    id: 'plate',
    title: 'Plate',
    card: () => work().card,
    kind: () => work().kind,
    run: () => work().run(),
    key: (event) => work().kind.key?.(event) ?? false,
    rail() {
        if (usePlate().work === 'plan') return usePlan().alternative?.cuts.length ? PlanRail : null
        return usePlate().work === 'print' && usePrints().header ? LayersRail : null
    },
    hints: ['A plan proposes cuts after which every piece fits the printer.', 'Pegs find their own places in the faces that pieces share; their edges are drawn before they are made.', 'Nothing is cut before you press the button.'],
}
