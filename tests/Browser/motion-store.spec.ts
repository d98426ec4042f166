import { expect, test } from '@playwright/test'
import { createPinia, setActivePinia } from 'pinia'
import { useMotion } from '../../resources/ts/stores/motion'
import { useProject } from '../../resources/ts/stores/project'

// No page: how a movement is kept while answers are slow.

const json = (body: unknown) => new Response(JSON.stringify(body), { status: 200, headers: { 'Content-Type': 'application/json' } })
const soon = (ms: number) => new Promise<void>((done) => setTimeout(done, ms))

test('what is changed while the movement is being kept goes out afterwards with the version of that answer', async () => {
    Object.assign(globalThis, { window: globalThis, requestAnimationFrame: () => 0, cancelAnimationFrame: () => undefined })
    setActivePinia(createPinia())
    useProject().project = { id: 7, name: 'Posts', file: 'posts.stl', units: 'mm', note: '', printer: null, inside: null, pieces: [], steps: [], history: { undo: null, redo: null }, run: null }
    const kept: { version: number; layers: number }[] = []
    const answers: (() => void)[] = []
    globalThis.fetch = (url, init) => {
        const path = String(url)
        if (init?.method !== 'PUT') return path.endsWith('/movement') ? Promise.resolve(json({ version: 3, movement: null })) : new Promise(() => undefined)
        const body = JSON.parse(String(init.body)) as { version: number; movement: { layers: unknown[] } }
        kept.push({ version: body.version, layers: body.movement.layers.length })
        return new Promise((resolve) => answers.push(() => resolve(json({ version: body.version + 1 }))))
    }
    const motion = useMotion()
    await motion.open()
    expect(motion.version).toBe(3)
    motion.add('spread')
    await soon(400)
    motion.add('wave')
    await soon(400)
    expect(kept).toEqual([{ version: 3, layers: 1 }])
    answers.shift()?.()
    await soon(50)
    expect(kept).toEqual([{ version: 3, layers: 1 }, { version: 4, layers: 2 }])
    answers.shift()?.()
    await soon(50)
    expect([motion.version, motion.problem, motion.layers.length]).toEqual([5, '', 2])
})
