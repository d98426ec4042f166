<script setup lang="ts">
import { ElCheckbox } from 'element-plus'
import { computed } from 'vue'
import type { MovementLayer, Vector } from '../api/types'
import { count } from '../format'
import { useMotion } from '../stores/motion'
import { useProject } from '../stores/project'
import AxisChoice from './AxisChoice.vue'
import ChoiceRow from './ChoiceRow.vue'
import NumberField from './NumberField.vue'
import VectorFields from './VectorFields.vue'

/** The settings of a layer of a movement. */
const props = defineProps<{ layer: MovementLayer }>()
const motion = useMotion()
const project = useProject()

const number = (key: string) => Number(props.layer[key] ?? 0)
const three = (key: string) => (props.layer[key] ?? [0, 0, 0]) as Vector
const word = (key: string) => (props.layer[key] as string | undefined) ?? ''
const set = (key: string, value: unknown) => motion.set({ [key]: value })

const EASES = [
    { value: 'smooth', text: 'smooth', hint: 'Gets under way and comes to rest softly' }, { value: 'out', text: 'out', hint: 'At full speed at once, comes to rest softly' },
    { value: 'bounce', text: 'bounce', hint: 'Arrives and bounces back a few times' }, { value: 'even', text: 'even', hint: 'At one pace' },
]
const FRONTS = [
    { value: 'plane', text: 'plane', hint: 'A plane travels through the pieces' }, { value: 'ball', text: 'ball', hint: 'A ball grows from their middle' }, { value: 'axis', text: 'tube', hint: 'A tube grows around an axis' },
    { value: 'order', text: 'order', hint: 'One after the other as they are listed' }, { value: 'random', text: 'chance', hint: 'At random, the same every time' },
]
const some = computed(() => (props.layer.of ?? ['*']).filter((name) => name !== '*'))
const stay = computed(() => (props.layer.stay ?? []) as string[])
const picked = computed(() => project.living.filter(({ id }) => project.pickedIds.has(id)).map(({ name }) => name))
const aboutFrom = computed(() => (Array.isArray(props.layer.from) ? 'place' : props.layer.from === 'faces' ? 'faces' : 'centre'))

/** What pieces spread from. */
function setFrom(from: string) {
    const middle = project.whole.min.map((low, k) => Math.round((low + project.whole.max[k]) / 2))
    motion.set({ from: from === 'place' ? middle : from === 'faces' ? from : undefined, along: from === 'axis' ? [0, 0, 1] : undefined })
}

const FROM = [
    { value: 'centre', text: 'middle', hint: 'Away from the middle of the pieces' }, { value: 'place', text: 'place', hint: 'Away from a place' }, { value: 'axis', text: 'axis', hint: 'Away from an axis, square to it' },
    { value: 'faces', text: 'faces', hint: 'Neighbours part along the faces that they share' },
]
</script>

