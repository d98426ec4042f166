<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue'
import { api } from '../api/client'
import { latest } from '../api/latest'
import type { ProfileAnswer, Vector } from '../api/types'
import { mm, number } from '../format'
import { usePlan } from '../stores/plan'
import { useProject } from '../stores/project'
import { anglesOf, dot } from '../view/direction'
import ChoiceRow from './ChoiceRow.vue'

/** The profile of the piece along the cuts of the plan that is shown, each cut a stop on it that can be dragged. Cuts of other directions have profiles of their own. */
const HEIGHT = 74
const BASE = 56
/** Directions nearer to each other are one: cosine of the angle. */
const SAME = 0.9999

const plan = usePlan()
const project = useProject()
const host = useTemplateRef('host')
const width = ref(800)
const chosen = ref('0')
const profile = ref<ProfileAnswer | null>(null)
/** The stop that is dragged, and where it is now. */
const held = ref<{ cut: number; at: number } | null>(null)
let observer: ResizeObserver | null = null

onMounted(() => {
    observer = new ResizeObserver(([entry]) => { width.value = Math.max(200, entry.contentRect.width) })
    observer.observe(host.value as HTMLElement)
})
onBeforeUnmount(() => observer?.disconnect())

const cuts = computed(() => plan.alternative?.cuts ?? [])
const directions = computed(() => {
    const all: Vector[] = []
    for (const { facing } of cuts.value) if (!all.some((one) => Math.abs(dot(one, facing)) > SAME)) all.push(facing)
    return all
})
const words = (facing: Vector) => {
    const axis = facing.findIndex((part) => Math.abs(part) > SAME)
    return axis >= 0 ? `along ${'XYZ'[axis]}` : `tilt ${number(anglesOf(facing).tilt, 0)}°`
}
const options = computed(() => directions.value.map((facing, n) => ({ value: String(n), text: words(facing) })))
const facing = computed((): Vector | null => directions.value[Number(chosen.value)] ?? directions.value[0] ?? null)
watch(() => plan.chosen, () => { chosen.value = '0' })

const profiles = latest(
    (q: { project: number; piece: number; facing: Vector; through: Vector }) => api.profile(q.project, { through: q.through, facing: q.facing, pieces: [q.piece] }),
    (answer) => { profile.value = answer },
    () => { profile.value = null },
)
watch([facing, () => plan.piece?.mesh], () => {
    const id = project.project?.id
    const piece = plan.piece
    if (id === undefined || !piece || !facing.value) return
    profiles.ask({ project: id, piece: piece.id, facing: facing.value, through: piece.centroid })
}, { immediate: true })
onBeforeUnmount(() => profiles.drop())

const low = computed(() => profile.value?.low ?? 0)
const high = computed(() => profile.value?.high ?? 1)
const x = (at: number) => 14 + ((at - low.value) / Math.max(1e-9, high.value - low.value)) * (width.value - 28)
const curve = computed(() => {
    const p = profile.value
    if (!p) return ''
    const most = p.areas.reduce((all, one) => Math.max(all, one), 1e-9)
    return `M${x(p.low)},${BASE} ${p.positions.map((at, n) => `L${x(at).toFixed(1)},${(BASE - (BASE - 8) * (p.areas[n] / most)).toFixed(1)}`).join('')} L${x(p.high)},${BASE}Z`
})
const stops = computed(() => {
    const way = facing.value
    return way === null ? [] : cuts.value.flatMap((cut, n) => (Math.abs(dot(cut.facing, way)) > SAME ? [{ cut: n, at: held.value?.cut === n ? held.value.at : dot(cut.through, way) }] : []))
})
/** What is between two stops, along the direction. */
const between = computed(() => {
    const places = [low.value, ...stops.value.map(({ at }) => at).sort((a, b) => a - b), high.value]
    return places.slice(1).map((to, n) => ({ from: places[n], to }))
})

function placeOf(event: PointerEvent): number {
    const bounds = (host.value as HTMLElement).getBoundingClientRect()
    return low.value + ((event.clientX - bounds.left - 14) / (width.value - 28)) * (high.value - low.value)
}

function take(event: PointerEvent, cut: number) {
    if (plan.waits) return
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
    held.value = { cut, at: placeOf(event) }
}

function drag(event: PointerEvent) {
    if (held.value) held.value = { ...held.value, at: Math.max(low.value, Math.min(high.value, event.altKey ? placeOf(event) : Math.round(placeOf(event)))) }
}

async function move(cut: number, at: number) {
    const way = facing.value
    if (way) await plan.move(cut, at * Math.sign(dot(cuts.value[cut].facing, way)))
}

async function drop() {
    const now = held.value
    if (!now) return
    // It stays where it was let go of until what comes of it is known.
    await move(now.cut, now.at)
    if (held.value?.cut === now.cut) held.value = null
}

function key(event: KeyboardEvent, { cut, at }: { cut: number; at: number }) {
    const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key]
    if (!by || plan.waits) return
    event.preventDefault()
    void move(cut, at + by * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1))
}
</script>

<template>
    <section class="rail" aria-label="Profile of the plan">
        <div class="head">
            <span class="soft">{{ facing ? `Area of the section ${words(facing)}` : '' }}</span>
            <ChoiceRow v-if="options.length > 1" v-model="chosen" :options="options" label="Direction of the cuts" />
        </div>
        <div ref="host" class="host">
            <svg :width="width" :height="HEIGHT" @pointermove="drag" @pointerup="drop" @pointercancel="held = null">
                <path :d="curve" class="area" />
                <line :x1="14" :x2="width - 14" :y1="BASE" :y2="BASE" class="ground" />
                <text v-for="({ from, to }, n) in between" :key="n" :x="(x(from) + x(to)) / 2" :y="HEIGHT - 4" class="extent">{{ mm(to - from) }}</text>
                <g
                    v-for="stop in stops" :key="stop.cut" class="stop" role="slider" tabindex="0" :aria-label="`Cut ${stop.cut + 1}`" :aria-valuemin="low" :aria-valuemax="high" :aria-valuenow="stop.at"
                    :aria-valuetext="mm(stop.at)" @pointerdown.prevent="take($event, stop.cut)" @keydown="key($event, stop)"
                >
                    <line :x1="x(stop.at)" :x2="x(stop.at)" y1="4" :y2="BASE + 4" />
                    <rect :x="x(stop.at) - 8" y="2" width="16" :height="BASE + 4" class="hold" />
                    <text :x="x(stop.at) + 5" y="13">{{ stop.cut + 1 }}</text>
                </g>
            </svg>
        </div>
    </section>
</template>

<style scoped>
.rail {
    padding: 6px 16px 4px;
}

.head {
    display: flex;
    gap: 16px;
    align-items: center;
    min-height: 28px;
    font-size: 13px;
}

svg {
    display: block;
    touch-action: none;
}

.area {
    fill: color-mix(in srgb, var(--soft) 28%, transparent);
}

.ground {
    stroke: var(--rule);
}

.stop line {
    stroke: var(--cut);
    stroke-width: 2;
}

.stop {
    cursor: ew-resize;
}

.stop:focus-visible {
    outline: none;
}

.stop:focus-visible line {
    stroke-width: 4;
}

.hold {
    fill: transparent;
}

text {
    fill: var(--ink);
    font-size: 12px;
    font-variant-numeric: tabular-nums;
}

.extent {
    fill: var(--soft);
    text-anchor: middle;
}
</style>
