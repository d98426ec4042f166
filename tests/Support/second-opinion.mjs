// A second opinion on cuts: the npm package manifold-3d (general-purpose solid geometry, Apache-2.0).
// Reads a JSON list of { file: STL of 32-bit floats, normal, offset } and prints volumes and body counts of both sides.
import { readFileSync } from 'node:fs'
import Module from 'manifold-3d'

const library = await Module()
library.setup()
const { Manifold, Mesh } = library

function read(file) {
    const bytes = readFileSync(file)
    const count = bytes.readUInt32LE(80)
    const index = new Map()
    const points = []
    const corners = new Uint32Array(3 * count)
    for (let t = 0; t < count; t++) {
        for (let k = 0; k < 3; k++) {
            const at = 84 + 50 * t + 12 + 12 * k
            const p = [bytes.readFloatLE(at), bytes.readFloatLE(at + 4), bytes.readFloatLE(at + 8)]
            const key = p.join()
            if (!index.has(key)) {
                index.set(key, index.size)
                points.push(...p)
            }
            corners[3 * t + k] = index.get(key)
        }
    }
    return new Mesh({ numProp: 3, vertProperties: Float32Array.from(points), triVerts: corners })
}

const answers = JSON.parse(readFileSync(process.argv[2], 'utf8')).map(({ file, normal, offset }) => {
    const solid = new Manifold(read(file))
    const [ahead, behind] = solid.splitByPlane(normal, offset)
    const describe = (side) => {
        const bodies = side.decompose()
        return { volume: side.volume(), area: side.surfaceArea(), bodies: bodies.length, genus: bodies.map((body) => body.genus()) }
    }
    return { volume: solid.volume(), ahead: describe(ahead), behind: describe(behind) }
})
console.log(JSON.stringify(answers))
