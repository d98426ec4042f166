<script setup lang="ts">
import { computed, ref } from 'vue'
import { ElButton, ElDialog, ElInput, ElProgress } from 'element-plus'
import { useRouter } from 'vue-router'
import { ACCEPTED } from '../api/bundles'
import { api } from '../api/client'
import { FORMATS } from '../api/formats'
import { said } from '../api/latest'
import type { Units } from '../api/types'
import { useProject } from '../stores/project'
import { useArriving } from './arriving'
import ChoiceRow from './ChoiceRow.vue'
import UpChoice from './UpChoice.vue'
import UploadList from './UploadList.vue'

const router = useRouter()
const { sent, uploads, units, up, problem, doubt, sizeOf, take, decline } = useArriving()
const picker = ref<HTMLInputElement | null>(null)
const name = ref('')
const over = ref(false)
const busy = ref(false)

const options: { value: Units; text: string }[] = [
    { value: 'mm', text: 'mm' }, { value: 'cm', text: 'cm' }, { value: 'm', text: 'm' }, { value: 'in', text: 'inches' },
]
const needsUnit = computed(() => uploads.value.some((upload) => !upload.report.states_unit))

async function begin(list: FileList | null | undefined) {
    over.value = false
    if (await take(list)) {
        name.value = uploads.value[0].file.replace(/\.[^.]*$/, '').replace(/[-_]+/g, ' ').replace(/^./, (first) => first.toUpperCase()).slice(0, 120)
        units.value = 'mm'
    }
    if (picker.value) picker.value.value = ''
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
</script>

<template>
    <div
        class="drop" :class="{ over }" data-part="drop" @dragover.prevent="over = true" @dragleave="over = false"
        @drop.prevent="begin($event.dataTransfer?.files)"
    >
        <input id="mesh-file" ref="picker" type="file" multiple :accept="ACCEPTED.map((format) => `.${format}`).join()" @change="begin(($event.target as HTMLInputElement).files)">
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
        <UploadList :uploads="uploads" :size-of="sizeOf" />
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
</style>
