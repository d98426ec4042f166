import { expect, test } from '@playwright/test'
import { createPinia, setActivePinia } from 'pinia'
import type { Piece, Step, Vector } from '../../resources/ts/api/types'
import { useBlade } from '../../resources/ts/stores/blade'
import { useProject } from '../../resources/ts/stores/project'
import { anglesOf, dot, facing } from '../../resources/ts/view/direction'

// No page: where the blade stands after each way of placing it, and what is shown of the lineage.

const piece = (id: number, more: Partial<Piece> = {}): Piece => ({
    id, parent: null, parents: [], title: null, made_by: null, spent_by: null, fit: null, name: `post-${id}`, colour: '#888888', spent: false, mesh: `m${id}`, triangles: 12, vertices: 8,
    shells: 1, watertight: true, faults: { open_edges: 0, nonmanifold_edges: 0, flipped_edges: 0 }, volume: 1000, area: 600, min: [0, 0, 0], max: [40, 30, 20], centroid: [20, 15, 10], carries: [],
    ...more,
})
const step = (id: number, settings: Step['settings']): Step => ({ id, number: id, settings, long: {}, report: { took: [], gave: [], seconds: 0 } })

function stores(pieces: Piece[], steps: Step[] = []) {
    setActivePinia(createPinia())
    // Nothing answers here; what is asked is of no interest.
    globalThis.fetch = () => new Promise(() => undefined)
    const project = useProject()
    project.project = { id: 1, name: 'Posts', file: 'posts.stl', units: 'mm', note: '', printer: null, inside: null, pieces, steps, history: { undo: null, redo: null }, run: null }
    return { project, blade: useBlade() }
}

test('angles and unit vectors are each other\'s inverse, exact at the axes', () => {
    expect(anglesOf([0, 0, 1])).toEqual({ turn: 0, tilt: 0 })
    expect(anglesOf([0, 1, 0])).toEqual({ turn: 90, tilt: 90 })
    expect(anglesOf([0, 0, -1])).toEqual({ turn: 0, tilt: 180 })
    for (let turn = -175; turn <= 180; turn += 5) {
        for (let tilt = 5; tilt < 180; tilt += 5) {
            const back = anglesOf(facing(turn, tilt))
            expect([back.turn, back.tilt]).toEqual([turn, tilt])
        }
    }
})

test('a vector sets the degrees and stays exact; degrees typed after it count again', () => {
    const { blade } = stores([piece(1)])
    blade.setVector([0, 0.5, 1])
    expect(blade.tilt).toBeCloseTo(26.565, 3)
    expect(blade.turn).toBe(90)
    expect(blade.facing[1] / blade.facing[2]).toBeCloseTo(0.5, 15)
    blade.setVector([0, 0, 5])
    expect([blade.axis, blade.vector]).toEqual(['Z', null])
    blade.setVector([0, 0, 0])
    expect(blade.axis).toBe('Z')
    blade.setVector([1, 2, 3])
    blade.setTilt(90)
    expect([blade.vector, blade.facing[2]]).toEqual([null, 0])
    blade.setTurn(-180)
    expect(blade.turn).toBe(180)
    blade.setAxis('Y')
    blade.flip()
    expect(blade.facing).toEqual([0, -1, 0])
})

test('the blade goes through a point, and its handle stays beside the middle of what it takes', () => {
    const { blade } = stores([piece(1)])
    blade.setVector([0, 0, 1])
    blade.setThrough([900, -900, 7])
    expect(blade.centre).toEqual([20, 15, 7])
    expect([blade.place, blade.share]).toEqual([7, 35])
    blade.setVector([1, 1, 1])
    const point: Vector = [3, 4, 5]
    blade.setThrough(point)
    expect(dot(blade.centre, blade.facing)).toBeCloseTo(dot(point, blade.facing), 12)
    blade.setPlace(0)
    expect(blade.offset).toBeCloseTo(blade.reach[0], 12)
    blade.centreOnTaken()
    expect(blade.share).toBeCloseTo(50, 12)
})

