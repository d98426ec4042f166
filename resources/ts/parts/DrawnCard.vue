<script setup lang="ts">
import { computed, ref } from 'vue'
import { ElCheckbox } from 'element-plus'
import type { Vector } from '../api/types'
import { mm, size, volume } from '../format'
import { useBlade } from '../stores/blade'
import { useDrawn, type Drawing } from '../stores/drawn'
import { page, told, towards } from '../view/sight'
import ChoiceRow from './ChoiceRow.vue'
import CornerList from './CornerList.vue'
import CutHead from './CutHead.vue'
import GrainLine from './GrainLine.vue'
import KerfLine from './KerfLine.vue'
import NumberField from './NumberField.vue'
import RoughTick from './RoughTick.vue'
import StationCard from './StationCard.vue'
import StepFoot from './StepFoot.vue'

const drawn = useDrawn()
const blade = useBlade()
const chosen = ref<HTMLInputElement | null>(null)

const WAYS: { value: Drawing; text: string; hint: string }[] = [
    { value: 'line', text: 'Line or outline', hint: 'By hand, or corner by corner' },
    { value: 'grid', text: 'Grid', hint: 'Columns and rows' },
    { value: 'file', text: 'From a file', hint: 'Outlines and letters of an SVG file' },
]
const keeps = computed(() => [
    { value: 'both' as const, text: 'Both', hint: 'Both sides become pieces' },
    { value: 'ahead' as const, text: drawn.cutShape === 'outline' ? 'Around' : 'Ahead', hint: drawn.cutShape === 'outline' ? 'Only what is around the outline' : 'Only what lies left of the line, as it was drawn' },
    { value: 'behind' as const, text: drawn.cutShape === 'outline' ? 'Within' : 'Behind', hint: drawn.cutShape === 'outline' ? 'Only what is within the outline' : 'Only what lies right of the line, as it was drawn' },
])
const DEPTHS = [{ value: 'through' as const, text: 'Through everything' }, { value: 'down' as const, text: 'Down to' }]

/** Flat material has no volumes. */
const sides = computed(() => (drawn.cutShape === 'grid' || !drawn.forecast || drawn.forecast.ahead_mm3 + drawn.forecast.behind_mm3 <= 0 ? [] : (['ahead', 'behind'] as const)))
/** Corners as they are on the page: right and up from the middle of what is cut. */
const onPage = computed(() => page(towards(drawn.sight, drawn.middle)))
const flat = computed(() => (drawn.lines[0] ?? []).map((place) => {
    const from = place.map((c, k) => c - drawn.middle[k])
    return [onPage.value.right, onPage.value.up].map((axis) => axis.reduce((sum, c, k) => sum + c * from[k], 0)) as [number, number]
}))

function place([u, v]: [number, number]): Vector {
    const { right, up } = onPage.value
    return drawn.middle.map((c, k) => c + u * right[k] + v * up[k]) as Vector
}

function corners(list: [number, number][]) {
    // Those that were not touched keep their places, depth and all.
    const before = drawn.lines[0] ?? []
    drawn.set({ lines: [list.map((corner, k) => (before[k] && flat.value[k] && flat.value[k][0] === corner[0] && flat.value[k][1] === corner[1] ? before[k] : place(corner)))] })
}

function pick(event: Event) {
    const [file] = (event.target as HTMLInputElement).files ?? []
    if (file) void drawn.read(file)
    ;(event.target as HTMLInputElement).value = ''
}
</script>

