import { BufferGeometry, Float32BufferAttribute, LineBasicMaterial, LineSegments, Vector3 } from 'three'
import type { Vector } from '../api/types'
import type { Layer } from './Layer'

/** Planes, each drawn as a square about the middle of its piece. */
export class Squares implements Layer {
    readonly group = new LineSegments(new BufferGeometry(), new LineBasicMaterial({ transparent: true, opacity: 0.85 }))

    constructor() {
        this.group.frustumCulled = false
    }

    colours({ cut }: { cut: string }): void {
        this.group.material.color.set(cut)
    }

    show(planes: { facing: Vector; offset: number; middle: Vector; size: number }[]): void {
        const lines: number[] = []
        for (const { facing, offset, middle, size } of planes) {
            const n = new Vector3(...facing)
            const centre = new Vector3(...middle)
            centre.addScaledVector(n, offset - n.dot(centre))
            const across = new Vector3(Math.abs(n.z) > 0.9 ? 1 : 0, 0, Math.abs(n.z) > 0.9 ? 0 : 1).cross(n).normalize()
            const up = n.clone().cross(across)
            const corner = (a: number, b: number) => centre.clone().addScaledVector(across, a * size).addScaledVector(up, b * size)
            const square = [corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)]
            square.forEach((point, k) => lines.push(...point.toArray(), ...square[(k + 1) % 4].toArray()))
        }
        this.group.geometry.dispose()
        this.group.geometry = new BufferGeometry().setAttribute('position', new Float32BufferAttribute(lines, 3))
    }
}
