<script setup lang="ts">
import { computed, onMounted, onUnmounted } from 'vue'
import { ElButton, ElCheckbox, ElProgress } from 'element-plus'
import { count, duration, mm2, number, volume } from '../format'
import { usePlates } from '../stores/plates'
import { usePrints } from '../stores/prints'
import { useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import PlateWorks from './PlateWorks.vue'
import RunProgress from './RunProgress.vue'
import StationCard from './StationCard.vue'
import StepProgress from './StepProgress.vue'

const plates = usePlates()
const prints = usePrints()
const project = useProject()
const printer = computed(() => project.project?.printer ?? null)
/** Troubles that are listed. */
const ROWS = 30
const SPEEDS = [60, 600, 6000]
const troubles = computed(() => prints.header?.troubles ?? [])
const sum = (of: (piece: { overhang_mm2: number; below_mm3: number; supports_g: number }) => number) => (prints.header?.pieces ?? []).reduce((all, piece) => all + of(piece), 0)
const over = computed(() => ({ area: sum((piece) => piece.overhang_mm2), below: sum((piece) => piece.below_mm3), supports: sum((piece) => piece.supports_g) }))
const STATES = { waiting: 'waits', printing: 'prints', done: 'done', stopped: 'stopped' }

onMounted(() => {
    project.showAsIs()
    void prints.open()
})
onUnmounted(() => {
    prints.leave()
    useShown().fly = project.whole
})
</script>

<template>
    <StationCard label="Plate">
        <PlateWorks />
        <header>
            <h2>Print</h2>
            <span v-if="printer" class="soft" title="A stand-in that ships with Isotome: it prints nothing">simulated printer</span>
        </header>
        <div class="line">
            <label>plate
                <select :value="prints.plate" aria-label="Plate to print" @change="prints.choose(Number(($event.target as HTMLSelectElement).value))">
                    <option v-for="(plate, n) in plates.laid" :key="n" :value="n">{{ n + 1 }} · {{ count(plate.pieces.length, 'piece', 'pieces') }}</option>
                </select>
            </label>
            <span v-if="printer" class="soft end">layers {{ number(printer.layer, 2) }} mm</span>
        </div>
        <div class="line">
            <ElCheckbox :model-value="prints.supported" title="Columns under what hangs over" @update:model-value="prints.supported = $event === true">supports</ElCheckbox>
            <ElCheckbox class="end" :model-value="plates.over" title="Skin that looks down within 45° of straight down is marked" @update:model-value="plates.over = $event === true"><span class="legend" />overhang</ElCheckbox>
        </div>
        <dl v-if="prints.header">
            <div><dt>Layers</dt><dd>{{ number(prints.count, 0) }}</dd></div>
            <div><dt>Time</dt><dd>{{ duration(prints.header.seconds) }}</dd></div>
            <div><dt>Material</dt><dd>{{ number(prints.header.grams, 0) }} g</dd></div>
            <div v-if="prints.supported"><dt>Supports</dt><dd>{{ number(over.supports, 1) }} g</dd></div>
            <div><dt>Overhang</dt><dd>{{ mm2(over.area) }}</dd></div>
            <div><dt>Below it</dt><dd>{{ volume(over.below) }}</dd></div>
        </dl>
        <ul v-if="troubles.length" class="troubles" aria-label="Why the printer would refuse it">
            <li v-for="(one, n) in troubles.slice(0, ROWS)" :key="n"><button class="name" @click="prints.lookAt(one)">{{ one.said }}</button></li>
            <li v-if="troubles.length > ROWS" class="soft">and {{ troubles.length - ROWS }} more</li>
        </ul>
        <ol v-if="prints.prints.length" class="queue" aria-label="Prints">
            <li v-for="one in prints.prints" :key="one.id">
                <span>{{ one.title }}</span>
                <span class="soft">{{ STATES[one.state] }}{{ one.state === 'printing' ? ` layer ${one.layer} of ${one.layers}` : '' }}</span>
                <button class="link" :aria-label="`${one.state === 'printing' ? 'Stop' : 'Take off'} ${one.title}`" @click="prints.unprint(one.id)">{{ one.state === 'printing' ? 'stop' : 'take off' }}</button>
                <ElProgress v-if="one.state === 'printing'" class="bar" :percentage="Math.round(100 * one.share)" :stroke-width="6" :show-text="false" :aria-label="`${one.title}, printed`" />
                <span v-if="one.state === 'printing'" class="bar soft">{{ duration(one.seconds * (1 - one.share)) }} left, here {{ number(one.left, 0) }} s</span>
            </li>
        </ol>
        <template #foot>
            <RunProgress v-if="prints.waits" :run="prints.working" label="Cutting layers" @stop="prints.stop()" />
            <StepProgress v-else-if="project.busy" />
            <div v-else class="main">
                <ElButton v-if="!prints.header" type="primary" size="large" class="go" :disabled="!prints.ready" @click="prints.look()">Look at the layers</ElButton>
                <template v-else>
                    <ElButton type="primary" size="large" class="go" :disabled="troubles.length > 0" @click="prints.print()">Print plate {{ prints.plate + 1 }}</ElButton>
                    <ElButton v-if="plates.laid.length > 1" size="large" :disabled="troubles.length > 0" @click="prints.print(true)">All plates</ElButton>
                </template>
            </div>
            <div v-if="prints.header && !troubles.length" class="line speeds">
                <span class="soft">as fast as a printer</span>
                <button v-for="times in SPEEDS" :key="times" class="link" :aria-pressed="prints.times === times" @click="prints.times = times">× {{ number(times, 0) }}</button>
            </div>
            <p class="sentence" aria-live="polite" data-part="sentence">{{ prints.sentence }}</p>
        </template>
    </StationCard>
</template>

<style scoped src="./card.css"></style>
<style scoped>
.troubles li {
    padding: 3px 0;
}

.name {
    padding: 0;
    border: 0;
    background: none;
    color: var(--warning);
    font: inherit;
    text-align: left;
    cursor: pointer;
}

.name:hover {
    text-decoration: underline;
}

.queue li {
    display: grid;
    grid-template-columns: auto 1fr auto;
    gap: 0 8px;
    padding: 3px 0;
}

.bar {
    grid-column: 1 / 4;
}

.speeds [aria-pressed='true'] {
    color: var(--ink);
    font-weight: 600;
}
</style>
