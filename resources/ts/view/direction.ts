import type { Vector } from '../api/types'

// Facing as turn (about the up axis) and tilt (out of level), degrees.
// tilt 0 faces up, tilt 90 faces sideways; turn 0 leans towards x, turn 90 towards y.

const exact: Record<number, number> = { 0: 0, 90: 1, 180: 0, 270: -1 }

/** Exact at the quarter turns, so that an axis is an axis. */
function sine(degrees: number): number {
    const round = ((degrees % 360) + 360) % 360
    return exact[round] ?? Math.sin((degrees * Math.PI) / 180)
}

const cosine = (degrees: number) => sine(degrees + 90)

export function facing(turn: number, tilt: number): Vector {
    return [sine(tilt) * cosine(turn), sine(tilt) * sine(turn), cosine(tilt)].map((c) => c + 0) as Vector
}

export const dot = (a: readonly number[], b: readonly number[]) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]

export const moved = (point: Vector, direction: Vector, by: number): Vector => [
    point[0] + by * direction[0],
    point[1] + by * direction[1],
    point[2] + by * direction[2],
]

/** How far a box reaches along a direction. */
export function reach(min: Vector, max: Vector, direction: Vector): [number, number] {
    let low = 0
    let high = 0
    for (let k = 0; k < 3; k++) {
        const [a, b] = [min[k] * direction[k], max[k] * direction[k]]
        low += Math.min(a, b)
        high += Math.max(a, b)
    }
    return [low, high]
}

/** Turn and tilt of a unit vector, degrees; rounding is taken off where the angle is a quarter turn. */
export function anglesOf([x, y, z]: Vector): { turn: number; tilt: number } {
    const tidy = (degrees: number) => {
        const near = Math.round(degrees)
        return Math.abs(degrees - near) < 1e-9 ? near + 0 : degrees
    }
    const level = Math.hypot(x, y)
    return { turn: level < 1e-12 ? 0 : tidy((Math.atan2(y, x) * 180) / Math.PI), tilt: tidy((Math.atan2(level, z) * 180) / Math.PI) }
}
