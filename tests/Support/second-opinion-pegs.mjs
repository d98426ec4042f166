// A second opinion on pegs: the npm package manifold-3d (general-purpose solid geometry, Apache-2.0).
// Reads a JSON list of {piece, tool, adds}: STL files of 32-bit floats; prints what the piece is with the tool added or taken out, and what it was.
import { readFileSync } from 'node:fs'
import Module from 'manifold-3d'
import { readStl } from './read-stl.mjs'

const library = await Module()
library.setup()
const { Manifold, Mesh } = library
const describe = (solid) => {
    const shells = solid.decompose()
    return { volume: solid.volume(), area: solid.surfaceArea(), shells: shells.length, handles: shells.reduce((sum, shell) => sum + shell.genus(), 0) }
}

const answers = JSON.parse(readFileSync(process.argv[2], 'utf8')).map(({ piece, tool, adds }) => {
    const [a, b] = [new Manifold(readStl(piece, Mesh)), new Manifold(readStl(tool, Mesh))]
    const answer = { before: describe(a), after: describe(adds ? a.add(b) : a.subtract(b)), outside: describe(b.subtract(a)).volume }
    a.delete()
    b.delete()
    return answer
})
console.log(JSON.stringify(answers))
