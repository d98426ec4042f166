import {
    BoxGeometry, BufferGeometry, CylinderGeometry, DoubleSide, Float32BufferAttribute, Group, LineBasicMaterial, LineDashedMaterial,
    LineLoop, LineSegments, Mesh, MeshBasicMaterial, PlaneGeometry, Quaternion, TorusGeometry, Vector3,
} from 'three'
import type { SectionAnswer, Vector } from '../api/types'

export type Grip = 'stem' | 'rim'

/**
 * The blade in the view: a sheet with a dashed edge, and its handle: a stem with a grip that slides it, standing in a
 * protractor rim that tilts it.
 */
export class BladeHandle {
    readonly group = new Group()
    private readonly sheet: Mesh<PlaneGeometry, MeshBasicMaterial>
    private readonly edge: LineLoop<BufferGeometry, LineDashedMaterial>
    private readonly stem = new Group()
    private readonly rim = new Group()
    private readonly grips: Mesh[]
    private readonly rimHits: Mesh[]
    private readonly section: LineSegments<BufferGeometry, LineBasicMaterial>
    private readonly solid: MeshBasicMaterial
    private readonly ghost = new MeshBasicMaterial({ transparent: true, opacity: 0.3, depthTest: false, depthWrite: false })
    private readonly thin: LineBasicMaterial
    private hot: Grip | null = null
    private colour = '#b5371a'
    private inkColour = '#22262e'

    constructor() {
        this.solid = new MeshBasicMaterial({ color: this.colour })
        this.thin = new LineBasicMaterial({ color: this.inkColour, transparent: true, opacity: 0.65 })
        this.sheet = new Mesh(new PlaneGeometry(1, 1), new MeshBasicMaterial({ color: this.colour, transparent: true, opacity: 0.1, side: DoubleSide, depthWrite: false }))
        this.sheet.renderOrder = 5
        const square = new BufferGeometry().setAttribute('position', new Float32BufferAttribute([-0.5, -0.5, 0, 0.5, -0.5, 0, 0.5, 0.5, 0, -0.5, 0.5, 0, -0.5, -0.5, 0], 3))
        this.edge = new LineLoop(square, new LineDashedMaterial({ color: this.colour, dashSize: 0.018, gapSize: 0.012 }))
        this.edge.computeLineDistances()

        // Built for a handle of length 1; scaled with the pieces.
        const shaft = new Mesh(new CylinderGeometry(0.011, 0.011, 0.86, 12), this.solid)
        shaft.rotation.x = Math.PI / 2
        shaft.position.z = 0.43
        const grip = new Mesh(new BoxGeometry(0.24, 0.07, 0.075), this.solid)
        grip.position.z = 0.9
        const gripHit = new Mesh(new CylinderGeometry(0.11, 0.11, 1.1, 8), new MeshBasicMaterial({ visible: false }))
        gripHit.rotation.x = Math.PI / 2
        gripHit.position.z = 0.55
        this.stem.add(shaft, grip, gripHit)
        // Inside or behind a body the handle shines through, so that it can always be found.
        for (const part of [shaft, grip]) {
            const ghost = new Mesh(part.geometry, this.ghost)
            ghost.position.copy(part.position)
            ghost.rotation.copy(part.rotation)
            ghost.renderOrder = 9
            this.stem.add(ghost)
        }
        this.grips = [gripHit]

        const ticks: number[] = []
        for (let degrees = 0; degrees < 360; degrees += 5) {
            const angle = (degrees * Math.PI) / 180
            const length = degrees % 45 === 0 ? 0.12 : degrees % 15 === 0 ? 0.075 : 0.04
            ticks.push(Math.sin(angle), 0, Math.cos(angle), (1 + length) * Math.sin(angle), 0, (1 + length) * Math.cos(angle))
        }
        const circle: number[] = []
        for (let i = 0; i < 144; i++) circle.push(Math.sin((i * Math.PI) / 72), 0, Math.cos((i * Math.PI) / 72))
        const rimHit = new Mesh(new TorusGeometry(1.04, 0.075, 6, 72), new MeshBasicMaterial({ visible: false }))
        rimHit.rotation.x = Math.PI / 2
        this.rim.add(
            new LineSegments(new BufferGeometry().setAttribute('position', new Float32BufferAttribute(ticks, 3)), this.thin),
            new LineLoop(new BufferGeometry().setAttribute('position', new Float32BufferAttribute(circle, 3)), this.thin),
            rimHit,
        )
        this.rimHits = [rimHit]

        this.section = new LineSegments(new BufferGeometry(), new LineBasicMaterial({ color: this.colour, depthTest: false, transparent: true }))
        this.section.renderOrder = 10
        this.section.frustumCulled = false
        this.group.add(this.sheet, this.edge, this.stem, this.rim, this.section)
    }

    colours(cut: string, ink: string): void {
        this.colour = cut
        this.inkColour = ink
        this.thin.color.set(ink)
        this.sheet.material.color.set(cut)
        this.edge.material.color.set(cut)
        this.section.material.color.set(cut)
        this.light(this.hot)
    }

    /** Without the sheet and its section. */
    bare(is: boolean): void {
        for (const part of [this.sheet, this.edge, this.section]) part.visible = !is
    }

    /** Size is the diagonal of what the blade takes, mm. */
    place(centre: Vector, facing: Vector, turn: number, size: number): void {
        const at = new Vector3(...centre)
        const straight = new Quaternion().setFromUnitVectors(new Vector3(0, 0, 1), new Vector3(...facing))
        this.sheet.position.copy(at)
        this.sheet.quaternion.copy(straight)
        this.sheet.scale.setScalar(size * 0.66)
        this.edge.position.copy(at)
        this.edge.quaternion.copy(straight)
        this.edge.scale.setScalar(size * 0.66)
        this.stem.position.copy(at)
        this.stem.quaternion.copy(straight)
        this.stem.scale.setScalar(size * 0.3)
        this.rim.position.copy(at)
        this.rim.quaternion.setFromAxisAngle(new Vector3(0, 0, 1), (turn * Math.PI) / 180)
        this.rim.scale.setScalar(size * 0.36)
    }

    draw(section: SectionAnswer | null): void {
        const lines: number[] = []
        const page = section?.page
        if (section && page) {
            const [origin, right, up] = page
            const put = ([x, y]: [number, number]) => {
                for (let k = 0; k < 3; k++) lines.push(origin[k] + x * right[k] + y * up[k])
            }
            for (const piece of section.pieces) {
                for (const outline of piece.outlines) {
                    outline.forEach((point, i) => {
                        put(point)
                        put(outline[(i + 1) % outline.length])
                    })
                }
                for (const line of piece.lines) {
                    for (let i = 1; i < line.length; i++) {
                        put(line[i - 1])
                        put(line[i])
                    }
                }
            }
        }
        this.section.geometry.dispose()
        this.section.geometry = new BufferGeometry().setAttribute('position', new Float32BufferAttribute(lines, 3))
    }

    /** What can be taken hold of, for the pointer's ray. */
    targets(): { grip: Grip; meshes: Mesh[] }[] {
        return [{ grip: 'stem', meshes: this.grips }, { grip: 'rim', meshes: this.rimHits }]
    }

    light(grip: Grip | null): void {
        this.hot = grip
        this.solid.color.set(grip === 'stem' ? this.inkColour : this.colour)
        this.ghost.color.copy(this.solid.color)
        this.thin.color.set(grip === 'rim' ? this.colour : this.inkColour)
        this.thin.opacity = grip === 'rim' ? 1 : 0.65
    }
}
