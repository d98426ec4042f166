<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue'
import { scaleLinear } from 'd3-scale'
import { area as areaShape, line as lineShape } from 'd3-shape'
import { mm, mm2, number } from '../format'
import { useBlade } from '../stores/blade'
import { useProject } from '../stores/project'
import SeriesSettings from './SeriesSettings.vue'

/** Pixels within which a dragged stop is drawn to a good place. */
const PULL = 9
const HEIGHT = 78
const BASE = 58

const blade = useBlade()
const project = useProject()
const host = useTemplateRef('host')
const width = ref(800)
const over = ref<number | null>(null)
let dragged: { index: number; moved: boolean } | null = null
let observer: ResizeObserver | null = null

onMounted(() => {
    observer = new ResizeObserver(([entry]) => { width.value = Math.max(200, entry.contentRect.width) })
    observer.observe(host.value as HTMLElement)
})
onBeforeUnmount(() => observer?.disconnect())

const profile = computed(() => blade.freshProfile)
const low = computed(() => profile.value?.low ?? blade.reach[0])
const high = computed(() => profile.value?.high ?? blade.reach[1])
const x = computed(() => scaleLinear([low.value, high.value], [14, width.value - 14]))
const y = computed(() => scaleLinear([0, (profile.value?.areas ?? [1]).reduce((most, one) => Math.max(most, one), 1e-9)], [BASE, 8]))
const points = computed((): [number, number][] => {
    const p = profile.value
    return p ? [[p.low, 0], ...p.positions.map((at, n): [number, number] => [at, p.areas[n]]), [p.high, 0]] : []
})
const filled = computed(() => areaShape<[number, number]>((d) => x.value(d[0]), BASE, (d) => y.value(d[1]))(points.value) ?? '')
const drawn = computed(() => lineShape<[number, number]>((d) => x.value(d[0]), (d) => y.value(d[1]))(points.value) ?? '')
/** Round distances from the low end. */
const marks = computed(() => scaleLinear([0, high.value - low.value], [0, 1]).ticks(Math.max(4, Math.round(width.value / 130))).map((mark) => mark + low.value))

/** Stops as places along the facing; one blade is one stop. */
const stops = computed(() => (blade.series ? (blade.plan?.stops ?? blade.stops) : blade.shown ? [blade.offset] : []))
const slabs = computed(() => {
    if (blade.series) return blade.plan?.slabs ?? []
    if (!blade.shown || blade.offset <= low.value || blade.offset >= high.value) return []
    const most = project.project?.printer?.z ?? Infinity
    return [[low.value, blade.offset], [blade.offset, high.value]].map(([from, to]) => ({ from, to, extent: to - from, over: Math.max(0, to - from - most) }))
})
/** Where the label of a slab has room: above the curve, or else below it. */
function labelAt(from: number, to: number): number {
    const middle = (x.value(from) + x.value(to)) / 2
    const near = points.value.filter(([at]) => Math.abs(x.value(at) - middle) < 52).map(([, area]) => y.value(area))
    if (!near.length || Math.min(...near) > 20) return 12
    return Math.max(...near) < BASE - 20 ? BASE - 12 : 12
}
const tooTall = computed(() => slabs.value.filter((slab) => slab.over > 0).length)
const direction = computed(() => ({ X: 'along X', Y: 'along Y', Z: 'upwards', '': 'along the blade\'s facing' })[blade.axis])
const here = computed(() => {
    const p = profile.value
    const at = over.value
    if (!p || at === null) return ''
    const n = Math.max(0, Math.min(p.areas.length - 1, Math.round(((at - p.low) / (p.high - p.low)) * p.areas.length - 0.5)))
    return `at ${number(at - low.value, 1)} mm: ${mm2(p.areas[n])}, ${p.outlines[n]} ${p.outlines[n] === 1 ? 'outline' : 'outlines'}`
})

function placeOf(event: PointerEvent): number {
    const bounds = (host.value as HTMLElement).getBoundingClientRect()
    return x.value.invert(event.clientX - bounds.left)
}

/** Near a good place it is drawn to it, unless freed. */
function pulled(at: number, free: boolean): number {
    if (free) return at
    const near = (profile.value?.good ?? []).map((good) => ({ good, away: Math.abs(x.value(good) - x.value(at)) })).sort((a, b) => a.away - b.away)[0]
    return near && near.away <= PULL ? near.good : at
}

function grab(index: number, event: PointerEvent) {
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
    if (blade.series && blade.spacing !== 'stops') blade.setStops([...stops.value])
    dragged = { index, moved: false }
}

function drag(event: PointerEvent) {
    over.value = placeOf(event)
    if (!dragged) return
    dragged.moved = true
    move(dragged.index, pulled(over.value, event.altKey))
}

function move(index: number, to: number) {
    const at = Math.max(low.value, Math.min(high.value, to))
    if (!blade.series) {
        blade.setOffset(at)
        return
    }
    const next = [...blade.stops]
    next[index] = at
    const order = next.map((stop, n) => ({ stop, n })).sort((a, b) => a.stop - b.stop)
    if (dragged) dragged.index = order.findIndex((one) => one.n === index)
    blade.setStops(next)
    blade.setOffset(at)
}

function press(event: PointerEvent) {
    if (event.button !== 0 || (event.target as Element).closest('.stop')) return
    const at = pulled(placeOf(event), event.altKey)
    if (!blade.series) blade.setOffset(at)
    else blade.setStops([...(blade.spacing === 'stops' ? blade.stops : stops.value), at])
}

