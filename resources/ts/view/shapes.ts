import { BufferAttribute, type BufferGeometry } from 'three'
import { api } from '../api/client'
import type { Piece } from '../api/types'
import { decode, drawn, type Drawn, type Unpacked } from './geometry'
import { Sheets, unpackPainted } from './sheets'

/** Triangles up to which a mesh is fetched together with others. */
const SMALL = 20_000
const TOGETHER = 120
/** Triangles from which on a rough picture comes first. */
const ROUGH = 200_000

/** Unpacks one mesh beside the page. */
function aside(bytes: ArrayBuffer): Promise<Drawn> {
    return new Promise((resolve, reject) => {
        const worker = new Worker(new URL('./unpack.worker.ts', import.meta.url), { type: 'module' })
        worker.onmessage = ({ data }: MessageEvent<Unpacked>) => {
            worker.terminate()
            resolve(drawn(data))
        }
        worker.onerror = () => {
            worker.terminate()
            reject(new Error('a mesh could not be unpacked'))
        }
        worker.postMessage(bytes, [bytes])
    })
}

/** The shapes of stored meshes as the card draws them: fetched once, large ones alone and small ones together. */
export class Shapes {
    private readonly drawn = new Map<string, Drawn>()
    private readonly asked = new Set<string>()
    /** Meshes that came with colours, and such as came with pictures. */
    private readonly coloured = new Set<string>()
    private readonly painted = new Set<string>()
    private readonly sheets = new Sheets()
    /** Is it to be known where inside faces lie? */
    private places = false
    waiting = 0

    constructor(
        private readonly changed: () => void,
        private readonly refused: (error: unknown) => void,
    ) {}

    get = (mesh: string): Drawn | undefined => this.drawn.get(mesh)

    /** Fetches what these pieces need, and lets go of what none of them does. */
    need(pieces: Piece[]): void {
        const small: string[] = []
        for (const { mesh, triangles, carries } of pieces) {
            if (this.asked.has(mesh)) continue
            this.asked.add(mesh)
            if (carries.includes('colours') || carries.includes('materials')) this.coloured.add(mesh)
            if (carries.includes('pictures')) this.painted.add(mesh)
            this.waiting++
            if (triangles <= SMALL) small.push(mesh)
            else if (triangles < ROUGH) void this.fetch([mesh], api.geometry(mesh).then((bytes) => [bytes]))
            else void this.large(mesh)
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
            this.sheets.forget(mesh)
        }
    }

    /** From now on the inside has a picture, or none any more. */
    async placeInsides(on: boolean): Promise<void> {
        this.places = on
        for (const [mesh, { geometry }] of on ? [...this.drawn] : []) {
            try {
                await placeInside(geometry, mesh)
            } catch (error) {
                this.refused(error)
            }
        }
        this.changed()
    }

    /** A rough picture first, then the mesh itself. */
    private async large(mesh: string): Promise<void> {
        try {
            const rough = decode(await api.geometry(mesh, true))
            if (this.asked.has(mesh)) this.drawn.set(mesh, rough)
            this.changed()
            const whole = await aside(await api.geometry(mesh))
            rough.geometry.dispose()
            rough.rims.dispose()
            if (this.asked.has(mesh)) this.drawn.set(mesh, whole)
            void this.dress([mesh])
        } catch (error) {
            this.asked.delete(mesh)
            this.refused(error)
        } finally {
            this.waiting--
            this.changed()
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
            void this.dress(meshes.slice(0, parts.length))
            return parts.length
        } catch (error) {
            for (const mesh of meshes) this.asked.delete(mesh)
            this.waiting -= meshes.length
            this.changed()
            this.refused(error)
            return 0
        }
    }

    /** Colours and pictures come after the shape; a mesh without them is drawn in its piece's colour. */
    private async dress(meshes: string[]): Promise<void> {
        for (const mesh of meshes) {
            try {
                const geometry = this.drawn.get(mesh)?.geometry
                if (geometry) await clothe(geometry, mesh, this.coloured.has(mesh), this.painted.has(mesh), this.sheets)
                if (geometry && this.places) await placeInside(geometry, mesh)
                if (this.drawn.get(mesh)?.geometry !== geometry) this.sheets.forget(mesh)
                else if (this.coloured.has(mesh) || this.painted.has(mesh) || this.places) this.changed()
            } catch (error) {
                this.refused(error)
            }
        }
    }
}

/** Fetches what came with a mesh and puts it onto its shape. */
export async function clothe(geometry: BufferGeometry, mesh: string, isColoured: boolean, isPainted: boolean, sheets: Sheets): Promise<void> {
    const corners = geometry.getAttribute('position').count
    const [colours, pictures] = await Promise.all([isColoured ? api.colours(mesh) : new ArrayBuffer(0), isPainted ? api.pictures(mesh) : new ArrayBuffer(0)])
    const painted = unpackPainted(pictures, corners / 3)
    if (painted) {
        geometry.userData.sheets = await sheets.of(mesh, painted)
        geometry.setAttribute('sheet', new BufferAttribute(painted.numbers, 1))
        geometry.setAttribute('across', new BufferAttribute(painted.places, 2))
    }
    if (colours.byteLength === 3 * corners) geometry.setAttribute('own', new BufferAttribute(new Uint8Array(colours), 3, true))
}

/** Fetches where the inside faces of a mesh lie, once. */
async function placeInside(geometry: BufferGeometry, mesh: string): Promise<void> {
    const inside = geometry.getAttribute('inside').array as Uint8Array
    if (geometry.userData.placed || !inside.includes(1)) return
    const places = new Float32Array(await api.insidePlaces(mesh))
    // A rough picture has other faces.
    if (2 * inside.reduce((sum, one) => sum + one, 0) !== places.length) return
    const all = geometry.hasAttribute('across') ? (geometry.getAttribute('across').array as Float32Array) : new Float32Array(2 * inside.length)
    for (let corner = 0, i = 0; corner < inside.length; corner++) {
        if (!inside[corner]) continue
        all[2 * corner] = places[i++]
        all[2 * corner + 1] = places[i++]
    }
    geometry.setAttribute('across', new BufferAttribute(all, 2))
    geometry.userData.placed = true
}
