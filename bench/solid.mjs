// The same by manifold-3d, on the meshes that bench/solid.php left in the folder: seconds, the middle of three. Its constructors are outside the clock.
import { join } from 'node:path'
import Module from 'manifold-3d'
import { readStl } from '../tests/Support/read-stl.mjs'

const library = await Module()
library.setup()
const { Manifold, Mesh } = library
const subtract = ([one, other]) => one.subtract(other)
const works = {
    subtract_100k: [['a', 'b'], subtract], subtract_balls_82k: [['c', 'd'], subtract], subtract_1m: [['g', 'h'], subtract], tool_1k_from_1m: [['e', 'f'], subtract],
    unite_50_of_2k: [Array.from({ length: 50 }, (_, n) => `p${n}`), (all) => Manifold.union(all)],
}
const told = {}
for (const [name, [files, work]] of Object.entries(works)) {
    const meshes = files.map((file) => readStl(join(process.argv[2], `${file}.stl`), Mesh))
    const times = []
    let volume = 0
    for (let n = 0; n < 3; n++) {
        const solids = meshes.map((mesh) => new Manifold(mesh))
        solids.forEach((solid) => solid.numTri())
        const start = performance.now()
        const made = work(solids)
        made.numTri()
        times.push((performance.now() - start) / 1000)
        volume = made.volume()
        made.delete()
        solids.forEach((solid) => solid.delete())
    }
    times.sort((a, b) => a - b)
    told[name] = { seconds: times[1], volume }
}
console.log(JSON.stringify(told))
