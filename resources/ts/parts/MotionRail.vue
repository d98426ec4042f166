<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import type { MovementLayer } from '../api/types'
import { number } from '../format'
import { useMotion } from '../stores/motion'

const motion = useMotion()
const track = useTemplateRef('track')
const WIDTH = 1000
const HEIGHT = 30

/** Frames, from the first to the last, as shares of the track. */
const last = computed(() => Math.max(1, motion.frames - 1))
const share = (frame: number) => Math.max(0, Math.min(1, frame / last.value))

const begin = (layer: MovementLayer) => (layer.do === 'keys' ? Math.min(...frames(layer)) : Number(layer.start ?? 0))
const end = (layer: MovementLayer) => (layer.do === 'keys' ? Math.max(...frames(layer)) : layer.do === 'drop' ? last.value : begin(layer) + Number(layer.length ?? 0) + (layer.do === 'wave' ? Number(layer.width ?? 0) : 0))
const frames = (layer: MovementLayer) => ((layer.keys ?? []) as { frame: number }[]).map(({ frame }) => frame)

/** What the chosen layer does in time, as the server worked it out. */
const inTime = computed(() => (motion.isOld ? null : (motion.known?.layers?.[motion.chosen] ?? null)))
const curve = computed(() => {
    const shares = inTime.value?.curve ?? []
    if (shares.length < 2) return ''
    const step = Math.max(1, Math.floor(shares.length / WIDTH))
    return `M${shares.flatMap((at, n) => (n % step ? [] : [`${(n / (shares.length - 1)) * WIDTH},${HEIGHT - 1 - (HEIGHT - 3) * at}`])).join(' L')}`
})
/** When each piece starts; those within a pixel of each other are one. */
const ticks = computed(() => [...new Set((inTime.value?.starts ?? []).map((start) => Math.round(share(start) * WIDTH)))])

let held: { from: number; layer: number; what: 'start' | 'length'; value: number } | null = null

function hold(event: PointerEvent, layer: number, what: 'start' | 'length') {
    motion.chosen = layer
    const one = motion.layers[layer]
    if (one.do === 'keys' || (one.do === 'drop' && what === 'length')) return
    held = { from: event.clientX, layer, what, value: Number(one[what] ?? 0) }
    ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
}

function release() {
    held = null
}

function drag(event: PointerEvent) {
    if (!held) return
    const by = ((event.clientX - held.from) / (track.value?.clientWidth ?? 1)) * last.value
    change(held.layer, held.what, held.value + by)
}

function change(layer: number, what: 'start' | 'length', value: number) {
    const rounded = Math.max(what === 'start' ? 0 : 1, Math.min(motion.frames, Math.round(value)))
    if (rounded !== motion.layers[layer][what]) motion.set({ [what]: rounded }, layer)
}

function key(event: KeyboardEvent, layer: number, what: 'start' | 'length') {
    const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[event.key]
    if (by === undefined || motion.layers[layer].do === 'keys') return
    event.preventDefault()
    event.stopPropagation()
    motion.chosen = layer
    change(layer, what, Number(motion.layers[layer][what] ?? 0) + by)
}
</script>

