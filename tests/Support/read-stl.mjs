import { readFileSync } from 'node:fs'

/** A binary STL for manifold-3d, welded by exact coordinates. */
export function readStl(file, Mesh) {
    const bytes = readFileSync(file)
    const count = bytes.readUInt32LE(80)
    const index = new Map()
    const points = []
    const corners = new Uint32Array(3 * count)
    for (let t = 0; t < count; t++) {
        for (let k = 0; k < 3; k++) {
            const at = 96 + 50 * t + 12 * k
            const key = bytes.toString('latin1', at, at + 12)
            let v = index.get(key)
            if (v === undefined) {
                v = index.size
                index.set(key, v)
                points.push(bytes.readFloatLE(at), bytes.readFloatLE(at + 4), bytes.readFloatLE(at + 8))
            }
            corners[3 * t + k] = v
        }
    }
    return new Mesh({ numProp: 3, vertProperties: Float32Array.from(points), triVerts: corners })
}
