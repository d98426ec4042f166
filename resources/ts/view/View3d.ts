import {
    Box3, BufferGeometry, Color, Float32BufferAttribute, GridHelper, LineBasicMaterial, LineDashedMaterial, LineSegments, Matrix4, Mesh, OrthographicCamera, PerspectiveCamera, Plane, Raycaster, Scene, Vector2,
    Vector3, Vector4, WebGLRenderer, WebGLRenderTarget, type ShaderMaterial,
} from 'three'
import { OrbitControls } from 'three/addons/controls/OrbitControls.js'
import type { Keep, LostSide, SectionAnswer, Vector } from '../api/types'
import { BladeHandle, type Grip } from './BladeHandle'
import type { Drawn } from './geometry'
import { identityPicture } from './identity'
import type { DragGrip, FreeGrip, Layer, Pen, PenAt, Sight } from './Layer'
import { lostArea } from './LostArea'
import { Marks, type Marked } from './Marks'
import { capped, dress, numberMaterial, pieceMaterial, shared, type InsideDrawn } from './materials'

export interface ShownPiece {
    id: number
    mesh: string
    colour: string
    visible: boolean
    picked: boolean
    /** From where it really stands to where it is drawn. */
    pose: Matrix4
    /** Marks skin that looks down within 45° of this direction and does not lie on the bed, where it really stands. */
    over?: { down: Vector; bed: number }
    /** Leaves out what is farther than this along a direction, where it really stands. */
    cap?: { up: Vector; limit: number }
}

/** What a press in the view means: turning and picking, or placing something. */
export type Tool = 'none' | 'line' | 'face' | 'points' | 'paint' | 'place' | 'draw'

export interface DrawnLine {
    from: { x: number; y: number }
    to: { x: number; y: number }
    /** Of the line on the page, degrees, −180 to 180. */
    angle: number
    facing: Vector
    through: Vector
}

export interface ViewEvents {
    pick(id: number | null, more: boolean): void
    /** A line is drawn across the view; done when it is let go. */
    line(line: DrawnLine, done: boolean): void
    /** A face was clicked: its number in the piece, and the point, where the piece really stands. */
    face(id: number, face: number, point: Vector): void
    grab(grip: Grip): void
    slide(by: number): void
    tilt(to: number, free: boolean): void
    release(): void
    drawn(): void
}

export interface BladePose {
    centre: Vector
    facing: Vector
    turn: number
    size: number
    keep: Keep
    /** Further planes ahead of which all is lost. */
    lost?: { facing: Vector; offset: number }[]
    /** Only the handle is drawn. */
    bare?: boolean
    shown: boolean
}

interface Entry {
    piece: ShownPiece
    /** Where its geometry is centred, where it really stands. */
    centre: Vector
    mesh: Mesh
    sheer: Mesh
    rims: LineSegments
    materials: ShaderMaterial[]
    /** Where its geometry is drawn: one matrix for all that is drawn of it. */
    at: Matrix4
    /** From where it is drawn to where it really stands: one for all materials. */
    home: Matrix4
}

const DIRECTIONS: Record<string, Vector> = {
    front: [0, -1, 0], back: [0, 1, 0], left: [-1, 0, 0], right: [1, 0, 0], top: [0, 0, 1], bottom: [0, 0, -1], corner: [0.62, -0.72, 0.34],
}

/** The three-dimensional view: draws, and reports what the pointer did. Decides nothing. */
export class View3d {
    private readonly renderer: WebGLRenderer
    private readonly scene = new Scene()
    private readonly camera: PerspectiveCamera
    private readonly flatCamera: OrthographicCamera
    private readonly controls: OrbitControls
    private readonly blade = new BladeHandle()
    private readonly entries = new Map<number, Entry>()
    private readonly numbers = new WebGLRenderTarget(1, 1)
    private readonly numberMaterial = numberMaterial()
    private readonly observer: ResizeObserver
    private readonly rimMaterial = new LineBasicMaterial()
    private page = { cut: '#b5371a', ink: '#22262e', good: '#3d6b4f', soft: '#777777' }
    private covered: number | null = null
    private grid: GridHelper | null = null
    private box = new Box3(new Vector3(-1, -1, -1), new Vector3(1, 1, 1))
    private pose: BladePose | null = null
    private held: { grip: Grip; from: number; pose: BladePose } | null = null
    private dragging: { grip: DragGrip; from: number } | { grip: FreeGrip } | null = null
    private penIsDown = false
    private size = { width: 0, height: 0 }
    private pressed: { x: number; y: number } | null = null
    private wanted = false
    /** What lies under the pointer and is drawn so; undefined when something else has changed since. */
    private lit: Grip | number | null | undefined
    private gone = false
    private parallel = false
    private own = true
    private inside: InsideDrawn | null = null
    private tool: Tool = 'none'
    private drawing: { x: number; y: number } | null = null
    private readonly marks = new Marks()
    private readonly layers: Layer[] = []
    private readonly boxLines = new LineSegments(new BufferGeometry(), new LineBasicMaterial({ transparent: true, opacity: 0.7 }))
    private readonly space = new LineSegments(new BufferGeometry(), new LineDashedMaterial({ transparent: true, opacity: 0.9 }))

