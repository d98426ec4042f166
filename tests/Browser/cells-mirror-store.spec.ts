import { expect, test } from '@playwright/test'
import { createPinia, setActivePinia } from 'pinia'
import { Vector3 } from 'three'
import type { CellsForecast, MirrorForecast, Piece, Step, Vector } from '../../resources/ts/api/types'
import { useBlade } from '../../resources/ts/stores/blade'
import { useCells } from '../../resources/ts/stores/cells'
import { useMirror } from '../../resources/ts/stores/mirror'
import { useProject } from '../../resources/ts/stores/project'
import { aboutAxis, overPlane, overPlanes } from '../../resources/ts/view/Reflections'

// No page: what is asked for cells and mirrors as they are set, what is said of the answers, and that a step comes back as it was.

const piece = (id: number): Piece => ({
    id, parent: null, parents: [], title: null, made_by: null, spent_by: null, fit: null, name: `post-${id}`, colour: '#888888', spent: false, mesh: `m${id}`, triangles: 12, vertices: 8,
    shells: 1, watertight: true, faults: { open_edges: 0, nonmanifold_edges: 0, flipped_edges: 0 }, volume: 1000, area: 600, min: [0, 0, 0], max: [40, 30, 20], centroid: [20, 15, 10], carries: [],
})
const step = (settings: Step['settings']): Step => ({ id: 1, number: 1, settings, long: {}, report: { took: [], gave: [], seconds: 0 } })

function stores(pieces: Piece[] = [piece(1)]) {
    setActivePinia(createPinia())
    // Nothing answers here; what is asked is of no interest.
    globalThis.fetch = () => new Promise(() => undefined)
    const project = useProject()
    project.project = { id: 1, name: 'Posts', file: 'posts.stl', units: 'mm', note: '', printer: null, inside: null, pieces, steps: [], history: { undo: null, redo: null }, run: null }
    return { project, blade: useBlade(), cells: useCells(), mirror: useMirror() }
}

const forecast = (more: Partial<CellsForecast> = {}): CellsForecast => ({ pieces: 12, largest: 900, smallest: 20, about: false, left_out: 0, skin: '', inner: '', ...more })
const seam = (more: Partial<MirrorForecast> = {}): MirrorForecast => ({ refusal: null, crosses: true, apart: 0, rims: 0, gap: 0, weld: 0, kink: 3, mean_kink: 1, unjoined: [], span: null, ...more })

test('every kind of cells comes back from a step as it was, directions that are no axis too', () => {
    const blades: NonNullable<Step['settings']['blade']>[] = [
        { kind: 'cells', by: 'uniform', count: 30, seed: 5, stretch: { along: [1, 2, -1], times: 4 } },
        { kind: 'cells', by: 'even', count: 31, seed: 6, stretch: { along: [0, 1, 0], times: 0.5 } },
        { kind: 'cells', by: 'gathered', count: 32, seed: 7, places: [[1, 2, 3], [4, 5, 6]], falloff: 12 },
        { kind: 'cells', by: 'points', points: [[1, 2, 3], [4, 5, 6]] },
        { kind: 'cells', by: 'blocks', count: [2, 3, 4], turned: [5, 10, 15], brick: true, wander: 0.2, seed: 8 },
        { kind: 'cells', by: 'blocks', size: [20, 30, 40], turned: [0, 0, 0], brick: false, wander: 0, seed: 1 },
        { kind: 'cells', by: 'rings', axis: [0.5, 0, 1], through: [7, 8, 9], rings: 4, sectors: 5, layers: 2, wander: 0.1, seed: 9 },
        { kind: 'cells', by: 'rings', axis: [0, 0, 1], rings: 1, sectors: 6, layers: 1, wander: 0, seed: 9 },
        { kind: 'cells', by: 'chop', rounds: 4, along: [[1, 1, 0], [0, 0, 1]], shift: 0.2, tilt: 15, seed: 3 },
        { kind: 'cells', by: 'chop', rounds: 2, shift: 0.1, tilt: 5, seed: 4 },
    ]
    for (const blade of blades) {
        const { cells } = stores()
        cells.load(step({ do: 'cut', blade, kerf: 0.4, seal: 'even', edge_mm: 3, smallest: 0.02, apart: false, wall_mm: 1.5 }))
        expect(cells.question.step.blade).toEqual(blade)
        expect(cells.question.step).toMatchObject({ do: 'cut', kerf: 0.4, seal: 'even', edge_mm: 3, smallest: 0.02, apart: false, wall_mm: 1.5 })
    }
})

test('cells say what is missing, what is foreseen and when it is exact', () => {
    const { project, blade, cells } = stores([piece(1), piece(2)])
    blade.kind = 'cells'
    cells.set({ by: 'gathered' })
    expect(cells.sentence).toBe('Click on the skin where the pieces are to gather.')
    expect(cells.ready).toBe(false)
    cells.set({ by: 'points' })
    expect(cells.sentence).toContain('Give two or more points')
    cells.set({ by: 'uniform' })
    expect(cells.sentence).toBe('The cells are being worked out.')
    cells.forecast = forecast({ about: true })
    expect(cells.sentence).toBe('Shatters 2 of 2 pieces into about 12 pieces, sealed.')
    cells.forecast = forecast()
    expect(cells.sentence).toBe('Shatters 2 of 2 pieces into 12 pieces, sealed.')
    expect(cells.ready).toBe(true)
    cells.$patch({ kerf: 0.5, wall: 2, seal: 'even', smallest: 1 })
    expect(cells.sentence).toBe('Shatters 2 of 2 pieces into 12 pieces, small ones joined, removes 0.5 mm between, leaves a wall of 2 mm, sealed with even triangles.')
    cells.forecast = forecast({ pieces: 1 })
    expect(cells.sentence).toContain('One cell holds all of it')
    expect(cells.ready).toBe(false)
    cells.forecast = forecast({ left_out: 1 })
    expect(cells.sentence).toContain('1 piece is too fine to be foreseen')
    expect(cells.ready).toBe(true)
    cells.$patch({ by: 'chop', kerf: 0, wall: 0, seal: 'lean', rounds: 3 })
    cells.forecast = forecast({ pieces: 16 })
    expect(cells.sentence).toBe('Halves each of 2 of 2 pieces 3 times over, into 16 pieces, sealed.')
    cells.refusal = 'Post 1 is not watertight.'
    expect(cells.sentence).toBe('Post 1 is not watertight.')
    project.hidden = [1, 2]
    expect(cells.sentence).toBe('Every piece is hidden: show at least one.')
})

