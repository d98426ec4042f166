import { expect, test } from '@playwright/test'
import { createPinia, setActivePinia } from 'pinia'
import { BufferGeometry, Mesh } from 'three'
import { api, Refused } from '../../resources/ts/api/client'
import { floats } from '../../resources/ts/api/floats'
import type { Piece, Run } from '../../resources/ts/api/types'
import { useCheck } from '../../resources/ts/stores/check'
import { useProject } from '../../resources/ts/stores/project'
import { useShown } from '../../resources/ts/stores/shown'
import { CellLines } from '../../resources/ts/view/CellLines'
import { ColourMap, SCALE } from '../../resources/ts/view/ColourMap'
import { Marks } from '../../resources/ts/view/Marks'
import { Shapes } from '../../resources/ts/view/shapes'

// No page: how answers and refusals of the server come in, what is asked for together, and what the card draws of them.

interface Asked {
    method: string
    path: string
    body: unknown
}

/** Stands in for the server: answers from a list of replies, by path. */
function server(reply: (asked: Asked) => Response | Promise<Response>): Asked[] {
    const asked: Asked[] = []
    globalThis.fetch = (input, init) => {
        const one = { method: init?.method ?? 'GET', path: String(input as string).replace('/api/v1', ''), body: typeof init?.body === 'string' ? (JSON.parse(init.body) as unknown) : undefined }
        asked.push(one)
        return Promise.resolve(reply(one))
    }
    return asked
}

const json = (body: unknown, status = 200) => new Response(JSON.stringify(body), { status })
const message = async (promise: Promise<unknown>) => promise.then(() => 'nothing', (error: unknown) => (error instanceof Refused ? error.message : 'another error'))

test('a refusal is the sentence of the server; without one there is a sentence all the same', async () => {
    server(() => json({ message: 'There is no piece to take; pick one.' }, 422))
    expect(await message(api.start(1, {} as never))).toBe('There is no piece to take; pick one.')
    server(() => new Response('<html>', { status: 502 }))
    expect(await message(api.project(1))).toBe('Isotome did not answer this as it should (502); try again.')
    server(() => json({}, 500))
    expect(await message(api.project(1))).toBe('Isotome did not answer this as it should (500); try again.')
    globalThis.fetch = () => Promise.reject(new TypeError('Failed to fetch'))
    expect(await message(api.shelf())).toBe('Isotome does not answer; check that it is still running, then try again.')
    // What never comes, and what comes in part.
    let signal: AbortSignal | null | undefined
    globalThis.fetch = (_, init) => {
        signal = init?.signal
        return Promise.reject(new DOMException('late', 'TimeoutError'))
    }
    expect(await message(api.project(1))).toBe('Isotome does not answer; check that it is still running, then try again.')
    expect(signal?.aborted).toBe(false)
    server(() => new Response('{"id": 4, "pie'))
    expect(await message(api.project(1))).toBe('What Isotome answered did not arrive whole; try again.')
    // A question that is no longer of interest is not a refusal.
    globalThis.fetch = () => Promise.reject(new DOMException('gone', 'AbortError'))
    expect(await message(api.section(1, { through: [0, 0, 0], facing: [0, 0, 1], pieces: null }))).toBe('another error')
})

test('what is asked has its method, its address and its body', async () => {
    const asked = server(({ method }) => (method === 'DELETE' ? new Response(null, { status: 204 }) : json({ id: 4 })))
    await api.change(3, { name: 'Left bearing' })
    await api.remove(3)
    await api.shelf(true)
    await api.edit(3, 7, { step: { do: 'mirror' }, pieces: [1] } as never)
    expect(asked).toEqual([
        { method: 'PATCH', path: '/projects/3', body: { name: 'Left bearing' } },
        { method: 'DELETE', path: '/projects/3', body: undefined },
        { method: 'GET', path: '/projects?removed=1', body: undefined },
        { method: 'PUT', path: '/projects/3/steps/7', body: { step: { do: 'mirror' }, pieces: [1] } },
    ])
    // What takes long is answered, or worked out by a run.
    const out = server(({ body }) => ((body as { as: string }).as === 'glb' ? json({ id: 'run', over: false }, 202) : json({ url: '/a', name: 'a.zip', bytes: 3 })))
    expect(await api.takeOut(3, 'glb', true, [1, 2], 1.8)).toEqual({ run: { id: 'run', over: false } })
    expect(await api.takeOut(3, 'stl', false, null)).toEqual({ answer: { url: '/a', name: 'a.zip', bytes: 3 } })
    expect(out).toEqual([
        { method: 'POST', path: '/projects/3/exports', body: { as: 'glb', together: true, density: 1.8, pieces: '1,2' } },
        { method: 'POST', path: '/projects/3/exports', body: { as: 'stl', together: false, density: null, pieces: null } },
    ])
    expect(decodeURIComponent(api.drawing(3, 'svg', { through: [0, 0, 1.5], facing: [0, -1, 0], pieces: [9] })))
        .toBe('/api/v1/projects/3/section.svg?through[]=0&through[]=0&through[]=1.5&facing[]=0&facing[]=-1&facing[]=0&pieces[]=9')
})