    constructor(
        private readonly host: HTMLElement,
        private readonly events: ViewEvents,
    ) {
        this.renderer = new WebGLRenderer({ antialias: true, preserveDrawingBuffer: true })
        this.renderer.setPixelRatio(Math.min(devicePixelRatio, 2))
        host.append(this.renderer.domElement)
        this.renderer.domElement.setAttribute('aria-label', '3-D view of the pieces')
        this.camera = new PerspectiveCamera(32, 1, 1, 1e5)
        this.camera.up.set(0, 0, 1)
        this.flatCamera = new OrthographicCamera(-1, 1, 1, -1, -1e5, 1e5)
        this.flatCamera.up.set(0, 0, 1)
        this.controls = new OrbitControls(this.camera, this.renderer.domElement)
        this.controls.addEventListener('change', () => {
            if (this.parallel && this.held === null) this.bend()
            this.redraw()
        })
        for (const lines of [this.boxLines, this.space]) lines.frustumCulled = false
        this.scene.add(this.blade.group, this.marks.group, this.boxLines, this.space)
        this.observer = new ResizeObserver(() => this.resize())
        this.observer.observe(host)
        const canvas = this.renderer.domElement
        // Before the orbit sees it: a press on the handle takes the handle.
        canvas.addEventListener('pointerdown', this.down, { capture: true })
        canvas.addEventListener('pointermove', this.move)
        canvas.addEventListener('pointerup', this.up)
        canvas.addEventListener('pointercancel', this.up)
        this.resize()
    }

    dispose(): void {
        this.gone = true
        lostArea.show(null)
        this.observer.disconnect()
        this.controls.dispose()
        this.renderer.dispose()
        this.renderer.domElement.remove()
    }

    /** Takes the colours of the page. */
    theme(): void {
        const style = getComputedStyle(document.documentElement)
        const colour = (name: string) => style.getPropertyValue(name).trim()
        this.scene.background = new Color(colour('--ground'))
        shared.paper.value.set(document.documentElement.dataset.theme === 'night' ? '#d9d3c6' : '#fdfbf5')
        shared.ink.value.set('#22262e')
        this.rimMaterial.color.set(colour('--ink'))
        this.marks.colours(colour('--cut'), colour('--good'))
        this.page = { cut: colour('--cut'), ink: colour('--ink'), good: colour('--good'), soft: colour('--soft') }
        for (const layer of this.layers) layer.colours?.(this.page)
        this.boxLines.material.color.set(colour('--soft'))
        this.space.material.color.set(colour('--picked'))
        this.blade.colours(colour('--cut'), colour('--ink'))
        this.ground()
        this.redraw()
    }

    style(display: 'shaded' | 'flat' | 'glass', lines: boolean, own: boolean): void {
        this.own = own
        for (const entry of this.entries.values()) this.dress(entry)
        shared.glass.value = display === 'glass' ? 1 : 0
        shared.facets.value = display === 'flat' ? 1 : 0
        shared.lines.value = lines ? 1 : 0
        this.redraw()
    }

    /** How inside faces are drawn; null for hatched. */
    setInside(inside: InsideDrawn | null): void {
        this.inside = inside
        for (const entry of this.entries.values()) this.dress(entry)
        this.redraw()
    }

    /** With what came with the mesh, where there is anything and it is wanted. */
    private dress({ mesh, materials }: Entry): void {
        for (const material of materials) dress(material, mesh.geometry, this.own, this.inside)
    }

