import { Group, Mesh, MeshBasicMaterial, SphereGeometry, TorusGeometry, Vector3 } from 'three'
import type { Vector } from '../api/types'
import type { DragGrip, Layer } from './Layer'

export interface Ring {
    at: Vector
    axis: Vector
    /** Radius, mm. */
    size: number
    degrees: number
    /** Dragged so far round, degrees from where it was taken hold of. */
    dragged(by: number): void
    /** Taken hold of. */
    taken(): void
    released?(): void
}

const BEFORE = new Vector3(0, 0, 1)

/** A ring about the axis with a knob, by which what is taken is turned; it shines through bodies. */
export class TurnRing implements Layer {
    readonly group = new Group()
    private readonly material = new MeshBasicMaterial({ transparent: true, opacity: 0.85, depthTest: false, depthWrite: false })
    private readonly knobMaterial = this.material.clone()
    private readonly knob = new Mesh(new SphereGeometry(0.06, 20, 14), this.knobMaterial)
    private readonly hit = new Mesh(new SphereGeometry(0.13, 10, 8), new MeshBasicMaterial({ visible: false }))
    private shown: Ring | null = null
    private page = { cut: '#b5371a', ink: '#22262e' }

    constructor() {
        const ring = new Mesh(new TorusGeometry(1, 0.01, 8, 96), this.material)
        for (const part of [ring, this.knob]) part.renderOrder = 9
        this.group.add(ring, this.knob, this.hit)
        this.group.visible = false
    }

    colours(page: { cut: string; ink: string }): void {
        this.page = page
        this.light(false)
    }

    set(ring: Ring | null): void {
        this.shown = ring
        this.group.visible = ring !== null
        if (!ring) return
        this.group.position.set(...ring.at)
        this.group.scale.setScalar(ring.size)
        this.group.quaternion.setFromUnitVectors(BEFORE, new Vector3(...ring.axis).normalize())
        const angle = (ring.degrees * Math.PI) / 180
        for (const part of [this.knob, this.hit]) part.position.set(Math.cos(angle), Math.sin(angle), 0)
        this.group.updateMatrixWorld()
    }

    grips(): DragGrip[] {
        const shown = this.shown
        if (!shown) return []
        const at = this.knob.getWorldPosition(new Vector3())
        const along = new Vector3(...shown.axis).normalize().cross(at.clone().sub(new Vector3(...shown.at))).normalize()
        return [{
            // Straight along the ring where it is taken hold of: a radius of the way is a radian of the turn.
            meshes: [this.hit], at: at.toArray() as Vector, along: along.toArray() as Vector, taken: () => shown.taken(), released: () => shown.released?.(),
            dragged: (by: number) => shown.dragged((by / shown.size) * (180 / Math.PI)), light: (is: boolean) => this.light(is),
        }]
    }

    /** Just beyond the knob, for how far it is turned. */
    tip(): Vector | null {
        const shown = this.shown
        if (!shown) return null
        const at = this.knob.getWorldPosition(new Vector3())
        return at.add(at.clone().sub(new Vector3(...shown.at)).multiplyScalar(0.14)).toArray() as Vector
    }

    private light(is: boolean): void {
        this.material.color.set(this.page.cut)
        this.knobMaterial.color.set(is ? this.page.ink : this.page.cut)
    }
}
