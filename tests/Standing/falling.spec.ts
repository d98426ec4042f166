import { expect, test } from '@playwright/test'
import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { endAll, Isotome, pause, type Answer, type Run } from './isotome'
import { SmallDisk } from './small-disk'

test.afterEach(endAll)

const drop = (bounce: number, frames = 50) => ({ movement: { isotome_movement: 1, fps: 25, frames, layers: [{ do: 'drop', floor: -150, bounce }] } })

/** A body in so many shards. */
async function shattered(isotome: Isotome, name: string, count: number): Promise<number> {
    const id = await isotome.project('clay', name)
    const run = await isotome.call<Run>('POST', `/projects/${id}/steps`, { step: { do: 'cut', blade: { kind: 'cells', by: 'even', count, seed: 4 } } })
    expect(run.status, JSON.stringify(run.body)).toBe(202)
    expect((await isotome.over(run.body.id)).status).toBe('done')
    return id
}

const ask = (isotome: Isotome, id: number, body: unknown) => isotome.call<Run & { url: string; message: string }>('POST', `/projects/${id}/movement/poses`, body)

/** The poses that are kept of a movement. */
async function poses(isotome: Isotome, id: number, body: unknown): Promise<Buffer> {
    const kept = await ask(isotome, id, body)
    expect(kept.status, JSON.stringify(kept.body)).toBe(200)
    return Buffer.from(await (await fetch(`${isotome.root}${new URL(kept.body.url, isotome.root).pathname}`)).arrayBuffer())
}

/** Frames of falls that are under way, as the window reads them. What a killed process wrote itself is swept after some hours. */
const left = (isotome: Isotome) => readdirSync(join(isotome.data, 'storage/downloads')).filter((name) => /^[0-9a-f]{64}\.frames$/.test(name))

test('a fall whose process is killed again and again comes out as one that nobody disturbed', async () => {
    const isotome = new Isotome(8541)
    await isotome.start()
    const id = await shattered(isotome, 'Falling jar', 60)
    const calm = await ask(isotome, id, drop(0.2))
    expect((await isotome.over(calm.body.id)).status).toBe('done')
    const undisturbed = await poses(isotome, id, drop(0.2))
    expect(undisturbed.length).toBeGreaterThan(60 * 50 * 64)

    // The same shards in another project, so that it is worked out anew: answers go with the project that asked first.
    expect((await isotome.call('DELETE', `/projects/${id}`)).status).toBe(204)
    expect((await isotome.call('DELETE', `/projects/${id}/for-good`)).status).toBe(204)
    const again = await shattered(isotome, 'Falling jar', 60)
    const run = await ask(isotome, again, drop(0.2))
    expect(run.status).toBe(202)
    let kills = 0
    for (let n = 0; n < 3; n++) {
        // When it is well under way.
        await expect.poll(async () => (await (await fetch(`${isotome.root}/api/v1/runs/${run.body.id}/frames?from=0`)).arrayBuffer()).byteLength, { timeout: 60_000, intervals: [50] }).toBeGreaterThan(0)
        for (const { id: victim, name } of isotome.processes()) {
            if (!/isotome:work questions/.test(name)) continue
            process.kill(victim, 'SIGKILL')
            kills++
        }
        await pause(1500)
    }
    expect(kills).toBeGreaterThan(0)
    expect((await isotome.over(run.body.id)).status).toBe('done')
    expect((await poses(isotome, again, drop(0.2))).equals(undisturbed)).toBe(true)
    expect(left(isotome)).toEqual([])
    await isotome.stop()
    expect(isotome.soundness()).toEqual([])
    isotome.remove()
})

test('falls asked for by many at once: the same one is worked out once, too many are refused in a sentence, and each can be stopped', async () => {
    const isotome = new Isotome(8542)
    await isotome.start()
    const ids = [await shattered(isotome, 'Wanted jar', 20), await shattered(isotome, 'Wanted jar', 20)]
    const refused: string[] = []
    const runs = new Set<string>()
    const take = (answer: Answer<Run & { message: string }>) => {
        expect(answer.status, JSON.stringify(answer.body)).toBeLessThan(500)
        if (answer.status === 202) runs.add(answer.body.id)
        else if (answer.status !== 200) refused.push(answer.body.message)
    }
    // The same by twelve, in one project: one run.
    for (const answer of await Promise.all(Array.from({ length: 12 }, () => ask(isotome, ids[0], drop(0.1))))) take(answer)
    expect(runs.size).toBe(1)
    expect(refused).toEqual([])
    // Thirty different ones.
    for (const answer of await Promise.all(Array.from({ length: 30 }, (_, n) => ask(isotome, ids[0], drop(0.2 + 0.01 * n, 2000))))) take(answer)
    expect(runs.size).toBe(4)
    expect(new Set(refused)).toEqual(new Set(['Four questions of this project are being worked out already; wait for one of them, or stop it first.']))
    // Another project with the very same pieces asks what is being worked out there: neither disturbs the other.
    take(await ask(isotome, ids[1], drop(0.1)))
    // All are stopped but the first ones, one of them long after it has begun.
    const [first, ...others] = [...runs]
    for (const one of others.slice(0, 3)) expect((await isotome.call('POST', `/runs/${one}/cancel`)).status).toBeLessThan(300)
    for (const one of [first, ...others]) expect((await isotome.over(one)).status, one).toBe(others.slice(0, 3).includes(one) ? 'cancelled' : 'done')
    expect((await poses(isotome, ids[0], drop(0.1))).equals(await poses(isotome, ids[1], drop(0.1)))).toBe(true)
    // Steps were not kept waiting: they have a lane of their own.
    const settle = await isotome.call<Run>('POST', `/projects/${ids[0]}/steps`, { step: { do: 'settle', ...drop(0.1), frame: 49 } })
    expect((await isotome.over(settle.body.id)).message).toMatch(/^As they are at frame 49: \d+ pieces, all watertight/)
    expect(left(isotome)).toEqual([])
    await isotome.stop()
    expect(isotome.soundness()).toEqual([])
    isotome.remove()
})

test('a fall during which the disk becomes full is taken up again or ends in a sentence, and so is all that comes after it', async () => {
    const disk = SmallDisk.mount(8543, 120)
    test.skip(disk === null, 'this machine lets nobody mount a small file system')
    if (disk === null) return
    const { isotome } = disk
    try {
        await isotome.start()
        const id = await shattered(isotome, 'Full jar', 20)
        const run = await ask(isotome, id, drop(0.1, 1500))
        expect(run.status, JSON.stringify(run.body)).toBe(202)
        await expect.poll(async () => (await (await fetch(`${isotome.root}/api/v1/runs/${run.body.id}/frames?from=0`)).arrayBuffer()).byteLength, { timeout: 60_000, intervals: [50] }).toBeGreaterThan(0)
        disk.fill()
        await pause(3000)
        disk.clear()
        const ended = await isotome.over(run.body.id)
        // Said, or taken up again when there was room.
        if (ended.status !== 'done') expect(ended.message).toMatch(/room|full/)
        await expect.poll(() => left(isotome), { timeout: 10_000 }).toEqual([])
        // With room it goes as always.
        const next = await ask(isotome, id, drop(0.1, 60))
        expect((await isotome.over(next.body.id)).status).toBe('done')
        await isotome.stop()
        expect(isotome.soundness()).toEqual([])
    } finally {
        await disk.remove()
    }
})