    /** Shows exactly these pieces; what is not drawn yet is asked for. */
    show(pieces: ShownPiece[], drawn: (mesh: string) => Drawn | undefined): void {
        const ids = new Set(pieces.map((piece) => piece.id))
        for (const [id, entry] of this.entries) {
            if (ids.has(id)) continue
            this.scene.remove(entry.mesh, entry.sheer, entry.rims)
            entry.materials.forEach((material) => material.dispose())
            this.entries.delete(id)
        }
        pieces.forEach((piece, n) => {
            const shape = drawn(piece.mesh)
            if (!shape) return
            let entry = this.entries.get(piece.id)
            if (!entry) {
                const materials = (['whole', 'sheer', 'solid'] as const).map((pass) => pieceMaterial(piece.colour, n % 2 ? 1 : -1, pass))
                entry = {
                    piece, materials, centre: shape.centre, mesh: new Mesh(shape.geometry, materials[0]), sheer: new Mesh(shape.geometry, materials[1]),
                    rims: new LineSegments(shape.rims, this.rimMaterial), at: new Matrix4(), home: new Matrix4(),
                }
                entry.sheer.renderOrder = 3
                for (const part of [entry.mesh, entry.sheer, entry.rims]) {
                    part.matrixAutoUpdate = false
                    part.matrix = entry.at
                }
                for (const material of materials) material.uniforms.home.value = entry.home
                this.scene.add(entry.mesh, entry.sheer, entry.rims)
                this.entries.set(piece.id, entry)
            }
            entry.piece = piece
            // A rough picture gives way to the mesh itself.
            entry.mesh.geometry = entry.sheer.geometry = shape.geometry
            entry.rims.geometry = shape.rims
            this.dress(entry)
            entry.centre = shape.centre
            this.stand(entry, piece.pose)
            entry.rims.visible = piece.visible && !piece.cap
            for (const material of entry.materials) {
                material.uniforms.picked.value = piece.picked ? 1 : 0
                const { over, cap } = piece
                ;(material.uniforms.over.value as Vector4).set(...(over?.down ?? ([0, 0, 0] as Vector)), over?.bed ?? 0)
                ;(material.uniforms.cap.value as Vector4).set(...(cap?.up ?? ([0, 0, 0] as Vector)), cap?.limit ?? 1)
                capped(material, cap !== undefined)
                ;(material.uniforms.colour.value as Color).set(piece.colour)
            }
        })
        this.tellLayers()
        this.redraw()
    }

    /** Draws pieces elsewhere, and nothing else about them: for what plays. */
    carry(poses: Map<number, Matrix4>): void {
        for (const [id, at] of poses) {
            const entry = this.entries.get(id)
            if (!entry) continue
            entry.piece.pose = at
            this.stand(entry, at)
        }
        this.redraw()
    }

    private stand(entry: Entry, pose: Matrix4): void {
        const [x, y, z] = entry.centre
        const e = entry.at.copy(pose).elements
        e[12] += e[0] * x + e[4] * y + e[8] * z
        e[13] += e[1] * x + e[5] * y + e[9] * z
        e[14] += e[2] * x + e[6] * y + e[10] * z
        entry.home.copy(pose).invert()
        entry.mesh.matrixWorldNeedsUpdate = entry.sheer.matrixWorldNeedsUpdate = entry.rims.matrixWorldNeedsUpdate = true
    }

    /** Draws a layer beside the pieces from now on; whoever changes it asks for redrawing. */
    add<T extends Layer>(layer: T): T {
        this.layers.push(layer)
        this.scene.add(layer.group)
        layer.colours?.(this.page)
        this.tellLayers()
        return layer
    }

    /** Hides one piece that a layer stands in for; null for none. */
    cover(piece: number | null): void {
        this.covered = piece
        this.redraw()
    }

    extent(min: Vector, max: Vector): void {
        this.box.set(new Vector3(...min), new Vector3(...max))
        this.ground()
        this.redraw()
    }

    setBlade(pose: BladePose): void {
        this.pose = pose
        this.blade.group.visible = pose.shown
        this.blade.place(pose.centre, pose.facing, pose.turn, pose.size)
        this.blade.bare(pose.bare ?? false)
        const [x, y, z] = pose.facing
        shared.fade.value = new Vector4(x, y, z, x * pose.centre[0] + y * pose.centre[1] + z * pose.centre[2])
        shared.alsoFade.value = [0, 1].map((k) => {
            const plane = pose.shown ? pose.lost?.[k] : undefined
            return plane ? new Vector4(...plane.facing, plane.offset) : new Vector4(0, 0, 0, 1)
        })
        shared.fadeSide.value = pose.shown ? { both: 0, ahead: -1, behind: 1, outline: 2 }[pose.keep] : 0
        this.redraw()
    }

