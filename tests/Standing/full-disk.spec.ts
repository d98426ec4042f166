import { expect, test } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { endAll, pause, stl } from './isotome'
import { SmallDisk } from './small-disk'

test.afterEach(endAll)

const SAYS = /disk that holds Isotome's data is full/

test('a full disk is said as that, projects can be removed from it, and all recovers', async () => {
    test.setTimeout(300_000)
    const disk = SmallDisk.mount(8531, 140)
    test.skip(disk === null, 'this machine lets nobody mount a small file system')
    if (disk === null) return
    const { isotome } = disk
    try {
        await isotome.start()
        const one = await isotome.project('jar', 'First jar')
        const two = (await isotome.call<{ id: number }>('POST', `/projects/${one}/duplicate`)).body.id
        const large = await isotome.project('clay', 'Clay')

        // Foreseen: what would need more than there is is refused before it begins.
        disk.fill(10_000_000)
        const early = await isotome.cut(one, 0)
        expect([early.status, String((early.body as unknown as { message: string }).message)]).toEqual([507, expect.stringMatching(SAYS)])
        const zip = await isotome.call('GET', `/projects/${one}/pieces.zip`)
        expect([zip.status, String(zip.body.message)]).toEqual([507, expect.stringMatching(SAYS)])

        // Not foreseen: not a byte is left, whatever is asked.
        disk.fill()
        const upload = await isotome.call('POST', '/uploads?file=jar.stl', stl('clay'))
        expect([upload.status, String(upload.body.message)]).toEqual([507, expect.stringMatching(SAYS)])
        for (const [method, path, body] of [['PATCH', `/projects/${one}`, { note: 'x'.repeat(1500) }], ['POST', `/projects/${one}/steps`, { step: { do: 'cut', blade: { kind: 'flat', through: [0, 0, 0], facing: [0, 0, 1] } } }], ['POST', `/projects/${one}/undo`, {}], ['POST', `/projects/${one}/duplicate`, {}]] as const) {
            const answer = await isotome.call(method, path, body)
            expect(answer.status === 507 || answer.status < 500, `${path}: ${answer.status} ${JSON.stringify(answer.body)}`).toBe(true)
            if (answer.status === 507) expect(String(answer.body.message)).toMatch(SAYS)
        }
        // What is only read goes on.
        expect((await isotome.call('GET', '/projects')).status).toBe(200)
        expect((await isotome.call('POST', `/projects/${one}/section`, { through: [0, 0, 0], facing: [0, 0, 1] })).status).toBe(200)

        // A start on the full disk says so and serves.
        await isotome.stop()
        await isotome.start()
        expect(isotome.said.join('')).toMatch(SAYS)
        expect((await isotome.call('GET', '/projects')).status).toBe(200)

        // Removing makes room, with nothing else removed by hand: the space goes back to the disk.
        for (const id of [two, large]) {
            expect((await isotome.call('DELETE', `/projects/${id}`)).status).toBe(204)
            expect((await isotome.call('DELETE', `/projects/${id}/for-good`)).status).toBe(204)
        }
        await expect.poll(() => disk.free(), { timeout: 100_000 }).toBeGreaterThan(2_000_000)
        // The worker has not spun meanwhile.
        const spent = isotome.processes().filter(({ name }) => name.includes('isotome:work')).map(({ id }) => Number(execFileSync('ps', ['-o', 'cputimes=', '-p', String(id)]).toString()))
        expect(Math.max(...spent)).toBeLessThan(20)

        // Space again: everything goes on as if nothing had been.
        disk.clear()
        await pause(500)
        const run = await isotome.cut(one, 0)
        expect(run.status, JSON.stringify(run.body)).toBe(202)
        expect((await isotome.over(run.body.id)).status).toBe('done')
        expect((await isotome.show(one)).steps).toHaveLength(1)
        // The reserve is there again at the next start.
        await isotome.stop()
        await isotome.start()
        expect(existsSync(join(isotome.data, 'storage/reserve'))).toBe(true)
        await isotome.stop()
        expect(isotome.soundness()).toEqual([])
    } finally {
        await disk.remove()
    }
})
