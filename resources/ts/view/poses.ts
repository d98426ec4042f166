import { Matrix4, Quaternion, Vector3 } from 'three'
import type { Piece, Vector } from '../api/types'

/** Numbers of a pose: see App\Answers\HowItMoves. */
const WIDTH = 8

/** What a layer does in time. */
export interface InTime {
    starts: number[]
    curve: number[]
}

/** Where pieces are at every frame, as far as it is known. */
export class Moving {
    /** Frames that are known, from the first on. */
    count = 0
    private readonly data: Float64Array
    private whole: { min: Vector; max: Vector } | null = null

    /**
     * @param pieces by their numbers, in the order of the poses
     * @param layers what each layer does in time; null while that is not known
     */
    constructor(readonly fps: number, readonly frames: number, readonly pieces: number[], private readonly of: Map<number, Piece>, readonly layers: InTime[] | null, data?: Float64Array) {
        this.data = data ?? new Float64Array(frames * pieces.length * WIDTH)
        if (data) this.count = frames
    }

    /** Bytes that are known. */
    get bytes(): number {
        return this.count * this.pieces.length * WIDTH * 8
    }

    /** Further frames, from the first that is not known; what is no whole frame is asked for again. */
    take(bytes: ArrayBuffer): void {
        const size = this.pieces.length * WIDTH
        const frames = Math.min(this.frames - this.count, Math.floor(bytes.byteLength / 8 / size))
        this.data.set(new Float64Array(bytes, 0, frames * size), this.count * size)
        this.count += frames
    }

    /** The same, as another object: whoever watches sees that there is more. */
    seen(): Moving {
        const other = new Moving(this.fps, this.frames, this.pieces, this.of, this.layers, this.data)
        other.count = this.count
        return other
    }

    private at(piece: number, frame: number): number {
        return (Math.min(frame, Math.max(0, this.count - 1)) * this.pieces.length + piece) * WIDTH
    }

    /** From where a piece stands to where it is. */
    pose(piece: number, frame: number, into = new Matrix4()): Matrix4 {
        const i = this.at(piece, frame)
        const { data } = this
        const centre = this.of.get(this.pieces[piece])?.centroid ?? [0, 0, 0]
        place.set(data[i], data[i + 1], data[i + 2])
        turn.set(data[i + 3], data[i + 4], data[i + 5], data[i + 6])
        into.compose(place, turn, size.setScalar(data[i + 7]))
        const e = into.elements
        const [x, y, z] = centre
        e[12] -= e[0] * x + e[4] * y + e[8] * z
        e[13] -= e[1] * x + e[5] * y + e[9] * z
        e[14] -= e[2] * x + e[6] * y + e[10] * z
        return into
    }

    centre(piece: number, frame: number): Vector {
        const i = this.at(piece, frame)
        return [this.data[i], this.data[i + 1], this.data[i + 2]]
    }

    /** How many move from a frame to the next. */
    underWay(frame: number): number {
        if (frame + 1 >= this.count) return 0
        let moving = 0
        for (let n = 0; n < this.pieces.length; n++) {
            const [i, j] = [this.at(n, frame), this.at(n, frame + 1)]
            for (let k = 0; k < WIDTH; k++) {
                if (Math.abs(this.data[i + k] - this.data[j + k]) > 1e-6) {
                    moving++
                    break
                }
            }
        }
        return moving
    }

    /** The box around all that is seen of it. */
    get extent(): { min: Vector; max: Vector } {
        if (this.whole) return this.whole
        const min: Vector = [Infinity, Infinity, Infinity]
        const max: Vector = [-Infinity, -Infinity, -Infinity]
        this.pieces.forEach((id, n) => {
            const piece = this.of.get(id)
            const radius = piece ? Math.hypot(...piece.max.map((c, k) => c - piece.min[k])) / 2 : 0
            for (let frame = 0; frame < this.count; frame++) {
                const i = this.at(n, frame)
                const by = radius * this.data[i + 7]
                for (let k = 0; k < 3; k++) {
                    // What lies on the ground does not reach below it by its half diagonal.
                    min[k] = Math.min(min[k], this.data[i + k] - (k === 2 ? 0 : by))
                    max[k] = Math.max(max[k], this.data[i + k] + by)
                }
            }
            if (piece) min[2] = Math.min(min[2], piece.min[2])
        })
        this.whole = { min, max }
        return this.whole
    }
}

const place = new Vector3()
const turn = new Quaternion()
const size = new Vector3()

/** Poses as the server wrote them: see App\Answers\HowItMoves. */
export function readPoses(bytes: ArrayBuffer, living: Piece[], byId: Map<number, Piece>): Moving {
    const length = new DataView(bytes).getUint32(0, true)
    const header = JSON.parse(new TextDecoder().decode(new Uint8Array(bytes, 4, length))) as { fps: number; frames: number; pieces: string[]; layers: InTime[] }
    const ids = new Map(living.map(({ name, id }) => [name, id]))
    const from = 4 + length
    return new Moving(header.fps, header.frames, header.pieces.map((name) => ids.get(name) ?? 0), byId, header.layers, new Float64Array(from % 8 ? bytes.slice(from) : bytes, from % 8 ? 0 : from))
}
