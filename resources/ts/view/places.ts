import { Matrix4, Quaternion, Vector3 } from 'three'
import type { Vector } from '../api/types'

const around = (turn: Matrix4, place: Vector) => new Matrix4().makeTranslation(...place).multiply(turn).multiply(new Matrix4().makeTranslation(-place[0], -place[1], -place[2]))

export const moved = (by: Vector) => new Matrix4().makeTranslation(...by)

/** Larger or smaller along the axes, about a place. */
export const scaled = (times: Vector, place: Vector) => around(new Matrix4().makeScale(...times), place)

/** About an axis through a place. */
export const turned = (axis: Vector, degrees: number, place: Vector) => around(new Matrix4().makeRotationAxis(new Vector3(...axis).normalize(), (degrees * Math.PI) / 180), place)

/** The shortest turn from one direction to another, as the core makes it: see core/Geometry/Turn.php. */
export function brought(from: Vector, to: Vector, place: Vector): Matrix4 {
    const a = new Vector3(...from).normalize()
    const b = new Vector3(...to).normalize()
    if (a.clone().cross(b).length() < 1e-15 && a.dot(b) < 0) {
        // Opposite: half a turn about the axis across the coordinate axis that is farthest off.
        const sizes = a.toArray().map(Math.abs)
        const k = sizes.indexOf(Math.min(...sizes))
        return around(new Matrix4().makeRotationAxis(a.clone().cross(new Vector3().setComponent(k, 1)).normalize(), Math.PI), place)
    }
    return around(new Matrix4().makeRotationFromQuaternion(new Quaternion().setFromUnitVectors(a, b)), place)
}

/** By 12 numbers: where the three axes come to, then the origin. */
export const mapped = (m: number[]) => new Matrix4().set(m[0], m[3], m[6], m[9], m[1], m[4], m[7], m[10], m[2], m[5], m[8], m[11], 0, 0, 0, 1)
