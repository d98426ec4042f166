import type { BufferGeometry, Mesh, Object3D } from 'three'
import type { Vector } from '../api/types'

/** A piece as layers see it: its geometry about a centre, where it really stands. */
export interface Seen {
    id: number
    geometry: BufferGeometry
    centre: Vector
    colour: string
}

/** Something that is dragged along a straight line. */
export interface DragGrip {
    /** What can be taken hold of. */
    meshes: Mesh[]
    at: Vector
    /** Of length 1. */
    along: Vector
    taken(): void
    /** So far along, mm, from where it was taken hold of. */
    dragged(by: number): void
    light(is: boolean): void
}

/** Something drawn beside the pieces, by whoever added it to the view. */
export interface Layer {
    readonly group: Object3D
    /** Takes the colours of the page. */
    colours?(page: { cut: string; ink: string; good: string; soft: string }): void
    /** The pieces that are visible have changed. */
    pieces?(seen: Seen[]): void
    grips?(): DragGrip[]
}
