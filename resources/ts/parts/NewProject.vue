<script setup lang="ts">
import { computed, ref } from 'vue'
import { ElButton, ElDialog, ElInput, ElProgress } from 'element-plus'
import { useRouter } from 'vue-router'
import { api, bringIn, Refused } from '../api/client'
import type { Units, Upload } from '../api/types'
import { count, size } from '../format'
import ChoiceRow from './ChoiceRow.vue'

const router = useRouter()
const picker = ref<HTMLInputElement | null>(null)
const sent = ref<number | null>(null)
const upload = ref<Upload | null>(null)
const name = ref('')
const units = ref<Units>('mm')
const problem = ref('')
const over = ref(false)
const busy = ref(false)

const options: { value: Units; text: string }[] = [
    { value: 'mm', text: 'mm' }, { value: 'cm', text: 'cm' }, { value: 'm', text: 'm' }, { value: 'in', text: 'inches' },
]
const FACTORS: Record<Units, number> = { mm: 1, cm: 10, m: 1000, in: 25.4 }
const largest = Number(document.querySelector<HTMLMetaElement>('meta[name=isotome-largest-upload]')?.content ?? Infinity)

const scaled = computed(() => upload.value?.report.size_mm.map((side) => side * FACTORS[units.value]) ?? [0, 0, 0])
const state = computed(() => {
    if (!upload.value) return ''
    const { watertight, faults } = upload.value.report
    if (watertight) return 'watertight'
    const parts = []
    if (faults.open_edges) parts.push(count(faults.open_edges, 'open edge', 'open edges'))
    if (faults.nonmanifold_edges) parts.push(count(faults.nonmanifold_edges, 'edge with more than two faces', 'edges with more than two faces'))
    if (faults.flipped_edges) parts.push(count(faults.flipped_edges, 'edge whose faces disagree', 'edges whose faces disagree'))
    return `not watertight: ${parts.join(', ')}`
})
const doubt = computed(() => {
    const longest = Math.max(...scaled.value)
    if (longest > 0 && longest < 5) return 'That is smaller than a pea: is the unit right?'
    if (longest > 5000) return 'That is larger than a room: is the unit right?'
    return ''
})

async function take(files: FileList | null | undefined) {
    const file = files?.[0]
    over.value = false
    if (!file || sent.value !== null) return
    problem.value = ''
    if (file.size > largest) {
        problem.value = `The file ${file.name} is larger than the limit of ${Math.floor(largest / 1048576)} MB; reduce the mesh, or raise ISOTOME_LARGEST_UPLOAD and start Isotome again.`
        return
    }
    sent.value = 0
    try {
        upload.value = await bringIn(file, (share) => { sent.value = share })
        name.value = file.name.replace(/\.[^.]*$/, '').replace(/[-_]+/g, ' ').replace(/^./, (first) => first.toUpperCase()).slice(0, 120)
        units.value = 'mm'
    } catch (error) {
        problem.value = error instanceof Refused ? error.message : 'The file could not be brought in; try again.'
    } finally {
        sent.value = null
        if (picker.value) picker.value.value = ''
    }
}

async function accept() {
    if (!upload.value || busy.value) return
    busy.value = true
    try {
        const made = await api.accept(upload.value.id, name.value, units.value)
        upload.value = null
        await router.push({ name: 'project', params: { id: made.id } })
    } catch (error) {
        problem.value = error instanceof Refused ? error.message : 'The project could not be made; try again.'
    } finally {
        busy.value = false
    }
}

function decline() {
    if (upload.value) void api.forget(upload.value.id).catch(() => undefined)
    upload.value = null
}
</script>

<template>
    <div
        class="drop" :class="{ over }" data-part="drop" @dragover.prevent="over = true" @dragleave="over = false"
        @drop.prevent="take($event.dataTransfer?.files)"
    >
        <input id="mesh-file" ref="picker" type="file" accept=".stl" @change="take(($event.target as HTMLInputElement).files)">
        <template v-if="sent === null">
            <p class="big">Drop an STL file here for a new project</p>
            <label for="mesh-file" class="link">or choose one from this computer</label>
        </template>
        <template v-else>
            <p>{{ sent < 1 ? 'Bringing in' : 'Reading and checking' }}</p>
            <ElProgress :percentage="Math.round(100 * sent)" :indeterminate="sent >= 1" :show-text="false" />
        </template>
        <p v-if="problem && !upload" class="problem" role="alert">{{ problem }}</p>
    </div>
    <ElDialog :model-value="upload !== null" title="New project" width="460" :close-on-click-modal="false" @update:model-value="decline">
        <template v-if="upload">
            <div class="line"><span class="label">Name</span><ElInput v-model="name" maxlength="120" aria-label="Name" @keydown.enter="accept" /></div>
            <div class="line"><span class="label">Unit</span><ChoiceRow v-model="units" :options="options" label="Unit of the file" /></div>
            <p class="size" data-part="dimensions">{{ size(scaled, 2) }}</p>
            <p v-if="doubt" class="warning">{{ doubt }}</p>
            <p class="soft">
                {{ upload.file }}, {{ upload.report.format }}: {{ count(upload.report.triangles, 'triangle', 'triangles') }},
                {{ count(upload.report.shells, 'shell', 'shells') }},
                <span :class="upload.report.watertight ? 'good' : 'warning'">{{ state }}</span>.
                <template v-if="upload.report.collapsed">{{ count(upload.report.collapsed, 'triangle', 'triangles') }} without area left out.</template>
                <template v-if="!upload.report.watertight">It can be cut as it is; outlines that run into an open edge stay open and are told.</template>
            </p>
            <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
        </template>
        <template #footer>
            <ElButton @click="decline">Leave it</ElButton>
            <ElButton type="primary" :loading="busy" @click="accept">Make the project</ElButton>
        </template>
    </ElDialog>
</template>

<style scoped>
.drop {
    position: relative;
    padding: 26px;
    border: 1.5px dashed var(--soft);
    border-radius: 4px;
    background: var(--sheet);
    text-align: center;
}

.drop.over {
    border-color: var(--cut);
    background: var(--field);
}

input[type='file'] {
    position: absolute;
    opacity: 0;
    width: 1px;
    height: 1px;
}

input[type='file']:focus-visible ~ label {
    outline: 2px solid var(--picked);
}

p {
    margin: 0 0 6px;
}

.big {
    font: 17px 'Source Serif 4 Variable', serif;
}

.problem {
    margin-top: 10px;
    color: var(--cut);
}

.line {
    display: flex;
    align-items: center;
    gap: 10px;
    margin-bottom: 12px;
}

.label {
    width: 48px;
    color: var(--soft);
}

.size {
    font-size: 20px;
}
</style>