<template>
    <section class="rail" aria-label="Time">
        <div class="playing">
            <button class="play" :disabled="!motion.known" :aria-label="motion.playing ? 'Pause' : 'Play'" @click="motion.playing ? motion.pause() : motion.play()">{{ motion.playing ? 'pause' : 'play' }}</button>
            <label title="When it has come to its end it begins again"><input v-model="motion.loop" type="checkbox"> again</label>
        </div>
        <div ref="track" class="track" :style="{ height: `${HEIGHT + 8 + 15 * Math.min(4, motion.layers.length)}px` }">
            <div class="curves">
                <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" preserveAspectRatio="none" aria-hidden="true">
                    <path v-if="curve" :d="curve" class="curve" vector-effect="non-scaling-stroke" />
                    <line v-for="tick in ticks" :key="tick" :x1="tick" :x2="tick" y1="0" y2="7" class="tick-mark" vector-effect="non-scaling-stroke" />
                </svg>
                <input type="range" min="0" :max="last" :value="motion.frame" aria-label="Frame" @input="motion.pause(); motion.show(Number(($event.target as HTMLInputElement).value))">
            </div>
            <div class="bars">
                <div v-for="(layer, n) in motion.layers" :key="n" class="row">
                    <div
                        class="bar" :class="{ chosen: n === motion.chosen, off: layer.off }" role="slider" tabindex="0" :aria-label="`Layer ${n + 1}, ${layer.do}, begins at frame`" :aria-valuemin="0" :aria-valuemax="last" :aria-valuenow="begin(layer)"
                        :style="{ left: `${100 * share(begin(layer))}%`, width: `max(8px, ${100 * (share(end(layer)) - share(begin(layer)))}%)` }"
                        @pointerdown="hold($event, n, 'start')" @pointermove="drag" @pointerup="release" @pointercancel="release" @keydown="key($event, n, 'start')"
                    >
                        <span class="word">{{ layer.do }}</span>
                    </div>
                    <div
                        v-if="layer.do !== 'keys' && layer.do !== 'drop'" class="end-grip" role="slider" tabindex="0" :aria-label="`Layer ${n + 1}, ${layer.do}, takes frames`" :aria-valuemin="1" :aria-valuemax="motion.frames" :aria-valuenow="Number(layer.length ?? 0)"
                        :style="{ left: `${100 * share(end(layer))}%` }" @pointerdown="hold($event, n, 'length')" @pointermove="drag" @pointerup="release" @pointercancel="release" @keydown="key($event, n, 'length')"
                    />
                    <span v-for="frame in layer.do === 'keys' ? frames(layer) : []" :key="frame" class="key-mark" :style="{ left: `${100 * share(frame)}%` }" />
                </div>
            </div>
            <div v-if="motion.known" class="now" aria-hidden="true" :style="{ left: `${100 * share(motion.frame)}%` }" />
            <div v-if="motion.known && motion.known.count < motion.known.frames" class="unknown" aria-hidden="true" :style="{ left: `${100 * share(motion.known.count)}%` }" />
        </div>
        <dl>
            <div><dt>Frame</dt><dd data-part="frame">{{ number(motion.frame, 0) }} of {{ number(last, 0) }}</dd></div>
            <div><dt>Time</dt><dd>{{ number(motion.frame / motion.fps, 2) }} s</dd></div>
            <div><dt>Move now</dt><dd>{{ number(motion.underWay, 0) }}</dd></div>
        </dl>
    </section>
</template>

<style scoped src="./rail.css"></style>
<style scoped>
.playing {
    display: grid;
    gap: 4px;
    justify-items: start;
    font-size: 13px;
}

.playing input {
    margin: 0 3px 0 0;
    accent-color: var(--cut);
    vertical-align: -2px;
}

.curves {
    position: relative;
    height: 30px;
    border-bottom: 1px solid var(--rule);
}

.curves:focus-within {
    outline: 2px solid var(--picked);
    outline-offset: 2px;
}

svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
}

.curve {
    fill: none;
    stroke: var(--soft);
    stroke-width: 1.5;
}

.tick-mark {
    stroke: var(--ink);
    stroke-width: 1;
    opacity: 0.55;
}

.bars {
    position: relative;
    max-height: 60px;
    margin-top: 4px;
    overflow-x: hidden;
    overflow-y: auto;
}

.row {
    position: relative;
    height: 15px;
}

.bar {
    position: absolute;
    top: 1px;
    height: 13px;
    border-radius: 2px;
    background: color-mix(in srgb, var(--soft) 35%, transparent);
    color: var(--ink);
    cursor: grab;
    overflow: hidden;
    touch-action: none;
}

.bar.chosen {
    background: color-mix(in srgb, var(--picked) 45%, transparent);
}

.bar.off {
    opacity: 0.4;
}

.word {
    display: block;
    padding: 0 5px;
    font-size: 11px;
    line-height: 13px;
    white-space: nowrap;
    pointer-events: none;
}

.end-grip {
    position: absolute;
    top: 0;
    width: 9px;
    height: 15px;
    border-right: 3px solid var(--ink);
    cursor: ew-resize;
    transform: translateX(-100%);
    touch-action: none;
}

.key-mark {
    position: absolute;
    top: 4px;
    width: 7px;
    height: 7px;
    background: var(--ink);
    transform: translateX(-50%) rotate(45deg);
    pointer-events: none;
}

.now {
    position: absolute;
    top: 0;
    bottom: 0;
    width: 1.5px;
    background: var(--cut);
    transform: translateX(-50%);
    pointer-events: none;
}

.unknown {
    position: absolute;
    top: 0;
    right: 0;
    bottom: 0;
    background: repeating-linear-gradient(135deg, transparent 0 4px, color-mix(in srgb, var(--soft) 22%, transparent) 4px 6px);
    pointer-events: none;
}
</style>