/** The smallest mesh: one triangle, as app/Meshes/Geometry.php sends it. */
function triangle(x: number): Uint8Array<ArrayBuffer> {
    const bytes = new ArrayBuffer(96)
    const view = new DataView(bytes)
    ;[...'ISO1'].forEach((letter, i) => view.setUint8(i, letter.charCodeAt(0)))
    view.setUint32(4, 3, true)
    view.setUint32(8, 1, true)
    view.setFloat64(16, x, true)
    ;[0, 0, 0, 1, 0, 0, 0, 1, 0].forEach((c, i) => view.setFloat32(40 + 4 * i, c, true))
    ;[0, 1, 2].forEach((v, i) => view.setUint32(76 + 4 * i, v, true))
    return new Uint8Array(bytes)
}

const several = (parts: Uint8Array[]) => {
    const bytes = new Uint8Array(parts.reduce((sum, part) => sum + 8 + part.length, 0))
    let at = 0
    for (const part of parts) {
        new DataView(bytes.buffer).setUint32(at, part.length, true)
        bytes.set(part, at + 8)
        at += 8 + part.length
    }
    return new Response(bytes)
}

const piece = (id: number, more: Partial<Piece> = {}): Piece => ({
    id, parent: null, parents: [], title: null, made_by: null, spent_by: null, fit: null, name: `post-${id}`, colour: '#888888', spent: false, mesh: `m${id}`, triangles: 12, vertices: 8,
    shells: 1, watertight: true, faults: { open_edges: 0, nonmanifold_edges: 0, flipped_edges: 0 }, volume: 1000, area: 600, min: [0, 0, 0], max: [40, 30, 20], centroid: [20, 15, 10], carries: [], ...more,
})
const settled = async (shapes: Shapes) => {
    for (let n = 0; n < 200 && shapes.waiting > 0; n++) await new Promise((resolve) => setTimeout(resolve))
}

test('small shapes come together, as many as the server sends at once, and each only once', async () => {
    // Fifty at a time at most.
    const asked = server(({ body }) => several((body as { meshes: string[] }).meshes.slice(0, 50).map((mesh) => triangle(Number(mesh.slice(1))))))
    const refused: unknown[] = []
    const shapes = new Shapes(() => undefined, (error) => refused.push(error))
    const pieces = Array.from({ length: 300 }, (_, n) => piece(n))
    shapes.need(pieces)
    shapes.need(pieces)
    expect(shapes.waiting).toBe(300)
    await settled(shapes)
    expect(refused).toEqual([])
    expect(pieces.map((one) => shapes.get(one.mesh)?.centre[0])).toEqual(pieces.map((one) => one.id))
    expect(asked.map((one) => (one.body as { meshes: string[] }).meshes.length)).toEqual([120, 120, 120, 120, 100, 50])
    // What no piece needs any more is let go of; it is fetched again when one does.
    shapes.need(pieces.slice(0, 2))
    expect(shapes.get('m5')).toBeUndefined()
    expect(shapes.get('m1')).toBeDefined()
    shapes.need(pieces.slice(4, 7))
    await settled(shapes)
    expect(shapes.get('m5')?.centre[0]).toBe(5)
    expect(asked.length).toBe(7)
})

test('a shape that does not come is said once, and asked for again', async () => {
    let works = false
    server(({ path }) => (works ? new Response(triangle(7)) : path.includes('geometry') ? json({ message: 'What was asked for is not here any more.' }, 404) : json({})))
    const refused: unknown[] = []
    const shapes = new Shapes(() => undefined, (error) => refused.push((error as Error).message))
    shapes.need([piece(7)])
    await settled(shapes)
    expect(refused).toEqual(['What was asked for is not here any more.'])
    expect([shapes.waiting, shapes.get('m7')]).toEqual([0, undefined])
    works = true
    shapes.need([piece(7)])
    await settled(shapes)
    expect(shapes.get('m7')?.centre[0]).toBe(7)
})

test('numbers of the server come as they were sent', () => {
    const list = new Float32Array([1.5, -2, 1e-20, 3e30])
    expect([...floats(btoa(String.fromCharCode(...new Uint8Array(list.buffer))))]).toEqual([...list])
    expect(floats('').length).toBe(0)
})

