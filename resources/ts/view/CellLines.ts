import { BufferGeometry, Float32BufferAttribute, Group, LineBasicMaterial, LineSegments } from 'three'
import type { Layer } from './Layer'

/** Drawn a hundredth of the way nearer to the eye, where they stand on the page: what stands in for a large body is not quite where its skin is. */
function nearer(shader: { vertexShader: string }): void {
    shader.vertexShader = shader.vertexShader.replace('#include <project_vertex>', `#include <project_vertex>
        if (isOrthographic) mvPosition.z += 0.01 * abs(mvPosition.z);
        else mvPosition.xyz *= 0.99;
        gl_Position = projectionMatrix * mvPosition;`)
}

/** Cells to come: the lines along which the skin will part, and the cells' edges within the body, which show through faintly. */
export class CellLines implements Layer {
    readonly group = new Group()
    private readonly seen = new LineBasicMaterial({ transparent: true, opacity: 0.95 })
    private readonly through = new LineBasicMaterial({ transparent: true, opacity: 0.14, depthTest: false })
    private readonly within: LineBasicMaterial
    private readonly skin = new LineSegments(new BufferGeometry(), this.seen)
    private readonly behind = new LineSegments(this.skin.geometry, this.through)
    private readonly inner: LineSegments

    /** How strong the lines within are: 1 hides what is behind them. */
    constructor(within = 0.2) {
        this.within = new LineBasicMaterial({ transparent: true, opacity: within, depthTest: false })
        this.inner = new LineSegments(new BufferGeometry(), this.within)
        this.seen.onBeforeCompile = nearer
        for (const lines of [this.skin, this.behind, this.inner]) {
            lines.frustumCulled = false
            lines.renderOrder = 4
            this.group.add(lines)
        }
    }

    colours({ cut, ink }: { cut: string; ink: string }): void {
        this.seen.color.set(cut)
        this.through.color.set(cut)
        this.within.color.set(ink)
    }

    show(skin: Float32Array, inner: Float32Array): void {
        this.skin.geometry.dispose()
        this.inner.geometry.dispose()
        this.skin.geometry = this.behind.geometry = new BufferGeometry().setAttribute('position', new Float32BufferAttribute(skin, 3))
        this.inner.geometry = new BufferGeometry().setAttribute('position', new Float32BufferAttribute(inner, 3))
    }
}
