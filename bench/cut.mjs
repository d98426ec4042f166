// The same cut by manifold-3d: seconds, the middle of several runs. Its constructor is outside the clock.
import Module from 'manifold-3d'
import { readStl } from '../tests/Support/read-stl.mjs'

const library = await Module()
library.setup()
const { Manifold, Mesh } = library
const mesh = readStl(process.argv[2], Mesh)
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
