import { BufferGeometry, Float32BufferAttribute, Group, LineBasicMaterial, LineSegments, Mesh, MeshBasicMaterial, Points, PointsMaterial, SphereGeometry } from 'three'
import type { Vector } from '../api/types'
import type { FreeGrip, Layer, Pen } from './Layer'

export interface Corners {
    at: Vector[]
    /** Of the plane in which they are dragged. */
    facing: Vector
    /** How near a press must be, mm. */
    reach: number
    taken(corner: number): void
    placed(corner: number, at: Vector): void
}

/** Lines drawn across the view, with corners that can be dragged; they shine through bodies. */
export class DrawnLines implements Layer {
    readonly group = new Group()
    private readonly material = new LineBasicMaterial({ depthTest: false, transparent: true, linewidth: 2 })
    private readonly lines = new LineSegments(new BufferGeometry(), this.material)
    private readonly faint = new LineBasicMaterial({ depthTest: false, transparent: true, opacity: 0.45 })
    private readonly open = new LineSegments(new BufferGeometry(), this.faint)
    private readonly dots = new PointsMaterial({ depthTest: false, transparent: true, size: 7, sizeAttenuation: false })
    private readonly points = new Points(new BufferGeometry(), this.dots)
    private readonly lit = new PointsMaterial({ depthTest: false, transparent: true, size: 11, sizeAttenuation: false })
    private readonly one = new Points(new BufferGeometry(), this.lit)
    private readonly ball = new SphereGeometry(1, 8, 6)
    private hits: Mesh[] = []
    private corners: Corners | null = null

    constructor(private readonly drawing: () => Pen | null) {
        for (const part of [this.lines, this.open, this.points, this.one]) {
            part.frustumCulled = false
            part.renderOrder = 8
            this.group.add(part)
        }
    }

    colours({ cut, ink }: { cut: string; ink: string }): void {
        this.material.color.set(cut)
        this.faint.color.set(cut)
        this.dots.color.set(cut)
        this.lit.color.set(ink)
    }

    pen(): Pen | null {
        return this.drawing()
    }

    /** Chains of places; the second list is faint: what is not there yet. */
    show(chains: Vector[][], faint: Vector[][] = []): void {
        put(this.lines, pairs(chains))
        put(this.open, pairs(faint))
    }

    setCorners(corners: Corners | null): void {
        this.corners = corners
        const at = corners?.at ?? []
        put(this.points, at.flat())
        put(this.one, [])
        for (const hit of this.hits) this.group.remove(hit)
        this.hits = at.map((place) => {
            const hit = new Mesh(this.ball, new MeshBasicMaterial({ visible: false }))
            hit.position.set(...place)
            hit.scale.setScalar(corners?.reach ?? 1)
            hit.updateMatrixWorld()
            this.group.add(hit)
            return hit
        })
    }

    grips(): FreeGrip[] {
        const { corners } = this
        if (!corners) return []
        return corners.at.map((at, k) => ({
            meshes: [this.hits[k]], at, facing: corners.facing, taken: () => corners.taken(k), placed: (to: Vector) => corners.placed(k, to),
            light: (is: boolean) => { if (is || k === 0) put(this.one, is ? at : []) },
        }))
    }
}

function put(of: LineSegments | Points, list: number[]): void {
    of.geometry.dispose()
    of.geometry = new BufferGeometry().setAttribute('position', new Float32BufferAttribute(list, 3))
}

function pairs(chains: Vector[][]): number[] {
    return chains.flatMap((chain) => chain.slice(1).flatMap((to, k) => [...chain[k], ...to]))
}