test('deviations are coloured along the scale, from nothing to the most', () => {
    const map = new ColourMap()
    map.show(new Float32Array([0, 0, 0, 0, 1, 0, 0, 0.5, 0, 1, 0, 1, 5, 5, 5, 9]), 1)
    const { geometry } = map.group.children[0] as Mesh
    const colours = geometry.getAttribute('shade')
    const hex = (v: number) => '#' + [colours.getX(v), colours.getY(v), colours.getZ(v)].map((c) => Math.round(255 * c).toString(16).padStart(2, '0')).join('')
    // What is beyond the most has its colour.
    expect([0, 1, 2, 3].map(hex)).toEqual([SCALE[0], SCALE[3], SCALE[6], SCALE[6]])
    expect([...geometry.getAttribute('position').array].slice(3, 9)).toEqual([1, 0, 0, 0, 1, 0])
    // A body that is its own reflection: nothing deviates.
    map.show(new Float32Array([0, 0, 0, 0]), 0)
    expect((map.group.children[0] as Mesh).geometry.getAttribute('shade').getX(0)).toBeCloseTo(parseInt(SCALE[0].slice(1, 3), 16) / 255)
    // Steps are told apart by lightness alone: each darker than the one before.
    const light = SCALE.map((one) => [1, 3, 5].reduce((sum, at, k) => sum + [0.2126, 0.7152, 0.0722][k] * (parseInt(one.slice(at, at + 2), 16) / 255) ** 2.2, 0))
    for (let n = 1; n < light.length; n++) expect(light[n]).toBeLessThan(0.85 * light[n - 1])
})

test('lines of cells are drawn in front, behind and within; none clears them', () => {
    const lines = new CellLines()
    const count = (n: number) => ((lines.group.children[n] as unknown as { geometry: BufferGeometry }).geometry.getAttribute('position') as { count: number } | undefined)?.count ?? 0
    lines.show(new Float32Array(12), new Float32Array(6))
    expect([0, 1, 2].map(count)).toEqual([4, 4, 2])
    lines.show(new Float32Array(), new Float32Array())
    expect([0, 1, 2].map(count)).toEqual([0, 0, 0])
})

test('marks are what they are asked to be, and go', () => {
    const marks = new Marks()
    marks.show({ triangles: [0, 0, 0, 1, 0, 0, 0, 1, 0], added: [0, 0, 0, 1, 0, 0, 0, 1, 0], lines: [0, 0, 0, 1, 1, 1], points: [0, 0, 0] })
    expect(marks.group.children.map((child) => child.type).sort()).toEqual(['LineSegments', 'LineSegments', 'Mesh', 'Mesh', 'Points'])
    marks.show({})
    expect(marks.group.children).toEqual([])
})

test('the Check station looks at the piece that is picked, else at the first that is not sound', async () => {
    setActivePinia(createPinia())
    server(() => json({}))
    const project = useProject()
    const check = useCheck()
    const run = null as Run | null
    project.project = { id: 1, name: 'Posts', file: 'posts.stl', units: 'mm', note: '', printer: null, inside: null, pieces: [], steps: [], history: { undo: null, redo: null }, run }
    expect(check.looked).toBeNull()
    project.project.pieces = [piece(1, { spent: true }), piece(2), piece(3, { watertight: false }), piece(4)]
    expect(check.looked?.id).toBe(3)
    check.piece = 4
    expect(check.looked?.id).toBe(4)
    project.picked = [2]
    expect(check.looked?.id).toBe(2)
    // What is spent cannot be looked at.
    project.picked = [1]
    check.piece = 1
    expect(check.looked?.id).toBe(3)
    // What is not known is not asked for; what is, is.
    const asked = server(() => json({ counts: {} }))
    await check.look()
    expect([asked.length, check.report]).toEqual([0, null])
    check.known = { m3: {} as never }
    await check.look()
    expect(asked.map((one) => one.path)).toEqual(['/meshes/m3/check'])
    expect(check.report).toEqual({ counts: {} })
    // An answer that comes when another piece is looked at is not shown for that one.
    let answer: (response: Response) => void = () => undefined
    globalThis.fetch = () => new Promise((resolve) => (answer = resolve))
    const looking = check.look()
    project.picked = [2]
    answer(json({ counts: { late: 1 } }))
    await looking
    expect(check.report).toBeNull()
})

test('the view flies to places with room around them, and to no place when there is none', () => {
    setActivePinia(createPinia())
    const shown = useShown()
    shown.flyTo([], 5)
    expect(shown.fly).toBeNull()
    shown.flyTo([1, 2, 3, -4, 8, 3], 2)
    expect(shown.fly).toEqual({ min: [-6, 0, 1], max: [3, 10, 5] })
    shown.mark({ points: [1, 2, 3] })
    shown.clear()
    expect(shown.marked).toEqual({})
})

test('what a piece became under its own name stays picked; what was cut out of it is not', () => {
    setActivePinia(createPinia())
    const project = useProject()
    const state = (pieces: Piece[]) => ({ id: 1, name: 'Posts', file: 'posts.stl', units: 'mm' as const, note: '', printer: null, inside: null, pieces, steps: [], history: { undo: null, redo: null }, run: null })
    project.take(state([piece(1), piece(2), piece(3)]))
    project.picked = [1, 2]
    // The first was moved twice, the second was cut.
    project.take(state([
        piece(1, { spent: true }), piece(4, { name: piece(1).name, parents: [1], spent: true }), piece(5, { name: piece(1).name, parents: [4] }),
        piece(2, { spent: true }), piece(6, { name: `${piece(2).name}-A`, parents: [2] }), piece(3),
    ]))
    expect(project.picked).toEqual([5])
})
