// From an STL file to two STL files by manifold-3d: read, weld, split, write. Whole process.
import Module from 'manifold-3d'
import { openSync, writeSync, closeSync } from 'node:fs'
import { readStl } from '../tests/Support/read-stl.mjs'

const library = await Module()
library.setup()
const { Manifold, Mesh } = library
const solid = new Manifold(readStl(process.argv[2], Mesh))
const halves = solid.splitByPlane([1, 0.2, 0.3], (1 + 0.4 + 0.9) / Math.hypot(1, 0.2, 0.3))
halves.forEach((half, n) => {
    const { numProp, vertProperties, triVerts } = half.getMesh()
    const bytes = Buffer.alloc(84 + (50 * triVerts.length) / 3)
    bytes.writeUInt32LE(triVerts.length / 3, 80)
    for (let t = 0, at = 84; t < triVerts.length; t += 3, at += 50) {
        const p = [0, 1, 2].map((k) => vertProperties.subarray(numProp * triVerts[t + k], numProp * triVerts[t + k] + 3))
        const u = [0, 1, 2].map((k) => p[1][k] - p[0][k])
        const v = [0, 1, 2].map((k) => p[2][k] - p[0][k])
        const normal = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
        const length = Math.hypot(...normal) || 1
        for (let k = 0; k < 3; k++) bytes.writeFloatLE(normal[k] / length, at + 4 * k)
        for (let c = 0; c < 3; c++) for (let k = 0; k < 3; k++) bytes.writeFloatLE(p[c][k], at + 12 + 12 * c + 4 * k)
    }
    const file = openSync(`${process.argv[3]}/half-${n}.stl`, 'w')
    writeSync(file, bytes)
    closeSync(file)
})
