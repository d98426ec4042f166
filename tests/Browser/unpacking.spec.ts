import { expect, test } from '@playwright/test'
import type { CheckReport } from '../../resources/ts/api/types'
import { FAULTS, placesOf } from '../../resources/ts/faults'
import { bytes, fitWords } from '../../resources/ts/format'
import { unpack } from '../../resources/ts/view/geometry'

// No page: what the card is given of a mesh, and the places of faults.

/** A mesh as the server sends it: see app/Meshes/Geometry.php. */
function packed(centre: number[], xyz: number[], corners: number[], tags: number[]): ArrayBuffer {
    const length = 40 + 4 * xyz.length + 4 * corners.length + 2 * tags.length
    const view = new DataView(new ArrayBuffer(Math.ceil(length / 8) * 8))
    ;[...'ISO1'].forEach((letter, i) => view.setUint8(i, letter.charCodeAt(0)))
    view.setUint32(4, xyz.length / 3, true)
    view.setUint32(8, tags.length, true)
    centre.forEach((c, i) => view.setFloat64(16 + 8 * i, c, true))
    xyz.forEach((c, i) => view.setFloat32(40 + 4 * i, c, true))
    corners.forEach((c, i) => view.setUint32(40 + 4 * xyz.length + 4 * i, c, true))
    tags.forEach((tag, i) => view.setUint16(40 + 4 * xyz.length + 4 * corners.length + 2 * i, tag, true))
    return view.buffer
}

const tetrahedron = [0, 2, 1, 0, 1, 3, 1, 2, 3, 2, 0, 3]
const places = [0, 0, 0, 3, 0, 0, 0, 3, 0, 0, 0, 3]

test('three corners a triangle, hard edges stay hard, the centre is exact', () => {
    const made = unpack(packed([1e6 + 0.1, 2, 3], places, tetrahedron, [0, 0, 0, 0]))
    expect(made.centre).toEqual([1e6 + 0.1, 2, 3])
    expect(made.position.length).toBe(36)
    expect([...made.position.slice(0, 9)]).toEqual([0, 0, 0, 0, 3, 0, 3, 0, 0])
    expect(made.radius).toBe(3)
    // The first face lies in z = 0 and looks down; its corners are not smoothed with their neighbours.
    for (let k = 0; k < 3; k++) expect([...made.normal.slice(3 * k, 3 * k + 3)].map((n) => n + 0)).toEqual([0, 0, -127])
    expect(made.rims.length).toBe(0)
})

test('faces that meet softly share a normal; skin and inside do not', () => {
    // Two triangles bent by 20 degrees along the edge from (0,0,0) to (0,1,0).
    const [c, s] = [Math.cos(Math.PI / 9), Math.sin(Math.PI / 9)]
    const bent = [0, 0, 0, 0, 1, 0, 1, 0, 0, -c, 0, s]
    const soft = unpack(packed([0, 0, 0], bent, [0, 2, 1, 0, 1, 3], [0, 0]))
    expect(soft.normal[0]).toBe(soft.normal[9])
    expect(soft.normal[0]).toBeGreaterThan(0)
    const parted = unpack(packed([0, 0, 0], bent, [0, 2, 1, 0, 1, 3], [0, 1]))
    expect([...parted.normal.slice(0, 3)].map((n) => n + 0)).toEqual([0, 0, 127])
    expect(parted.inside.join('')).toBe('000111')
    // The rim of the inside: its three edges, one of them towards the skin.
    expect(parted.rims.length).toBe(18)
})

test('what is no mesh is refused', () => {
    expect(() => unpack(new ArrayBuffer(64))).toThrow('not a mesh')
})

const report = {
    counts: { open_edges: 7, nonmanifold_edges: 1, flipped_edges: 0, doubled_faces: 2, sliver_faces: 0, crossing_faces: null, inner_faces: 0 },
    notes: { rims: 2, cavities: 0, handles: null, inverted_shells: 0, near_vertices: 1, isolated_vertices: 0 },
    sound: false,
    rims: [
        { length_mm: 12, edges: 4, closed: true, points: [0, 0, 0, 3, 0, 0, 3, 3, 0, 0, 3, 0] },
        { length_mm: 6, edges: 2, closed: false, points: [5, 0, 0, 8, 0, 0, 8, 3, 0] },
    ],
    lines: { open_edges: [], nonmanifold_edges: [0, 0, 0, 1, 1, 1], flipped_edges: [] },
    triangles: { doubled_faces: Array.from({ length: 18 }, (_, i) => i), inner_faces: [] },
    points: { near_vertices: [1, 2, 3] },
} as CheckReport

test('faults come worst first, each with places to fly to', () => {
    expect(FAULTS.map((kind) => kind.key).slice(0, 3)).toEqual(['rims', 'nonmanifold_edges', 'flipped_edges'])
    const found = FAULTS.filter((kind) => kind.count(report) > 0).map((kind) => [kind.key, kind.count(report)])
    expect(found).toEqual([['rims', 2], ['nonmanifold_edges', 1], ['doubled_faces', 2], ['near_vertices', 1]])
    for (const kind of FAULTS) expect([kind.print.length > 5, kind.cut.length > 5, kind.title.length > 3]).toEqual([true, true, true])
    // A closed rim comes back to its first point, an open one does not.
    const { kind, list } = placesOf(report, 'rims')
    expect([kind, list.map((one) => one.length)]).toEqual(['lines', [24, 12]])
    expect(list[0].slice(-3)).toEqual([0, 0, 0])
    expect(placesOf(report, 'nonmanifold_edges').list).toEqual([[0, 0, 0, 1, 1, 1]])
    expect(placesOf(report, 'doubled_faces')).toMatchObject({ kind: 'triangles', list: [{ length: 9 }, { length: 9 }] })
    expect(placesOf(report, 'near_vertices')).toEqual({ kind: 'points', list: [[1, 2, 3]] })
    expect(placesOf(report, 'sliver_faces').list).toEqual([])
})

test('how a piece fits, and how much room a project takes, in words', () => {
    expect(fitWords({ fits: true, how: 'stands', over_mm: 0 })).toBe('fits')
    expect(fitWords({ fits: true, how: 'turned', over_mm: 0 })).toBe('fits turned')
    expect(fitWords({ fits: true, how: 'laid down', over_mm: 0 })).toBe('fits laid down')
    expect(fitWords({ fits: false, how: 'too large', over_mm: 220.4 })).toBe('220 mm too large')
    expect(fitWords({ fits: false, how: 'too large', over_mm: 0.01 })).toBe('0.1 mm too large')
    expect([bytes(0), bytes(1), bytes(36_900), bytes(2_906_980), bytes(34_000_000)]).toEqual(['0 kB', '1 kB', '37 kB', '2.9 MB', '34 MB'])
})