    /** What will not stay is seen through. */
    setLost(lost: LostSide | null): void {
        lostArea.show(lost)
        this.redraw()
    }

    setTool(tool: Tool): void {
        this.tool = tool
        this.drawing = null
        this.penIsDown = false
        this.controls.enableRotate = tool !== 'line'
        this.renderer.domElement.style.cursor = tool === 'none' ? 'default' : 'crosshair'
    }

    setMarks(marked: Marked): void {
        this.marks.show(marked)
        this.redraw()
    }

    private tellLayers(): void {
        const seen = [...this.entries.values()].filter(({ piece }) => piece.visible).map(({ piece, mesh, centre }) => ({ id: piece.id, geometry: mesh.geometry, centre, colour: piece.colour }))
        for (const layer of this.layers) layer.pieces?.(seen)
    }

    /** Right, up and towards the eye. */
    directions(): Vector[] {
        // It is not this camera that draws while the view is parallel.
        this.camera.updateMatrixWorld()
        const round = (v: Vector3) => v.toArray().map((c) => Math.round(c * 1e6) / 1e6 + 0) as Vector
        return [0, 1, 2].map((k) => round(new Vector3().setFromMatrixColumn(this.camera.matrixWorld, k)))
    }

    /** Every visible piece flat in its own colour, nothing behind: exactly those colours, no shades between them. */
    identity(): HTMLCanvasElement {
        return identityPicture(this.renderer, this.active(), [...this.entries.values()].filter((entry) => entry.piece.visible).map((entry) => ({ mesh: entry.mesh, colour: entry.piece.colour })))
    }

    /** The box around something, and the printer's working space standing under it; null for neither. */
    setBoxes(box: { min: Vector; max: Vector } | null, space: Vector | null, isRound = false): void {
        this.put(this.boxLines, box ? edges(box.min, box.max) : [])
        if (space && box) {
            const middle = [0, 1].map((k) => (box.min[k] + box.max[k]) / 2)
            const low: Vector = [middle[0] - space[0] / 2, middle[1] - space[1] / 2, box.min[2]]
            const high: Vector = [low[0] + space[0], low[1] + space[1], low[2] + space[2]]
            this.put(this.space, isRound ? roundEdges(low, high) : edges(low, high))
            const size = Math.max(...space)
            Object.assign(this.space.material, { dashSize: size / 50, gapSize: size / 90 })
            this.space.computeLineDistances()
        } else this.put(this.space, [])
        this.boxLines.visible = box !== null
    }

    private put(lines: LineSegments<BufferGeometry>, list: number[]): void {
        lines.geometry.dispose()
        lines.geometry = new BufferGeometry().setAttribute('position', new Float32BufferAttribute(list, 3))
        this.redraw()
    }

    /** Brings a box into the middle of the view, from where it is looked at now. */
    frame(min: Vector, max: Vector): void {
        const low = new Vector3(...min)
        const high = new Vector3(...max)
        const radius = Math.max(high.distanceTo(low) / 2, 1e-6)
        this.flyTo(low.add(high).multiplyScalar(0.5), (radius / Math.sin((this.camera.fov * Math.PI) / 360)) * 1.05)
    }

    private flyTo(target: Vector3, distance: number): void {
        const from = { target: this.controls.target.clone(), eye: this.camera.position.clone() }
        const direction = from.eye.clone().sub(from.target).normalize()
        const eye = target.clone().addScaledVector(direction, distance)
        const start = performance.now()
        const takes = matchMedia('(prefers-reduced-motion: reduce)').matches ? 0 : 220
        const step = () => {
            if (this.gone) return
            const t = takes ? Math.min(1, (performance.now() - start) / takes) : 1
            const soft = t * t * (3 - 2 * t)
            this.controls.target.lerpVectors(from.target, target, soft)
            this.camera.position.lerpVectors(from.eye, eye, soft)
            this.camera.near = Math.min(this.camera.near, distance / 200)
            this.camera.updateProjectionMatrix()
            this.controls.update()
            this.redraw()
            if (t < 1) requestAnimationFrame(step)
        }
        step()
    }

    isParallel(): boolean {
        return this.parallel
    }

    /** How one looks now. A view along an axis is a hair off it: what is as good as that is meant so. */
    sight(): Sight {
        if (!this.parallel) return { eye: this.camera.position.toArray().map((c) => Math.round(c * 1e4) / 1e4 + 0) as Vector }
        const along = this.controls.target.clone().sub(this.camera.position).normalize().toArray()
        return { along: along.map((c) => (Math.abs(c) < 2e-4 ? 0 : Math.abs(c) > 1 - 1e-7 ? Math.sign(c) : Math.round(c * 1e6) / 1e6)) as Vector }
    }

