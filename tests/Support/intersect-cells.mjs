// A second opinion on shards and mirrors: the npm package manifold-3d. Reads { file, cells: [[[x, y, z], …], …] } and prints volume and area of the
// body's intersection with each cell's hull; or { file, normal, offset } and prints those of the half ahead joined to its reflection.
import { readFileSync } from 'node:fs'
import Module from 'manifold-3d'
import { readStl } from './read-stl.mjs'

const library = await Module()
library.setup()
const { Manifold, Mesh } = library
const { file, cells, normal, offset } = JSON.parse(readFileSync(process.argv[2], 'utf8'))
const solid = new Manifold(readStl(file, Mesh))
const measured = (body) => ({ volume: body.volume(), area: body.surfaceArea() })
if (cells) {
    console.log(JSON.stringify(cells.map((points) => measured(solid.intersect(Manifold.hull(points))))))
} else {
    // What the two sides have more than the whole is the section, once each; it is not a face of the half joined to its reflection.
    const [ahead, behind] = solid.splitByPlane(normal, offset)
    const section = (ahead.surfaceArea() + behind.surfaceArea() - solid.surfaceArea()) / 2
    console.log(JSON.stringify({ volume: 2 * ahead.volume(), area: 2 * (ahead.surfaceArea() - section) }))
}