<template>
    <div class="settings">
        <div class="line">
            <span class="label">moves</span>
            <span>{{ some.length ? count(some.length, 'piece', 'pieces') : 'all pieces' }}</span>
            <button v-if="picked.length" class="link end" @click="motion.setOf(true)">the picked {{ picked.length }}</button>
            <button v-if="some.length" class="link" :class="{ end: !picked.length }" @click="motion.setOf(false)">all</button>
        </div>
        <template v-if="layer.do === 'spread'">
            <div class="line"><span class="label">by</span><NumberField :model-value="number('distance_mm')" unit="mm" :digits="0" :label="aboutFrom === 'faces' ? 'Distance between neighbours' : 'Distance of the farthest piece'" @update:model-value="set('distance_mm', $event)" /><ElCheckbox v-if="aboutFrom !== 'faces'" class="end" :model-value="layer.alike === true" title="All pieces move equally far, not the farthest most" @update:model-value="set('alike', $event === true)">all alike</ElCheckbox></div>
            <div class="line">
                <span class="label">from</span>
                <ChoiceRow :model-value="layer.along ? 'axis' : aboutFrom" :options="FROM" label="Away from" @update:model-value="setFrom" />
            </div>
            <div v-if="layer.along" class="line">
                <span class="label">about</span><AxisChoice :model-value="three('along')" label="Axis" @update:model-value="set('along', $event)" />
            </div>
            <div v-if="aboutFrom === 'faces'" class="line" title="Faces are shared across a kerf of no more than this"><span class="label">reach</span><NumberField :model-value="Number(layer.reach_mm ?? 1)" unit="mm" :digits="2" :step="0.1" :min="0.01" label="Faces are shared within" @update:model-value="set('reach_mm', $event)" /></div>
            <div v-if="aboutFrom === 'place'" class="line"><span class="label" /><VectorFields :model-value="three('from')" unit="mm" label="Place" @update:model-value="set('from', $event)" /></div>
        </template>
        <template v-else-if="layer.do === 'wave'">
            <div class="line"><ChoiceRow :model-value="word('front')" :options="FRONTS" label="What passes through the pieces" @update:model-value="set('front', $event)" /></div>
            <div v-if="layer.front === 'plane'" class="line"><span class="label">towards</span><AxisChoice signed :model-value="three('facing')" label="Towards" @update:model-value="set('facing', $event)" /></div>
            <div v-if="layer.front === 'axis'" class="line"><span class="label">around</span><AxisChoice :model-value="three('along')" label="Around" @update:model-value="set('along', $event)" /></div>
            <div class="line"><span class="label">shift</span><VectorFields :model-value="three('shift')" unit="mm" label="Shift" @update:model-value="set('shift', $event)" /></div>
            <div class="line"><span class="label">turn</span><NumberField :model-value="number('degrees')" unit="°" :digits="0" :step="5" label="Turn" @update:model-value="set('degrees', $event)" /><AxisChoice class="end" :model-value="three('about')" label="Turn about" @update:model-value="set('about', $event)" /></div>
            <div class="line counts">
                <label>each takes<NumberField :model-value="number('width')" unit="f" :digits="0" :min="1" label="Frames that each piece takes" @update:model-value="set('width', $event)" /></label>
                <label>softness<NumberField :model-value="number('softness')" unit="" :digits="2" :step="0.1" :min="0" :max="1" label="Softness" @update:model-value="set('softness', $event)" /></label>
                <label>late by<NumberField :model-value="number('random')" unit="" :digits="2" :step="0.1" :min="0" :max="1" label="Share that is late at random" @update:model-value="set('random', $event)" /></label>
            </div>
            <div class="line"><span class="label">scale</span><NumberField :model-value="number('scale')" unit="×" :digits="2" :step="0.1" :min="0" label="Scale in the end" @update:model-value="set('scale', $event)" /></div>
        </template>
        <template v-else-if="layer.do === 'scatter'">
            <div class="line counts">
                <label>shift up to<NumberField :model-value="number('distance_mm')" unit="mm" :digits="0" :min="0" label="Shift at most" @update:model-value="set('distance_mm', $event)" /></label>
                <label>turn up to<NumberField :model-value="number('degrees')" unit="°" :digits="0" :step="5" :min="0" :max="180" label="Turn at most" @update:model-value="set('degrees', $event)" /></label>
            </div>
            <div class="line"><ElCheckbox :model-value="layer.drift === true" title="Pieces go on at the same pace for ever" @update:model-value="set('drift', $event === true)">drifts on</ElCheckbox></div>
        </template>
        <template v-else-if="layer.do === 'keys'">
            <div class="line">
                <span>{{ count(motion.keys.length, 'key', 'keys') }}</span>
                <button class="link end" :disabled="motion.key !== null" @click="motion.addKey()">key at frame {{ motion.frame }}</button>
                <button v-if="motion.key && motion.keys.length > 1" class="link" @click="motion.removeKey()">take it away</button>
            </div>
            <div class="line frames"><button v-for="key in motion.keys" :key="key.frame" class="link" :aria-pressed="key === motion.key" @click="motion.pause(); motion.show(key.frame)">{{ key.frame }}</button></div>
            <template v-if="motion.key">
                <div class="line"><span class="label">shift</span><VectorFields :model-value="motion.key.shift" unit="mm" label="Shift at the key" @update:model-value="motion.setKey({ shift: $event })" /></div>
                <div class="line"><span class="label">turn</span><NumberField :model-value="motion.key.degrees" unit="°" :digits="0" :step="5" label="Turn at the key" @update:model-value="motion.setKey({ degrees: $event })" /><AxisChoice class="end" :model-value="motion.key.about" label="Turn at the key about" @update:model-value="motion.setKey({ about: $event })" /></div>
                <div class="line"><span class="label">scale</span><NumberField :model-value="motion.key.scale" unit="×" :digits="2" :step="0.1" :min="0.01" label="Scale at the key" @update:model-value="motion.setKey({ scale: $event })" /></div>
            </template>
            <p v-else class="soft">Go to a key by its frame, or set one here.</p>
        </template>
        <template v-else>
            <div class="line counts">
                <label>density<NumberField :model-value="number('density')" unit="g/cm³" :digits="2" :step="0.1" :min="0.01" label="Density" @update:model-value="set('density', $event)" /></label>
                <label>friction<NumberField :model-value="number('friction')" unit="" :digits="2" :step="0.1" :min="0" :max="10" label="Friction" @update:model-value="set('friction', $event)" /></label>
                <label>bounce<NumberField :model-value="number('bounce')" unit="" :digits="2" :step="0.1" :min="0" :max="1" label="Bounce" @update:model-value="set('bounce', $event)" /></label>
            </div>
            <div class="line" title="Neighbours hold together until a face is pulled, bent or sheared by more than this; 0 for no glue"><span class="label">glue</span><NumberField class="wide" :model-value="number('glue')" unit="N/mm²" :digits="3" :step="0.01" :min="0" label="Strength of the glue" @update:model-value="set('glue', $event)" /></div>
            <div class="line"><span class="label">floor at</span><NumberField class="half" :model-value="number('floor')" unit="mm" :digits="0" label="Height of the floor" @update:model-value="set('floor', $event)" /><span class="soft end">gravity</span><NumberField class="half" :model-value="number('gravity')" unit="m/s²" :digits="2" :min="0" label="Gravity" @update:model-value="set('gravity', $event)" /></div>
            <div class="line"><span class="label">speed</span><VectorFields :model-value="three('speed')" unit="mm/s" label="Speed at the beginning" @update:model-value="set('speed', $event)" /></div>
            <div class="line"><span class="label">spin</span><VectorFields :model-value="three('spin')" unit="°/s" label="Spin at the beginning" @update:model-value="set('spin', $event)" /></div>
            <div class="line" title="Away from the middle of the pieces, next to it at this speed, evenly less as far as that">
                <span class="label">push</span><NumberField class="half" :model-value="number('push')" unit="mm/s" :digits="0" :step="50" label="Push from the middle" @update:model-value="set('push', $event)" />
                <span class="soft end">within</span><NumberField class="half" :model-value="Number(layer.push_reach ?? 200)" unit="mm" :digits="0" :min="1" label="As far as the push reaches" @update:model-value="set('push_reach', $event)" />
            </div>
            <div class="line">
                <span class="label">stay</span><span>{{ stay.length ? count(stay.length, 'piece', 'pieces') : 'none' }}</span>
                <button v-if="picked.length" class="link end" @click="set('stay', picked)">the picked {{ picked.length }}</button>
                <button v-if="stay.length" class="link" :class="{ end: !picked.length }" @click="set('stay', undefined)">none</button>
            </div>
        </template>
        <div v-if="layer.do !== 'keys'" class="line counts">
            <label>begins<NumberField :model-value="number('start')" unit="f" :digits="0" :min="0" label="Frame at which it begins" @update:model-value="set('start', $event)" /></label>
            <label v-if="layer.do !== 'drop'">takes<NumberField :model-value="number('length')" unit="f" :digits="0" :min="1" label="Frames that it takes" @update:model-value="set('length', $event)" /></label>
            <label v-if="layer.do === 'scatter' || (layer.do === 'wave' && (layer.front === 'random' || number('random') > 0))">seed<NumberField :model-value="number('seed')" unit="" :digits="0" :min="0" label="Seed" @update:model-value="set('seed', $event)" /></label>
        </div>
        <div v-if="layer.do === 'spread' || layer.do === 'keys' || (layer.do === 'scatter' && !layer.drift)" class="line">
            <ChoiceRow :model-value="word('ease')" :options="layer.do === 'keys' ? [...EASES, { value: 'step', text: 'step', hint: 'Stays until the next key' }] : EASES" label="Ease" @update:model-value="set('ease', $event)" />
        </div>
    </div>
</template>

<style scoped src="./card.css"></style>
<style scoped>
.settings {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 6px;
    padding-top: 4px;
}

.frames {
    flex-wrap: wrap;
}

.frames [aria-pressed='true'] {
    color: var(--ink);
    font-weight: 600;
}

.wide {
    width: 120px;
}

.half {
    width: 80px;
}

.label {
    width: 56px;
}
</style>