    private pen(): Pen | null {
        if (this.tool !== 'draw') return null
        for (const layer of this.layers) {
            const pen = layer.pen?.()
            if (pen) return pen
        }
        return null
    }

    private penAt(event: PointerEvent, pen: Pen): PenAt | null {
        const bounds = this.renderer.domElement.getBoundingClientRect()
        const on = pen.plane()
        const facing = on ? new Vector3(...on.facing).normalize() : this.camera.getWorldDirection(new Vector3())
        const place = this.ray(event).ray.intersectPlane(new Plane().setFromNormalAndCoplanarPoint(facing, on ? new Vector3(...on.at) : this.controls.target), new Vector3())
        return place && { x: event.clientX - bounds.left, y: event.clientY - bounds.top, place: place.toArray() as Vector, isOver: this.pieceAt(event) !== null }
    }

    /** Where the pointer meets the plane of a grip. */
    private placeAt(event: PointerEvent, grip: FreeGrip): Vector | null {
        const plane = new Plane().setFromNormalAndCoplanarPoint(new Vector3(...grip.facing).normalize(), new Vector3(...grip.at))
        return (this.ray(event).ray.intersectPlane(plane, new Vector3())?.toArray() as Vector | undefined) ?? null
    }

    setParallel(on: boolean): void {
        this.parallel = on
        this.redraw()
    }

    setSection(section: SectionAnswer | null): void {
        this.blade.draw(section)
        this.redraw()
    }

    /** Looks straight along an axis (in parallel), or from a corner (in perspective). */
    look(from: string): void {
        const direction = new Vector3(...(DIRECTIONS[from] ?? DIRECTIONS.corner)).normalize()
        const middle = this.box.getCenter(new Vector3())
        const radius = Math.max(this.box.getSize(new Vector3()).length() / 2, 1e-6)
        const distance = (radius / Math.sin((this.camera.fov * Math.PI) / 360)) * 1.02
        this.parallel = from !== 'corner'
        // A hair off the vertical keeps "up" on the page well defined.
        if (Math.abs(direction.z) > 0.99) direction.set(0, -1e-4 * Math.sign(direction.z), direction.z).normalize()
        this.camera.position.copy(middle).addScaledVector(direction, distance)
        this.camera.near = radius / 100
        this.camera.far = distance + radius * 60
        this.camera.updateProjectionMatrix()
        this.controls.target.copy(middle)
        this.controls.update()
        this.redraw()
    }

    /** Where a point of space is on the page, for labels. */
    project(point: Vector): { x: number; y: number } {
        const p = new Vector3(...point).project(this.active())
        return { x: ((p.x + 1) / 2) * this.host.clientWidth, y: ((1 - p.y) / 2) * this.host.clientHeight }
    }

    /** Where the grip of the blade's handle is on the page. */
    gripOnPage(): { x: number; y: number } | null {
        if (!this.pose?.shown) return null
        const { centre, facing, size } = this.pose
        return this.project([0, 1, 2].map((k) => centre[k] + facing[k] * size * 0.27) as Vector)
    }

    private active(): PerspectiveCamera | OrthographicCamera {
        if (!this.parallel) return this.camera
        const distance = this.camera.position.distanceTo(this.controls.target)
        const half = distance * Math.tan((this.camera.fov * Math.PI) / 360)
        const aspect = this.camera.aspect
        Object.assign(this.flatCamera, { left: -half * aspect, right: half * aspect, top: half, bottom: -half, near: -this.camera.far, far: this.camera.far })
        this.flatCamera.position.copy(this.camera.position)
        this.flatCamera.quaternion.copy(this.camera.quaternion)
        this.flatCamera.updateProjectionMatrix()
        this.flatCamera.updateMatrixWorld()
        return this.flatCamera
    }

    /** Turning away from an axis goes back to perspective. */
    private bend(): void {
        const direction = this.camera.position.clone().sub(this.controls.target).normalize()
        const along = Math.max(Math.abs(direction.x), Math.abs(direction.y), Math.abs(direction.z))
        if (along < 0.999) this.parallel = false
    }

