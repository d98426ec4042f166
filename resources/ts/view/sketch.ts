import type { Vector } from '../api/types'

/** From a corner, a little above. */
const TOWARDS: Vector = [0.62, -0.72, 0.31]
/** Smallest breadth of a triangle, pixels, so that a few of many leave no gaps. */
const LEAST = 2.6

/**
 * Draws a mesh from a few of its triangles, as core/Measure/Sketch.php sends them: nine bytes each, in a cube of 0 to 255.
 * With Y up it is stood upright first.
 */
export function drawSketch(canvas: HTMLCanvasElement, bytes: Uint8Array, up: 'y' | 'z', colour: [number, number, number]): void {
    const context = canvas.getContext('2d')
    if (!context) return
    const { width, height } = canvas
    context.clearRect(0, 0, width, height)
    const length = Math.hypot(...TOWARDS)
    const [ex, ey, ez] = TOWARDS.map((c) => c / length)
    const flat = Math.hypot(ex, ey)
    const [rx, ry] = [-ey / flat, ex / flat]
    const [ux, uy, uz] = [-ez * ex / flat, -ez * ey / flat, flat]
    const scale = (0.92 * Math.min(width, height)) / 255 / 1.25
    const faces: { depth: number; light: number; at: [number, number][] }[] = []
    for (let i = 0; i + 8 < bytes.length; i += 9) {
        const points: Vector[] = []
        for (let k = 0; k < 9; k += 3) {
            const [x, y, z] = [bytes[i + k] - 127.5, bytes[i + k + 1] - 127.5, bytes[i + k + 2] - 127.5]
            points.push(up === 'y' ? [x, -z, y] : [x, y, z])
        }
        const [a, b, c] = points
        const u = b.map((n, k) => n - a[k])
        const v = c.map((n, k) => n - a[k])
        const normal = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
        const size = Math.hypot(...normal) || 1
        const facing = (normal[0] * ex + normal[1] * ey + normal[2] * ez) / size
        const above = (normal[2] / size) * Math.sign(facing || 1)
        faces.push({
            depth: points.reduce((sum, p) => sum + p[0] * ex + p[1] * ey + p[2] * ez, 0), light: 0.5 + 0.3 * Math.abs(facing) + 0.2 * above,
            at: points.map(([x, y, z]) => [width / 2 + scale * (x * rx + y * ry), height / 2 - scale * (x * ux + y * uy + z * uz)]),
        })
    }
    // Of many triangles some are left out: the others cover their places.
    const isSome = faces.length > 3900
    faces.sort((one, other) => one.depth - other.depth)
    for (const { light, at } of faces) {
        const [mx, my] = [0, 1].map((k) => (at[0][k] + at[1][k] + at[2][k]) / 3)
        const reach = Math.max(...at.map(([x, y]) => Math.hypot(x - mx, y - my)))
        const grow = reach < LEAST ? LEAST / Math.max(reach, 0.3) : isSome ? 1.5 : 1.02
        context.fillStyle = `rgb(${colour.map((part) => Math.round(part * Math.min(1, light))).join()})`
        context.beginPath()
        at.forEach(([x, y], n) => (n ? context.lineTo(mx + grow * (x - mx), my + grow * (y - my)) : context.moveTo(mx + grow * (x - mx), my + grow * (y - my))))
        context.fill()
    }
}
