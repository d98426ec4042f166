import CheckCard from '../parts/CheckCard.vue'
import type { Station } from './Station'

export const check: Station = {
    id: 'check',
    title: 'Check',
    card: () => CheckCard,
    hints: ['A fault flies to its place and says what it means.', 'Every mend shows what it would change before it does it.', 'Sound pieces cut best: mend first.'],
}
