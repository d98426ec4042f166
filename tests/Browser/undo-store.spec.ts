import { expect, test } from '@playwright/test'
import { createPinia, setActivePinia } from 'pinia'
import { useCheck } from '../../resources/ts/stores/check'
import { useProject } from '../../resources/ts/stores/project'

// No page: what becomes of an undo that is asked for while something is at work.

const json = (body: unknown) => new Response(JSON.stringify(body), { status: 200, headers: { 'Content-Type': 'application/json' } })
const run = (kind: string, status: string, over: boolean) => ({ id: 'one', kind, status, phase: '', progress: 0, message: over ? 'Stopped; nothing was changed.' : null, over, worker: true })
const told = (name: string) => ({ id: 7, name, file: 'posts.stl', units: 'mm' as const, note: '', printer: null, inside: null, pieces: [], steps: [], history: { undo: 'the mend', redo: null }, run: null })

/** A server with one run of this kind, which ends only when it is stopped. */
function server(kind: string): { asked: string[]; start: (late?: number) => void } {
    const asked: string[] = []
    let over = false
    Object.assign(globalThis, { window: globalThis })
    setActivePinia(createPinia())
    const project = useProject()
    project.project = told('Posts')
    let late = 0
    globalThis.fetch = async (url, init) => {
        const path = `${init?.method ?? 'GET'} ${String(url).replace(/^.*\/v1/, '')}`
        if (path === 'POST /projects/7/checks' && late) await new Promise((done) => setTimeout(done, late))
        if (init?.method && init.method !== 'GET') asked.push(path)
        if (path.endsWith('/cancel')) over = true
        if (path.endsWith('/undo')) return json({ said: 'Undone: the mend.', project: told('undone') })
        return json(/runs|^POST/.test(path) ? run(kind, over ? 'cancelled' : 'running', over) : path.includes('checks') ? {} : told('Posts'))
    }
    return { asked, start: (wait = 0) => {
        late = wait
        void (kind === 'check' ? useCheck().check() : project.follow(run(kind, 'running', false) as never))
    } }
}

test('a check that is at work is stopped for it', async () => {
    const { asked, start } = server('check')
    start()
    await expect.poll(() => useProject().busy).toBe(true)
    expect([useProject().checking, useProject().held, useProject().busyWords]).toEqual([true, false, 'A check is at work.'])
    await useProject().undo()
    expect(asked).toEqual(['POST /projects/7/checks', 'POST /runs/one/cancel', 'POST /projects/7/undo'])
    expect([useProject().project?.name, useProject().result, useProject().problem, useProject().busy]).toEqual(['undone', 'Undone: the mend.', '', false])
})

test('a check that is only just being asked for is stopped for it as well', async () => {
    const { asked, start } = server('check')
    start(200)
    await useProject().undo()
    expect(asked).toEqual(['POST /projects/7/checks', 'POST /runs/one/cancel', 'POST /projects/7/undo'])
    expect(useProject().result).toBe('Undone: the mend.')
})

test('while a step is at work it says that it has to wait', async () => {
    const { asked, start } = server('mend')
    start()
    await useProject().undo()
    expect(asked).toEqual([])
    expect(useProject().problem).toBe('A step is at work. Wait for it, or stop it first.')
})
