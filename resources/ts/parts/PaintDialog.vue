<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { ElButton, ElCheckbox, ElDialog } from 'element-plus'
import { api } from '../api/client'
import { STUFF, usePaint, type Paint } from '../stores/paint'
import { title, useProject } from '../stores/project'
import ChoiceRow from './ChoiceRow.vue'
import NumberField from './NumberField.vue'

const paint = usePaint()
const project = useProject()
const picker = useTemplateRef('picker')

const editing = computed(() => (paint.piece === null ? project.stepOf(project.editing)?.number : undefined))
const looks = computed(() => [
    { value: 'colour' as const, text: 'Colour', hint: 'One colour; a picture that it has goes' },
    ...(paint.places ? [...STUFF, { value: 'own' as const, text: 'Own picture', hint: 'A PNG, JPEG or WebP, on the texture coordinates of the faces' }] : []),
])
const source = computed(() => (paint.look === 'own' ? paint.own : paint.look === 'colour' ? '' : api.pictureAt(`insides/${paint.look}`)))

function choose(look: Paint) {
    paint.look = look
    if (look === 'own' && !paint.own) picker.value?.click()
}

function own(files: FileList | null) {
    const file = files?.[0]
    if (file) void paint.take(file)
    if (picker.value) picker.value.value = ''
}
</script>

<template>
    <ElDialog :model-value="paint.open" :title="editing === undefined ? `Paint “${paint.material}”` : `Step ${editing}: paint “${paint.material}”`" width="520" @update:model-value="paint.close()">
        <ChoiceRow :model-value="paint.look" :options="looks" label="Look of the material" @update:model-value="choose" />
        <input ref="picker" type="file" accept=".png,.jpg,.jpeg,.webp" class="file" aria-label="Picture for the material" tabindex="-1" @change="own(($event.target as HTMLInputElement).files)">
        <p v-if="paint.look === 'colour'" class="line">
            <span class="label">Colour</span>
            <input v-model="paint.colour" type="color" aria-label="Colour of the material">
            <span class="soft">{{ paint.colour }}</span>
        </p>
        <div v-else class="line">
            <img v-if="source" :src="source" alt="The picture of the material">
            <div>
                <p v-if="paint.look === 'own'">{{ paint.ownWords || 'No picture chosen yet.' }} <button class="link" :disabled="paint.working" @click="picker?.click()">{{ paint.own ? 'another…' : 'choose…' }}</button></p>
                <p class="line"><span class="label">Times</span><NumberField v-model="paint.times" unit="×" label="How often the picture lies side by side" :min="0.01" :max="1000" :step="1" /></p>
                <p class="soft">It lies on the texture coordinates that the faces came with.</p>
            </div>
        </div>
        <p v-if="!paint.places" class="soft">Its faces came without texture coordinates, so a picture has nowhere to lie.</p>
        <ElCheckbox v-if="paint.piece && project.living.length > 1" v-model="paint.everywhere">On all pieces that have it, not only on {{ title(paint.piece) }}</ElCheckbox>
        <p v-if="project.problem" class="problem" role="alert">{{ project.problem }}</p>
        <template #footer>
            <ElButton @click="paint.close()">Leave it</ElButton>
            <ElButton type="primary" :disabled="!paint.ready" :loading="paint.working" @click="paint.run()">{{ editing === undefined ? 'Paint' : 'Run again' }}</ElButton>
        </template>
    </ElDialog>
</template>

<style scoped>
:deep(.el-checkbox) {
    --el-checkbox-checked-text-color: var(--ink);
}

p {
    margin: 0 0 10px;
}

.line {
    display: flex;
    align-items: center;
    gap: 10px;
    margin: 10px 0;
}

.label {
    width: 48px;
    color: var(--soft);
}

img {
    width: 128px;
    height: 128px;
    margin-right: 10px;
    border: 1px solid var(--rule);
    object-fit: contain;
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
</style>