test('every kind of mirror comes back from a step as it was', () => {
    const steps: Step['settings'][] = [
        { do: 'mirror', planes: [{ through: [3, 0, 0], facing: [1, 0, 0] }], keep: 'ahead', cut: true, catch: 0.4, gives: 'one', band: 'none', smooth: 20 },
        { do: 'mirror', planes: [{ through: [0, 0, 5], facing: [0, 0, 1] }, { through: [1, 2, 3], facing: [0.6, 0.8, 0] }], keep: 'behind', cut: true, catch: 0, gives: 'two', band: 'none', smooth: 0 },
        { do: 'mirror', planes: [{ through: [0, 0, 5], facing: [0, 0, 1] }], keep: 'behind', cut: false, catch: 0, gives: 'one', band: 'smoothed', smooth: 0 },
        { do: 'mirror', copies: { through: [1, 2, 3], axis: [0, 0.6, 0.8], count: 5 }, catch: 0.2 },
    ]
    for (const settings of steps) {
        const { mirror } = stores()
        mirror.load(step(settings))
        expect(mirror.question.step).toEqual(settings)
    }
})

test('a mirror says what stays, what is drawn and what is wrong', () => {
    const { blade, mirror } = stores()
    blade.kind = 'mirror'
    blade.setVector([1, 0, 0])
    blade.setThrough([10, 0, 0])
    mirror.forecast = seam()
    expect(mirror.sentence).toBe('Keeps what is behind of 1 of 1 piece and mirrors it, joined into one body.')
    expect(mirror.stays).toBe('behind')
    // Behind the plane is ahead of the plane turned round.
    expect(mirror.kept[0].offset).toBeCloseTo(-10, 12)
    expect(mirror.kept[0].facing[0]).toBe(-1)
    mirror.$patch({ keep: 'ahead', gives: 'reflection' })
    expect([mirror.stays, mirror.kept[0].offset]).toEqual(['outline', 10])
    mirror.$patch({ gives: 'one', also: ['Y'], through: 'low' })
    expect(mirror.sentence).toContain('over 2 planes')
    expect(mirror.kept).toHaveLength(2)
    mirror.$patch({ halves: false, also: [] })
    expect([mirror.stays, mirror.kept]).toEqual(['both', []])
    expect(mirror.sentence).toContain('overlaps it, and both stay bodies of their own')
    mirror.forecast = seam({ crosses: false, apart: 12 })
    expect(mirror.sentence).toContain('stand 12.0 mm apart')
    mirror.forecast = seam({ refusal: 'Nothing of Post 1 is on the kept side.' })
    expect([mirror.sentence, mirror.ready]).toEqual(['Nothing of Post 1 is on the kept side.', false])
    mirror.$patch({ copying: true, copies: 8 })
    mirror.forecast = seam({ crosses: false, span: 44 })
    expect(mirror.sentence).toBe('Makes 8 copies of 1 of 1 piece about Z, joined where they meet.')
    mirror.forecast = seam({ crosses: false, span: 61 })
    expect(mirror.sentence).toContain('It takes 61° of the turn, more than the 45.0° of each copy')
})

test('images stand where reflections and turns put them', () => {
    const at = (matrix: { clone(): unknown }, point: Vector) => new Vector3(...point).applyMatrix4(matrix as never).toArray().map((c) => expect.closeTo(c, 9))
    expect([7, 2, 3]).toEqual(at(overPlane([5, 0, 0], [1, 0, 0]), [3, 2, 3]))
    // Not of unit length, and through any point of the plane.
    expect([2, 1, 3]).toEqual(at(overPlane([4, 4, 9], [2, -2, 0]), [1, 2, 3]))
    const three = overPlanes([{ through: [0, 0, 0], facing: [1, 0, 0] }, { through: [0, 0, 0], facing: [0, 1, 0] }, { through: [0, 0, 0], facing: [0, 0, 1] }])
    expect(three).toHaveLength(7)
    const corners = three.map((one) => new Vector3(1, 2, 3).applyMatrix4(one).toArray().map(Math.round).join())
    expect(new Set(corners).size).toBe(7)
    expect(corners).toContain('-1,-2,-3')
    expect(three.filter((one) => one.determinant() < 0)).toHaveLength(4)
    const turns = aboutAxis([1, 1, 0], [0, 0, 2], 4)
    expect(turns).toHaveLength(3)
    expect([1, 3, 5]).toEqual(at(turns[0], [3, 1, 5]))
    expect([-1, 1, 5]).toEqual(at(turns[1], [3, 1, 5]))
    expect(aboutAxis([0, 0, 0], [0, 0, 1], 1)).toHaveLength(0)
})
