<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import type { PegsOfFace, Vector } from '../api/types'
import { mm2, number } from '../format'

/** A face that two pieces share, true to scale, with its pegs: they are dragged, added by a click on the face and taken away. */
const props = defineProps<{ face: PegsOfFace }>()
const emit = defineEmits<{ move: [from: Vector, to: Vector]; add: [at: Vector]; remove: [from: Vector] }>()

const WIDTH = 278
const HEIGHT = 120
const MARGIN = 8
const svg = useTemplateRef<SVGSVGElement>('svg')
/** The peg that is dragged: its number, where it was taken hold of and how far it has come, mm. */
const held = ref<{ peg: number; x: number; y: number; dx: number; dy: number } | null>(null)

const drawing = computed(() => props.face.drawing)
const box = computed(() => {
    let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
    const { rims = [] } = drawing.value ?? {}
    for (let k = 0; k < rims.length; k += 2) [x0, y0, x1, y1] = [Math.min(x0, rims[k]), Math.min(y0, rims[k + 1]), Math.max(x1, rims[k]), Math.max(y1, rims[k + 1])]
    return { x0, y0, x1, y1 }
})
/** Pixels a millimetre. */
const scale = computed(() => Math.min((WIDTH - 2 * MARGIN) / Math.max(1e-9, box.value.x1 - box.value.x0), (HEIGHT - 2 * MARGIN) / Math.max(1e-9, box.value.y1 - box.value.y0)))
const middle = computed(() => ({ x: (box.value.x0 + box.value.x1) / 2, y: (box.value.y0 + box.value.y1) / 2 }))
const onPage = (x: number, y: number) => ({ x: WIDTH / 2 + scale.value * (x - middle.value.x), y: HEIGHT / 2 - scale.value * (y - middle.value.y) })
const at = (x: number, y: number) => {
    const { x: u, y: v } = onPage(x, y)
    return `${u.toFixed(2)} ${v.toFixed(2)}`
}

const rims = computed(() => {
    const list = drawing.value?.rims ?? []
    let path = ''
    for (let k = 0; k < list.length; k += 4) path += `M${at(list[k], list[k + 1])}L${at(list[k + 2], list[k + 3])}`
    return path
})
const dot = (a: Vector, b: Vector) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
const pegs = computed(() => props.face.pegs.map((peg, n) => {
    const { right, up, pegs: outlines } = drawing.value as NonNullable<PegsOfFace['drawing']>
    const [dx, dy] = held.value?.peg === n ? [held.value.dx, held.value.dy] : [0, 0]
    const outline = outlines[n] ?? []
    const corners = Array.from({ length: outline.length / 2 }, (_, k) => at(outline[2 * k] + dx, outline[2 * k + 1] + dy))
    return { path: `M${corners.join('L')}Z`, ...onPage(dot(peg.at, right) + dx, dot(peg.at, up) + dy), at: peg.at }
}))

/** A place on the page, mm. */
function place(event: PointerEvent | MouseEvent): { x: number; y: number } {
    const frame = (svg.value as SVGSVGElement).getBoundingClientRect()
    return { x: middle.value.x + ((event.clientX - frame.left) * (WIDTH / frame.width) - WIDTH / 2) / scale.value, y: middle.value.y - ((event.clientY - frame.top) * (HEIGHT / frame.height) - HEIGHT / 2) / scale.value }
}

/** A place of the face moved along its page. */
function along(from: Vector, dx: number, dy: number): Vector {
    const { right, up } = drawing.value as NonNullable<PegsOfFace['drawing']>
    return from.map((c, k) => c + dx * right[k] + dy * up[k]) as Vector
}

function take(event: PointerEvent, peg: number) {
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
    held.value = { peg, ...place(event), dx: 0, dy: 0 }
}

function drag(event: PointerEvent) {
    if (!held.value) return
    const to = place(event)
    held.value = { ...held.value, dx: to.x - held.value.x, dy: to.y - held.value.y }
}

function drop() {
    const now = held.value
    held.value = null
    // A click without a way is none.
    if (now && Math.hypot(now.dx, now.dy) * scale.value > 2) emit('move', props.face.pegs[now.peg].at, along(props.face.pegs[now.peg].at, now.dx, now.dy))
}

function add(event: MouseEvent) {
    const first = props.face.pegs[0]?.at
    if (!first) return
    const { right, up } = drawing.value as NonNullable<PegsOfFace['drawing']>
    const to = place(event)
    emit('add', along(first, to.x - dot(first, right), to.y - dot(first, up)))
}

function key(event: KeyboardEvent, n: number) {
    const step = event.shiftKey ? 5 : event.altKey ? 0.1 : 1
    const from = props.face.pegs[n].at
    const [x, y] = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[event.key] ?? [0, 0]
    if (x || y) emit('move', from, along(from, x, y))
    else if (event.key === 'Delete' || event.key === 'Backspace') emit('remove', from)
    else return
    event.preventDefault()
    event.stopPropagation()
}
</script>

<template>
    <figure class="face">
        <svg ref="svg" :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="group" :aria-label="`The common face, ${mm2(face.area_mm2)}`" @pointermove="drag" @pointerup="drop" @pointercancel="held = null">
            <rect :width="WIDTH" :height="HEIGHT" class="ground" @dblclick="add" />
            <path :d="rims" class="rim" />
            <g
                v-for="(peg, n) in pegs" :key="n" class="peg" tabindex="0" role="button" :aria-label="`Peg ${n + 1}: ${number(face.pegs[n].diameter_mm, 1)} × ${number(face.pegs[n].length_mm, 1)} mm; arrow keys move it, Delete takes it away`"
                @pointerdown.prevent="take($event, n)" @keydown="key($event, n)"
            >
                <path :d="peg.path" /><text :x="peg.x" :y="peg.y + 4">{{ n + 1 }}</text>
            </g>
        </svg>
        <figcaption class="soft">drag a peg; double-click the face for one more</figcaption>
    </figure>
</template>

<style scoped>
.face {
    margin: 4px 0 0;
}

svg {
    display: block;
    width: 100%;
    border: 1px solid var(--rule);
    touch-action: none;
}

.ground {
    fill: var(--ground);
}

.rim {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1;
    pointer-events: none;
}

.peg {
    cursor: grab;
}

.peg path {
    fill: color-mix(in srgb, var(--cut) 18%, transparent);
    stroke: var(--cut);
    stroke-width: 1.4;
}

.peg:focus-visible {
    outline: none;
}

.peg:focus-visible path {
    stroke-width: 3;
}

text {
    fill: var(--ink);
    font-size: 11px;
    text-anchor: middle;
    pointer-events: none;
}

figcaption {
    padding-top: 2px;
    font-size: 12px;
}
</style>
