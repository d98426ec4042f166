import { BoxGeometry, Group, Mesh, MeshBasicMaterial } from 'three'
import type { Vector } from '../api/types'
import type { FreeGrip, Layer } from './Layer'

export interface Dragged {
    /** The box around what is dragged. */
    min: Vector
    max: Vector
    taken(): void
    /** So far across the bed, mm, from where it was taken hold of. */
    moved(x: number, y: number): void
    released(): void
}

/** What lies on a bed is taken hold of by the box around it, and dragged across the bed. */
export class PlateDrag implements Layer {
    readonly group = new Group()
    private readonly box = new Mesh(new BoxGeometry(1, 1, 1), new MeshBasicMaterial({ visible: false }))
    private shown: Dragged | null = null

    constructor() {
        this.group.add(this.box)
    }

    set(dragged: Dragged | null): void {
        this.shown = dragged
        this.group.visible = dragged !== null
        if (!dragged) return
        const { min, max } = dragged
        this.box.position.set(...(min.map((low, k) => (low + max[k]) / 2) as Vector))
        this.box.scale.set(...(min.map((low, k) => Math.max(1e-6, max[k] - low)) as Vector))
        this.group.updateMatrixWorld()
    }

    grips(): FreeGrip[] {
        const shown = this.shown
        if (!shown) return []
        let from: Vector | null = null
        return [{
            meshes: [this.box], at: this.box.position.toArray() as Vector, facing: [0, 0, 1], taken(at) {
                from = at
                shown.taken()
            },
            placed(at) {
                if (from) shown.moved(at[0] - from[0], at[1] - from[1])
            },
            released: () => shown.released(), light: () => undefined,
        }]
    }
}
