<script setup lang="ts">
import { computed, onMounted, onUnmounted } from 'vue'
import { ElCheckbox } from 'element-plus'
import { count, label, mm, mm2 } from '../format'
import { useMarks } from '../stores/marks'
import { title, useProject } from '../stores/project'
import ChoiceRow from './ChoiceRow.vue'
import NumberField from './NumberField.vue'
import PlateWorks from './PlateWorks.vue'
import RunProgress from './RunProgress.vue'
import StationCard from './StationCard.vue'
import StepFoot from './StepFoot.vue'

const marks = useMarks()
const project = useProject()

const WAYS = [
    { value: 'engraved', text: 'Engraved', hint: 'Cut into both pieces' },
    { value: 'raised', text: 'Raised', hint: 'Raised on one piece, with a pocket in the other' },
] as const
const SIZES = [
    { value: 'face', text: 'by the face', hint: 'As large as each face allows, 4 to 10 mm' },
    { value: 'own', text: 'own', hint: 'The same everywhere' },
] as const

/** Faces that are listed; those without room first. */
const ROWS = 60
const faces = computed(() => [...(marks.forecast?.faces ?? [])].sort((one, other) => Number(one.why === null) - Number(other.why === null)))

function titleOf(name: string): string {
    const piece = marks.pieces.find((one) => one.name === name)
    return piece ? title(piece) : label(name)
}

onMounted(() => marks.set({}))
onUnmounted(() => marks.stop())
</script>

<template>
    <StationCard label="Plate">
        <PlateWorks />
        <header>
            <h2>{{ project.editing !== null ? `Step ${project.stepOf(project.editing)?.number}` : 'Marks' }}</h2>
            <span class="soft">{{ count(marks.pieces.length, 'piece', 'pieces') }}</span>
        </header>
        <div class="line"><ChoiceRow :model-value="marks.raised ? 'raised' : 'engraved'" :options="[...WAYS]" label="How marks are made" @update:model-value="marks.set({ raised: $event === 'raised' })" /></div>
        <div class="line">
            <span class="label">Size</span>
            <ChoiceRow :model-value="marks.size === null ? 'face' : 'own'" :options="[...SIZES]" label="Size of the marks" @update:model-value="marks.set({ size: $event === 'own' ? 6 : null })" />
            <NumberField v-if="marks.size !== null" :model-value="marks.size" unit="mm" label="Height" :min="1" :max="1000" @update:model-value="marks.set({ size: $event })" />
        </div>
        <div class="line counts">
            <label>first number <NumberField :model-value="marks.first" unit="" label="First number" :digits="0" :min="1" :max="9999" @update:model-value="marks.set({ first: Math.round($event) })" /></label>
            <label>{{ marks.raised ? 'high' : 'deep' }} <NumberField :model-value="marks.depth" unit="mm" label="Depth" :digits="2" :step="0.1" :min="0.05" :max="100" @update:model-value="marks.set({ depth: $event })" /></label>
        </div>
        <div class="line counts">
            <label>to the rim <NumberField :model-value="marks.rim" unit="mm" label="Distance from the rim" :step="0.1" :min="0.2" :max="1000" @update:model-value="marks.set({ rim: $event })" /></label>
            <label>behind it <NumberField :model-value="marks.wall" unit="mm" label="Material behind" :step="0.1" :min="0.2" :max="1000" @update:model-value="marks.set({ wall: $event })" /></label>
        </div>
        <ElCheckbox :model-value="marks.arrow" title="It points the same way on both pieces" @update:model-value="marks.set({ arrow: $event === true })">with an arrow</ElCheckbox>
        <ul v-if="faces.length" class="faces" aria-label="Common faces">
            <li v-for="(face, n) in faces.slice(0, ROWS)" :key="n" :title="face.why ?? undefined">
                <span class="name">{{ titleOf(face.between[0]) }} · {{ titleOf(face.between[1]) }}</span>
                <span class="soft">{{ mm2(face.area_mm2) }}</span>
                <span v-if="face.why === null" class="has">{{ face.number }}{{ face.arrow ? ' ↑' : '' }}, {{ mm(face.size_mm) }} high</span>
                <span v-else class="has warning">no room</span>
            </li>
            <li v-if="faces.length > ROWS" class="soft">and {{ faces.length - ROWS }} more</li>
        </ul>
        <template #foot>
            <RunProgress v-if="marks.looking" :run="marks.looking" label="Looking for places" @stop="marks.stop()" />
            <StepFoot :action="marks.total ? `Make ${count(marks.total, 'mark', 'marks')}` : 'Make marks'" :ready="marks.ready" :sentence="marks.sentence" @run="marks.run()" @left="marks.set({})" />
        </template>
    </StationCard>
</template>

<style scoped src="./card.css"></style>
