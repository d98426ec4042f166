import type { CheckReport, Mend } from './api/types'

/** A kind of fault as a person meets it: worst first. What it means is common practice of printing and of modelling. */
export interface FaultKind {
    key: string
    title: string
    one: string
    print: string
    cut: string
    mend: { kind: Mend; words: string } | null
    count: (report: CheckReport) => number
}

const of = (key: keyof CheckReport['counts']) => (report: CheckReport) => report.counts[key] ?? 0

export const FAULTS: FaultKind[] = [
    {
        key: 'rims', title: 'Holes', one: 'hole', print: 'A slicer has to guess what is inside; layers there come out wrong or not at all.',
        cut: 'An outline that runs into a hole stays open.', mend: { kind: 'close', words: 'Close them' }, count: (report) => report.notes.rims,
    },
    {
        key: 'nonmanifold_edges', title: 'Edges with more than two faces', one: 'edge with more than two faces', print: 'It cannot be told which side is material.',
        cut: 'A cut through there cannot be closed for certain. Doubled or inner faces are the usual cause: mend those first.', mend: null, count: of('nonmanifold_edges'),
    },
    {
        key: 'flipped_edges', title: 'Faces that disagree in direction', one: 'edge whose faces disagree', print: 'Parts count as hollow where they are solid.',
        cut: 'Volumes are wrong and the cut face may come out inside out.', mend: { kind: 'turn', words: 'Turn them' }, count: of('flipped_edges'),
    },
    {
        key: 'inverted_shells', title: 'Bodies turned inside out', one: 'body turned inside out', print: 'The body counts as a hole.', cut: 'It takes material away instead of being cut.',
        mend: { kind: 'turn', words: 'Turn them' }, count: (report) => report.notes.inverted_shells,
    },
    {
        key: 'inner_faces', title: 'Walls inside the body', one: 'inner face', print: 'A wall within the material weakens the print or leaves a gap.', cut: 'It shows up as a line across the cut face.',
        mend: { kind: 'inner', words: 'Remove them' }, count: of('inner_faces'),
    },
    {
        key: 'crossing_faces', title: 'Faces that cross others', one: 'face that crosses another', print: 'Often harmless: overlapping bodies are printed as one.',
        cut: 'Cut faces overlap there. A body that crosses itself is made solid by the whole mend; bodies that overlap each other are left as they are.', mend: null, count: of('crossing_faces'),
    },
    {
        key: 'doubled_faces', title: 'Doubled faces', one: 'doubled face', print: 'Harmless by itself, but it hides what is open.', cut: 'An outline runs twice along the same line.',
        mend: { kind: 'doubled', words: 'Remove them' }, count: of('doubled_faces'),
    },
    {
        key: 'near_vertices', title: 'Seams that are not joined', one: 'pair of corners at one place', print: 'The two sides of the seam count as a hole.', cut: 'The outline breaks at the seam.',
        mend: { kind: 'join', words: 'Join them' }, count: (report) => report.notes.near_vertices,
    },
    {
        key: 'sliver_faces', title: 'Slivers', one: 'face without area', print: 'Harmless.', cut: 'May leave slivers in later steps.', mend: { kind: 'slivers', words: 'Remove them' }, count: of('sliver_faces'),
    },
]

/** Places of a fault, each as flat points, with how they are drawn. */
export function placesOf(report: CheckReport, key: string): { kind: 'lines' | 'triangles' | 'points'; list: number[][] } {
    if (key === 'rims') {
        const list = report.rims.map((rim) => {
            const lines: number[] = []
            const n = rim.points.length / 3
            for (let i = 0; i < (rim.closed ? n : n - 1); i++) {
                lines.push(...rim.points.slice(3 * i, 3 * i + 3), ...rim.points.slice(3 * ((i + 1) % n), 3 * ((i + 1) % n) + 3))
            }
            return lines
        })
        return { kind: 'lines', list }
    }
    const chunk = (list: number[], by: number) => Array.from({ length: Math.floor(list.length / by) }, (_, n) => list.slice(by * n, by * n + by))
    if (report.lines[key]) return { kind: 'lines', list: chunk(report.lines[key], 6) }
    if (report.triangles[key]) return { kind: 'triangles', list: chunk(report.triangles[key], 9) }
    return { kind: 'points', list: chunk(report.points[key] ?? [], 3) }
}
