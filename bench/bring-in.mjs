// A mesh file brought in through HTTP, as the window does it: sent and read, then made into a project. node bench/bring-in.mjs SITE FILE [TIMES]
// Tells seconds of both, and the most memory that a process of the work had in between, as /proc counts it.
import { readdirSync, readFileSync } from 'node:fs'
import { readFile } from 'node:fs/promises'
import { basename } from 'node:path'

const [, , site, file, times = '3'] = process.argv
const root = `${site}/api/v1`
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms))

/** Resident memory of the largest PHP process, MB. */
function largest() {
    let most = 0
    for (const id of readdirSync('/proc').filter((name) => /^\d+$/.test(name))) {
        try {
            if (!readFileSync(`/proc/${id}/cmdline`, 'utf8').startsWith('php')) continue
            most = Math.max(most, Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${id}/status`, 'utf8'))?.[1] ?? 0) / 1024)
        } catch {
            // It ended meanwhile.
        }
    }
    return most
}

async function call(method, path, body) {
    const response = await fetch(root + path, { method, headers: { 'Content-Type': 'application/json', Accept: 'application/json' }, body: body && JSON.stringify(body) })
    if (!response.ok) throw new Error(`${path}: ${await response.text()}`)
    return response.status === 204 ? null : response.json()
}

const bytes = await readFile(file)
for (let n = 0; n < Number(times); n++) {
    let most = 0
    const watch = setInterval(() => { most = Math.max(most, largest()) }, 50)
    const start = performance.now()
    const upload = await (await fetch(`${root}/uploads?file=${encodeURIComponent(basename(file))}`, { method: 'POST', headers: { Accept: 'application/json', 'Content-Type': 'application/octet-stream' }, body: bytes })).json()
    const sent = performance.now()
    const made = await call('POST', '/projects', { uploads: [upload.id], name: `Bench ${n}`, units: 'mm' })
    let run = made.run
    while (!run.over) {
        await pause(50)
        run = await call('GET', `/runs/${run.id}`)
        if (process.env.PHASES) console.log(((performance.now() - sent) / 1000).toFixed(2), run.phase, run.progress)
    }
    const done = performance.now()
    clearInterval(watch)
    if (run.status !== 'done') throw new Error(run.message)
    console.log(`${(bytes.length / 1e6).toFixed(0)} MB, ${upload.report.triangles} triangles: sent and read ${((sent - start) / 1000).toFixed(1)} s, made ${((done - sent) / 1000).toFixed(1)} s, together ${((done - start) / 1000).toFixed(1)} s, at most ${most.toFixed(0)} MB a process`)
    await call('DELETE', `/projects/${made.id}`)
    await call('DELETE', `/projects/${made.id}/for-good`)
}
