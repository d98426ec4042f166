import { BufferGeometry, DoubleSide, Float32BufferAttribute, Group, LineBasicMaterial, LineSegments, Mesh, MeshBasicMaterial, Points, PointsMaterial } from 'three'

/** Places shown on top of the pieces: flat lists of coordinates, mm. */
export interface Marked {
    /** Two points a line. */
    lines?: number[]
    /** Three points a triangle. */
    triangles?: number[]
    /** Triangles that would be added, in another colour. */
    added?: number[]
    points?: number[]
}

/** Draws marked places so that they are found inside and behind a body as well. */
export class Marks {
    readonly group = new Group()
    private readonly line = new LineBasicMaterial({ depthTest: false, transparent: true })
    private readonly face = new MeshBasicMaterial({ depthTest: false, transparent: true, opacity: 0.55, side: DoubleSide })
    private readonly edge = new LineBasicMaterial({ depthTest: false, transparent: true })
    private readonly good = new MeshBasicMaterial({ depthTest: false, transparent: true, opacity: 0.6, side: DoubleSide })
    private readonly dot = new PointsMaterial({ size: 9, sizeAttenuation: false, depthTest: false, transparent: true })

    colours(mark: string, good: string): void {
        for (const material of [this.line, this.face, this.edge, this.dot]) material.color.set(mark)
        this.good.color.set(good)
    }

    show({ lines = [], triangles = [], added = [], points = [] }: Marked): void {
        for (const child of this.group.children) (child as Mesh).geometry.dispose()
        this.group.clear()
        const geometry = (list: number[]) => new BufferGeometry().setAttribute('position', new Float32BufferAttribute(list, 3))
        const put = (object: Mesh | LineSegments | Points, order: number) => {
            object.renderOrder = order
            object.frustumCulled = false
            this.group.add(object)
        }
        if (triangles.length) {
            put(new Mesh(geometry(triangles), this.face), 20)
            const outline: number[] = []
            for (let i = 0; i < triangles.length; i += 9) {
                for (const [a, b] of [[0, 3], [3, 6], [6, 0]]) outline.push(...triangles.slice(i + a, i + a + 3), ...triangles.slice(i + b, i + b + 3))
            }
            put(new LineSegments(geometry(outline), this.edge), 21)
        }
        if (added.length) put(new Mesh(geometry(added), this.good), 22)
        if (lines.length) put(new LineSegments(geometry(lines), this.line), 23)
        if (points.length) put(new Points(geometry(points), this.dot), 24)
    }
}
