import { BufferGeometry, DoubleSide, Float32BufferAttribute, Group, LineBasicMaterial, LineSegments, Mesh, MeshBasicMaterial, ShapeUtils, Vector2 } from 'three'
import type { Layer } from './Layer'

/** A layer of what is printed: its outlines, filled, at its height. */
export class LayerSheet implements Layer {
    readonly group = new Group()
    private readonly fill = new Mesh(new BufferGeometry(), new MeshBasicMaterial({ side: DoubleSide, polygonOffset: true, polygonOffsetFactor: 2, polygonOffsetUnits: 2 }))
    private readonly lines = new LineSegments(new BufferGeometry(), new LineBasicMaterial())

    constructor() {
        this.lines.renderOrder = 4
        for (const part of [this.fill, this.lines]) {
            part.frustumCulled = false
            this.group.add(part)
        }
    }

    colours({ cut }: { cut: string }): void {
        this.lines.material.color.set(cut)
        // Paper, a little in the colour of what is cut.
        this.fill.material.color.set('#efe3cf').lerp(this.lines.material.color, 0.18)
    }

    show(outlines: Float32Array[], height: number): void {
        const lines: number[] = []
        const places: number[] = []
        for (const outline of outlines) {
            for (let k = 0; k < outline.length; k += 2) {
                const next = (k + 2) % outline.length
                lines.push(outline[k], outline[k + 1], height, outline[next], outline[next + 1], height)
            }
        }
        for (const { outer, holes } of parts(outlines)) {
            const all = [outer, ...holes].flat()
            for (const triangle of ShapeUtils.triangulateShape(outer, holes)) for (const n of triangle) places.push(all[n].x, all[n].y, height)
        }
        this.fill.geometry.dispose()
        this.lines.geometry.dispose()
        this.fill.geometry = new BufferGeometry().setAttribute('position', new Float32BufferAttribute(places, 3))
        this.lines.geometry = new BufferGeometry().setAttribute('position', new Float32BufferAttribute(lines, 3))
    }
}

/** Outer outlines, each with the holes that are within it and within no smaller one. */
function parts(outlines: Float32Array[]): { outer: Vector2[]; holes: Vector2[][] }[] {
    const loops = outlines.map((outline) => {
        const corners = Array.from({ length: outline.length / 2 }, (_, k) => new Vector2(outline[2 * k], outline[2 * k + 1]))
        return { corners, area: ShapeUtils.area(corners) }
    })
    const outers = loops.filter(({ area }) => area > 0).sort((a, b) => a.area - b.area).map(({ corners }) => ({ outer: corners, holes: [] as Vector2[][] }))
    for (const { corners, area } of loops) {
        if (area < 0) outers.find(({ outer }) => isWithin(corners[0], outer))?.holes.push(corners)
    }
    return outers
}

function isWithin(at: Vector2, outline: Vector2[]): boolean {
    let is = false
    outline.forEach((b, n) => {
        const a = outline[(n + outline.length - 1) % outline.length]
        if ((a.y > at.y) !== (b.y > at.y) && at.x < ((b.x - a.x) * (at.y - a.y)) / (b.y - a.y) + a.x) is = !is
    })
    return is
}
