<script setup lang="ts">
import { ref } from 'vue'
import NumberField from './NumberField.vue'

type Corner = [number, number]

/** Corners of a line, as numbers: changed, added, taken away. Folded: the view is where they are dragged. */
const props = defineProps<{ corners: Corner[]; names: [string, string]; label: string; least: number; step: number }>()
const emit = defineEmits<{ update: [corners: Corner[]] }>()

/** Rows that are shown; of more corners, the first. */
const ROWS = 60
const open = ref(false)

function change(at: number, which: number, value: number) {
    emit('update', props.corners.map((corner, k) => (k === at ? (which ? [corner[0], value] : [value, corner[1]]) : corner)))
}

/** Halfway to the next one; after the last, as far again. */
function add(after: number) {
    const { corners } = props
    const [a, b] = [corners[after], corners[after + 1]]
    const before = corners[after - 1]
    const corner: Corner = !a ? [0, 0] : b ? [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2] : before ? [2 * a[0] - before[0], 2 * a[1] - before[1]] : [a[0] + 10, a[1]]
    emit('update', [...corners.slice(0, after + 1), corner, ...corners.slice(after + 1)])
}

function begin() {
    emit('update', [[-50, 0], [50, 0]])
    open.value = true
}
</script>

<template>
    <div class="corners">
        <button v-if="!corners.length" class="link" @click="begin">type its corners…</button>
        <button v-else class="link" :aria-expanded="open" @click="open = !open">{{ corners.length }} corners</button>
        <div v-if="open && corners.length" class="names soft" aria-hidden="true"><span v-for="name in names" :key="name" class="field">{{ name }}</span></div>
        <ol v-if="open && corners.length" :aria-label="label">
            <li v-for="(corner, k) in corners.slice(0, ROWS)" :key="k">
                <NumberField v-for="(name, which) in names" :key="name" class="field" :model-value="corner[which]" unit="mm" :label="`Corner ${k + 1} ${name}`" :digits="2" :step="step" @update:model-value="change(k, which, $event)" />
                <button class="link" :aria-label="`Add a corner after ${k + 1}`" title="Add a corner after this one" @click="add(k)">add</button>
                <button class="link" :disabled="corners.length <= least" :aria-label="`Remove corner ${k + 1}`" title="Remove this corner" @click="emit('update', corners.filter((_, n) => n !== k))">remove</button>
            </li>
        </ol>
        <p v-if="open && corners.length > ROWS" class="soft">and {{ corners.length - ROWS }} more</p>
    </div>
</template>

<style scoped>
ol {
    max-height: 168px;
    margin: 2px 0 0;
    padding: 0;
    overflow-y: auto;
    border-top: 1px solid var(--rule);
    list-style: none;
}

li {
    display: flex;
    align-items: center;
    gap: 8px;
    min-height: 32px;
    border-bottom: 1px solid var(--rule);
}

.field {
    width: 92px;
}

.names {
    display: flex;
    gap: 8px;
    font-size: 12.5px;
}

.link:disabled {
    opacity: 0.5;
}
</style>