    private ground(): void {
        if (this.grid) {
            this.scene.remove(this.grid)
            this.grid.dispose()
        }
        const size = this.box.getSize(new Vector3())
        const across = Math.max(size.x, size.y, size.z)
        if (!(across > 0) || !isFinite(across)) return
        const rule = new Color(getComputedStyle(document.documentElement).getPropertyValue('--rule').trim())
        // Squares of 10 mm, or of the power of ten that fits.
        const square = 10 ** Math.round(Math.log10(across / 40))
        const squares = 2 * Math.ceil((1.2 * across) / square)
        this.grid = new GridHelper(squares * square, squares, rule, rule)
        this.grid.rotation.x = Math.PI / 2
        this.grid.material.transparent = true
        this.grid.material.opacity = 0.5
        const middle = this.box.getCenter(new Vector3())
        this.grid.position.set(Math.round(middle.x / square) * square, Math.round(middle.y / square) * square, this.box.min.z - 0.002 * across)
        this.scene.add(this.grid)
    }

    private resize(): void {
        const { clientWidth: width, clientHeight: height } = this.host
        if (!width || !height) return
        this.size = { width, height }
        this.renderer.setSize(width, height, false)
        this.camera.aspect = width / height
        this.camera.updateProjectionMatrix()
        shared.pixel.value = this.renderer.getPixelRatio()
        this.redraw()
    }

    redraw(): void {
        this.lit = undefined
        if (this.wanted || this.gone) return
        this.wanted = true
        // For whoever wants to know that what is seen is not yet what was asked.
        this.renderer.domElement.dataset.waits = 'drawing'
        requestAnimationFrame(() => {
            this.wanted = false
            delete this.renderer.domElement.dataset.waits
            if (this.gone) return
            const glass = shared.glass.value > 0
            const parted = shared.fadeSide.value !== 0 || lostArea.isOn
            for (const { piece, mesh, sheer, materials } of this.entries.values()) {
                mesh.visible = piece.visible && !glass && piece.id !== this.covered
                mesh.material = materials[parted ? 2 : 0]
                sheer.visible = piece.visible && (glass || parted) && piece.id !== this.covered
            }
            this.renderer.render(this.scene, this.active())
            this.events.drawn()
        })
    }

    private ray(event: PointerEvent): Raycaster {
        // What was laid out anew may not have been observed yet.
        if (this.size.width !== this.host.clientWidth || this.size.height !== this.host.clientHeight) this.resize()
        const bounds = this.renderer.domElement.getBoundingClientRect()
        const raycaster = new Raycaster()
        raycaster.setFromCamera(
            new Vector2(((event.clientX - bounds.left) / bounds.width) * 2 - 1, 1 - ((event.clientY - bounds.top) / bounds.height) * 2),
            this.active(),
        )
        return raycaster
    }

    private gripAt(event: PointerEvent): Grip | null {
        if (!this.pose?.shown) return null
        const ray = this.ray(event)
        for (const { grip, meshes } of this.blade.targets()) {
            if (ray.intersectObjects(meshes).length) return grip
        }
        return null
    }

    private dragGripAt(event: PointerEvent, grips = this.layers.flatMap((layer) => layer.grips?.() ?? [])): DragGrip | FreeGrip | null {
        if (!grips.length) return null
        const ray = this.ray(event)
        return grips.find(({ meshes }) => ray.intersectObjects(meshes).length) ?? null
    }

    /** How far along the facing the pointer is from where the blade was taken hold of. */
    private along(event: PointerEvent): number {
        const pose = this.held?.pose ?? (this.pose as BladePose)
        return this.alongLine(event, pose.centre, pose.facing)
    }

    /** The point of a line that is nearest to the pointer's ray, mm from the line's own. */
    private alongLine(event: PointerEvent, at: Vector, way: Vector): number {
        const { origin, direction } = this.ray(event).ray
        const facing = new Vector3(...way)
        const between = origin.clone().sub(new Vector3(...at))
        const b = direction.dot(facing)
        const denominator = 1 - b * b
        if (denominator < 1e-6) return 0
        return (facing.dot(between) - b * direction.dot(between)) / denominator
    }

    /** The tilt that the pointer is at on the protractor, degrees. */
    private tiltAt(event: PointerEvent): number | null {
        const pose = this.pose as BladePose
        const turn = (pose.turn * Math.PI) / 180
        const plane = new Plane().setFromNormalAndCoplanarPoint(new Vector3(-Math.sin(turn), Math.cos(turn), 0), new Vector3(...pose.centre))
        const hit = this.ray(event).ray.intersectPlane(plane, new Vector3())
        if (!hit) return null
        hit.sub(new Vector3(...pose.centre))
        return (Math.atan2(hit.x * Math.cos(turn) + hit.y * Math.sin(turn), hit.z) * 180) / Math.PI
    }

