import { defineStore } from 'pinia'
import type { Vector } from '../api/types'
import type { Marked } from '../view/Marks'

/** What the view is asked to point out, by whichever station is open. */
export const useShown = defineStore('shown', {
    state: () => ({ marked: {} as Marked, fly: null as { min: Vector; max: Vector } | null,
        /** Images drawn beside the pieces, by the kind that draws them. */
        images: {} as Record<string, number>,
        /** What is written at the handles by which pieces are placed. */
        handles: [] as { at: Vector; name: string; text: string }[],
        /** What is said beside the pointer while something is drawn. */
        hint: null as { x: number; y: number; text: string; corners: number } | null,
        /** Right, up and towards the eye, as the view was last turned. */
        seen: [[1, 0, 0], [0, 0, 1], [0, -1, 0]] as Vector[],
    }),
    actions: {
        mark(marked: Marked) {
            this.marked = marked
        },
        clear() {
            this.marked = {}
        },
        /** Brings the view to a list of points, with some room around them. */
        flyTo(points: number[], room: number) {
            if (points.length < 3) return
            const min: Vector = [Infinity, Infinity, Infinity]
            const max: Vector = [-Infinity, -Infinity, -Infinity]
            points.forEach((c, i) => {
                min[i % 3] = Math.min(min[i % 3], c)
                max[i % 3] = Math.max(max[i % 3], c)
            })
            this.fly = { min: min.map((c) => c - room) as Vector, max: max.map((c) => c + room) as Vector }
        },
    },
})
