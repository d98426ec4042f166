import type { Component } from 'vue'
import type { Kind } from '../kinds/Kind'

/** A place to work at, with its tab, its card and its keys. The page goes by the list in index.ts and knows none of them by name. */
export interface Station {
    id: string
    title: string
    card(): Component
    /** Shown below the view; null for none. */
    rail?(): Component | null
    /** The kind that is set there, if it shows one in the view. */
    kind?(): Kind
    /** Ctrl Enter. */
    run?(): void
    /** Takes a key; false leaves it to the page. */
    key?(event: KeyboardEvent): boolean
    hints: string[]
}