    /** The plane through a line on the page along the line of sight; ahead is on the left of the line as it was drawn. */
    private lineTo(event: PointerEvent): DrawnLine | null {
        const from = this.drawing
        if (!from) return null
        const bounds = this.renderer.domElement.getBoundingClientRect()
        const free = event.altKey
        const dx = event.clientX - bounds.left - from.x
        const dy = event.clientY - bounds.top - from.y
        const length = Math.hypot(dx, dy)
        if (length < 6) return null
        const raw = (Math.atan2(-dy, dx) * 180) / Math.PI
        const angle = free ? raw : Math.round(raw / 5) * 5
        const to = { x: from.x + length * Math.cos((angle * Math.PI) / 180), y: from.y - length * Math.sin((angle * Math.PI) / 180) }
        const ray = (at: { x: number; y: number }) => {
            const caster = new Raycaster()
            caster.setFromCamera(new Vector2((at.x / bounds.width) * 2 - 1, 1 - (at.y / bounds.height) * 2), this.active())
            return caster.ray
        }
        const one = ray(from)
        const other = ray(to)
        const normal = this.parallel ? other.origin.clone().sub(one.origin).cross(one.direction) : other.direction.clone().cross(one.direction)
        if (normal.lengthSq() < 1e-18) return null
        normal.normalize()
        // A view along an axis is a hair off it: what is as good as level or upright is meant so.
        const facing = normal.toArray().map((c) => Math.round(c * 1e6) / 1e6 + 0) as Vector
        return { from, to, angle: ((angle + 540) % 360) - 180, facing, through: one.origin.toArray() as Vector }
    }

    private down = (event: PointerEvent): void => {
        if (event.button !== 0) return
        if (this.tool === 'line') {
            event.stopImmediatePropagation()
            const bounds = this.renderer.domElement.getBoundingClientRect()
            this.renderer.domElement.setPointerCapture(event.pointerId)
            this.drawing = { x: event.clientX - bounds.left, y: event.clientY - bounds.top }
            return
        }
        const pen = this.pen()
        if (pen) {
            event.stopImmediatePropagation()
            this.renderer.domElement.setPointerCapture(event.pointerId)
            this.penIsDown = true
            const at = this.penAt(event, pen)
            if (at) pen.down(at)
            return
        }
        if (this.tool !== 'none') {
            this.pressed = { x: event.clientX, y: event.clientY }
            return
        }
        const drag = this.dragGripAt(event)
        if (drag) {
            event.stopImmediatePropagation()
            this.renderer.domElement.setPointerCapture(event.pointerId)
            this.dragging = 'along' in drag ? { grip: drag, from: this.alongLine(event, drag.at, drag.along) } : { grip: drag }
            if ('along' in drag) drag.taken()
            else drag.taken(this.placeAt(event, drag))
            return
        }
        const grip = this.gripAt(event)
        if (grip) {
            event.stopImmediatePropagation()
            this.renderer.domElement.setPointerCapture(event.pointerId)
            const from = grip === 'stem' ? this.along(event) : (this.tiltAt(event) ?? 0)
            this.held = { grip, from, pose: this.pose as BladePose }
            this.events.grab(grip)
            return
        }
        this.pressed = { x: event.clientX, y: event.clientY }
    }

    private move = (event: PointerEvent): void => {
        if (this.drawing) {
            const line = this.lineTo(event)
            if (line) this.events.line(line, false)
            return
        }
        if (this.dragging) {
            if ('from' in this.dragging) {
                const { grip, from } = this.dragging
                grip.dragged(this.alongLine(event, grip.at, grip.along) - from)
            } else {
                const to = this.placeAt(event, this.dragging.grip)
                if (to) this.dragging.grip.placed(to)
            }
            return
        }
        const pen = this.pen()
        if (pen && (this.penIsDown || !event.buttons)) {
            const at = this.penAt(event, pen)
            if (at) pen.move(at, this.penIsDown)
            return
        }
        if (!this.held) {
            if (event.buttons || this.tool !== 'none') return
            const grips = this.layers.flatMap((layer) => layer.grips?.() ?? [])
            const drag = this.dragGripAt(event, grips)
            for (const grip of grips) grip.light(false)
            if (drag) drag.light(true)
            const grip = drag ? null : this.gripAt(event)
            this.blade.light(grip)
            this.renderer.domElement.style.cursor = grip || drag ? 'grab' : 'default'
            const lit = drag ? grips.indexOf(drag) : grip
            if (lit !== this.lit) this.redraw()
            this.lit = lit
            return
        }
        if (this.held.grip === 'stem') {
            this.events.slide(this.along(event) - this.held.from)
        } else {
            const tilt = this.tiltAt(event)
            if (tilt !== null) this.events.tilt(tilt, event.altKey)
        }
    }

