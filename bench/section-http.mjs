// The section of the demo's heron over HTTP, one request after another as a drag asks them, and cells foreseen on it: milliseconds.
const root = `${process.argv[2]}/api/v1`
const shelf = await (await fetch(`${root}/projects`)).json()
const heron = shelf.find((entry) => entry.name === 'Heron')
const times = []
for (let n = 0; n < 240; n++) {
    const z = 20 + (380 * ((n * 37) % 240)) / 240
    const start = performance.now()
    const response = await fetch(`${root}/projects/${heron.id}/section`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
        body: JSON.stringify({ through: [0, 0, z], facing: [Math.sin(n / 50) / 2, 0.1, 1] }),
    })
    const answer = await response.json()
    if (!response.ok || !answer.pieces[0].cuts) throw new Error(`no section at ${z}`)
    if (n >= 40) times.push(performance.now() - start)
}
times.sort((a, b) => a - b)
// 200 cells foreseen on the heron, as another seed is tried.
const cells = []
for (let n = 0; n < 40; n++) {
    const start = performance.now()
    const response = await fetch(`${root}/projects/${heron.id}/cells`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
        body: JSON.stringify({ step: { do: 'cut', blade: { kind: 'cells', by: 'uniform', count: 200, seed: n + 1 } } }),
    })
    const answer = await response.json()
    if (!response.ok || answer.pieces < 150) throw new Error('no cells')
    if (n >= 10) cells.push(performance.now() - start)
}
cells.sort((a, b) => a - b)
console.log(JSON.stringify({ triangles: heron.stock.triangles, median: times[100], p95: times[190], worst: times[199], cells: cells[15], cells95: cells[28] }))
