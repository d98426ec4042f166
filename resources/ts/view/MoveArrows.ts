import { ConeGeometry, CylinderGeometry, Group, Mesh, MeshBasicMaterial, Vector3 } from 'three'
import type { Vector } from '../api/types'
import type { DragGrip, Layer } from './Layer'

export interface Arrows {
    at: Vector
    /** Length of an arrow, mm. */
    size: number
    /** Dragged along an axis, mm from where it was taken hold of. */
    dragged(axis: number, by: number): void
    /** Taken hold of. */
    taken(): void
}

const AXES: Vector[] = [[1, 0, 0], [0, 1, 0], [0, 0, 1]]

/** Three arrows along the axes, by which what is taken is moved or scaled; they shine through bodies. */
export class MoveArrows implements Layer {
    readonly group = new Group()
    private readonly materials = AXES.map(() => new MeshBasicMaterial({ transparent: true, opacity: 0.85, depthTest: false, depthWrite: false }))
    private readonly arrows: Group[]
    private readonly hits: Mesh[]
    private shown: Arrows | null = null
    private page = { cut: '#b5371a', ink: '#22262e' }
    private lit = -1

    constructor() {
        const hits: Mesh[] = []
        this.arrows = AXES.map((axis, k) => {
            const arrow = new Group()
            const shaft = new Mesh(new CylinderGeometry(0.012, 0.012, 0.8, 10), this.materials[k])
            shaft.position.y = 0.4
            const head = new Mesh(new ConeGeometry(0.045, 0.2, 16), this.materials[k])
            head.position.y = 0.9
            const hit = new Mesh(new CylinderGeometry(0.09, 0.09, 0.95, 8), new MeshBasicMaterial({ visible: false }))
            hit.position.y = 0.55
            hits.push(hit)
            arrow.add(shaft, head, hit)
            for (const part of [shaft, head]) part.renderOrder = 9
            arrow.quaternion.setFromUnitVectors(new Vector3(0, 1, 0), new Vector3(...axis))
            return arrow
        })
        this.hits = hits
        this.group.add(...this.arrows)
        this.group.visible = false
    }

    colours(page: { cut: string; ink: string }): void {
        this.page = page
        this.paint()
    }

    set(arrows: Arrows | null): void {
        this.shown = arrows
        this.group.visible = arrows !== null
        if (!arrows) return
        this.group.position.set(...arrows.at)
        this.group.scale.setScalar(arrows.size)
        this.group.updateMatrixWorld()
    }

    grips(): DragGrip[] {
        const shown = this.shown
        if (!shown) return []
        return AXES.map((along, k) => ({
            meshes: [this.hits[k]], at: shown.at, along, taken: () => shown.taken(), dragged: (by: number) => shown.dragged(k, by), light: (is: boolean) => this.light(is ? k : -1),
        }))
    }

    /** Just beyond the heads, for their letters. */
    tips(): { at: Vector; name: string; text: string }[] {
        const shown = this.shown
        return shown ? AXES.map((axis, n) => ({ at: shown.at.map((c, k) => c + 1.08 * shown.size * axis[k]) as Vector, name: 'XYZ'[n], text: 'XYZ'[n] })) : []
    }

    private light(axis: number): void {
        this.lit = axis
        this.paint()
    }

    private paint(): void {
        this.materials.forEach((material, k) => material.color.set(this.lit === k ? this.page.ink : this.page.cut))
    }
}
