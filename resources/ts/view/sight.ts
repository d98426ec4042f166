import type { Vector } from '../api/types'
import type { Sight } from './Layer'

export const cross = (a: Vector, b: Vector): Vector => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]
const unit = (v: Vector): Vector => v.map((c) => c / (Math.hypot(...v) || 1) + 0) as Vector

/** Right and up on the page that a line of sight looks at, as the core has them (Isotome\Drawn\Sight). */
export function page(along: Vector): { right: Vector; up: Vector } {
    const a = unit(along)
    const right = unit(cross(a, Math.abs(a[2]) < 0.999 ? [0, 0, 1] : [0, 1, 0]))
    return { right, up: unit(cross(right, a)) }
}

/** The direction in which one looks at a place. */
export function towards(sight: Sight, place: Vector): Vector {
    return 'along' in sight ? unit(sight.along) : unit(place.map((c, k) => c - sight.eye[k]) as Vector)
}

/** Parallel to how the view looks: right, up and towards the eye. An axis where it is as good as one. */
export function alongView(seen: Vector[]): Vector {
    const along = seen[2].map((c) => -c) as Vector
    return along.map((c) => (Math.abs(c) < 2e-4 ? 0 : Math.abs(c) > 1 - 1e-7 ? Math.sign(c) : c)) as Vector
}

/** In words: along Y, back along Z, … */
export function told(sight: Sight): string {
    if ('eye' in sight) return 'from an eye'
    const axis = sight.along.findIndex((c) => Math.abs(c) === 1)
    if (axis < 0) return 'along a direction'
    return `${sight.along[axis] < 0 ? 'back ' : ''}along ${'XYZ'[axis]}`
}
