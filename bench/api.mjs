// What benches ask of a running Isotome: whatever is refused ends them.

export const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms))

/** Calls under SITE/api/v1. */
export function api(site) {
    const root = `${site}/api/v1`

    async function call(method, path, body) {
        const response = await fetch(root + path, { method, headers: { 'Content-Type': 'application/json', Accept: 'application/json' }, body: body && JSON.stringify(body) })
        if (!response.ok) throw new Error(`${path}: ${await response.text()}`)
        return response.status === 204 ? null : response.json()
    }

    /** Waits for the end of a run. */
    async function ended(run) {
        while (!run.over) {
            await pause(100)
            run = await call('GET', `/runs/${run.id}`)
        }
        if (run.status !== 'done') throw new Error(run.message)
    }

    /** A project of a mesh as STL; its number. */
    async function bringIn(name, bytes) {
        const upload = await (await fetch(`${root}/uploads?file=${encodeURIComponent(name)}.stl`, { method: 'POST', headers: { Accept: 'application/json', 'Content-Type': 'application/octet-stream' }, body: bytes })).json()
        const made = await call('POST', '/projects', { uploads: [upload.id], name, units: 'mm' })
        await ended(made.run)
        return made.id
    }

    return { call, ended, bringIn }
}
