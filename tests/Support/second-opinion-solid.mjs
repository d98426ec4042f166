// A second opinion on uniting, subtracting and dividing: the npm package manifold-3d (general-purpose solid geometry, Apache-2.0).
// Reads a JSON list of pairs of STL files of 32-bit floats and prints volumes, areas, and the numbers of shells and handles.
import { readFileSync } from 'node:fs'
import Module from 'manifold-3d'
import { readStl } from './read-stl.mjs'

const library = await Module()
library.setup()
const { Manifold, Mesh } = library

const answers = JSON.parse(readFileSync(process.argv[2], 'utf8')).map(([one, other]) => {
    const [a, b] = [new Manifold(readStl(one, Mesh)), new Manifold(readStl(other, Mesh))]
    const describe = (solid) => {
        const shells = solid.decompose()
        return { volume: solid.volume(), area: solid.surfaceArea(), shells: shells.length, handles: shells.reduce((sum, shell) => sum + shell.genus(), 0) }
    }
    const [common, rest] = [describe(a.intersect(b)), describe(a.subtract(b))]
    return {
        united: describe(a.add(b)), common, subtracted: rest,
        divided: { volume: common.volume + rest.volume, area: common.area + rest.area, shells: common.shells + rest.shells, handles: common.handles + rest.handles },
    }
})
console.log(JSON.stringify(answers))
