<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { ElButton, ElDialog } from 'element-plus'
import { api } from '../api/client'
import { KEEPS } from '../api/formats'
import { said } from '../api/latest'
import type { Format, Run } from '../api/types'
import { count, list, number } from '../format'
import { asked } from '../stores/asked'
import { useProject } from '../stores/project'
import ChoiceRow from './ChoiceRow.vue'
import NumberField from './NumberField.vue'
import RunProgress from './RunProgress.vue'

defineProps<{ modelValue: boolean }>()
const emit = defineEmits<{ 'update:modelValue': [open: boolean] }>()

const project = useProject()
const format = ref<Format>('stl')
const which = ref<'all' | 'picked'>('all')
/** g/cm³; 0 for no masses. */
const density = ref(0)
const together = ref<'each' | 'one'>('each')

const formats: { value: Format; text: string; hint: string }[] = [
    { value: 'stl', text: 'STL', hint: 'For slicers; 32-bit numbers, no names' },
    { value: '3mf', text: '3MF', hint: 'For slicers; states its unit; names, colours and pictures' },
    { value: 'obj', text: 'OBJ', hint: 'For modelling; named groups, materials beside it' },
    { value: 'glb', text: 'GLB', hint: 'For animation; nodes with pivots, materials, metres' },
    { value: 'ply', text: 'PLY', hint: 'For scans and tools' },
    { value: 'off', text: 'OFF', hint: 'For geometry tools' },
]
const holdsSeveral = computed(() => ['3mf', 'obj', 'glb'].includes(format.value))
const pieces = computed(() => (which.value === 'picked' && project.picked.length ? project.living.filter((piece) => project.pickedIds.has(piece.id)) : project.living))
const open = computed(() => pieces.value.filter((piece) => !piece.watertight).length)
const carried = computed(() => [...new Set(pieces.value.flatMap((piece) => piece.carries))])
const kept = computed(() => carried.value.filter((word) => KEEPS[format.value]?.includes(word)))
const lost = computed(() => carried.value.filter((word) => !kept.value.includes(word)))
const run = ref<Run | null>(null)
const asking = ref(false)
const problem = ref('')

/** Makes the files, which may take a while, then hands them to the browser. */
async function takeOut() {
    const id = project.project?.id
    if (id === undefined || asking.value) return
    asking.value = true
    problem.value = ''
    try {
        const some = which.value === 'picked' && project.picked.length ? project.picked : null
        const one = together.value === 'one' && holdsSeveral.value
        const files = await asked(() => api.takeOut(id, format.value, one, some, density.value), (now) => { run.value = now })
        if (files === null) return
        const link = document.createElement('a')
        link.href = files.url
        link.download = files.name
        link.click()
        emit('update:modelValue', false)
    } catch (error) {
        problem.value = said(error)
    } finally {
        asking.value = false
    }
}

const stop = () => run.value && api.cancel(run.value.id).catch((error: unknown) => { problem.value = said(error) })

watch(() => project.picked.length, (now) => { which.value = now ? 'picked' : 'all' })
</script>

<template>
    <ElDialog :model-value="modelValue" title="Take out" width="480" @update:model-value="$emit('update:modelValue', $event)">
        <div class="line"><span class="label">Format</span><ChoiceRow v-model="format" :options="formats" label="Format" /></div>
        <p class="soft means">{{ formats.find((one) => one.value === format)?.hint }}.</p>
        <div v-if="project.picked.length" class="line">
            <span class="label">Pieces</span>
            <ChoiceRow v-model="which" :options="[{ value: 'all', text: `all ${project.living.length}` }, { value: 'picked', text: `${project.picked.length} picked` }]" label="Which pieces" />
        </div>
        <div v-if="holdsSeveral && pieces.length > 1" class="line">
            <span class="label">Files</span>
            <ChoiceRow v-model="together" :options="[{ value: 'each', text: 'one each' }, { value: 'one', text: 'one for all' }]" label="Files" />
        </div>
        <div class="line">
            <span class="label">Density</span>
            <NumberField class="density" :model-value="density" unit="g/cm³" label="Density" :digits="2" :step="0.1" :min="0" :max="100" @update:model-value="density = $event" />
            <span class="soft">{{ density > 0 ? 'mass and moments in the manifest' : '0: no masses in the manifest' }}</span>
        </div>
        <p>
            {{ count(pieces.length, 'piece', 'pieces') }}, {{ number(pieces.reduce((sum, piece) => sum + piece.triangles, 0), 0) }} triangles, in a zip with a manifest that says of every
            piece what its file really holds.
            <span v-if="open" class="warning">{{ count(open, 'piece is', 'pieces are') }} not watertight.</span>
        </p>
        <p v-if="carried.length" data-part="carried">
            <span v-if="kept.length" class="soft">{{ `Keeps ${list(kept)}.` }}</span>
            <span v-if="lost.length" class="warning">{{ ` ${format.toUpperCase()} files do not keep ${list(lost)}; GLB does.` }}</span>
        </p>
        <p class="acts">
            <ElButton v-if="!run" type="primary" :loading="asking" @click="takeOut()">Download {{ count(pieces.length, 'piece', 'pieces') }}</ElButton>
        </p>
        <RunProgress v-if="run" :run="run" label="Progress of the files" @stop="stop()" />
        <p v-if="problem" class="warning" role="alert">{{ problem }}</p>
    </ElDialog>
</template>

<style scoped>
.line {
    display: flex;
    align-items: center;
    gap: 10px;
    margin-bottom: 8px;
}

.label {
    width: 56px;
    color: var(--soft);
}

.density {
    width: 110px;
}

.means {
    margin: -2px 0 12px 66px;
    font-size: 13px;
}

.acts {
    margin: 16px 0 0;
}
</style>
