// Latency of small writes and of the live section while 3,000 shards of a mesh of a million triangles are made and stored, and how long
// that takes; and of a step of 1,000 pieces run again.
//
//     node bench/standing.mjs http://127.0.0.1:PORT 1m.stl [SHARDS]
//
// The server is one that bin/up has started; compare by running it against two, one after the other, in one sitting.
import { readFileSync } from 'node:fs'
import { performance } from 'node:perf_hooks'

const [, , root, file, shards = '3000'] = process.argv
const api = `${root}/api/v1`
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms))

async function call(method, path, body) {
    const response = await fetch(api + path, { method, headers: { Accept: 'application/json', 'Content-Type': 'application/json' }, body: body === undefined ? undefined : JSON.stringify(body) })
    const text = await response.text()
    return { status: response.status, body: text ? JSON.parse(text) : null }
}

/** Earlier versions take a form. */
async function upload(name, bytes) {
    const raw = await fetch(`${api}/uploads?file=${name}`, { method: 'POST', headers: { Accept: 'application/json', 'Content-Type': 'application/octet-stream' }, body: bytes })
    if (raw.status === 201) return raw.json()
    const form = new FormData()
    form.append('file', new Blob([bytes]), name)
    return (await fetch(`${api}/uploads`, { method: 'POST', headers: { Accept: 'application/json' }, body: form })).json()
}

async function project(name, bytes) {
    const sent = await upload(`${name}.stl`, bytes)
    const made = await call('POST', '/projects', { uploads: [sent.id], name, units: 'mm' })
    await over(made.body.run.id)
    return made.body.id
}

async function over(id, phases) {
    for (;;) {
        const { body } = await call('GET', `/runs/${id}`)
        if (phases && body.phase) phases[body.phase.split(' ')[0]] ??= performance.now()
        if (body.over) return body
        await pause(50)
    }
}

const told = (values) => {
    const sorted = [...values].sort((a, b) => a - b)
    const at = (share) => (sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? NaN).toFixed(0)
    return `median ${at(0.5)} ms, 95 % ${at(0.95)} ms, largest ${at(1)} ms (${sorted.length})`
}

function box() {
    const bytes = Buffer.alloc(84 + 50 * 12)
    bytes.writeUInt32LE(12, 80)
    const corner = (n) => [n & 1 ? 100 : 0, n & 2 ? 100 : 0, n & 4 ? 100 : 0]
    const faces = [[0, 2, 3], [0, 3, 1], [4, 5, 7], [4, 7, 6], [0, 1, 5], [0, 5, 4], [2, 6, 7], [2, 7, 3], [0, 4, 6], [0, 6, 2], [1, 3, 7], [1, 7, 5]]
    faces.forEach((face, t) => face.forEach((n, k) => corner(n).forEach((c, i) => bytes.writeFloatLE(c, 84 + 50 * t + 12 + 12 * k + 4 * i))))
    return bytes
}

const million = await project('Million', readFileSync(file))
const small = await project('Small', box())
const blade = { through: [0, 0, 50], facing: [0.1, 0.2, 1] }

async function measure(until) {
    const writes = []
    const sections = []
    const codes = {}
    let going = true
    const loop = async (times, ask) => {
        while (going) {
            const start = performance.now()
            const { status } = await ask()
            codes[status] = (codes[status] ?? 0) + 1
            times.push(performance.now() - start)
            await pause(20)
        }
    }
    const loops = [loop(writes, () => call('PATCH', `/projects/${small}`, { note: String(Math.random()) })), loop(sections, () => call('POST', `/projects/${small}/section`, blade))]
    const end = await until()
    going = false
    await Promise.all(loops)
    return { writes, sections, codes, end }
}

const quiet = await measure(() => pause(5000))
console.log(`quiet: small writes ${told(quiet.writes)}; live section ${told(quiet.sections)}`)

const start = performance.now()
const run = await call('POST', `/projects/${million}/steps`, { step: { do: 'cut', blade: { kind: 'cells', by: 'uniform', count: Number(shards), seed: 3 } } })
const phases = {}
const busy = await measure(() => over(run.body.id, phases))
const seconds = (performance.now() - start) / 1000
console.log(`${shards} shards: ${seconds.toFixed(1)} s in all, ${((performance.now() - (phases.measuring ?? phases.storing ?? start)) / 1000).toFixed(1)} s from measuring to stored; ${busy.end.status}: ${busy.end.message}`)
console.log(`  meanwhile: small writes ${told(busy.writes)}; live section ${told(busy.sections)}; answers ${JSON.stringify(busy.codes)}`)

const blocks = (size) => ({ step: { do: 'cut', blade: { kind: 'cells', by: 'blocks', size } } })
const made = await call('POST', `/projects/${small}/steps`, blocks([10, 10, 10]))
await over(made.body.id)
const step = (await call('GET', `/projects/${small}`)).body.steps[0].id
const again = performance.now()
const rerun = await call('PUT', `/projects/${small}/steps/${step}`, blocks([10, 10, 9.5]))
const done = await over(rerun.body.id)
console.log(`a step of 1,000 pieces run again: ${((performance.now() - again) / 1000).toFixed(1)} s; ${done.message}`)
