<script setup lang="ts">
import { ref, useTemplateRef } from 'vue'
import { ElButton, ElDialog, ElProgress } from 'element-plus'
import { ACCEPTED } from '../api/bundles'
import { api } from '../api/client'
import { said } from '../api/latest'
import { useProject } from '../stores/project'
import { useArriving } from './arriving'
import UpChoice from './UpChoice.vue'
import UploadList from './UploadList.vue'

const project = useProject()
const { sent, uploads, units, up, problem, doubt, sizeOf, take, decline } = useArriving()
const picker = useTemplateRef('picker')
const busy = ref(false)

/** Files without a unit are in that of the project. */
async function begin(files: FileList | null | undefined) {
    if (project.project) units.value = project.project.units
    await take(files)
    if (picker.value) picker.value.value = ''
}

async function accept() {
    if (!project.project || !uploads.value.length || busy.value) return
    busy.value = true
    try {
        const run = await api.further(project.project.id, uploads.value.map((upload) => upload.id), up.value)
        uploads.value = []
        problem.value = ''
        await project.follow(run)
    } catch (error) {
        problem.value = said(error)
    } finally {
        busy.value = false
    }
}

defineExpose({ begin })
</script>

<template>
    <span class="further">
        <button class="link" :disabled="project.busy || sent !== null" title="A further mesh beside the pieces that are here; files can be dropped on the view as well" @click="picker?.click()">{{ sent ? `Bringing in ${sent.name}…` : 'Bring in…' }}</button>
        <input ref="picker" type="file" multiple :accept="ACCEPTED.map((format) => `.${format}`).join()" class="file" aria-label="Further meshes" tabindex="-1" @change="begin(($event.target as HTMLInputElement).files)">
        <ElProgress v-if="sent" :percentage="Math.round(100 * sent.share)" :indeterminate="sent.share >= 1" :show-text="false" aria-label="Progress of the file" />
        <p v-if="problem && !uploads.length" class="problem" role="alert">{{ problem }} <button class="link" @click="problem = ''">close</button></p>
    </span>
    <ElDialog :model-value="uploads.length > 0" :title="`Bring into ${project.project?.name}`" width="480" :close-on-click-modal="false" append-to-body @update:model-value="decline">
        <p class="soft">It is placed where its file says. The steps before it do not touch it.</p>
        <div v-if="uploads[0]?.report.sketch" class="line"><span class="label">Up</span><UpChoice v-model="up" :sketch="uploads[0].report.sketch" /></div>
        <p v-if="doubt" class="warning">{{ doubt }}</p>
        <UploadList :uploads="uploads" :size-of="sizeOf" />
        <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
        <template #footer>
            <ElButton @click="decline">Leave it</ElButton>
            <ElButton type="primary" :loading="busy" :disabled="project.busy" @click="accept">Bring in</ElButton>
        </template>
    </ElDialog>
</template>

<style scoped>
.further {
    position: relative;
}

p {
    margin: 0 0 8px;
}

.file {
    position: absolute;
    width: 1px;
    height: 1px;
    opacity: 0;
}

.problem {
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
