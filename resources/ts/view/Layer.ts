import type { BufferGeometry, Object3D } from 'three'
import type { Vector } from '../api/types'

/** A piece as layers see it: its geometry about a centre, where it really stands. */
export interface Seen {
    id: number
    geometry: BufferGeometry
    centre: Vector
    colour: string
}

/** Something drawn beside the pieces, by whoever added it to the view. */
export interface Layer {
    readonly group: Object3D
    /** Takes the colours of the page. */
    colours?(page: { cut: string; ink: string; good: string; soft: string }): void
    /** The pieces that are visible have changed. */
    pieces?(seen: Seen[]): void
}
