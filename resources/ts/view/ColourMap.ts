import { BufferGeometry, DoubleSide, Float32BufferAttribute, GLSL3, Group, Mesh, ShaderMaterial } from 'three'
import type { Layer } from './Layer'

/**
 * Steps of a scale from nothing to the most, light to dark, told apart by lightness as well as by hue. The legend uses the same list.
 */
export const SCALE = ['#eef0e4', '#cfdcc4', '#a3c2b4', '#6d9fa6', '#457795', '#2f4f7e', '#2a2a5c']

/** A mesh whose places are coloured by a number each, in bands. */
export class ColourMap implements Layer {
    readonly group = new Group()
    private readonly mesh = new Mesh(new BufferGeometry(), new ShaderMaterial({
        glslVersion: GLSL3, side: DoubleSide,
        vertexShader: 'in vec3 shade; out vec3 vShade; out vec3 vEye; void main() { vShade = shade; vec4 eye = modelViewMatrix * vec4(position, 1.0); vEye = eye.xyz; gl_Position = projectionMatrix * eye; }',
        // A little light, so that the form is seen and the colours still match the legend.
        fragmentShader: `precision highp float; in vec3 vShade; in vec3 vEye; layout(location = 0) out vec4 told;
            void main() { vec3 n = normalize(cross(dFdx(vEye), dFdy(vEye))); told = vec4(vShade * (0.84 + 0.16 * max(0.0, dot(n, normalize(vec3(-0.5, 0.7, 0.5))))), 1.0); }`,
    }))

    constructor() {
        this.mesh.frustumCulled = false
        this.mesh.renderOrder = 2
        this.group.add(this.mesh)
    }

    /** Corners of triangles: x, y, z and the number; none clears it. */
    show(corners: Float32Array, most: number): void {
        const count = corners.length / 4
        const places = new Float32Array(3 * count)
        const colours = new Float32Array(3 * count)
        const steps = SCALE.map((hex) => [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16) / 255))
        for (let i = 0; i < count; i++) {
            const share = most > 0 ? Math.min(1, corners[4 * i + 3] / most) * (steps.length - 1) : 0
            const low = Math.min(steps.length - 2, Math.floor(share))
            for (let k = 0; k < 3; k++) {
                places[3 * i + k] = corners[4 * i + k]
                colours[3 * i + k] = steps[low][k] + (share - low) * (steps[low + 1][k] - steps[low][k])
            }
        }
        this.mesh.geometry.dispose()
        this.mesh.geometry = new BufferGeometry().setAttribute('position', new Float32BufferAttribute(places, 3)).setAttribute('shade', new Float32BufferAttribute(colours, 3))
    }
}
