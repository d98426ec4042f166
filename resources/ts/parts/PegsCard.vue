<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref } from 'vue'
import { ElCheckbox } from 'element-plus'
import type { Vector } from '../api/types'
import { count, mm2, number } from '../format'
import { useBlade } from '../stores/blade'
import { usePegs, type PegShape, type PegStyle } from '../stores/pegs'
import { useProject } from '../stores/project'
import ChoiceRow from './ChoiceRow.vue'
import FaceDrawing from './FaceDrawing.vue'
import NumberField from './NumberField.vue'
import PlateWorks from './PlateWorks.vue'
import RunProgress from './RunProgress.vue'
import StationCard from './StationCard.vue'
import StepFoot from './StepFoot.vue'

const blade = useBlade()
const pegs = usePegs()
const project = useProject()

const STYLES: { value: PegStyle; text: string; hint: string }[] = [
    { value: 'pin', text: 'Pins', hint: 'A pin on one piece, a socket in the other' },
    { value: 'dowel', text: 'Dowels', hint: 'Sockets in both, and a loose dowel, which is a piece of its own' },
    { value: 'magnet', text: 'Magnets', hint: 'A pocket in each piece, for a magnet' },
]
const SHAPES: { value: PegShape; text: string; hint: string }[] = [
    { value: 'round', text: 'round', hint: 'Turns freely when it is alone' },
    { value: 'square', text: 'square', hint: 'Goes in four ways when it is alone' },
    { value: 'hexagon', text: 'hexagon', hint: 'Goes in six ways when it is alone' },
    { value: 'dovetail', text: 'dovetail', hint: 'Goes in one way only' },
]
const SIZES = [
    { value: 'face', text: 'by the face', hint: 'As wide as each face allows, 2 to 8 mm' },
    { value: 'own', text: 'own', hint: 'The same everywhere' },
] as const

/** Magnets that are sold: width × height (common practice). */
const MAGNETS = ['3 × 1', '4 × 2', '5 × 2', '6 × 2', '8 × 3', '10 × 3', '12 × 3', '15 × 3', '20 × 5']
const typed = ref(false)
const magnet = computed(() => {
    if (pegs.diameter === null) return ''
    const one = `${pegs.diameter} × ${pegs.length ?? ''}`
    return MAGNETS.includes(one) && !typed.value ? one : 'own'
})

function choose(one: string) {
    typed.value = one === 'own'
    const [wide, high] = one.split(' × ').map(Number)
    if (one === 'own') own(true)
    else pegs.set(one === '' ? { diameter: null, length: null } : { diameter: wide, length: high })
}

/** Faces that are listed; those without room first. */
const ROWS = 60
const faces = computed(() => [...(pegs.forecast?.faces ?? [])].sort((one, other) => Number(one.pegs.length > 0) - Number(other.pegs.length > 0)))
/** The face that is drawn. */
const shown = ref('')
const drawn = computed(() => faces.value.find((face) => face.between.join() === shown.value) ?? faces.value.find((face) => face.pegs.length) ?? faces.value[0])
/** All pegs where they are now: one that is moved by hand leaves the others there. */
const all = computed(() => (pegs.forecast?.faces ?? []).flatMap((face) => face.pegs.map((peg) => peg.at)))
const isAt = (one: Vector, other: Vector) => one.every((c, k) => Math.abs(c - other[k]) < 1e-9)

function moved(from: Vector, to: Vector) {
    pegs.set({ at: all.value.map((at) => (isAt(at, from) ? to : at)) })
}

function removed(from: Vector) {
    pegs.set({ at: all.value.filter((at) => !isAt(at, from)) })
}

const isOwn = computed(() => pegs.diameter !== null)
const ways = (n: number) => (n === 1 ? 'one way' : n === 0 ? 'turns freely' : `${n} ways`)
const sizes = (face: (typeof faces.value)[number]) => [...new Set(face.pegs.map((peg) => `${number(peg.diameter_mm, 1)} × ${number(peg.length_mm, 1)}`))].join(', ')
const action = computed(() => (pegs.total ? `Make ${count(pegs.total, 'peg', 'pegs')}` : 'Make pegs'))

function own(is: boolean) {
    const first = pegs.forecast?.faces.flatMap((face) => face.pegs)[0]
    pegs.set(is ? { diameter: Math.round(2 * (first?.diameter_mm ?? 5)) / 2, length: Math.round(2 * (first?.length_mm ?? 6)) / 2 } : { diameter: null, length: null })
}

onMounted(() => pegs.set({}))
onUnmounted(() => {
    pegs.stop()
    if (blade.placing === 'place') blade.placing = 'none'
})
</script>

