import { expect, test } from '@playwright/test'
import { endAll, Isotome, pause, stl, type Run } from './isotome'

test.afterEach(endAll)

interface Said {
    message: string
}

const upload = async (isotome: Isotome, kind: string, name: string): Promise<string> => {
    const made = await isotome.call<{ id: string }>('POST', `/uploads?file=${encodeURIComponent(name)}.stl`, stl(kind))
    expect(made.status, JSON.stringify(made.body)).toBe(201)
    return made.body.id
}

/** Kills processes of one kind the hard way; says how many. */
function kill(isotome: Isotome, what: RegExp): number {
    const found = isotome.processes().filter(({ name }) => what.test(name))
    for (const { id } of found) process.kill(id, 'SIGKILL')
    return found.length
}

/** Brings in as a person does: what is refused because something else is at work is tried again when that has ended. */
async function bringIn(isotome: Isotome, project: number, id: string, refusals: string[]): Promise<Run> {
    for (;;) {
        const asked = await isotome.call<Run & Said>('POST', `/projects/${project}/meshes`, { uploads: [id], units: 'mm' })
        if (asked.status === 202) return isotome.over(asked.body.id)
        refusals.push(`${asked.status}: ${asked.body.message}`)
        if (!/still at work/.test(asked.body.message)) return { id: '', status: `refused with ${asked.status}`, over: true, message: asked.body.message }
        await pause(100)
    }
}

test('three people bring meshes into one project at once, two of them the same file, while workers are killed', async () => {
    const isotome = new Isotome(8551)
    await isotome.start()
    const project = await isotome.project('jar', 'Shared jar')
    const [one, two, same] = [await upload(isotome, 'clay', 'Clay'), await upload(isotome, 'bracket', 'Bracket'), await upload(isotome, 'clay', 'Clay')]
    const refusals: string[] = []
    const all = Promise.all([one, two, same].map((id) => bringIn(isotome, project, id, refusals)))
    let kills = 0
    for (let n = 0; n < 3; n++) {
        await pause(400)
        kills += kill(isotome, /isotome:work(?! questions)/)
    }
    expect(kills).toBeGreaterThan(0)
    // What was broken off again and again ends in a sentence, and nothing of it is left; the others are there once each.
    const ended = await all
    const done = ended.filter((run) => run.status === 'done').length
    expect(ended.filter((run) => run.status !== 'done').map((run) => run.message).filter((message) => !/broken off/.test(String(message)))).toEqual([])
    expect(refusals.filter((refusal) => !/^4\d\d: .*still at work/.test(refusal))).toEqual([])
    const { pieces } = await isotome.show(project)
    expect(pieces).toHaveLength(1 + done)
    expect(new Set(pieces.map(({ name }) => name)).size).toBe(pieces.length)
    // An upload is used once: who asks for it again is told so.
    const [first] = [one, two, same].filter((_, n) => ended[n]?.status === 'done')
    if (first !== undefined) {
        const again = await isotome.call<Said>('POST', `/projects/${project}/meshes`, { uploads: [first], units: 'mm' })
        expect(again.status).toBe(422)
        expect(again.body.message).toMatch(/\.$/)
    }
    await isotome.stop()
    expect(isotome.soundness()).toEqual([])
    isotome.remove()
})

test('a mend that is being tried out comes out the same when its process is killed, and twelve who ask for it get one run', async () => {
    const isotome = new Isotome(8552)
    await isotome.start()
    const ask = async (project: number) => {
        const { pieces } = await isotome.show(project)
        return isotome.call<Run & Said & { did: Record<string, number>; added: number; added_faces: unknown }>('POST', `/projects/${project}/steps/foresee`, { step: { do: 'mend' }, pieces: [pieces[0]?.id] })
    }
    const calm = await isotome.project('panels', 'Float')
    const undisturbed = await ask(calm)
    expect(undisturbed.status).toBe(202)
    expect((await isotome.over(undisturbed.body.id)).status).toBe('done')
    const answer = await ask(calm)
    expect([answer.status, answer.body.did.redrawn]).toEqual([200, 1280])
    // The same in another project, once the answer has gone with the first one.
    expect((await isotome.call('DELETE', `/projects/${calm}`)).status).toBe(204)
    expect((await isotome.call('DELETE', `/projects/${calm}/for-good`)).status).toBe(204)
    const again = await isotome.project('panels', 'Float')
    const asked = await Promise.all(Array.from({ length: 12 }, () => ask(again)))
    expect(asked.map(({ status }) => status)).toEqual(Array.from({ length: 12 }, () => 202))
    expect(new Set(asked.map(({ body }) => body.id)).size).toBe(1)
    let kills = 0
    for (let n = 0; n < 3; n++) {
        await pause(500)
        kills += kill(isotome, /isotome:work questions/)
    }
    expect(kills).toBeGreaterThan(0)
    expect((await isotome.over(asked[0]?.body.id ?? '')).status).toBe('done')
    const kept = await ask(again)
    expect([kept.status, kept.body.added]).toEqual([200, answer.body.added])
    expect(JSON.stringify(kept.body.added_faces) === JSON.stringify(answer.body.added_faces)).toBe(true)
    await isotome.stop()
    expect(isotome.soundness()).toEqual([])
    isotome.remove()
})