<template>
    <StationCard label="Drawn">
        <CutHead title="Drawn" />
        <div class="line"><ChoiceRow :model-value="drawn.way" :options="WAYS" label="What is drawn" @update:model-value="drawn.choose($event)" /></div>
        <template v-if="drawn.way === 'line'">
            <div class="line">
                <button class="link" :aria-pressed="blade.placing === 'draw'" @click="drawn.anew()">{{ drawn.lines.length ? 'draw anew' : 'draw in the view' }}</button>
                <span v-if="drawn.lines.length" class="soft">{{ drawn.shape === 'outline' ? 'an outline' : drawn.shape === 'grid' ? `${drawn.lines.length} lines` : 'a line' }}, seen {{ told(drawn.sight) }}</span>
                <ElCheckbox class="end" :model-value="drawn.smooth" @update:model-value="drawn.set({ smooth: $event === true })">smooth</ElCheckbox>
            </div>
            <CornerList v-if="drawn.lines.length < 2" :corners="flat" :names="['right', 'up']" label="Corners" :least="drawn.shape === 'outline' ? 3 : 2" :step="5" @update="corners" />
            <ElCheckbox v-if="drawn.lines.length === 1 && drawn.lines[0].length > 2" :model-value="drawn.shape === 'outline'" @update:model-value="drawn.set({ shape: $event === true ? 'outline' : 'stroke', keep: 'both' })">The end leads back to the beginning</ElCheckbox>
        </template>
        <template v-else-if="drawn.way === 'grid'">
            <div class="line counts">
                <label>columns <NumberField class="narrow" :model-value="drawn.columns" label="Columns" unit="" :digits="0" :step="1" :min="1" :max="100" @update:model-value="drawn.set({ columns: Math.round($event) })" /></label>
                <label>rows <NumberField class="narrow" :model-value="drawn.rows" label="Rows" unit="" :digits="0" :step="1" :min="1" :max="100" @update:model-value="drawn.set({ rows: Math.round($event) })" /></label>
                <label>turned <NumberField class="narrow" :model-value="drawn.turn" label="Turned" unit="°" :step="5" :min="-360" :max="360" @update:model-value="drawn.set({ turn: $event })" /></label>
            </div>
        </template>
        <template v-else>
            <div class="line">
                <button class="link" @click="chosen?.click()">{{ drawn.file ? 'another file…' : 'choose an SVG file…' }}</button>
                <input ref="chosen" class="spoken" type="file" accept=".svg,image/svg+xml" aria-label="SVG file" @change="pick">
                <span v-if="drawn.file" class="soft name" :title="drawn.file.name">{{ drawn.file.name }} · {{ drawn.file.lines.length }} outlines</span>
            </div>
            <div v-if="drawn.file" class="line counts">
                <label>wide <NumberField class="narrow" :model-value="drawn.wide" label="Wide" unit="mm" :step="1" :min="0.001" :max="1e6" @update:model-value="drawn.set({ wide: $event })" /></label>
                <label>to the right <NumberField class="narrow" :model-value="drawn.across" label="To the right" unit="mm" :step="1" @update:model-value="drawn.set({ across: $event })" /></label>
                <label>up <NumberField class="narrow" :model-value="drawn.up" label="Up" unit="mm" :step="1" @update:model-value="drawn.set({ up: $event })" /></label>
            </div>
            <p v-if="drawn.file" class="means soft">{{ size([drawn.wide, (drawn.wide / drawn.file.size[0]) * drawn.file.size[1]], 1) }}; as it was made: {{ mm(drawn.file.size[0]) }} wide</p>
        </template>
        <div v-if="drawn.way !== 'line'" class="line">
            <span class="soft">carried {{ told(drawn.sight) }}</span><button class="link end" title="The way in which you look now becomes the line of sight" @click="drawn.look()">as I look now</button>
        </div>
        <hr>
        <ElCheckbox :model-value="drawn.score" @update:model-value="drawn.set({ score: $event === true })">Score only, where the line is seen</ElCheckbox>
        <div v-if="!drawn.score" class="line">
            <ChoiceRow :model-value="drawn.depth === null ? 'through' : 'down'" :options="DEPTHS" label="How far it goes" @update:model-value="drawn.set({ depth: $event === 'through' ? null : (drawn.depth ?? 5) })" />
            <NumberField v-if="drawn.depth !== null" class="narrow" :model-value="drawn.depth" unit="mm" label="Depth" :step="0.5" :min="0.001" :max="1e6" @update:model-value="drawn.set({ depth: $event })" />
        </div>
        <div v-if="drawn.cutShape !== 'grid' && !drawn.score" class="line">
            <span class="label">Keep</span>
            <ChoiceRow :model-value="drawn.keep" :options="keeps" label="Keep" @update:model-value="drawn.set({ keep: $event })" />
        </div>
        <KerfLine v-if="!drawn.score" :model-value="drawn.kerf" @update:model-value="drawn.set({ kerf: $event })"><RoughTick :model-value="drawn.grain" @update:model-value="drawn.set({ grain: $event })" /></KerfLine>
        <GrainLine v-if="!drawn.score && drawn.grain" :model-value="drawn.grain" @update:model-value="drawn.set({ grain: $event })" />
        <dl v-if="drawn.forecast && drawn.forecast.cut && !drawn.score" class="sides" :class="{ asked: drawn.asked }">
            <div class="all"><dt>Pieces</dt><dd data-number="pieces">{{ drawn.forecast.about ? 'about ' : '' }}{{ drawn.forecast.pieces }}</dd></div>
            <div v-for="side in sides" :key="side" :data-side="side" :class="{ gone: drawn.keep !== 'both' && drawn.keep !== side }">
                <dt>{{ drawn.sideName(side)[0].toUpperCase() + drawn.sideName(side).slice(1) }}</dt>
                <dd>{{ volume(side === 'ahead' ? drawn.forecast.ahead_mm3 : drawn.forecast.behind_mm3) }}</dd>
            </div>
            <div v-if="drawn.kerf > 0"><dt>Removed</dt><dd>{{ volume(drawn.forecast.removed_mm3) }}</dd></div>
        </dl>
        <template #foot><StepFoot :action="drawn.score ? 'Score' : 'Cut'" :ready="drawn.ready" :sentence="drawn.sentence" @run="drawn.run()" @left="drawn.anew()" /></template>
    </StationCard>
</template>

<style scoped src="./card.css"></style>
<style scoped>
.end {
    margin-left: auto;
}

.counts .narrow {
    width: 88px;
}

.name {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}

.spoken {
    position: absolute;
    width: 1px;
    height: 1px;
    overflow: hidden;
    clip-path: inset(50%);
}

.means {
    margin: 0;
}

.sides .gone {
    opacity: 0.6;
    text-decoration: line-through;
}

.sides.asked {
    opacity: 0.7;
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
