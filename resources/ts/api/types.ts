// What the server answers; the PHP side is app/Http/Resources and the controllers beside them.

export type Vector = [number, number, number]
export type Units = 'mm' | 'cm' | 'm' | 'in'
export type Keep = 'both' | 'ahead' | 'behind' | 'outline'
export type Seal = 'lean' | 'open'

export interface Faults {
    open_edges: number
    nonmanifold_edges: number
    flipped_edges: number
}

export interface Piece {
    id: number
    parent: number | null
    name: string
    colour: string
    spent: boolean
    mesh: string
    triangles: number
    vertices: number
    shells: number
    watertight: boolean
    faults: Faults
    volume: number
    area: number
    min: Vector
    max: Vector
    centroid: Vector
}

export interface Run {
    id: string
    kind: string
    status: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled'
    phase: string
    progress: number
    message: string | null
    over: boolean
}

export interface Step {
    id: number
    number: number
    settings: Record<string, unknown>
    report: { took: string[]; gave: string[]; seconds: number }
}

export interface Project {
    id: number
    name: string
    file: string
    units: Units
    note: string
    pieces: Piece[]
    steps: Step[]
    run: Run | null
}

export interface ShelfEntry {
    id: number
    name: string
    note: string
    file: string
    units: Units
    changed: string
    pieces: number
    watertight: boolean
    stock: Piece | null
}

export interface Upload {
    id: string
    file: string
    report: {
        format: string
        collapsed: number
        triangles: number
        vertices: number
        shells: number
        size_mm: Vector
        volume_mm3: number
        watertight: boolean
        faults: Faults & { doubled_faces: number; sliver_faces: number }
    }
}

export interface PieceSection {
    piece: number
    cuts: boolean
    outlines: [number, number][][]
    lines: [number, number][][]
}

export interface SectionAnswer {
    area: number
    perimeter: number
    page: [Vector, Vector, Vector] | null
    pieces: PieceSection[]
}

export interface BladeQuestion {
    through: Vector
    facing: Vector
    pieces: number[] | null
}
