<script setup lang="ts">
import { computed } from 'vue'
import { duration, mm, mm2, number } from '../format'
import { usePrints } from '../stores/prints'

const prints = usePrints()
const WIDTH = 1000
const HEIGHT = 46

/** Area by layer, as a curve. */
const curve = computed(() => {
    const layers = prints.header?.layers ?? []
    const most = layers.reduce((high, { area }) => Math.max(high, area), 1e-9)
    const step = Math.max(1, Math.floor(layers.length / WIDTH))
    const places = layers.filter((_, n) => n % step === 0).map(({ area }, n) => `${((n * step + 0.5) / layers.length) * WIDTH},${HEIGHT - (HEIGHT - 4) * (area / most)}`)
    return `M0,${HEIGHT} L${places.join(' L')} L${WIDTH},${HEIGHT} Z`
})
const now = computed(() => prints.header?.layers[prints.layer] ?? null)
</script>

<template>
    <section v-if="prints.header && now" class="rail" aria-label="Layers">
        <button class="play" :aria-label="prints.playing ? 'Pause' : 'Play the layers'" @click="prints.playing ? prints.pause() : prints.play()">{{ prints.playing ? 'pause' : 'play' }}</button>
        <div class="track">
            <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" preserveAspectRatio="none" aria-hidden="true">
                <path :d="curve" class="area" />
                <line :x1="((prints.layer + 0.5) / prints.count) * WIDTH" :x2="((prints.layer + 0.5) / prints.count) * WIDTH" y1="0" :y2="HEIGHT" class="stop" vector-effect="non-scaling-stroke" />
            </svg>
            <input type="range" min="0" :max="prints.count - 1" :value="prints.layer" aria-label="Layer" @input="prints.pause(); prints.show(Number(($event.target as HTMLInputElement).value))">
        </div>
        <dl>
            <div><dt>Layer</dt><dd>{{ number(prints.layer + 1, 0) }} of {{ number(prints.count, 0) }}</dd></div>
            <div><dt>Height</dt><dd>{{ mm(now.at + prints.header.layer / 2, 2) }}</dd></div>
            <div><dt>Area</dt><dd>{{ mm2(now.area) }}</dd></div>
            <div><dt>Until then</dt><dd>{{ duration(prints.until) }}</dd></div>
        </dl>
    </section>
</template>

<style scoped src="./rail.css"></style>
<style scoped>
.track {
    height: 52px;
}

svg {
    position: absolute;
    inset: 0 8px 6px;
    width: calc(100% - 16px);
    height: 46px;
}

.area {
    fill: color-mix(in srgb, var(--soft) 28%, transparent);
}

.stop {
    stroke: var(--cut);
    stroke-width: 1.5;
}

input:focus-visible + *,
.track:focus-within {
    outline: 2px solid var(--picked);
    outline-offset: 2px;
}

dl {
    grid-template-columns: auto auto;
}
</style>
