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
    released?(): void
    /** So far along, mm, from where it was taken hold of. */
    dragged(by: number): void
    light(is: boolean): void
}

/** Something that is dragged anywhere in a plane. */
export interface FreeGrip {
    meshes: Mesh[]
    at: Vector
    /** Of the plane; of any length. */
    facing: Vector
    /** Where the pointer met the plane. */
    taken(at: Vector | null): void
    released?(): void
    /** Where the pointer meets the plane. */
    placed(at: Vector): void
    light(is: boolean): void
}

/** Where the pointer is while something is drawn across the view. */
export interface PenAt {
    /** On the page, from its upper left corner. */
    x: number
    y: number
    /** On the plane that is drawn on. */
    place: Vector
    /** Is a piece under it? */
    isOver: boolean
}

/** How one looks: along a direction, or from an eye. */
export type Sight = { along: Vector } | { eye: Vector }

/** Draws across the view. */
export interface Pen {
    /** The plane that is drawn on; null for one through the middle of the view. */
    plane(): { at: Vector; facing: Vector } | null
    down(at: PenAt): void
    move(at: PenAt, isDown: boolean): void
    up(at: PenAt): void
}

/** Something drawn beside the pieces, by whoever added it to the view. */
export interface Layer {
    readonly group: Object3D
    /** Takes the colours of the page. */
    colours?(page: { cut: string; ink: string; good: string; soft: string }): void
    /** The pieces that are visible have changed. */
    pieces?(seen: Seen[]): void
    grips?(): (DragGrip | FreeGrip)[]
    /** Draws, while the tool is to draw. */
    pen?(): Pen | null
}