function nudge(index: number, event: KeyboardEvent) {
    if (event.key === 'Delete' || event.key === 'Backspace') {
        event.preventDefault()
        remove(index)
        return
    }
    const sign = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key]
    if (!sign) return
    event.preventDefault()
    event.stopPropagation()
    if (blade.series && blade.spacing !== 'stops') blade.setStops([...stops.value])
    move(index, stops.value[index] + sign * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1))
}

function remove(index: number) {
    if (!blade.series) return
    blade.setStops(stops.value.filter((_, n) => n !== index))
}
</script>

<template>
    <section class="rail" aria-label="Profile">
        <header>
            <h2>Profile {{ direction }}</h2>
            <SeriesSettings v-if="blade.series" />
            <span v-else class="soft">click to place the blade; drawn to good places unless Alt is held</span>
            <span v-if="tooTall" class="warning" data-part="too-tall">{{ tooTall }} {{ tooTall === 1 ? 'part' : 'parts' }} taller than the printer</span>
            <span class="soft here">{{ here }}</span>
        </header>
        <div ref="host" class="host">
            <svg :width="width" :height="HEIGHT + 18" data-part="rail" @pointermove="drag" @pointerup="dragged = null" @pointerleave="over = null" @pointerdown="press">
                <path class="area" :d="filled" />
                <rect v-for="([from, to], n) in (profile ? blade.widths?.bad : null) ?? []" :key="`bad${n}`" class="bad" :x="x(from)" :y="BASE" :width="x(to) - x(from)" height="4"><title>thinner than {{ blade.widths?.thin_mm }} mm somewhere</title></rect>
                <path class="curve" :d="drawn" />
                <g v-for="slab in slabs" :key="slab.from" class="slab" :class="{ over: slab.over > 0 }">
                    <text v-if="x(slab.to) - x(slab.from) > 46" :x="(x(slab.from) + x(slab.to)) / 2" :y="labelAt(slab.from, slab.to)">
                        {{ mm(slab.extent) }}<tspan v-if="x(slab.to) - x(slab.from) > 150"> · {{ slab.over > 0 ? `${mm(slab.over)} too tall` : 'fits' }}</tspan>
                    </text>
                    <line v-if="slab.over > 0" :x1="x(slab.from) + 2" :x2="x(slab.to) - 2" :y1="labelAt(slab.from, slab.to) + 5" :y2="labelAt(slab.from, slab.to) + 5" />
                </g>
                <path class="base" :d="`M14 ${BASE}H${width - 14}`" />
                <g v-for="good in profile?.good ?? []" :key="good" class="good-place">
                    <path :d="`M${x(good)} ${BASE + 4}l-4 7h8z`"><title>a good place: the section is least here</title></path>
                </g>
                <g class="ticks">
                    <template v-for="mark in marks" :key="mark">
                        <path :d="`M${x(mark)} ${BASE}v4`" />
                        <text :x="x(mark)" :y="HEIGHT + 10">{{ number(mark - low, 0) }}</text>
                    </template>
                </g>
                <g
                    v-for="(stop, n) in stops" :key="n" class="stop" tabindex="0" role="slider" :aria-label="`Stop ${n + 1}`" :aria-valuenow="Math.round(10 * (stop - low)) / 10"
                    :aria-valuemin="0" :aria-valuemax="Math.round(high - low)" :aria-valuetext="`${number(stop - low, 1)} mm`"
                    @pointerdown.stop="grab(n, $event)" @dblclick="remove(n)" @keydown="nudge(n, $event)"
                >
                    <rect :x="x(stop) - 9" y="0" width="18" :height="HEIGHT" fill="transparent" />
                    <path :d="`M${x(stop)} 8V${BASE + 6}`" />
                    <rect class="head" :x="x(stop) - 8" y="2" width="16" height="9" rx="1" />
                </g>
            </svg>
            <p v-if="!profile && project.living.length" class="soft wait">the profile is being worked out…</p>
        </div>
    </section>
</template>

<style scoped>
.rail {
    padding: 6px 16px 0;
}

header {
    display: flex;
    align-items: center;
    gap: 18px;
    min-height: 32px;
    font-size: 13px;
}

h2 {
    flex: none;
    font-size: 15px;
}

.here {
    margin-left: auto;
    white-space: nowrap;
}

.host {
    position: relative;
    overflow: hidden;
}

svg {
    display: block;
    touch-action: none;
    cursor: crosshair;
}

.area {
    fill: color-mix(in srgb, var(--rule) 55%, transparent);
}

.curve {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.2;
}

.base,
.ticks path {
    stroke: var(--soft);
}

.bad {
    fill: var(--warning);
}

.good-place path {
    fill: var(--good);
}

text {
    fill: var(--soft);
    font-size: 12px;
    text-anchor: middle;
    font-variant-numeric: tabular-nums;
}

.slab text {
    fill: var(--ink);
    paint-order: stroke;
    stroke: var(--sheet);
    stroke-width: 3px;
}

.slab.over text {
    fill: var(--warning);
}

.slab line {
    stroke: var(--warning);
    stroke-width: 2;
}

.stop {
    cursor: ew-resize;
    outline: none;
}

.stop path {
    stroke: var(--cut);
    stroke-width: 2;
}

.stop .head {
    fill: var(--cut);
}

.stop:focus-visible .head {
    stroke: var(--picked);
    stroke-width: 3;
}

.wait {
    position: absolute;
    top: 28px;
    left: 0;
    right: 0;
    margin: 0;
    text-align: center;
    pointer-events: none;
}
</style>
