<script setup lang="ts">
import { computed, onMounted, onUnmounted } from 'vue'
import { ElButton, ElCheckbox } from 'element-plus'
import { count, size } from '../format'
import { usePlates } from '../stores/plates'
import { useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import NumberField from './NumberField.vue'
import PlateWorks from './PlateWorks.vue'
import RunProgress from './RunProgress.vue'
import StationCard from './StationCard.vue'
import StepProgress from './StepProgress.vue'

const plates = usePlates()
const project = useProject()
const printer = computed(() => project.project?.printer ?? null)
/** Plates that are listed. */
const ROWS = 40

onMounted(() => {
    project.showAsIs()
    plates.look()
})
onUnmounted(() => { useShown().fly = project.whole })
</script>

<template>
    <StationCard label="Plate">
        <PlateWorks />
        <header>
            <h2>Plates</h2>
            <span v-if="printer" class="soft">{{ printer.name }}, {{ size([printer.x, printer.y, printer.z], 0) }}</span>
        </header>
        <div class="line counts">
            <label>margin <NumberField :model-value="plates.margin" unit="mm" label="Margin of the bed" :min="0" :max="1000" @update:model-value="plates.set({ margin: $event })" /></label>
            <label>spacing <NumberField :model-value="plates.spacing" unit="mm" label="Spacing of pieces" :min="0" :max="1000" @update:model-value="plates.set({ spacing: $event })" /></label>
        </div>
        <ElCheckbox :model-value="plates.turned" title="About the upright, by any angle" @update:model-value="plates.set({ turned: $event === true })">pieces may be turned</ElCheckbox>
        <ol v-if="plates.plates.length" class="plates" aria-label="Plates">
            <li v-for="(plate, n) in plates.plates.slice(0, ROWS)" :key="n">
                <span>Plate {{ n + 1 }}</span>
                <span class="soft">{{ count(plate.length, 'piece', 'pieces') }}</span>
                <span class="names soft" :title="plate.map(({ name }) => plates.titleOf(name)).join(', ')">{{ plate.map(({ name }) => plates.titleOf(name)).join(', ') }}</span>
            </li>
            <li v-if="plates.plates.length > ROWS" class="soft">and {{ plates.plates.length - ROWS }} more</li>
        </ol>
        <template #foot>
            <RunProgress v-if="plates.waits" :run="plates.working" label="Packing plates" @stop="plates.stop()" />
            <StepProgress v-else-if="project.busy" />
            <div v-else class="main">
                <template v-if="plates.plates.length">
                    <ElButton type="primary" size="large" class="go" @click="plates.takeOut('3mf')">Take out as 3MF</ElButton>
                    <ElButton size="large" @click="plates.takeOut('stl')">STL</ElButton>
                </template>
                <ElButton v-else type="primary" size="large" class="go" :disabled="!plates.ready" @click="plates.pack()">Pack {{ count(plates.pieces.length, 'piece', 'pieces') }}</ElButton>
            </div>
            <p class="sentence" aria-live="polite" data-part="sentence">{{ plates.sentence }}</p>
        </template>
    </StationCard>
</template>

<style scoped src="./card.css"></style>
<style scoped>
.plates {
    margin: 0;
    padding: 4px 0 0;
    border-top: 1px solid var(--rule);
    font-size: 12.5px;
    line-height: 1.4;
    list-style: none;
}

.plates li {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 0 8px;
    padding: 3px 0;
}

.names {
    grid-column: 1 / 3;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}

.main {
    display: flex;
    gap: 8px;
}

.main .el-button + .el-button {
    margin: 0;
}

.go {
    flex: 1;
    font-size: 15px;
    font-weight: 600;
}
</style>
