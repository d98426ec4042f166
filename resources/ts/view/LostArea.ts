import { CanvasTexture, ClampToEdgeWrapping, LinearFilter, Vector3, Vector4 } from 'three'
import type { LostSide } from '../api/types'
import { floats } from '../api/floats'

/** Pixels of the picture of the area. */
const SIZE = 1024

const canvas = document.createElement('canvas')
canvas.width = canvas.height = SIZE

/** A picture of what does not stay, laid over the pieces along the sight; shared by all of them. */
export const lostArea = {
    isOn: false,
    uniforms: {
        /** 0 none, 1 parallel, 2 from an eye. */
        lostKind: { value: 0 },
        lostArea: { value: new CanvasTexture(canvas) },
        /** Places to places on the picture; from an eye, once divided by the distance. */
        lostRight: { value: new Vector4() },
        lostUp: { value: new Vector4() },
        lostAlong: { value: new Vector4() },
        lostEye: { value: new Vector3() },
        /** x: how far it goes; y: 1 when all beneath is lost. */
        lostFloor: { value: new Vector4(Infinity, 0, 0, 0) },
    },
    show(lost: LostSide | null) {
        const { uniforms } = this
        this.isOn = lost !== null
        uniforms.lostKind.value = lost ? (lost.eye ? 2 : 1) : 0
        if (!lost) return
        const area = floats(lost.area)
        const [low, high] = [[Infinity, Infinity], [-Infinity, -Infinity]]
        area.forEach((c, k) => {
            low[k % 2] = Math.min(low[k % 2], c)
            high[k % 2] = Math.max(high[k % 2], c)
        })
        const scale = [0, 1].map((k) => 1 / (high[k] - low[k] || 1))
        const pen = canvas.getContext('2d') as CanvasRenderingContext2D
        pen.fillStyle = '#000'
        pen.fillRect(0, 0, SIZE, SIZE)
        pen.fillStyle = pen.strokeStyle = '#fff'
        pen.beginPath()
        for (let k = 0; k < area.length; k += 6) {
            for (let n = 0; n < 6; n += 2) {
                const [x, y] = [(area[k + n] - low[0]) * scale[0] * SIZE, (1 - (area[k + n + 1] - low[1]) * scale[1]) * SIZE]
                if (n) pen.lineTo(x, y)
                else pen.moveTo(x, y)
            }
            pen.closePath()
        }
        pen.fill('nonzero')
        // So that no hair is left between two triangles.
        pen.lineWidth = 0.7
        pen.stroke()
        const texture = uniforms.lostArea.value
        texture.wrapS = texture.wrapT = ClampToEdgeWrapping
        texture.minFilter = texture.magFilter = LinearFilter
        texture.generateMipmaps = false
        texture.needsUpdate = true
        const row = ([x, y, z]: number[], k: number) => new Vector4(x * scale[k], y * scale[k], z * scale[k], -low[k] * scale[k])
        uniforms.lostRight.value = row(lost.right, 0)
        uniforms.lostUp.value = row(lost.up, 1)
        uniforms.lostAlong.value = new Vector4(...lost.along, 0)
        uniforms.lostEye.value = new Vector3(...(lost.eye ?? [0, 0, 0]))
        uniforms.lostFloor.value = new Vector4(lost.floor ?? 1e30, lost.beneath ? 1 : 0, 0, 0)
    },
}
