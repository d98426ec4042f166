// A second opinion on outlines cut through a body along −z: the npm package manifold-3d (general-purpose solid geometry, Apache-2.0), its extruded cross-sections.
// Reads a JSON list of bodies (an STL file of 32-bit floats) and outlines (pairs x, y; counted evenly and oddly), and prints what lies within and around: volumes, areas, shells.
import { readFileSync } from 'node:fs'
import Module from 'manifold-3d'
import { readStl } from './read-stl.mjs'

const library = await Module()
library.setup()
const { Manifold, Mesh, CrossSection } = library

const known = new Map()
const answers = JSON.parse(readFileSync(process.argv[2], 'utf8')).map(({ file, outlines, reach }) => {
    if (!known.has(file)) known.set(file, new Manifold(readStl(file, Mesh)))
    const body = known.get(file)
    const prism = new CrossSection(outlines, 'EvenOdd').extrude(2 * reach, 0, 0, [1, 1], true)
    const describe = (solid) => ({ volume: solid.volume(), area: solid.surfaceArea(), shells: solid.isEmpty() ? 0 : solid.decompose().length })
    return { within: describe(body.intersect(prism)), around: describe(body.subtract(prism)) }
})
console.log(JSON.stringify(answers))
