import { api } from '../api/client'
import type { Piece } from '../api/types'
import { decode, type Drawn } from './geometry'

/** Triangles up to which a mesh is fetched together with others. */
const SMALL = 20_000
const TOGETHER = 120

/** The shapes of stored meshes as the card draws them: fetched once, large ones alone and small ones together. */
export class Shapes {
    private readonly drawn = new Map<string, Drawn>()
    private readonly asked = new Set<string>()
    waiting = 0

    constructor(
        private readonly changed: () => void,
        private readonly refused: (error: unknown) => void,
    ) {}

    get = (mesh: string): Drawn | undefined => this.drawn.get(mesh)

    /** Fetches what these pieces need, and lets go of what none of them does. */
    need(pieces: Piece[]): void {
        const small: string[] = []
        for (const { mesh, triangles } of pieces) {
            if (this.asked.has(mesh)) continue
            this.asked.add(mesh)
            this.waiting++
            if (triangles <= SMALL) small.push(mesh)
            else void this.fetch([mesh], api.geometry(mesh).then((bytes) => [bytes]))
        }
        if (small.length === 1) void this.fetch(small, api.geometry(small[0]).then((bytes) => [bytes]))
        else void this.together(small)
        const used = new Set(pieces.map((piece) => piece.mesh))
        for (const [mesh, shape] of this.drawn) {
            if (used.has(mesh)) continue
            shape.geometry.dispose()
            shape.rims.dispose()
            this.drawn.delete(mesh)
            this.asked.delete(mesh)
        }
    }

    private async together(meshes: string[]): Promise<void> {
        for (let at = 0; at < meshes.length; ) {
            const some = meshes.slice(at, at + TOGETHER)
            const came = await this.fetch(some, api.geometries(some))
            if (!came) return
            at += came
        }
    }

    private async fetch(meshes: string[], answer: Promise<ArrayBuffer[]>): Promise<number> {
        try {
            const parts = await answer
            parts.forEach((bytes, n) => {
                if (this.asked.has(meshes[n])) this.drawn.set(meshes[n], decode(bytes))
            })
            this.waiting -= parts.length
            this.changed()
            return parts.length
        } catch (error) {
            for (const mesh of meshes) this.asked.delete(mesh)
            this.waiting -= meshes.length
            this.changed()
            this.refused(error)
            return 0
        }
    }
}
