<script setup lang="ts">
import { computed, onMounted, onUnmounted } from 'vue'
import { RouterLink } from 'vue-router'
import { ElButton, ElCheckbox } from 'element-plus'
import { bedSize, count } from '../format'
import { labelOf, usePlates } from '../stores/plates'
import { title, useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import NumberField from './NumberField.vue'
import PlateWorks from './PlateWorks.vue'
import RunProgress from './RunProgress.vue'
import StationCard from './StationCard.vue'
import StepProgress from './StepProgress.vue'

const plates = usePlates()
const project = useProject()
const printer = computed(() => project.project?.printer ?? null)
/** Plates that are listed, and pieces of each. */
const ROWS = 40
const NAMES = 60

const TURNS = [[0, 'freely'], [15, 'by 15°'], [45, 'by 45°'], [90, 'by 90°'], [180, 'by 180°'], [-1, 'not at all']] as const
const turn = (step: number) => plates.set(step < 0 ? { turned: false, step: 0 } : { turned: true, step })

const copied = computed(() => {
    const some = plates.copied
    const counts = new Set(some.map((piece) => plates.copies[piece.id] ?? 1))
    return { what: some.length === 1 ? `of ${title(some[0])}` : 'of each', count: counts.size === 1 ? [...counts][0] : 1 }
})
const holding = computed(() => plates.holding)

onMounted(() => {
    project.showAsIs()
    void plates.load()
    plates.look()
})
onUnmounted(() => {
    useShown().fly = project.whole
    useShown().handles = []
})
</script>

<template>
    <StationCard label="Plate">
        <PlateWorks />
        <header>
            <h2>Plates</h2>
            <span v-if="printer" class="soft">{{ printer.name }}, {{ bedSize(printer) }}</span>
        </header>
        <div class="line counts">
            <label>margin <NumberField :model-value="plates.margin" unit="mm" label="Margin of the bed" :min="0" :max="1000" @update:model-value="plates.set({ ownMargin: $event })" /></label>
            <label>spacing <NumberField :model-value="plates.spacing" unit="mm" label="Spacing of pieces" :min="0" :max="1000" @update:model-value="plates.set({ spacing: $event })" /></label>
            <label :title="`Copies ${copied.what}`">copies <NumberField :model-value="copied.count" unit="" :label="`Copies ${copied.what}`" :digits="0" :min="1" :max="1000" @update:model-value="plates.setCopies(Math.round($event))" /></label>
        </div>
        <div class="line ticks">
            <label title="About the upright, when they are packed">turned
                <select :value="plates.turned ? plates.step : -1" aria-label="Pieces are turned" @change="turn(Number(($event.target as HTMLSelectElement).value))">
                    <option v-for="[value, words] in TURNS" :key="value" :value="value">{{ words }}</option>
                </select>
            </label>
            <ElCheckbox v-if="plates.total" :model-value="plates.over" title="Skin that looks down within 45° of straight down is marked" @update:model-value="plates.set({ over: $event === true })"><span class="legend" />overhang</ElCheckbox>
        </div>
        <section v-if="holding" class="held" aria-label="The piece that is picked">
            <div class="line"><strong>{{ plates.titleOf(holding.one) }}</strong><button class="link end" @click="plates.held = null">leave it</button></div>
            <p v-if="plates.plates[holding.plate].locked" class="soft">Its plate is locked.</p>
            <template v-else-if="holding.box">
                <div class="line counts">
                    <label>from the left <NumberField :model-value="holding.box[0]" unit="mm" label="From the left of the bed" @update:model-value="plates.moveTo($event, holding.box[1])" /></label>
                    <label>from the front <NumberField :model-value="holding.box[1]" unit="mm" label="From the front of the bed" @update:model-value="plates.moveTo(holding.box[0], $event)" /></label>
                    <label>turn by <NumberField :model-value="0" unit="°" label="Turn by" :min="-360" :max="360" @update:model-value="plates.turnBy($event)" /></label>
                </div>
                <div class="line">
                    <button class="link" aria-label="Turn left by 15°" @click="plates.turnBy(15)">↺ 15°</button>
                    <button class="link" aria-label="Turn right by 15°" @click="plates.turnBy(-15)">↻ 15°</button>
                    <label class="end">on plate
                        <select :value="holding.plate" aria-label="On plate" @change="plates.moveToPlate(Number(($event.target as HTMLSelectElement).value))">
                            <option v-for="(plate, n) in plates.plates" :key="n" :value="n" :disabled="plate.locked">{{ n + 1 }}</option>
                            <option :value="plates.plates.length">new</option>
                        </select>
                    </label>
                </div>
            </template>
        </section>
        <ol v-if="plates.total" class="plates" aria-label="Plates">
            <li v-for="(plate, n) in plates.laid.slice(0, ROWS)" :key="n">
                <button class="plain" :title="`Bring plate ${n + 1} into view`" @click="plates.lookAt(n)">Plate {{ n + 1 }}</button>
                <span class="soft">{{ count(plate.pieces.length, 'piece', 'pieces') }}</span>
                <button class="link" :aria-pressed="plate.locked" :title="plate.locked ? 'It is packed anew again' : 'It stays as it is when pieces are packed again'" :aria-label="plate.locked ? `Unlock plate ${n + 1}` : `Lock plate ${n + 1}`" @click="plates.lock(n)">{{ plate.locked ? 'locked' : 'lock' }}</button>
                <span class="names">
                    <template v-for="(one, k) in plate.pieces.slice(0, NAMES)" :key="labelOf(one)">{{ k ? ', ' : '' }}<button class="name" :aria-pressed="plates.held === labelOf(one)" @click="plates.held = plates.held === labelOf(one) ? null : labelOf(one)">{{ plates.titleOf(one) }}</button></template>
                    <span v-if="plate.pieces.length > NAMES" class="soft"> and {{ plate.pieces.length - NAMES }} more</span>
                </span>
                <span v-if="plates.troubles[n]" class="names warning">{{ plates.troubles[n] }}</span>
            </li>
            <li v-if="plates.plates.length > ROWS" class="soft">and {{ plates.plates.length - ROWS }} more</li>
        </ol>
        <div v-if="plates.total" class="line">
            <button v-if="!plates.isOld" class="link" title="Packs all again; locked plates stay" :disabled="!plates.ready" @click="plates.pack()">pack anew</button>
            <button v-if="plates.before.length" class="link" title="Takes the last change of the plates back" @click="plates.back()">put back</button>
            <RouterLink class="end" :to="{ name: 'sheet', params: { id: project.project?.id } }">assembly sheet</RouterLink>
        </div>
        <template #foot>
            <RunProgress v-if="plates.waits" :run="plates.working" label="Packing plates" @stop="plates.stop()" />
            <StepProgress v-else-if="project.busy" />
            <div v-else class="main">
                <ElButton v-if="!plates.total || plates.isOld" :type="plates.isOld && !plates.missing && !plates.gone ? 'default' : 'primary'" size="large" class="go" :disabled="!plates.ready" @click="plates.pack()">Pack {{ count(plates.wanted.length, 'piece', 'pieces') }}</ElButton>
                <template v-if="plates.total && !plates.gone">
                    <ElButton :type="plates.missing ? 'default' : 'primary'" size="large" class="go" @click="plates.takeOut('3mf')">{{ plates.isOld ? '3MF' : 'Take out as 3MF' }}</ElButton>
                    <ElButton size="large" @click="plates.takeOut('stl')">STL</ElButton>
                </template>
            </div>
            <p class="sentence" aria-live="polite" data-part="sentence">{{ plates.sentence }}</p>
        </template>
    </StationCard>
</template>

<style scoped src="./card.css"></style>
<style scoped>
.ticks {
    justify-content: space-between;
}

.held {
    display: grid;
    gap: 5px;
    padding: 6px 0;
    border-top: 1px solid var(--rule);
}

.held p {
    margin: 0;
}

.plates li {
    display: grid;
    grid-template-columns: auto 1fr auto;
    gap: 0 8px;
    padding: 3px 0;
}

.plates li > .plain {
    font-weight: 600;
}

.names {
    grid-column: 1 / 4;
    color: var(--soft);
}

.names.warning {
    color: var(--warning);
}

.name {
    padding: 0;
    border: 0;
    background: none;
    color: inherit;
    font: inherit;
    cursor: pointer;
}

.name:hover {
    color: var(--ink);
    text-decoration: underline;
}

.name[aria-pressed='true'] {
    color: var(--picked);
    font-weight: 600;
}
</style>
