import { expect, test } from '@playwright/test'
import { createPinia, setActivePinia } from 'pinia'
import type { Piece, SectionAnswer } from '../../resources/ts/api/types'
import { useBlade } from '../../resources/ts/stores/blade'
import { useProject } from '../../resources/ts/stores/project'

// No page: the sentence under the button, for every state that it must be true of.

const piece = (id: number, z: number): Piece => ({
    id, parent: null, parents: [], title: null, made_by: null, spent_by: null, fit: null, name: `post-${id}`, colour: '#888888', spent: false, mesh: `m${id}`, triangles: 12, vertices: 8, shells: 1, watertight: true,
    faults: { open_edges: 0, nonmanifold_edges: 0, flipped_edges: 0 }, volume: 1000, area: 600, min: [0, 0, z], max: [10, 10, z + 10], centroid: [5, 5, z + 5], carries: [],
})

function answer(cuts: boolean[], open = 0): SectionAnswer {
    return {
        area: 100, perimeter: 40, page: [[0, 0, 0], [1, 0, 0], [0, 1, 0]],
        pieces: cuts.map((is, n) => ({ piece: n + 1, cuts: is, outlines: is ? [[[0, 0], [10, 0], [10, 10], [0, 10]]] : [], lines: n < open ? [[[0, 0], [10, 0]]] : [] })),
    }
}

function stores(pieces: Piece[]) {
    setActivePinia(createPinia())
    const project = useProject()
    project.project = { id: 1, name: 'Posts', file: 'posts.stl', units: 'mm', note: '', printer: null, inside: null, pieces, steps: [], history: { undo: null, redo: null }, run: null }
    return { project, blade: useBlade() }
}

test('it says how many pieces are cut, what is kept, removed and sealed', () => {
    const { blade } = stores([piece(1, 0), piece(2, 20)])
    blade.$patch({ centre: [5, 5, 5], section: answer([true, false]), cuts: true })
    expect(blade.sentence).toBe('Cuts 1 of 2 pieces, keeps both sides, sealed.')
    blade.keep = 'behind'
    expect(blade.sentence).toBe('Cuts 1 of 2 pieces, keeps what is behind, sealed.')
    blade.$patch({ keep: 'both', seal: 'open', kerf: 0.3 })
    expect(blade.sentence).toBe('Cuts 1 of 2 pieces, keeps both sides, removes 0.3 mm between, leaves the cut open.')
    blade.$patch({ seal: 'even', kerf: 0 })
    expect(blade.sentence).toBe('Cuts 1 of 2 pieces, keeps both sides, sealed with even triangles.')
    blade.keep = 'outline'
    expect(blade.sentence).toBe('Cuts 1 of 2 pieces, keeps only the section face, as a flat sheet.')
    expect(blade.ready).toBe(true)
    blade.score = true
    expect(blade.sentence).toBe("Scores 1 of 2 pieces: lays the section's edges into the mesh, separates nothing.")
    blade.$patch({ score: false, keep: 'both', seal: 'lean', faces: { piece: 1, list: [0, 1] } })
    expect([blade.sentence, blade.ready]).toEqual(['A cut within picked faces stays open: set Seal to Open, or score only.', false])
    blade.seal = 'open'
    expect([blade.sentence, blade.ready]).toEqual(['Cuts 1 of 2 pieces, only within 2 picked faces of Post 1, keeps both sides, leaves the cut open.', true])
})

test('it says what a series does, and when a part is taller than the printer', () => {
    const { blade } = stores([piece(1, 0), piece(2, 20)])
    blade.$patch({ centre: [5, 5, 5], section: answer([true, false]), series: true, stops: [5, 40] })
    expect([blade.sentence, blade.ready]).toEqual(['The stops are being worked out.', false])
    blade.plan = { stops: [5, 40], low: 0, high: 30, slabs: [{ from: 0, to: 5, extent: 5, over: 0 }, { from: 5, to: 30, extent: 25, over: 3 }], pieces: [] }
    blade.cuts = true
    expect([blade.sentence, blade.ready]).toEqual(['Cuts 2 pieces at 1 stop, keeps all, sealed. 1 part is taller than the printer.', true])
    blade.$patch({ spacing: 'parts', parts: 2, wander: { shift: 0.02, tilt: 5, seed: 1 }, keep: 'ahead' })
    expect(blade.sentence).toBe('Cuts 2 pieces into 2 equal parts each, keeps all, sealed, with wander.')
    expect([blade.settings.series, blade.settings.keep]).toEqual([{ parts: 2, wander: { shift: 0.02, tilt: 5, seed: 1 } }, 'both'])
    blade.$patch({ spacing: 'stops', plan: { ...blade.plan, stops: [40] }, cuts: false })
    expect([blade.sentence, blade.ready]).toEqual(['No stop lies within the pieces: place one on the rail.', false])
})

test('it says why the button is off', () => {
    const { project, blade } = stores([piece(1, 0), piece(2, 20)])
    expect(blade.sentence).toBe('The section is being worked out.')
    blade.$patch({ centre: [5, 5, 50], section: answer([false, false]) })
    expect(blade.sentence).toBe('The blade misses all 2 pieces by 20.0 mm: move it back.')
    blade.centre = [5, 5, -3]
    expect(blade.sentence).toBe('The blade misses all 2 pieces by 3.0 mm: move it ahead.')
    blade.centre = [5, 5, 15]
    expect(blade.sentence).toBe('The blade passes through no material here: move it or tilt it.')
    expect(blade.ready).toBe(false)
    project.hidden = [1, 2]
    expect(blade.sentence).toBe('Every piece is hidden: show at least one to cut it.')
    project.$patch({ hidden: [], run: { id: 'x', kind: 'cut', status: 'running', phase: 'cutting', progress: 0.5, message: null, over: false, worker: true } })
    blade.section = answer([true, true])
    expect([blade.sentence, blade.ready]).toEqual(['A step is at work.', false])
    project.$patch({ run: { status: 'waiting' } })
    expect([blade.sentence, blade.ready]).toEqual(['A step waits for its turn.', false])
    project.$patch({ run: { status: 'running' } })
    expect(stores([]).blade.sentence).toBe('There is nothing to cut yet.')
})

test('it says which outlines will stay open, and only when sealing is asked', () => {
    const { blade } = stores([piece(1, 0)])
    blade.$patch({ centre: [5, 5, 5], section: answer([true], 1) })
    expect(blade.sentence).toBe('Cuts 1 of 1 piece, keeps both sides, sealed. 1 outline cannot be closed: the mesh has open edges there.')
    blade.seal = 'open'
    expect(blade.sentence).toBe('Cuts 1 of 1 piece, keeps both sides, leaves the cut open.')
})

test('a cut takes what is picked, else what is visible; the place is counted from its low end', () => {
    const { project, blade } = stores([piece(1, 0), piece(2, 20), piece(3, 40)])
    expect([project.taken.length, project.takenIds]).toEqual([3, null])
    blade.centre = [5, 5, 25]
    expect([blade.place, blade.extent, blade.share]).toEqual([25, 50, 50])
    project.pick(2, false)
    expect([project.takenIds, blade.place, blade.share]).toEqual([[2], 5, 50])
    project.pick(3, true)
    expect(project.takenIds).toEqual([2, 3])
    project.hide([2])
    expect(project.takenIds).toEqual([3])
    project.picked = []
    project.isolate(1)
    expect([project.hidden, project.takenIds]).toEqual([[2, 3], [1]])
    project.isolate(1)
    expect([project.hidden, project.takenIds]).toEqual([[], null])
})
