import { ClampToEdgeWrapping, LinearMipmapLinearFilter, MirroredRepeatWrapping, NearestFilter, RepeatWrapping, SRGBColorSpace, Texture } from 'three'
import { api } from '../api/client'

/** Pictures that the card draws on one mesh; triangles with another one show their colour alone. */
export const MOST_SHEETS = 8

/** A picture as it lies on a mesh. */
interface Sheet {
    picture: string
    across: 'repeat' | 'clamp' | 'mirror'
    down: 'repeat' | 'clamp' | 'mirror'
    nearest: boolean
    /** Wide and high. */
    pixels: [number, number]
}

/** The pictures on a mesh. */
export interface Painted {
    sheets: Sheet[]
    /** For each corner the number of its sheet, counted from 1; 0 for none. */
    numbers: Uint8Array<ArrayBuffer>
    /** For each corner across and down. */
    places: Float32Array<ArrayBuffer>
}

const WRAP = { repeat: RepeatWrapping, clamp: ClampToEdgeWrapping, mirror: MirroredRepeatWrapping }
/** Pixels of a side: larger pictures are drawn smaller, and far larger ones not at all, for they would fill the memory. */
const SIDE = 4096
const TOO_LARGE = 12288

/** Decodes the bytes of the server's Geometry::pictures; null when there are none. */
export function unpackPainted(bytes: ArrayBuffer, triangles: number): Painted | null {
    if (!bytes.byteLength) return null
    const length = new DataView(bytes).getUint32(0, true)
    const { sheets } = JSON.parse(new TextDecoder().decode(new Uint8Array(bytes, 4, length))) as { sheets: Sheet[] }
    const from = new Uint8Array(bytes, 4 + length, triangles)
    const numbers = new Uint8Array(3 * triangles)
    for (let t = 0; t < triangles; t++) numbers.fill(from[t], 3 * t, 3 * t + 3)
    return { sheets, numbers, places: new Float32Array(bytes, 4 + length + 4 * Math.ceil(triangles / 4), 6 * triangles) }
}

/** Pictures as the card holds them: each once, however many meshes it lies on. */
export class Sheets {
    private readonly held = new Map<string, Promise<Texture | null>>()
    /** What each mesh needs. */
    private readonly needed = new Map<string, string[]>()

    constructor(private readonly side = SIDE) {}

    /** Those of a mesh, in the order of their numbers; null for one that cannot be drawn. */
    of(mesh: string, { sheets }: Painted): Promise<(Texture | null)[]> {
        const some = sheets.slice(0, MOST_SHEETS)
        const keys = some.map((sheet) => `${sheet.picture} ${sheet.across} ${sheet.down} ${sheet.nearest}`)
        this.needed.set(mesh, keys)
        return Promise.all(
            some.map((sheet, n) => {
                const wanted = this.held.get(keys[n]) ?? this.load(sheet).catch(() => null)
                this.held.set(keys[n], wanted)
                return wanted
            }),
        )
    }

    /** A mesh needs its pictures no longer; what no other mesh needs is let go. */
    forget(mesh: string): void {
        const keys = this.needed.get(mesh) ?? []
        this.needed.delete(mesh)
        const still = new Set([...this.needed.values()].flat())
        for (const key of keys) {
            if (still.has(key)) continue
            void this.held.get(key)?.then((texture) => {
                texture?.dispose()
                ;(texture?.image as ImageBitmap | undefined)?.close()
            })
            this.held.delete(key)
        }
    }

    private async load({ picture, pixels, across, down, nearest }: Sheet): Promise<Texture | null> {
        const larger = Math.max(...pixels)
        if (larger > TOO_LARGE) return null
        const options: ImageBitmapOptions = { premultiplyAlpha: 'none', colorSpaceConversion: 'none' }
        if (larger > this.side) {
            const [resizeWidth, resizeHeight] = pixels.map((side) => Math.max(1, Math.round((side * this.side) / larger)))
            Object.assign(options, { resizeWidth, resizeHeight, resizeQuality: 'high' })
        }
        const texture = new Texture(await createImageBitmap(await api.ownPicture(`pictures/${picture}`), options), undefined, WRAP[across], WRAP[down])
        texture.colorSpace = SRGBColorSpace
        texture.flipY = false
        texture.anisotropy = 8
        texture.minFilter = LinearMipmapLinearFilter
        if (nearest) texture.magFilter = NearestFilter
        texture.needsUpdate = true
        return texture
    }
}

/** A picture for the inside, which begins again at each of its edges. */
export async function insideTexture(picture: string): Promise<Texture> {
    const texture = new Texture(await createImageBitmap(await api.ownPicture(picture), { premultiplyAlpha: 'none', colorSpaceConversion: 'none' }), undefined, RepeatWrapping, RepeatWrapping)
    texture.colorSpace = SRGBColorSpace
    texture.flipY = false
    texture.anisotropy = 8
    texture.minFilter = LinearMipmapLinearFilter
    texture.needsUpdate = true
    return texture
}
