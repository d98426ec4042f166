<script setup lang="ts">
import { computed, ref } from 'vue'
import { ElButton, ElDialog, ElInput, ElProgress } from 'element-plus'
import { useRouter } from 'vue-router'
import { ACCEPTED, bundled } from '../api/bundles'
import { api, bringIn } from '../api/client'
import { FORMATS } from '../api/formats'
import { said } from '../api/latest'
import type { Units, Upload } from '../api/types'
import { count, list, size } from '../format'
import { useProject } from '../stores/project'
import ChoiceRow from './ChoiceRow.vue'
import UpChoice from './UpChoice.vue'

const router = useRouter()
const picker = ref<HTMLInputElement | null>(null)
const sent = ref<{ name: string; share: number; n: number; of: number } | null>(null)
const uploads = ref<Upload[]>([])
const name = ref('')
const units = ref<Units>('mm')
const up = ref<'z' | 'y'>('z')
const problem = ref('')
const over = ref(false)
const busy = ref(false)

const options: { value: Units; text: string }[] = [
    { value: 'mm', text: 'mm' }, { value: 'cm', text: 'cm' }, { value: 'm', text: 'm' }, { value: 'in', text: 'inches' },
]
const FACTORS: Record<Units, number> = { mm: 1, cm: 10, m: 1000, in: 25.4 }
const largest = Number(document.querySelector<HTMLMetaElement>('meta[name=isotome-largest-upload]')?.content ?? Infinity)

/** A format that states its unit is read in it, whatever is chosen. */
const sizeOf = (upload: Upload) => {
    const [x, y, z] = upload.report.size_mm.map((side) => side * (upload.report.states_unit ? 1 : FACTORS[units.value]))
    return up.value === 'y' ? [x, z, y] : [x, y, z]
}
const largestSide = computed(() => Math.max(0, ...uploads.value.flatMap(sizeOf)))
const needsUnit = computed(() => uploads.value.some((upload) => !upload.report.states_unit))
const state = (upload: Upload) => {
    const { watertight, faults } = upload.report
    if (watertight) return 'watertight'
    const parts = []
    if (faults.open_edges) parts.push(count(faults.open_edges, 'open edge', 'open edges'))
    if (faults.nonmanifold_edges) parts.push(count(faults.nonmanifold_edges, 'edge with more than two faces', 'edges with more than two faces'))
    if (faults.flipped_edges) parts.push(count(faults.flipped_edges, 'edge whose faces disagree', 'edges whose faces disagree'))
    return `not watertight: ${parts.join(', ')}`
}
const doubt = computed(() => {
    if (largestSide.value > 0 && largestSide.value < 5) return 'That is smaller than a pea: is the unit right?'
    if (largestSide.value > 5000) return 'That is larger than a room: is the unit right?'
    return ''
})

async function take(list: FileList | null | undefined) {
    const given = [...(list ?? [])]
    over.value = false
    if (!given.length || sent.value !== null) return
    problem.value = ''
    sent.value = { name: given[0].name, share: 0, n: 1, of: 1 }
    const files = await bundled(given).catch(() => [])
    sent.value = null
    if (!files.length) {
        problem.value = 'These files could not be put together; bring them in as a zip.'
        return
    }
    const large = files.find((file) => file.size > largest)
    if (large) {
        problem.value = `The file ${large.name} is larger than the limit of ${Math.floor(largest / 1048576)} MB; reduce the mesh, or raise ISOTOME_LARGEST_UPLOAD and start Isotome again.`
        return
    }
    const arrived: Upload[] = []
    try {
        for (const [n, file] of files.entries()) {
            sent.value = { name: file.name, share: 0, n: n + 1, of: files.length }
            arrived.push(await bringIn(file, (share) => { if (sent.value) sent.value.share = share }))
        }
        uploads.value = arrived
        name.value = files[0].name.replace(/\.[^.]*$/, '').replace(/[-_]+/g, ' ').replace(/^./, (first) => first.toUpperCase()).slice(0, 120)
        units.value = 'mm'
        up.value = 'z'
    } catch (error) {
        // All of them, or none: what came before the refused one is let go.
        for (const upload of arrived) void api.forget(upload.id).catch(() => undefined)
        problem.value = said(error)
    } finally {
        sent.value = null
        if (picker.value) picker.value.value = ''
    }
}

