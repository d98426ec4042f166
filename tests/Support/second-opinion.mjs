// A second opinion on cuts: the npm package manifold-3d (general-purpose solid geometry, Apache-2.0).
// Reads a JSON list of { file: STL of 32-bit floats, normal, offset } and prints volumes and body counts of both sides.
import { readFileSync } from 'node:fs'
import Module from 'manifold-3d'
import { readStl } from './read-stl.mjs'

const library = await Module()
library.setup()
const { Manifold, Mesh } = library

const answers = JSON.parse(readFileSync(process.argv[2], 'utf8')).map(({ file, normal, offset }) => {
    const solid = new Manifold(readStl(file, Mesh))
    const [ahead, behind] = solid.splitByPlane(normal, offset)
    const describe = (side) => {
        const bodies = side.decompose()
        return { volume: side.volume(), area: side.surfaceArea(), bodies: bodies.length, genus: bodies.map((body) => body.genus()) }
    }
    return { volume: solid.volume(), ahead: describe(ahead), behind: describe(behind) }
})
console.log(JSON.stringify(answers))
