import { Color, DoubleSide, GLSL3, Mesh, NoToneMapping, Scene, ShaderMaterial, WebGLRenderTarget, type Camera, type WebGLRenderer } from 'three'

/** Draws each mesh flat in its colour on nothing, without smoothing: every pixel is one of the colours, or clear. */
export function identityPicture(renderer: WebGLRenderer, camera: Camera, parts: { mesh: Mesh; colour: string }[]): HTMLCanvasElement {
    const width = renderer.domElement.width
    const height = renderer.domElement.height
    const target = new WebGLRenderTarget(width, height)
    const scene = new Scene()
    const materials: ShaderMaterial[] = []
    for (const { mesh, colour } of parts) {
        const flat = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16) / 255)
        const material = new ShaderMaterial({
            glslVersion: GLSL3, side: DoubleSide, uniforms: { flat_colour: { value: new Color().setRGB(flat[0], flat[1], flat[2]) } },
            vertexShader: 'void main() { gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }',
            fragmentShader: 'precision highp float; uniform vec3 flat_colour; layout(location = 0) out vec4 told; void main() { told = vec4(flat_colour, 1.0); }',
        })
        // As written, not as light.
        material.uniforms.flat_colour.value = { r: flat[0], g: flat[1], b: flat[2], isColor: true }
        materials.push(material)
        const copy = new Mesh(mesh.geometry, material)
        copy.matrixAutoUpdate = false
        copy.matrix.copy(mesh.matrix)
        scene.add(copy)
    }
    const mapping = renderer.toneMapping
    renderer.toneMapping = NoToneMapping
    renderer.setRenderTarget(target)
    renderer.setClearColor(0x000000, 0)
    renderer.clear()
    renderer.render(scene, camera)
    const pixels = new Uint8Array(4 * width * height)
    renderer.readRenderTargetPixels(target, 0, 0, width, height, pixels)
    renderer.setRenderTarget(null)
    renderer.toneMapping = mapping
    for (const material of materials) material.dispose()
    target.dispose()
    const canvas = document.createElement('canvas')
    canvas.width = width
    canvas.height = height
    const image = new ImageData(width, height)
    for (let y = 0; y < height; y++) image.data.set(pixels.subarray(4 * width * (height - 1 - y), 4 * width * (height - y)), 4 * width * y)
    canvas.getContext('2d')?.putImageData(image, 0, 0)
    return canvas
}
