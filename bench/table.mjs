import { readFileSync } from 'node:fs'
import { join } from 'node:path'

const read = (name) => JSON.parse(readFileSync(join(process.argv[2], `${name}.json`), 'utf8'))
const [small, large, theirSmall, theirLarge, http] = ['ours-125k', 'ours-1m', 'theirs-125k', 'theirs-1m', 'http'].map(read)
const s = (seconds) => `${seconds.toFixed(3)} s`
const rows = [
    ['what', 'Isotome', 'manifold-3d', 'ratio'],
    ['flat cut, 125 thousand triangles', s(small.cut), s(theirSmall.split), `1/${(theirSmall.split / small.cut).toFixed(1)}`],
    ['flat cut, 1 million triangles', s(large.cut), s(theirLarge.split), `1/${(theirLarge.split / large.cut).toFixed(1)}`],
    ['growth, 125 thousand to 1 million', `${(large.cut / small.cut).toFixed(1)} times`, `${(theirLarge.split / theirSmall.split).toFixed(1)} times`, ''],
    ['read and weld STL, 1 million', s(large.read), '', ''],
    ['write STL, 1 million', s(large.write), '', ''],
    ['watertightness check, 1 million', s(large.check), '', ''],
    ['peak memory, 1 million', `${large.peak_mb.toFixed(0)} MB`, '', ''],
    [`section over HTTP, ${http.triangles} triangles`, `median ${http.median.toFixed(1)} ms`, '', `95 % under ${http.p95.toFixed(1)} ms`],
]
const widths = rows[0].map((_, k) => Math.max(...rows.map((row) => row[k].length)))
for (const row of rows) console.log(row.map((cell, k) => cell.padEnd(widths[k])).join('  '))
console.log(`bodies of the 1-million cut: ${large.bodies}, watertight: ${large.watertight.join(', ')}`)
