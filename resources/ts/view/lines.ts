import type { Vector } from '../api/types'

export type Flat = [number, number]

/** A line with fewer corners, none of which is farther from it than allowed (D. H. Douglas, T. K. Peucker 1973): the numbers of those that stay. */
export function simplified(points: Flat[], within: number): number[] {
    if (points.length < 3) return points.map((_, k) => k)
    const stays = new Set([0, points.length - 1])
    const waiting: [number, number][] = [[0, points.length - 1]]
    while (waiting.length) {
        const [from, to] = waiting.pop() as [number, number]
        let worst = within
        let at = -1
        for (let k = from + 1; k < to; k++) {
            const away = distance(points[k], points[from], points[to])
            if (away > worst) {
                worst = away
                at = k
            }
        }
        if (at >= 0) {
            stays.add(at)
            waiting.push([from, at], [at, to])
        }
    }
    return [...stays].sort((a, b) => a - b)
}

/** Of a place from a stretch. */
export function distance([x, y]: Flat, [ax, ay]: Flat, [bx, by]: Flat): number {
    const length = (bx - ax) ** 2 + (by - ay) ** 2
    const s = length ? Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / length)) : 0
    return Math.hypot(x - ax - s * (bx - ax), y - ay - s * (by - ay))
}

/** A smooth curve through corners for the eye: the centripetal Catmull–Rom spline (C. Yuksel, S. Schaefer, J. Keyser 2011). The cut is made by the core's own. */
export function smooth(corners: Vector[], closed: boolean, steps = 8): Vector[] {
    const n = corners.length
    if (n < 3) return corners
    const at = (k: number): Vector => {
        if (closed) return corners[(k + n) % n]
        if (k < 0) return corners[0].map((c, j) => 2 * c - corners[1][j]) as Vector
        return k < n ? corners[k] : (corners[n - 1].map((c, j) => 2 * c - corners[n - 2][j]) as Vector)
    }
    const curve: Vector[] = []
    for (let i = 0; i < (closed ? n : n - 1); i++) {
        const [a, b, c, d] = [at(i - 1), at(i), at(i + 1), at(i + 2)]
        const gap = (p: Vector, q: Vector) => Math.sqrt(Math.hypot(...p.map((x, k) => q[k] - x))) || 1e-9
        const [one, two, three] = [gap(a, b), gap(b, c), gap(c, d)]
        for (let step = 0; step < steps; step++) {
            const t = step / steps
            curve.push(b.map((_, k) => {
                const from = two * ((b[k] - a[k]) / one - (c[k] - a[k]) / (one + two) + (c[k] - b[k]) / two)
                const to = two * ((c[k] - b[k]) / two - (d[k] - b[k]) / (two + three) + (d[k] - c[k]) / three)
                return (2 * t ** 3 - 3 * t ** 2 + 1) * b[k] + (t ** 3 - 2 * t ** 2 + t) * from + (3 * t ** 2 - 2 * t ** 3) * c[k] + (t ** 3 - t ** 2) * to
            }) as Vector)
        }
    }
    curve.push(closed ? corners[0] : corners[n - 1])
    return curve
}
