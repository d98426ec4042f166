import type { LayersHeader } from '../api/types'

/** A plate in layers, as the server wrote it: see App\Answers\InLayers. */
export interface PlateLayers {
    header: LayersHeader
    /** The outlines of a layer: x and y of each corner, mm on the bed; outer ones counter-clockwise. */
    outlines(layer: number): Float32Array[]
}

export function readLayers(bytes: ArrayBuffer): PlateLayers {
    const length = new DataView(bytes).getUint32(0, true)
    const header = JSON.parse(new TextDecoder().decode(new Uint8Array(bytes, 4, length))) as LayersHeader
    const floats = new Float32Array(bytes, 4 + length)
    const begins: number[] = []
    let at = 0
    for (const { outlines } of header.layers) {
        begins.push(at)
        for (let n = 0; n < outlines; n++) at += 1 + 2 * floats[at]
    }
    return {
        header,
        outlines(layer) {
            const outlines: Float32Array[] = []
            let from = begins[layer] ?? 0
            for (let n = 0; n < (header.layers[layer]?.outlines ?? 0); n++) {
                const count = 2 * floats[from]
                outlines.push(floats.subarray(from + 1, from + 1 + count))
                from += 1 + count
            }
            return outlines
        },
    }
}
