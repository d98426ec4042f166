// Plays an animated GLB with three.js, a general-purpose library, and tells where its nodes are at some times: of each node and time the place, the turn and the scale. node play-glb.mjs FILE SECONDS…
import { readFileSync } from 'node:fs'
import { AnimationMixer, LoopOnce } from 'three'
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js'

globalThis.self ??= globalThis
const [file, ...times] = process.argv.slice(2)
const bytes = readFileSync(file)
const gltf = await new GLTFLoader().parseAsync(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength), '')
const mixer = new AnimationMixer(gltf.scene)
for (const clip of gltf.animations) mixer.clipAction(clip).setLoop(LoopOnce, 1).play().clampWhenFinished = true
const answer = { duration: gltf.animations[0]?.duration ?? 0, channels: gltf.animations[0]?.tracks.length ?? 0, nodes: {} }
for (const time of times.map(Number)) {
    mixer.setTime(time)
    for (const node of gltf.scene.children) (answer.nodes[node.name] ??= []).push([...node.position.toArray(), ...node.quaternion.toArray(), ...node.scale.toArray()])
}
console.log(JSON.stringify(answer))
