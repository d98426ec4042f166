import { BufferGeometry, Float32BufferAttribute, Group, Mesh, MeshBasicMaterial } from 'three'
import type { Layer } from './Layer'

/** A part of space inside the pieces, drawn as if they were not before it: in one colour, lighter where it looks up. */
export class Region implements Layer {
    readonly group = new Group()
    private readonly material = new MeshBasicMaterial({ transparent: true, opacity: 0.72, vertexColors: true })
    private readonly mesh = new Mesh(new BufferGeometry(), this.material)

    constructor() {
        this.mesh.frustumCulled = false
        this.mesh.renderOrder = 3
        // It hides itself where it is behind, but nothing else hides it.
        this.mesh.onBeforeRender = (renderer) => renderer.clearDepth()
        this.mesh.visible = false
        this.group.add(this.mesh)
    }

    colours({ cut }: { cut: string }): void {
        this.material.color.set(cut)
    }

    /** Nine numbers a triangle, in the order in which it is seen turning left from outside. */
    show(surface: Float32Array): void {
        this.mesh.geometry.dispose()
        const light = new Float32Array(surface.length)
        for (let i = 0; i < surface.length; i += 9) {
            const u = [0, 1, 2].map((k) => surface[i + 3 + k] - surface[i + k])
            const v = [0, 1, 2].map((k) => surface[i + 6 + k] - surface[i + k])
            const normal = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
            const length = Math.hypot(...normal) || 1
            light.fill(0.78 + 0.22 * (0.3 * normal[0] - 0.5 * normal[1] + 0.8 * normal[2]) / length, i, i + 9)
        }
        this.mesh.geometry = new BufferGeometry().setAttribute('position', new Float32BufferAttribute(surface, 3)).setAttribute('color', new Float32BufferAttribute(light, 3))
        this.mesh.visible = surface.length > 0
    }
}
