import { readFileSync } from 'node:fs'
import { join } from 'node:path'

const read = (name) => JSON.parse(readFileSync(join(process.argv[2], `${name}.json`), 'utf8'))
const [small, large, theirSmall, theirLarge, http, blocksSmall, blocksLarge, whole, theirWhole, peak, shatter, theirShatter, reflected, solid, theirSolid, skin] = [
    'ours-100k', 'ours-1m', 'theirs-100k', 'theirs-1m', 'http', 'blocks-100k', 'blocks-1m', 'whole-ours', 'whole-theirs', 'peak', 'shatter', 'their-shatter', 'mirror', 'solid', 'their-solid', 'skin',
].map(read)
const s = (seconds) => `${seconds.toFixed(3)} s`
const rows = [
    ['what', 'Isotome', 'manifold-3d', 'ratio'],
    ['flat cut, 100 thousand triangles', s(small.cut), s(theirSmall.split), `1/${(theirSmall.split / small.cut).toFixed(1)}`],
    ['flat cut, 1 million triangles', s(large.cut), s(theirLarge.split), `1/${(theirLarge.split / large.cut).toFixed(1)}`],
    ['growth, 100 thousand to 1 million', `${(large.cut / small.cut).toFixed(1)} times`, `${(theirLarge.split / theirSmall.split).toFixed(1)} times`, ''],
    ['STL file to two STL files, whole process, 1 million', s(whole.seconds), s(theirWhole.seconds), `1/${(theirWhole.seconds / whole.seconds).toFixed(1)}`],
    ['100 shards, 100 thousand triangles', s(shatter.shards_100.seconds), s(theirShatter.shards_100.seconds), `1/${(theirShatter.shards_100.seconds / shatter.shards_100.seconds).toFixed(1)}`],
    ['1,000 shards, 100 thousand triangles', s(shatter.shards_1000.seconds), s(theirShatter.shards_1000.seconds), `1/${(theirShatter.shards_1000.seconds / shatter.shards_1000.seconds).toFixed(1)}, ${(shatter.shards_1000.seconds / shatter.shards_100.seconds).toFixed(1)} times 100 shards`],
    ['mirror of 100 thousand triangles', s(shatter.mirror), s(theirShatter.mirror), `1/${(theirShatter.mirror / shatter.mirror).toFixed(1)}`],
    ['mirror of 1 million triangles', s(reflected.mirror), '', `${(reflected.mirror / reflected.cut).toFixed(1)} times the flat cut`],
    ...[['subtract_100k', '100 thousand minus 100 thousand triangles, rings'], ['subtract_balls_82k', '82 thousand minus 82 thousand, balls'], ['subtract_1m', '1 million minus 1 million, rings'], ['tool_1k_from_1m', '1 thousand out of 1 million'], ['unite_50_of_2k', '50 parts of 2 thousand united']]
        .map(([key, what]) => [what, s(solid[key].seconds), s(theirSolid[key].seconds), `${(solid[key].seconds / theirSolid[key].seconds).toFixed(1)} times; ${solid[key].peak_mb.toFixed(0)} MB`]),
    ['mend of a scan with 2,534 edges of four faces, 200 thousand', s(solid.mend_scan_200k.seconds), '', `${solid.mend_scan_200k.peak_mb.toFixed(0)} MB`],
    ['check with all faults, 1 million clean', s(solid.check_1m.seconds), '', `${solid.check_1m.peak_mb.toFixed(0)} MB`],
    ['flat cut of 1 million with texture coordinates', s(skin.dressed), '', `${skin.ratio.toFixed(2)} times without; at worst ${skin.worst.toFixed(2)}`],
    ['series of 20 cuts, 1 million', s(large.series), '', `${(large.series / large.cut).toFixed(1)} times one cut`],
    ['profile of 100 positions, 1 million', s(large.profile), '', ''],
    ['section on stored blocks, cold, 100 thousand', `${blocksSmall.median_ms.toFixed(1)} ms`, '', `${blocksSmall.touched} of ${blocksSmall.blocks} blocks`],
    ['section on stored blocks, cold, 1 million', `${blocksLarge.median_ms.toFixed(1)} ms`, '', `${blocksLarge.touched} of ${blocksLarge.blocks} blocks, ${(blocksLarge.median_ms / blocksSmall.median_ms).toFixed(1)} times`],
    ['check without crossings, 1 million', s(large.report), '', ''],
    ['check with crossings, 100 thousand', s(small.whole_report), '', ''],
    ['read and weld STL, 1 million', s(large.read), '', ''],
    ['write STL, 1 million', s(large.write), '', ''],
    ['peak memory of the command line, 1 million', `${(peak.peak_kb / 1024).toFixed(0)} MB`, '', ''],
    [`section over HTTP, ${http.triangles} triangles`, `median ${http.median.toFixed(1)} ms`, '', `95 % under ${http.p95.toFixed(1)} ms`],
    ['200 cells foreseen on the heron, over HTTP', `median ${http.cells.toFixed(1)} ms`, '', `95 % under ${http.cells95.toFixed(1)} ms`],
]
const widths = rows[0].map((_, k) => Math.max(...rows.map((row) => row[k].length)))
for (const row of rows) console.log(row.map((cell, k) => cell.padEnd(widths[k])).join('  '))
console.log(`bodies of the 1-million cut: ${large.bodies}, watertight: ${large.watertight.join(', ')}`)
