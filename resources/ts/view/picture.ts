import { Box3, Color, Mesh, PerspectiveCamera, Scene, Vector3, WebGLRenderer } from 'three'
import { api } from '../api/client'
import { decode } from './geometry'
import { pieceMaterial } from './materials'

const WIDTH = 640
const HEIGHT = 460

const made = new Map<string, string>()
let turn: Promise<unknown> = Promise.resolve()

/** A small picture of a stored mesh; one is drawn at a time, and kept while the page is open. */
export function picture(mesh: string, colour: string, theme: string): Promise<string> {
    const key = `${mesh} ${colour} ${theme}`
    const known = made.get(key)
    if (known) return Promise.resolve(known)
    const drawing = turn.then(() => draw(mesh, colour))
    turn = drawing.catch(() => undefined)
    return drawing.then((url) => {
        made.set(key, url)
        return url
    })
}

async function draw(mesh: string, colour: string): Promise<string> {
    const { geometry, rims } = decode(await api.geometry(mesh, true))
    const renderer = new WebGLRenderer({ antialias: true, preserveDrawingBuffer: true })
    try {
        renderer.setPixelRatio(1)
        renderer.setSize(WIDTH, HEIGHT)
        const scene = new Scene()
        scene.background = new Color(getComputedStyle(document.documentElement).getPropertyValue('--ground').trim())
        const material = pieceMaterial(colour, 1)
        Object.assign(material.uniforms, { fadeSide: { value: 0 }, glass: { value: 0 }, lines: { value: 0 }, facets: { value: 0 }, pixel: { value: 1 }, paper: { value: new Color('#fdfbf5') }, ink: { value: new Color('#22262e') } })
        const solid = new Mesh(geometry, material)
        scene.add(solid)
        const camera = new PerspectiveCamera(28, WIDTH / HEIGHT, 1, 1e6)
        camera.up.set(0, 0, 1)
        const box = new Box3().setFromObject(solid)
        const size = box.getSize(new Vector3())
        const direction = new Vector3(0.62, -0.72, 0.34 + 0.5 * Math.max(0, 1 - size.z / Math.max(size.x, size.y))).normalize()
        const distance = (0.5 * size.length()) / Math.sin((14 * Math.PI) / 180)
        camera.position.copy(box.getCenter(new Vector3())).addScaledVector(direction, distance * 0.92)
        camera.near = distance / 100
        camera.far = distance * 4
        camera.updateProjectionMatrix()
        camera.lookAt(box.getCenter(new Vector3()))
        renderer.render(scene, camera)
        return renderer.domElement.toDataURL('image/png')
    } finally {
        geometry.dispose()
        rims.dispose()
        renderer.dispose()
        renderer.forceContextLoss()
    }
}