    private up = (event: PointerEvent): void => {
        if (this.drawing) {
            const line = this.lineTo(event)
            this.drawing = null
            if (line) this.events.line(line, true)
            return
        }
        if (this.dragging) {
            const { grip } = this.dragging
            this.dragging = null
            grip.released?.()
            return
        }
        if (this.penIsDown) {
            this.penIsDown = false
            const pen = this.pen()
            const at = pen && this.penAt(event, pen)
            if (at) pen.up(at)
            return
        }
        if (this.held) {
            this.held = null
            this.events.release()
            return
        }
        const from = this.pressed
        this.pressed = null
        if (!from || event.button !== 0 || Math.hypot(event.clientX - from.x, event.clientY - from.y) > 4) return
        if (this.tool !== 'none') {
            this.clicked(event)
            return
        }
        this.events.pick(this.pieceAt(event), event.shiftKey || event.ctrlKey || event.metaKey)
    }

    private clicked(event: PointerEvent): void {
        const id = this.pieceAt(event)
        const entry = id === null ? undefined : this.entries.get(id)
        if (id === null || !entry) return
        const shown = entry.mesh.visible
        entry.mesh.visible = true
        const hit = this.ray(event).intersectObject(entry.mesh)[0]
        entry.mesh.visible = shown
        if (!hit || hit.faceIndex === undefined || hit.faceIndex === null) return
        this.events.face(id, hit.faceIndex, hit.point.applyMatrix4(entry.piece.pose.clone().invert()).toArray() as Vector)
    }

    private pieceAt(event: PointerEvent): number | null {
        const bounds = this.renderer.domElement.getBoundingClientRect()
        const camera = this.active()
        const { width, height } = bounds
        camera.setViewOffset(width, height, event.clientX - bounds.left, event.clientY - bounds.top, 1, 1)
        const scene = new Scene()
        scene.background = new Color(0)
        for (const entry of this.entries.values()) {
            if (!entry.piece.visible) continue
            const copy = new Mesh(entry.mesh.geometry, this.numberMaterial.clone())
            copy.matrixAutoUpdate = false
            copy.matrix.copy(entry.mesh.matrix)
            const id = entry.piece.id
            copy.material.uniforms.number.value = [(id & 255) / 255, ((id >> 8) & 255) / 255, ((id >> 16) & 255) / 255]
            scene.add(copy)
        }
        this.renderer.setRenderTarget(this.numbers)
        this.renderer.render(scene, camera)
        const pixel = new Uint8Array(4)
        this.renderer.readRenderTargetPixels(this.numbers, 0, 0, 1, 1, pixel)
        this.renderer.setRenderTarget(null)
        camera.clearViewOffset()
        for (const child of scene.children) if (child instanceof Mesh) (child.material as ShaderMaterial).dispose()
        return pixel[0] + 256 * pixel[1] + 65536 * pixel[2] || null
    }
}

/** The rims of an upright cylinder, and some lines between. */
function roundEdges(min: Vector, max: Vector): number[] {
    const lines: number[] = []
    const [x, y, radius] = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (max[0] - min[0]) / 2]
    const at = (n: number, z: number) => [x + radius * Math.cos((n * Math.PI) / 36), y + radius * Math.sin((n * Math.PI) / 36), z]
    for (let n = 0; n < 72; n++) {
        for (const z of [min[2], max[2]]) lines.push(...at(n, z), ...at(n + 1, z))
        if (n % 18 === 0) lines.push(...at(n, min[2]), ...at(n, max[2]))
    }
    return lines
}

/** The twelve edges of a box, two points each. */
function edges(min: Vector, max: Vector): number[] {
    const lines: number[] = []
    const corner = (n: number): Vector => [n & 1 ? max[0] : min[0], n & 2 ? max[1] : min[1], n & 4 ? max[2] : min[2]]
    for (let n = 0; n < 8; n++) {
        for (const bit of [1, 2, 4]) if (!(n & bit)) lines.push(...corner(n), ...corner(n | bit))
    }
    return lines
}
