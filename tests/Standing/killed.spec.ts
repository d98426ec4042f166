import { expect, test } from '@playwright/test'
import { mkdtempSync, realpathSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chance, endAll, Isotome, pause } from './isotome'

test.afterEach(endAll)

/** Cuts and takes back, again and again, and knows how many steps there must be, whatever happens to the answers. */
class Cutter {
    cuts = 0

    unsure = 0

    readonly wrong: string[] = []

    /** Requests that nobody answered and that have had no effect yet: each may still have it, once, for it may wait in the web server. */
    private readonly late = { cut: 0, rejoin: 0 }

    constructor(private readonly isotome: Isotome, private readonly project: number, private readonly random: () => number) {}

    async once(): Promise<void> {
        const before = (await this.settled()).steps.length
        const asked = await this.isotome.cut(this.project, -3 + 6 * this.random()).catch(() => null)
        let certain: boolean | null = null
        if (asked?.status === 202) {
            const run = await this.isotome.over(asked.body.id)
            certain = run.status === 'done'
            if (run.status === 'failed' && !/broken off/.test(String(run.message))) this.wrong.push(`failed: ${run.message}`)
        } else if (asked !== null && asked.status < 500) {
            // Refused because a late one is at work: it is not this one's turn.
            if (this.late.cut === 0 || !/still at work/.test(JSON.stringify(asked.body))) this.wrong.push(`refused with ${asked.status}: ${JSON.stringify(asked.body)}`)
            certain = false
        } else if (asked !== null && asked.status !== 503) {
            this.wrong.push(`answered with ${asked.status}: ${JSON.stringify(asked.body)}`)
        } else {
            // Nobody answered: it may have begun or not, but not twice.
            this.unsure++
            this.late.cut++
        }
        const after = (await this.settled()).steps.length
        this.check(before + (certain === true ? 1 : 0), after, certain === true ? 'one cut that was done' : certain === false ? 'a cut that was not done' : 'a cut that nobody answered')
        this.cuts += after - before
        if (after > 0) {
            const answer = await this.isotome.call('POST', `/projects/${this.project}/rejoin`).catch(() => null)
            const isDone = answer?.status === 200
            if (answer === null || answer.status >= 500) this.late.rejoin++
            const left = (await this.settled()).steps.length
            this.check(after - (isDone ? 1 : 0), left, isDone ? 'one rejoining' : 'a rejoining that was not answered as done')
        }
    }

    /** What is more or less than it should be must be what late requests did. */
    private check(due: number, found: number, words: string): void {
        const [what, by] = found > due ? (['cut', found - due] as const) : (['rejoin', due - found] as const)
        if (by > this.late[what]) this.wrong.push(`${words} left ${found} steps where ${due} are due, and ${this.late[what]} are late`)
        else this.late[what] -= by
    }

    /** The project when nothing is at work on it. */
    private async settled() {
        for (let n = 0; n < 1200; n++) {
            const answer = await this.isotome.show(this.project).catch(() => null)
            if (answer && Array.isArray(answer.steps) && (answer.run === null || answer.run.over)) return answer
            await pause(100)
        }
        throw new Error('the project does not come to rest')
    }
}

test('fifty kills of any process at random moments under load: nothing is lost, doubled or locked', async () => {
    const isotome = new Isotome(8511)
    await isotome.start({ ISOTOME_WORKERS: '2' })
    const cutters = []
    for (const [n, kind] of ['jar', 'jar', 'clay'].entries()) cutters.push(new Cutter(isotome, await isotome.project(kind, `Jar ${n}`), chance(100 + n)))
    const random = chance(7)
    let killing = true
    const work = cutters.map(async (cutter) => {
        while (killing) await cutter.once()
    })
    const killed: Record<string, number> = {}
    for (let n = 0; n < 50; n++) {
        await pause(200 + 1200 * random())
        // Of every kind as often as of any other, however many of it there are; the one that looks after all of them now and then.
        const kinds = new Map<string, number[]>()
        for (const { id, name } of isotome.processes()) {
            const kind = /supervisord|bin\/part|nginx: \w+|php-fpm: \w+|isotome:\w+|cli\/read/.exec(name)?.[0]
            if (kind !== undefined && (kind !== 'supervisord' || random() < 0.3)) kinds.set(kind, [...(kinds.get(kind) ?? []), id])
        }
        const kind = [...kinds.keys()][Math.floor(random() * kinds.size)]
        if (kind === undefined) continue
        const ids = kinds.get(kind) ?? []
        const victim = ids[Math.floor(random() * ids.length)]
        killed[kind] = (killed[kind] ?? 0) + 1
        try {
            process.kill(victim, 'SIGKILL')
        } catch {
            // It ended by itself.
        }
    }
    killing = false
    await Promise.all(work)
    console.log('killed:', killed, 'cuts:', cutters.map((cutter) => cutter.cuts), 'unanswered:', cutters.map((cutter) => cutter.unsure))
    expect(cutters.flatMap((cutter) => cutter.wrong)).toEqual([])
    // And when the killing is over, everything works as before.
    await isotome.answersWithin(30)
    await pause(3000)
    const before = cutters.map((cutter) => cutter.cuts)
    for (const cutter of cutters) await cutter.once()
    expect(cutters.map((cutter) => cutter.cuts)).toEqual(before.map((cuts) => cuts + 1))
    expect(cutters.flatMap((cutter) => cutter.wrong)).toEqual([])
    await isotome.stop()
    expect(isotome.soundness()).toEqual([])
    isotome.remove()
})

test('stops and starts in the middle of work: one request is one step, whatever way it ends', async () => {
    // A folder as people name them.
    const isotome = new Isotome(8512, join(realpathSync(mkdtempSync(join(tmpdir(), 'isotome-standing-'))), "Mühle's data, 2nd (copy)"))
    await isotome.start()
    const project = await isotome.project('clay', 'Stopped jar')
    const ends = ['SIGTERM', 'SIGINT', 'SIGKILL', 'SIGHUP', 'SIGKILL', 'SIGTERM'] as const
    for (const [n, signal] of ends.entries()) {
        const run = await isotome.cut(project, -2 + 0.5 * n)
        expect(run.status).toBe(202)
        await pause(120 * n)
        if (signal === 'SIGKILL') {
            // Whoever starts again at once waits for what the killed one has left, or is refused in a sentence.
            process.kill(isotome.upProcess, 'SIGKILL')
        } else {
            process.kill(isotome.upProcess, signal)
        }
        await isotome.start()
        expect((await isotome.over(run.body.id)).status).toBe('done')
        await pause(700)
        expect((await isotome.show(project)).steps.length, `after ${signal}`).toBe(n + 1)
    }
    await isotome.stop('SIGHUP')
    expect(isotome.soundness()).toEqual([])
    isotome.remove()
})
