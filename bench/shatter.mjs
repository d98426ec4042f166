// The same shards by manifold-3d: the body's intersection with each cell, given as a convex hull of the cell's vertices. Hulls are outside
// the clock, as is the body's construction. Then the mirror: trimmed, reflected, united. Seconds.
import Module from 'manifold-3d'
import { readFileSync } from 'node:fs'
import { readStl } from '../tests/Support/read-stl.mjs'

const library = await Module()
library.setup()
const { Manifold, Mesh } = library
const mesh = readStl(process.argv[2], Mesh)
const result = {}
const solid = new Manifold(mesh)
solid.numTri()
for (const count of process.argv[4].split(',')) {
    const cells = JSON.parse(readFileSync(`${process.argv[3]}/cells-${count}.json`, 'utf8')).map((points) => Manifold.hull(points))
    cells.forEach((cell) => cell.numTri())
    const start = performance.now()
    let pieces = 0
    let volume = 0
    for (const cell of cells) {
        const shard = solid.intersect(cell)
        if (shard.numTri() > 0) pieces++
        volume += shard.volume()
        shard.delete()
    }
    result[`shards_${count}`] = { pieces, volume, seconds: (performance.now() - start) / 1000 }
    cells.forEach((cell) => cell.delete())
}
result.volume = solid.volume()
const normal = [-1, -0.2, -0.3]
const length = Math.hypot(...normal)
const start = performance.now()
const half = solid.trimByPlane(normal, -(1 + 0.4 + 0.9) / length)
const offset = -(1 + 0.4 + 0.9) / length
const n = normal.map((c) => c / length)
const both = half.add(half.mirror(normal).translate(n.map((c) => 2 * offset * c)))
both.numTri()
result.mirror = (performance.now() - start) / 1000
console.log(JSON.stringify(result))