<template>
    <StationCard label="Plate">
        <PlateWorks />
        <header>
            <h2>{{ project.editing !== null ? `Step ${project.stepOf(project.editing)?.number}` : 'Pegs' }}</h2>
            <span class="soft">{{ count(pegs.pieces.length, 'piece', 'pieces') }}</span>
        </header>
        <div class="line"><ChoiceRow :model-value="pegs.style" :options="STYLES" label="What holds the pieces" @update:model-value="pegs.set({ style: $event, diameter: null, length: null })" /></div>
        <div v-if="pegs.style !== 'magnet'" class="line"><ChoiceRow :model-value="pegs.shape" :options="SHAPES" label="Shape of the pegs" @update:model-value="pegs.set({ shape: $event })" /></div>
        <div v-if="pegs.style === 'magnet'" class="line">
            <span class="label">Magnet</span>
            <select aria-label="Magnet" :value="magnet" @change="choose(($event.target as HTMLSelectElement).value)">
                <option value="">by the face</option>
                <option v-for="one in MAGNETS" :key="one" :value="one">{{ one }} mm</option>
                <option value="own">own</option>
            </select>
        </div>
        <div v-else class="line">
            <span class="label">Size</span>
            <ChoiceRow :model-value="isOwn ? 'own' : 'face'" :options="[...SIZES]" label="Size of the pegs" @update:model-value="own($event === 'own')" />
        </div>
        <div v-if="isOwn && (pegs.style !== 'magnet' || magnet === 'own')" class="line counts">
            <label>wide <NumberField :model-value="pegs.diameter ?? 5" unit="mm" label="Diameter" :step="0.5" :min="0.2" :max="1000" @update:model-value="pegs.set({ diameter: $event })" /></label>
            <label>{{ pegs.style === 'magnet' ? 'high' : 'long' }} <NumberField :model-value="pegs.length ?? 6" unit="mm" label="Length" :step="0.5" :min="0.2" :max="1000" @update:model-value="pegs.set({ length: $event })" /></label>
        </div>
        <div class="line counts">
            <label>a face <NumberField :model-value="pegs.count ?? 2" unit="" label="Pegs on each face" :digits="0" :min="1" :max="20" @update:model-value="pegs.set({ count: Math.round($event), at: [] })" /></label>
            <label v-if="pegs.style !== 'magnet'">turned <NumberField :model-value="pegs.degrees" unit="°" label="Turned by" :digits="0" :step="5" :min="-360" :max="360" @update:model-value="pegs.set({ degrees: $event })" /></label>
            <label>clearance <NumberField :model-value="pegs.gap" unit="mm" label="Clearance" :digits="2" :step="0.05" :min="0" :max="10" @update:model-value="pegs.set({ clearance: $event })" /></label>
        </div>
        <div class="line counts">
            <label>to the rim <NumberField :model-value="pegs.rim" unit="mm" label="Distance from the rim" :step="0.1" :min="0.2" :max="1000" @update:model-value="pegs.set({ rim: $event })" /></label>
            <label>to the skin <NumberField :model-value="pegs.wall" unit="mm" label="Distance from the skin behind" :step="0.1" :min="0.2" :max="1000" @update:model-value="pegs.set({ wall: $event })" /></label>
        </div>
        <div class="line ticks">
            <ElCheckbox v-if="pegs.style !== 'magnet'" :model-value="pegs.oneWay" title="Pegs of a face differ in width; one alone is a dovetail" @update:model-value="pegs.set({ oneWay: $event === true })">goes one way</ElCheckbox>
            <ElCheckbox v-if="pegs.style === 'pin'" :model-value="pegs.swap" title="The second piece of each pair gets the pins" @update:model-value="pegs.set({ swap: $event === true })">swap sides</ElCheckbox>
        </div>
        <FaceDrawing v-if="drawn?.drawing" :face="drawn" @move="moved" @add="pegs.set({ at: [...all, $event] })" @remove="removed" />
        <div class="line">
            <span class="soft">{{ pegs.at.length ? count(pegs.at.length, 'place by hand', 'places by hand') : 'finds its own places' }}</span>
            <button class="link more" :aria-pressed="blade.placing === 'place'" @click="blade.placing = blade.placing === 'place' ? 'none' : 'place'">{{ blade.placing === 'place' ? 'done' : 'click places…' }}</button>
        </div>
        <ol v-if="pegs.at.length" class="at" aria-label="Places by hand">
            <li v-for="(one, n) in pegs.at" :key="n">
                <NumberField v-for="axis in [0, 1, 2]" :key="axis" :model-value="one[axis]" unit="" :label="`Peg ${n + 1}, ${'XYZ'[axis]}`" @update:model-value="pegs.set({ at: pegs.at.map((other, k) => (k === n ? (other.map((part, j) => (j === axis ? $event : part)) as typeof other) : other)) })" />
                <button class="link" :aria-label="`Let peg ${n + 1} go`" @click="pegs.set({ at: pegs.at.filter((_, k) => k !== n) })">let go</button>
            </li>
        </ol>
        <ul v-if="faces.length" class="faces" aria-label="Common faces">
            <li v-for="(face, n) in faces.slice(0, ROWS)" :key="n" :title="face.why ?? undefined">
                <button class="plain name" :aria-pressed="face === drawn" :title="face.why ?? 'Show the face'" @click="shown = face.between.join()">{{ pegs.titleOf(face.between[0]) }} · {{ pegs.titleOf(face.between[1]) }}</button>
                <span class="soft">{{ mm2(face.area_mm2) }}</span>
                <span v-if="face.pegs.length" class="has">{{ face.pegs.length }} of {{ sizes(face) }}, <span :class="{ warning: face.ways !== 1 }">{{ ways(face.ways) }}</span></span>
                <span v-else class="has warning">no room</span>
            </li>
            <li v-if="faces.length > ROWS" class="soft">and {{ faces.length - ROWS }} more</li>
        </ul>
        <template #foot>
            <RunProgress v-if="pegs.looking" :run="pegs.looking" label="Looking for places" @stop="pegs.stop()" />
            <StepFoot :action="action" :ready="pegs.ready" :sentence="pegs.sentence" @run="pegs.run()" @left="pegs.set({})" />
        </template>
    </StationCard>
</template>

<style scoped src="./card.css"></style>
<style scoped>
.more {
    margin-left: auto;
}

.name {
    text-align: left;
}

.name[aria-pressed='true'] {
    font-weight: 600;
}

.ticks {
    gap: 18px;
}

.at {
    margin: 0;
    padding: 4px 0 0;
    border-top: 1px solid var(--rule);
    list-style: none;
}

.at li {
    display: flex;
    gap: 6px;
    align-items: center;
    padding: 2px 0;
}
</style>