test('stops are kept in order; another facing ends a series by hand, not one of equal parts', () => {
    const { blade } = stores([piece(1)])
    blade.setAxis('X')
    blade.setSeries(true)
    expect(blade.stops).toEqual([0])
    blade.setStops([30, 10, 20])
    expect([blade.stops, blade.seriesSettings]).toEqual([[10, 20, 30], { stops: [10, 20, 30] }])
    expect(blade.place).toBe(20)
    blade.$patch({ spacing: 'step', from: 5, step: 10, times: 3 })
    expect(blade.seriesSettings).toEqual({ from: 5, step: 10, count: 3 })
    blade.setAxis('Z')
    expect([blade.series, blade.stops]).toEqual([false, []])
    blade.setSeries(true)
    blade.$patch({ spacing: 'parts', parts: 4 })
    blade.setAxis('X')
    expect([blade.series, blade.seriesSettings]).toEqual([true, { parts: 4 }])
    expect([blade.settings.faces, blade.settings.score]).toEqual([null, false])
})

test('a profile of another facing is not used: places on it would be elsewhere', () => {
    const { blade } = stores([piece(1)])
    blade.setAxis('Z')
    const answer = { low: 0, high: 20, positions: [10], areas: [1200], outlines: [1], good: [] }
    blade.$patch({ profile: answer, profileFacing: JSON.stringify(blade.facing) })
    expect(blade.freshProfile).toEqual(answer)
    blade.setAxis('X')
    expect(blade.freshProfile).toBeNull()
    expect(blade.reach).toEqual([0, 40])
})

test('the settings of a step come back as they were', () => {
    const cut = step(1, {
        do: 'cut', of: ['post'], keep: 'ahead', kerf: 0.3, kerf_side: 'behind', seal: 'even', edge_mm: 2, catch: 0.1, blade: { kind: 'flat', through: [0, 0, 12], facing: [0, 0, 2] },
    })
    const series = step(2, { do: 'cut', blade: { kind: 'series', facing: [1, 0, 0], stops: [5, 25], wander: { shift: 0.01, tilt: 3, seed: 8 } } })
    const { project, blade } = stores([piece(1, { spent: true, spent_by: 1 }), piece(2, { parent: 1, parents: [1], made_by: 1 })], [cut, series])
    project.editing = 1
    blade.load(cut)
    expect(blade.settings).toMatchObject({ keep: 'ahead', kerf: 0.3, kerf_side: 'behind', seal: 'even', edge_mm: 2, catch: 0.1, facing: [0, 0, 1], pieces: [1], score: false })
    expect(blade.place).toBe(12)
    blade.load(series)
    expect(blade.settings.series).toEqual({ stops: [5, 25], wander: { shift: 0.01, tilt: 3, seed: 8 } })
    expect(blade.settings.keep).toBe('both')
    blade.load(step(3, { do: 'score', blade: { kind: 'flat', through: [1, 2, 3], facing: [0, 1, 0] } }))
    expect([blade.score, blade.series, blade.axis]).toEqual([true, false, 'Y'])
})

test('before a step, what it took is shown in place of all that came of it', () => {
    const pieces = [
        piece(1, { spent: true, spent_by: 1 }), piece(2, { parent: 1, parents: [1], made_by: 1, spent: true, spent_by: 2 }), piece(3, { parent: 1, parents: [1], made_by: 1 }),
        piece(4, { parent: 2, parents: [2], made_by: 2 }), piece(5, { parent: 2, parents: [2], made_by: 2 }), piece(6),
    ]
    const { project } = stores(pieces, [step(1, { do: 'cut' }), step(2, { do: 'cut' })])
    const ids = () => project.shown.map((one) => one.id).sort()
    expect(ids()).toEqual([3, 4, 5, 6])
    project.before = 2
    expect(ids()).toEqual([2, 3, 6])
    project.before = 1
    expect(ids()).toEqual([1, 6])
    project.before = null
    project.editing = 2
    expect([ids(), project.takenIds]).toEqual([[2, 3, 6], [2]])
    // The step is gone: so is the editing of it.
    project.take({ ...(project.project as NonNullable<typeof project.project>), steps: [step(1, { do: 'cut' })] })
    expect(project.editing).toBe(null)
})

test('isolating goes round, hiding comes back, picking adds and takes away', () => {
    const { project } = stores([piece(1), piece(2), piece(3)])
    const seen = () => project.visible.map((one) => one.id)
    project.step(1)
    expect(seen()).toEqual([1])
    project.step(-1)
    expect(seen()).toEqual([3])
    project.step(1)
    expect(seen()).toEqual([1])
    project.showAll()
    project.hide([1, 2])
    expect(seen()).toEqual([3])
    project.hide([1, 2])
    expect(seen()).toEqual([1, 2, 3])
    project.pick(2, false)
    project.pick(3, true)
    expect(project.picked).toEqual([2, 3])
    project.pick(2, true)
    expect(project.picked).toEqual([3])
    project.pick(3, false)
    expect(project.picked).toEqual([])
})
