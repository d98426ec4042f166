import type { Matrix4 } from 'three'
import type { Component } from 'vue'
import type { Keep, Piece, Step, StepSettings, Vector } from '../api/types'
import type { Drawn } from '../view/geometry'
import type { Marked } from '../view/Marks'
import type { View3d } from '../view/View3d'

/** An entry of the row in which kinds are chosen; a kind may have several. */
export interface Choice {
    value: string
    text: string
    hint: string
    /** The key that chooses it. */
    key: string
    /** A small drawing: a body and, behind the bar, what happens to it. Paths in a box of 24 by 20. */
    icon: string
}

/** A place on a piece that was clicked while the kind asks for one. */
export interface Click {
    piece: Piece
    face: number
    point: Vector
}

/** A piece, or a copy of it, as it is drawn elsewhere. */
export interface Placed {
    /** Of the piece, or for a further copy another one. */
    id: number
    piece: number
    pose: Matrix4
    picked: boolean
    /** Skin that hangs over is marked; see View3d. */
    over?: { down: Vector; bed: number }
    /** What is above this height is left out, as the piece itself stands; see View3d. */
    cap?: { up: Vector; limit: number }
}

/** How the flat blade stands in the view: which side stays, and further planes ahead of which all is lost. */
export interface Sides {
    keep: Keep
    lost: { facing: Vector; offset: number }[]
    /** Only its handle is drawn: the kind draws the blade. */
    bare?: boolean
}

/**
 * A kind of step as the window knows it: what it is called, its card, its preview in the view. Kinds that share a card are one. Everything else
 * (the page, the view, the lineage) goes by the list in index.ts and knows none of them by name.
 */
export interface Kind {
    id: string
    /** The station where it is set. */
    station: string
    /** Is a step with these settings one of its own? */
    is(settings: StepSettings): boolean
    /** What such a step does, in a few words with its numbers; the lengths of long lists are told apart. */
    told(settings: StepSettings, long: Record<string, number>): string
    /** Takes up the settings of a step that is to be changed. */
    edit(step: Step): void

    /** What it is chosen by; none when its station has one card for all. */
    choices: Choice[]
    card?: Component
    /** What it is set in when it has no card: it opens by itself. */
    dialog?: Component
    /** Which of its choices is set. */
    chosen?(): string
    choose?(choice: string): void
    /** Another kind was chosen. */
    left?(): void
    run?(): Promise<void>
    /** Takes a key before the station does; false leaves it. */
    key?(event: KeyboardEvent): boolean

    /** Other pieces are taken: what is foreseen is asked again. */
    taken?(): void
    /** The blade stands elsewhere. */
    moved?(): void
    /** Other pieces were picked. */
    picked?(): void
    /** Another project is opened. */
    forget?(): void
    /** Is the rail shown beside it? */
    rail?(): boolean

    /** Null while no blade is shown. */
    blade?(): Sides | null
    /** What is drawn in place of the pieces where they are. Null for those. */
    placed?(): Placed[] | null
    /** Where skin is marked that would hang over, by piece. */
    over?(piece: number): { down: Vector; bed: number } | undefined
    /** Takes a pick in the view, by the number of what is drawn; false leaves it. */
    pick?(id: number | null): boolean
    /** What is looked at while they are drawn elsewhere. */
    extent?(): { min: Vector; max: Vector } | null
    /** Places and faces that it points out. */
    marks?(shape: (mesh: string) => Drawn | undefined): Marked
    /** Adds what else it draws to the view; called once, where watching ends with the view. `active` says whether the kind is at hand. */
    draw?(view: View3d, active: () => boolean): void
    /** Takes a click in the view; false leaves it to the blade. */
    click?(at: Click): Promise<boolean> | boolean
    /** What the view asks for instead of what the blade asks. */
    asking?(): string | undefined
}
