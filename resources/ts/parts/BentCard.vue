<script setup lang="ts">
import { computed } from 'vue'
import { ElCheckbox } from 'element-plus'
import type { Keep, Vector } from '../api/types'
import { volume } from '../format'
import { useBent } from '../stores/bent'
import { useBlade } from '../stores/blade'
import ChoiceRow from './ChoiceRow.vue'
import CornerList from './CornerList.vue'
import CutHead from './CutHead.vue'
import GrainLine from './GrainLine.vue'
import KerfLine from './KerfLine.vue'
import NumberField from './NumberField.vue'
import RoughTick from './RoughTick.vue'
import StationCard from './StationCard.vue'
import StepFoot from './StepFoot.vue'

const bent = useBent()
const blade = useBlade()

const axes = [{ value: 'X' as const, text: 'X' }, { value: 'Y' as const, text: 'Y' }, { value: 'Z' as const, text: 'Z' }]
const keeps: { value: Exclude<Keep, 'outline'>; text: string; hint: string }[] = [
    { value: 'both', text: 'Both', hint: 'Both sides become pieces' },
    { value: 'ahead', text: 'Ahead', hint: 'Only the side the blade faces' },
    { value: 'behind', text: 'Behind', hint: 'Only the side behind the blade' },
]
const AXES: Record<'X' | 'Y' | 'Z', Vector> = { X: [1, 0, 0], Y: [0, 1, 0], Z: [0, 0, 1] }
const straight = computed(() => (['X', 'Y', 'Z'] as const).find((_, k) => Math.abs(bent.straight[k]) > 1 - 1e-9) ?? '')
/** A blade does not run along its facing. */
const runs = computed(() => axes.filter(({ value }) => value !== blade.axis))
const name = computed(() => (blade.axis === 'Z' ? 'Height' : 'Place'))
</script>

<template>
    <StationCard label="Bent">
        <CutHead title="Bent" />
        <div class="line">
            <span class="label">Facing</span>
            <ChoiceRow :model-value="blade.axis" :options="axes" label="Facing" @update:model-value="blade.setAxis($event)" />
            <span class="label near">{{ name }}</span>
            <NumberField :model-value="blade.place" unit="mm" :label="name" :digits="2" @update:model-value="blade.setPlace($event)" />
        </div>
        <div class="line">
            <span class="label">Tilt</span>
            <NumberField class="narrow" :model-value="blade.tilt" unit="°" label="Tilt" :step="5" :min="0" :max="180" @update:model-value="blade.setTilt($event)" />
            <span class="label near">Turn</span>
            <NumberField class="narrow" :model-value="blade.turn" unit="°" label="Turn" :step="5" @update:model-value="blade.setTurn($event)" />
        </div>
        <div class="line">
            <span class="label">Runs</span>
            <ChoiceRow :model-value="straight" :options="runs" label="Runs straight along" @update:model-value="bent.set({ along: AXES[$event] })" />
            <button class="link" title="The way in which you look now" @click="bent.look()">as I look now</button>
            <ElCheckbox class="end" :model-value="bent.smooth" @update:model-value="bent.set({ smooth: $event === true })">smooth</ElCheckbox>
        </div>
        <CornerList :corners="bent.corners" :names="['across', 'high']" label="Corners" :least="2" :step="1" @update="bent.set({ profile: $event })" />
        <p class="means soft">Drag a corner in the view, or the middle of an edge to add one.</p>
        <hr>
        <div class="line">
            <span class="label">Keep</span>
            <ChoiceRow :model-value="bent.keep" :options="keeps" label="Keep" @update:model-value="bent.set({ keep: $event })" />
        </div>
        <KerfLine :model-value="bent.kerf" @update:model-value="bent.set({ kerf: $event })"><RoughTick :model-value="bent.grain" @update:model-value="bent.set({ grain: $event })" /></KerfLine>
        <GrainLine v-if="bent.grain" :model-value="bent.grain" @update:model-value="bent.set({ grain: $event })" />
        <dl v-if="bent.forecast && bent.forecast.cut">
            <div class="all"><dt>Pieces</dt><dd data-number="pieces">{{ bent.forecast.about ? 'about ' : '' }}{{ bent.forecast.pieces }}</dd></div>
            <div v-for="side in (['ahead', 'behind'] as const)" :key="side" :data-side="side" :class="{ gone: bent.keep !== 'both' && bent.keep !== side }">
                <dt>{{ side === 'ahead' ? 'Ahead' : 'Behind' }}</dt><dd>{{ volume(side === 'ahead' ? bent.forecast.ahead_mm3 : bent.forecast.behind_mm3) }}</dd>
            </div>
            <div v-if="bent.kerf > 0"><dt>Removed</dt><dd>{{ volume(bent.forecast.removed_mm3) }}</dd></div>
        </dl>
        <template #foot><StepFoot action="Cut" :ready="bent.ready" :sentence="bent.sentence" @run="bent.run()" @left="blade.centreOnTaken()" /></template>
    </StationCard>
</template>

<style scoped src="./card.css"></style>
<style scoped>
.end {
    margin-left: auto;
}

.means {
    margin: 0;
}

.gone {
    opacity: 0.6;
    text-decoration: line-through;
}

.all {
    grid-column: 1 / -1;
}

:deep(.el-checkbox) {
    --el-checkbox-checked-text-color: var(--ink);
    --el-checkbox-text-color: var(--soft);
    --el-checkbox-font-weight: 400;
    height: 26px;
}
</style>