async function accept() {
    if (!uploads.value.length || busy.value) return
    busy.value = true
    try {
        const made = await api.accept(uploads.value.map((upload) => upload.id), name.value, units.value, up.value)
        uploads.value = []
        useProject().made(made.id, made.run)
        await router.push({ name: 'project', params: { id: made.id } })
    } catch (error) {
        problem.value = said(error)
    } finally {
        busy.value = false
    }
}

function decline() {
    for (const upload of uploads.value) void api.forget(upload.id).catch(() => undefined)
    uploads.value = []
    problem.value = ''
}
</script>

<template>
    <div
        class="drop" :class="{ over }" data-part="drop" @dragover.prevent="over = true" @dragleave="over = false"
        @drop.prevent="take($event.dataTransfer?.files)"
    >
        <input id="mesh-file" ref="picker" type="file" multiple :accept="ACCEPTED.map((format) => `.${format}`).join()" @change="take(($event.target as HTMLInputElement).files)">
        <template v-if="sent === null">
            <p class="big">Drop meshes here for a new project</p>
            <p class="soft">{{ FORMATS.map((format) => format.toUpperCase()).join(', ') }}, glTF, with materials and pictures, or as a zip; several at once become several pieces</p>
            <label for="mesh-file" class="link">or choose them from this computer</label>
        </template>
        <template v-else>
            <p>{{ sent.share < 1 ? 'Bringing in' : 'Reading and checking' }} {{ sent.name }}{{ sent.of > 1 ? `, ${sent.n} of ${sent.of}` : '' }}</p>
            <ElProgress :percentage="Math.round(100 * sent.share)" :indeterminate="sent.share >= 1" :show-text="false" aria-label="Progress of the file" />
        </template>
        <p v-if="problem && !uploads.length" class="problem" role="alert">{{ problem }}</p>
    </div>
    <ElDialog :model-value="uploads.length > 0" title="New project" width="480" :close-on-click-modal="false" @update:model-value="decline">
        <div class="line"><span class="label">Name</span><ElInput v-model="name" maxlength="120" aria-label="Name" @keydown.enter="accept" /></div>
        <div v-if="needsUnit" class="line"><span class="label">Unit</span><ChoiceRow v-model="units" :options="options" label="Unit of the file" /></div>
        <div v-if="uploads[0]?.report.sketch" class="line"><span class="label">Up</span><UpChoice v-model="up" :sketch="uploads[0].report.sketch" /></div>
        <p v-if="doubt" class="warning">{{ doubt }}</p>
        <ul class="files">
            <li v-for="upload in uploads" :key="upload.id">
                <p class="size" data-part="dimensions">{{ size(sizeOf(upload), 2) }}</p>
                <p class="soft">
                    {{ upload.file }}, {{ upload.report.format }}{{ upload.report.states_unit ? ', which states its unit' : '' }}: {{ count(upload.report.triangles, 'triangle', 'triangles') }},
                    <template v-if="upload.report.parts">{{ upload.report.parts }} parts as pieces,</template><template v-else>{{ count(upload.report.shells, 'shell', 'shells') }},</template>
                    <span :class="upload.report.watertight ? 'good' : 'warning'">{{ ` ${state(upload)}` }}</span>.
                    <template v-if="upload.report.collapsed">{{ count(upload.report.collapsed, 'triangle', 'triangles') }} without area left out.</template>
                </p>
                <p v-if="upload.report.carries.length" class="soft">It carries {{ list(upload.report.carries) }}: pieces keep them.</p>
                <p v-for="what in upload.report.left_out" :key="what" class="warning">Left out: {{ what }}.</p>
            </li>
        </ul>
        <p v-if="uploads.some((upload) => !upload.report.watertight)" class="soft">The Check station shows the faults and mends them. It can be cut as it is; outlines that run into an open edge stay open and are told.</p>
        <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
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

.files {
    overflow-y: auto;
    max-height: 280px;
    margin: 0;
    padding: 0;
    list-style: none;
}

.size {
    font-size: 20px;
}
</style>
