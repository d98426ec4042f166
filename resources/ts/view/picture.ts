import { Box3, Color, Matrix4, Mesh, PerspectiveCamera, Scene, Vector3, WebGLRenderer } from 'three'
import { api } from '../api/client'
import type { Vector } from '../api/types'
import { decode } from './geometry'
import { dress, pieceMaterial } from './materials'
import { clothe } from './shapes'
import { Sheets } from './sheets'

const WIDTH = 640
const HEIGHT = 460
/** How long the renderer is kept for the next picture, ms. */
const KEPT = 3000

/** Pixels of a side of the pictures on a mesh: here they are small. */
const SIDE = 1024

/** A mesh in a picture, and what it carries: with colours or pictures of its own it is drawn in them. */
export interface Part {
    mesh: string
    colour: string
    carries: string[]
    /** Where it is drawn, from where it stands, mm. */
    shift?: Vector
    /** Or turned as well: 12 numbers, where the three axes come to, then the origin. */
    pose?: number[]
}

/** A picture that is wished for. */
interface Wish {
    key: string
    parts: Part[]
    theme: string
    signal: AbortSignal
    /** Is its place in sight now? */
    seen: () => boolean
    done: (url: string) => void
    failed: (error: unknown) => void
}

/** A mesh that carries neither a colour nor a picture after all. */
const PLAIN = '#8f9a86'

const made = new Map<string, string>()
const wishes: Wish[] = []
let busy = false
let kept: WebGLRenderer | null = null
let letGo = 0

/**
 * A small picture of stored meshes: of a single one, what a browser drew before and the server kept, or drawn now. One is drawn at a time, those in sight first and at
 * once, others when the page has nothing else to do; and not at all when the signal has ended the wish before its turn: that rejects with the signal's reason.
 */
export async function picture(given: Part[], theme: string, signal: AbortSignal, seen: () => boolean): Promise<string> {
    const parts = given.map((part) => ({ ...part, colour: ['colours', 'materials', 'pictures'].some((own) => part.carries.includes(own)) ? 'own' : part.colour }))
    const key = `${parts.map(({ mesh, colour, shift, pose }) => `${mesh} ${colour} ${(shift ?? pose)?.join(' ') ?? ''}`).join()} ${theme}`
    const known = made.get(key)
    if (known) return known
    const drawn = parts.length === 1 && !parts[0].shift && !parts[0].pose ? await api.picture(parts[0].mesh, parts[0].colour, theme).catch(() => null) : null
    if (drawn) {
        const url = URL.createObjectURL(drawn)
        made.set(key, url)
        return url
    }
    return new Promise((done, failed) => {
        wishes.push({ key, parts, theme, signal, seen, done, failed })
        void drawAll()
    })
}

async function drawAll(): Promise<void> {
    if (busy) return
    busy = true
    while (wishes.length) {
        if (!wishes.some((wish) => wish.seen())) await idle()
        // What is in sight may have changed meanwhile.
        const at = Math.max(0, wishes.findIndex((wish) => wish.seen()))
        const [wish] = wishes.splice(at, 1)
        try {
            wish.signal.throwIfAborted()
            const now = made.get(wish.key)
            if (now) {
                wish.done(now)
                continue
            }
            const png = await draw(wish)
            // What cannot be kept is drawn again another time; and the page may have turned from day to night meanwhile.
            const [only, ...more] = wish.parts
            if (!more.length && !only.pose && !only.shift && document.documentElement.dataset.theme === wish.theme) void api.keepPicture(only.mesh, only.colour, wish.theme, png).catch(() => undefined)
            const url = URL.createObjectURL(png)
            made.set(wish.key, url)
            wish.done(url)
        } catch (error) {
            wish.failed(error)
        }
    }
    busy = false
}

const idle = () => new Promise<unknown>((resolve) => 'requestIdleCallback' in window ? requestIdleCallback(resolve, { timeout: 1000 }) : setTimeout(resolve, 30))

/** One renderer for all pictures: a context of its own for each costs more than the drawing. */
function renderer(): WebGLRenderer {
    clearTimeout(letGo)
    letGo = window.setTimeout(() => {
        kept?.dispose()
        kept?.forceContextLoss()
        kept = null
    }, KEPT)
    if (!kept) {
        kept = new WebGLRenderer({ antialias: true, preserveDrawingBuffer: true })
        kept.setPixelRatio(1)
        kept.setSize(WIDTH, HEIGHT)
    }
    return kept
}

/** A mesh where it stands, and what is to be let go of afterwards. */
async function solid({ mesh, colour, carries, shift = [0, 0, 0], pose }: Part, sheets: Sheets): Promise<{ solid: Mesh; drop: () => void }> {
    const isOwn = colour === 'own'
    // What a mesh carries belongs to its own triangles, not to those of a rough stand-in.
    const { geometry, rims, centre } = decode(await api.geometry(mesh, !isOwn))
    const material = pieceMaterial(isOwn ? PLAIN : colour, 1)
    if (isOwn) await clothe(geometry, mesh, carries.includes('colours') || carries.includes('materials'), carries.includes('pictures'), sheets)
    dress(material, geometry, isOwn)
    Object.assign(material.uniforms, { fadeSide: { value: 0 }, glass: { value: 0 }, lines: { value: 0 }, facets: { value: 0 }, pixel: { value: 1 }, paper: { value: new Color('#fdfbf5') }, ink: { value: new Color('#22262e') } })
    const solid = new Mesh(geometry, material)
    solid.position.set(...(centre.map((c, k) => c + shift[k]) as Vector))
    if (pose) {
        solid.updateMatrix()
        solid.matrixAutoUpdate = false
        const p = pose
        solid.matrix.premultiply(new Matrix4(p[0], p[3], p[6], p[9], p[1], p[4], p[7], p[10], p[2], p[5], p[8], p[11], 0, 0, 0, 1))
    }
    return {
        solid, drop() {
            geometry.dispose()
            rims.dispose()
            material.dispose()
            sheets.forget(mesh)
        },
    }
}

async function draw({ parts }: Wish): Promise<Blob> {
    const sheets = new Sheets(SIDE)
    const drawn: { solid: Mesh; drop: () => void }[] = []
    try {
        for (const part of parts) drawn.push(await solid(part, sheets))
        const scene = new Scene()
        scene.background = new Color(getComputedStyle(document.documentElement).getPropertyValue('--ground').trim())
        const box = new Box3()
        for (const one of drawn) {
            scene.add(one.solid)
            one.solid.updateMatrixWorld()
            box.expandByObject(one.solid)
        }
        const camera = new PerspectiveCamera(28, WIDTH / HEIGHT, 1, 1e6)
        camera.up.set(0, 0, 1)
        const size = box.getSize(new Vector3())
        const direction = new Vector3(0.62, -0.72, 0.34 + 0.5 * Math.max(0, 1 - size.z / Math.max(size.x, size.y))).normalize()
        const distance = (0.5 * size.length()) / Math.sin((14 * Math.PI) / 180)
        camera.position.copy(box.getCenter(new Vector3())).addScaledVector(direction, distance * 0.92)
        camera.near = distance / 100
        camera.far = distance * 4
        camera.updateProjectionMatrix()
        camera.lookAt(box.getCenter(new Vector3()))
        const on = renderer()
        on.render(scene, camera)
        const png = await new Promise<Blob | null>((resolve) => on.domElement.toBlob(resolve, 'image/png'))
        if (!png) throw new Error('The picture could not be drawn.')
        return png
    } finally {
        for (const one of drawn) one.drop()
    }
}
