import { expect, test } from '@playwright/test'
import { chance, endAll, Isotome, pause, quantile } from './isotome'

test.afterEach(endAll)

const SECONDS = 60

/** A person with two hands full: looks, asks, changes, cuts and takes back without waiting for the others. */
async function person(isotome: Isotome, project: number, seed: number, end: number, seen: Map<string, number>, waits: number[]): Promise<void> {
    const random = chance(seed)
    while (Date.now() < end) {
        const blade = { through: [0, 0, -5 + 10 * random()], facing: [0, 0.1, 1] }
        const [method, path, body] = ([
            ['GET', `/projects/${project}`], ['POST', `/projects/${project}/section`, blade], ['POST', `/projects/${project}/section/sides`, blade], ['GET', '/projects'], ['PATCH', `/projects/${project}`, { note: `note ${random()}` }],
            ['POST', `/projects/${project}/steps`, { step: { do: 'cut', blade: { kind: 'flat', ...blade } } }], ['POST', `/projects/${project}/undo`], ['POST', `/projects/${project}/redo`], ['POST', `/projects/${project}/rejoin`], ['GET', `/projects/${project}/recipe.json`], ['GET', `/projects/${project}/pieces.zip`],
            ['POST', `/projects/${project}/profile`, blade], ['cancel', ''],
        ] as [string, string, unknown?][])[Math.floor(random() * 13)]
        const start = performance.now()
        if (method === 'cancel') {
            const run = (await isotome.show(project)).run
            if (run && !run.over && random() < 0.3) await isotome.call('POST', `/runs/${run.id}/cancel`)
            continue
        }
        const answer = await isotome.call(method, path, body)
        if (method === 'PATCH') waits.push(performance.now() - start)
        const kind = answer.status >= 500 ? `${answer.status} ${method} ${path}: ${JSON.stringify(answer.body).slice(0, 200)}` : String(answer.status)
        seen.set(kind, (seen.get(kind) ?? 0) + 1)
        await pause(100 * random())
    }
}

for (const [name, projects, port] of [['one project', 1, 8521], ['twenty projects', 20, 8522]] as const) {
    test(`twenty people on ${name} for ${SECONDS} s: no error of the program`, async () => {
        const isotome = new Isotome(port)
        await isotome.start({ ISOTOME_WORKERS: '2' })
        const ids = [await isotome.project('jar', 'Shared jar')]
        while (ids.length < projects) ids.push((await isotome.call<{ id: number }>('POST', `/projects/${ids[0]}/duplicate`)).body.id)
        const seen = new Map<string, number>()
        const waits: number[] = []
        const end = Date.now() + SECONDS * 1000
        await Promise.all(Array.from({ length: 20 }, (_, n) => person(isotome, ids[n % ids.length], 500 + n, end, seen, waits)))
        for (const id of ids) {
            const run = (await isotome.show(id)).run
            if (run && !run.over) await isotome.over(run.id)
        }
        console.log(Object.fromEntries(seen), `small writes: median ${quantile(waits, 0.5).toFixed(0)} ms, 95 % ${quantile(waits, 0.95).toFixed(0)} ms, largest ${Math.max(...waits).toFixed(0)} ms`)
        expect([...seen.keys()].filter((kind) => kind.startsWith('5'))).toEqual([])
        expect(seen.get('202') ?? 0).toBeGreaterThan(5)
        await isotome.stop()
        expect(isotome.soundness()).toEqual([])
        isotome.remove()
    })
}
