import { BufferAttribute, BufferGeometry, Sphere, Vector3 } from 'three'
import type { Vector } from '../api/types'

/** A mesh ready for the card: three vertices a triangle, so that hard edges stay hard. */
export interface Drawn {
    geometry: BufferGeometry
    /** Edges between skin and inside, or of an open cut face. */
    rims: BufferGeometry
    centre: Vector
}

const CREASE = Math.cos((38 * Math.PI) / 180)

/** What the card needs, as plain arrays: made anywhere, a worker included. */
export interface Unpacked {
    position: Float32Array<ArrayBuffer>
    normal: Int8Array<ArrayBuffer>
    inside: Uint8Array<ArrayBuffer>
    rims: Float32Array<ArrayBuffer>
    centre: Vector
    radius: number
}

/** Decodes the bytes of the server's Geometry. */
export function unpack(bytes: ArrayBuffer): Unpacked {
    const head = new DataView(bytes)
    if (head.getUint32(0, false) !== 0x49534f31) throw new Error('not a mesh')
    const vertices = head.getUint32(4, true)
    const triangles = head.getUint32(8, true)
    const centre: Vector = [head.getFloat64(16, true), head.getFloat64(24, true), head.getFloat64(32, true)]
    const xyz = new Float32Array(bytes, 40, 3 * vertices)
    const corners = new Uint32Array(bytes, 40 + 12 * vertices, 3 * triangles)
    const tags = new Uint16Array(bytes, 40 + 12 * vertices + 12 * triangles, triangles)

    const position = new Float32Array(9 * triangles)
    for (let i = 0, o = 0; i < corners.length; i++) {
        const v = 3 * corners[i]
        position[o++] = xyz[v]
        position[o++] = xyz[v + 1]
        position[o++] = xyz[v + 2]
    }
    const inside = new Uint8Array(3 * triangles)
    for (let t = 0; t < triangles; t++) if (tags[t]) inside.fill(1, 3 * t, 3 * t + 3)
    let square = 0
    for (let i = 0; i < xyz.length; i += 3) square = Math.max(square, xyz[i] ** 2 + xyz[i + 1] ** 2 + xyz[i + 2] ** 2)
    return { position, normal: normals(vertices, xyz, corners, tags), inside, rims: rimLines(xyz, corners, tags), centre, radius: Math.sqrt(square) }
}

export function drawn({ position, normal, inside, rims: lines, centre, radius }: Unpacked): Drawn {
    const geometry = new BufferGeometry()
    geometry.setAttribute('position', new BufferAttribute(position, 3))
    geometry.setAttribute('normal', new BufferAttribute(normal, 3, true))
    geometry.setAttribute('inside', new BufferAttribute(inside, 1))
    geometry.boundingSphere = new Sphere(new Vector3(), radius)
    const rims = new BufferGeometry()
    rims.setAttribute('position', new BufferAttribute(lines, 3))
    rims.boundingSphere = geometry.boundingSphere
    return { geometry, rims, centre }
}

export const decode = (bytes: ArrayBuffer): Drawn => drawn(unpack(bytes))

/** Normals for shading: smooth where faces meet softly and are of one kind, hard elsewhere. */
function normals(vertices: number, xyz: Float32Array, corners: Uint32Array, tags: Uint16Array): Int8Array<ArrayBuffer> {
    const triangles = tags.length
    const face = new Float32Array(3 * triangles)
    const unit = new Float32Array(3 * triangles)
    const start = new Uint32Array(vertices + 1)
    for (let t = 0, i = 0; t < triangles; t++, i += 3) {
        const a = 3 * corners[i]
        const b = 3 * corners[i + 1]
        const c = 3 * corners[i + 2]
        const ux = xyz[b] - xyz[a]
        const uy = xyz[b + 1] - xyz[a + 1]
        const uz = xyz[b + 2] - xyz[a + 2]
        const vx = xyz[c] - xyz[a]
        const vy = xyz[c + 1] - xyz[a + 1]
        const vz = xyz[c + 2] - xyz[a + 2]
        const x = uy * vz - uz * vy
        const y = uz * vx - ux * vz
        const z = ux * vy - uy * vx
        const length = Math.sqrt(x * x + y * y + z * z) || 1
        face[i] = x
        face[i + 1] = y
        face[i + 2] = z
        unit[i] = x / length
        unit[i + 1] = y / length
        unit[i + 2] = z / length
    }
    for (let i = 0; i < corners.length; i++) start[corners[i] + 1]++
    for (let v = 0; v < vertices; v++) start[v + 1] += start[v]
    const fill = start.slice(0, vertices)
    const around = new Uint32Array(corners.length)
    for (let i = 0; i < corners.length; i++) around[fill[corners[i]]++] = (i / 3) | 0
    const packed = new Int8Array(9 * triangles)
    for (let t = 0, o = 0; t < triangles; t++) {
        const fx = unit[3 * t]
        const fy = unit[3 * t + 1]
        const fz = unit[3 * t + 2]
        const tag = tags[t]
        for (let k = 0; k < 3; k++) {
            const v = corners[3 * t + k]
            let x = 0
            let y = 0
            let z = 0
            for (let i = start[v], end = start[v + 1]; i < end; i++) {
                const other = around[i]
                if (tags[other] !== tag) continue
                const n = 3 * other
                if (fx * unit[n] + fy * unit[n + 1] + fz * unit[n + 2] < CREASE) continue
                x += face[n]
                y += face[n + 1]
                z += face[n + 2]
            }
            const length = 127 / (Math.sqrt(x * x + y * y + z * z) || 1)
            packed[o++] = Math.round(x * length)
            packed[o++] = Math.round(y * length)
            packed[o++] = Math.round(z * length)
        }
    }
    return packed
}

function rimLines(xyz: Float32Array, corners: Uint32Array, tags: Uint16Array): Float32Array<ArrayBuffer> {
    const once = new Map<number, [number, number]>()
    const span = 2 ** 26
    for (let t = 0; t < tags.length; t++) {
        if (!tags[t]) continue
        for (let k = 0; k < 3; k++) {
            const a = corners[3 * t + k]
            const b = corners[3 * t + ((k + 1) % 3)]
            const key = Math.min(a, b) * span + Math.max(a, b)
            if (!once.delete(key)) once.set(key, [a, b])
        }
    }
    const lines = new Float32Array(6 * once.size)
    let i = 0
    for (const [a, b] of once.values()) {
        lines.set(xyz.subarray(3 * a, 3 * a + 3), i)
        lines.set(xyz.subarray(3 * b, 3 * b + 3), i + 3)
        i += 6
    }
    return lines
}
