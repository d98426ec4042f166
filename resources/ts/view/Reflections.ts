import { Color, DoubleSide, GLSL3, Group, Matrix4, Mesh, ShaderMaterial, Vector3, Vector4 } from 'three'
import type { Vector } from '../api/types'
import type { Layer, Seen } from './Layer'

/** Images of what is taken, as a mirror will make them. */
export interface Images {
    /** Where each image stands, from where the piece does. */
    to: Matrix4[]
    /** Only what lies ahead of all of these has an image: facing and distance from the origin; at most three. */
    ahead: { facing: Vector; offset: number }[]
    /** Pieces that have images. */
    pieces: Set<number>
}

/** Triangles in all images together, beyond which they would slow the view down. */
const MOST = 6e6
const MOST_IMAGES = 600

/** Over a plane: the point and the direction. */
export function overPlane(through: Vector, facing: Vector): Matrix4 {
    const n = new Vector3(...facing).normalize()
    const d = 2 * n.dot(new Vector3(...through))
    return new Matrix4(
        1 - 2 * n.x * n.x, -2 * n.x * n.y, -2 * n.x * n.z, d * n.x,
        -2 * n.y * n.x, 1 - 2 * n.y * n.y, -2 * n.y * n.z, d * n.y,
        -2 * n.z * n.x, -2 * n.z * n.y, 1 - 2 * n.z * n.z, d * n.z,
        0, 0, 0, 1,
    )
}

/** The images over planes, one after the other: 2ⁿ − 1 of them. */
export function overPlanes(planes: { through: Vector; facing: Vector }[]): Matrix4[] {
    let all = [new Matrix4()]
    for (const { through, facing } of planes) {
        const over = overPlane(through, facing)
        all = [...all, ...all.map((one) => over.clone().multiply(one))]
    }
    return all.slice(1)
}

/** The images about an axis, count − 1 of them. */
export function aboutAxis(through: Vector, axis: Vector, count: number): Matrix4[] {
    const at = new Vector3(...through)
    const about = new Vector3(...axis).normalize()
    return Array.from({ length: Math.max(0, count - 1) }, (_, n) => new Matrix4().makeTranslation(at).multiply(new Matrix4().makeRotationAxis(about, (2 * Math.PI * (n + 1)) / count)).multiply(new Matrix4().makeTranslation(at.clone().negate())))
}

/** Draws the images sheer, so that they are never taken for pieces. */
export class Reflections implements Layer {
    readonly group = new Group()
    private images: Images | null = null
    private seen: Seen[] = []

    set(images: Images | null): void {
        this.images = images
        this.show()
    }

    pieces(seen: Seen[]): void {
        this.seen = seen
        this.show()
    }

    private show(): void {
        for (const child of this.group.children) ((child as Mesh).material as ShaderMaterial).dispose()
        this.group.clear()
        const images = this.images
        if (!images) return
        const shown = this.seen.filter((piece) => images.pieces.has(piece.id))
        const triangles = shown.reduce((sum, piece) => sum + piece.geometry.getAttribute('position').count / 3, 0)
        if (triangles * images.to.length > MOST || shown.length * images.to.length > MOST_IMAGES) return
        for (const piece of shown) {
            const material = sheer(piece, images.ahead)
            for (const to of images.to) {
                const image = new Mesh(piece.geometry, material)
                image.matrixAutoUpdate = false
                image.matrix.copy(to).multiply(new Matrix4().makeTranslation(...piece.centre))
                image.matrixWorldNeedsUpdate = true
                image.frustumCulled = false
                image.renderOrder = 4
                this.group.add(image)
            }
        }
    }
}

function sheer(piece: Seen, ahead: Images['ahead']): ShaderMaterial {
    const planes = [0, 1, 2].map((k) => (ahead[k] ? new Vector4(...ahead[k].facing, ahead[k].offset) : new Vector4(0, 0, 0, -1)))
    return new ShaderMaterial({
        glslVersion: GLSL3, side: DoubleSide, transparent: true, depthWrite: false,
        uniforms: { colour: { value: new Color(piece.colour) }, centre: { value: new Vector3(...piece.centre) }, planes: { value: planes } },
        vertexShader: /* glsl */ `
            uniform vec3 centre;
            out vec3 vHere;
            out vec3 vNormal;
            out vec3 vEye;
            void main() {
                vHere = position + centre;
                vec4 eye = modelViewMatrix * vec4(position, 1.0);
                vEye = eye.xyz;
                vNormal = normalMatrix * normal;
                gl_Position = projectionMatrix * eye;
            }`,
        fragmentShader: /* glsl */ `
            precision highp float;
            uniform vec3 colour;
            uniform vec4 planes[3];
            in vec3 vHere;
            in vec3 vNormal;
            in vec3 vEye;
            layout(location = 0) out vec4 told;
            void main() {
                for (int k = 0; k < 3; k++) if (dot(vHere, planes[k].xyz) < planes[k].w) discard;
                vec3 n = normalize(vNormal);
                float edge = pow(1.0 - abs(dot(n, normalize(vEye))), 2.0);
                told = vec4(colour * (0.55 + 0.35 * abs(n.y)), 0.13 + 0.42 * edge);
                told = linearToOutputTexel(told);
            }`,
    })
}
