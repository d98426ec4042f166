// The same cut by manifold-3d: seconds, the middle of several runs. Its constructor is outside the clock.
import { readFileSync } from 'node:fs'
import Module from 'manifold-3d'

const library = await Module()
library.setup()
const { Manifold, Mesh } = library
const bytes = readFileSync(process.argv[2])
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
const mesh = new Mesh({ numProp: 3, vertProperties: Float32Array.from(points), triVerts: corners })
const length = Math.hypot(1, 0.2, 0.3)
const times = []
let bodies = 0
for (let n = 0; n < 5; n++) {
    const solid = new Manifold(mesh)
    solid.numTri()
    const start = performance.now()
    const halves = solid.splitByPlane([1, 0.2, 0.3], (1 + 0.4 + 0.9) / length)
    halves.forEach((half) => half.numTri())
    times.push((performance.now() - start) / 1000)
    bodies = halves.length
    halves.forEach((half) => half.delete())
    solid.delete()
}
times.sort((a, b) => a - b)
console.log(JSON.stringify({ bodies, split: times[2] }))
