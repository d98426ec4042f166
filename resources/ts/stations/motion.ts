import { motion as kind } from '../kinds/motion'
import MotionCard from '../parts/MotionCard.vue'
import MotionRail from '../parts/MotionRail.vue'
import { useMotion } from '../stores/motion'
import type { Station } from './Station'

export const motion: Station = {
    id: 'motion',
    title: 'Motion',
    card: () => MotionCard,
    kind: () => kind,
    run: () => void useMotion().work(),
    key: (event) => kind.key?.(event) ?? false,
    rail: () => (useMotion().layers.length ? MotionRail : null),
    hints: ['Layers add up in their order: spread, wave, scatter, keys, drop.', 'On the rail, drag a layer’s bar to begin it elsewhere, its end to make it longer.', 'What falls touches the floor and other pieces with its convex hull.', 'Nothing is changed in the pieces, until they are taken over at a frame.'],
}
