<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import { ElButton, ElDialog } from 'element-plus'
import { api } from '../api/client'
import { useProject } from '../stores/project'
import ChoiceRow from './ChoiceRow.vue'
import NumberField from './NumberField.vue'

defineProps<{ modelValue: boolean }>()
defineEmits<{ 'update:modelValue': [open: boolean] }>()

const project = useProject()
const picker = useTemplateRef('picker')
const busy = ref(false)
/** The last picture of one's own: it comes back when another look was tried. */
let last: File | null = null

const LOOKS = [
    { value: 'plain', text: 'Plain', hint: 'Hatched here; in files a lighter colour of each piece' },
    { value: 'stone', text: 'Stone', hint: 'Broken stone, with grains' },
    { value: 'oak', text: 'Oak', hint: 'Split wood; its lines run across, turn them by 90° to stand' },
    { value: 'clay', text: 'Clay', hint: 'Fired clay' },
    { value: 'plaster', text: 'Plaster', hint: 'Cast plaster' },
    { value: 'colour', text: 'Colour', hint: 'One colour for all pieces' },
    { value: 'own', text: 'Own picture', hint: 'A PNG, JPEG or WebP that goes on beyond its edges' },
] as const
type Look = (typeof LOOKS)[number]['value']

const inside = computed(() => project.project?.inside ?? null)
const look = computed<Look>(() => (inside.value?.look as Look | undefined) ?? 'plain')
const source = computed(() => (inside.value?.picture ? api.pictureAt(inside.value.picture) : null))
/** Millimetres that the picture takes down. */
const high = computed(() => (inside.value?.scales && inside.value.mm ? inside.value.scales[0] / inside.value.scales[1] * inside.value.mm : 0))

async function set(change: { look: Look; colour?: string; mm?: number; turn?: number }) {
    if (!project.project) return
    if (change.look === 'own' && look.value !== 'own') {
        if (last) await send(last)
        else picker.value?.click()
        return
    }
    await project.dress(change.look === 'plain' ? null : change)
}

function choose(value: Look) {
    void set(value === 'colour' ? { look: value, colour: inside.value?.colour ?? '#c9b79c' } : { look: value })
}

function measure(change: { mm?: number; turn?: number }) {
    void set({ look: look.value, mm: inside.value?.mm, turn: inside.value?.turn, ...change })
}

async function own(files: FileList | null) {
    const file = files?.[0]
    if (!file || !project.project) return
    await send(file)
    if (picker.value) picker.value.value = ''
}

async function send(file: File) {
    busy.value = true
    await project.dressWith(file)
    busy.value = false
    if (!project.problem) last = file
}
</script>

<template>
    <ElDialog :model-value="modelValue" title="Inside" width="560" @update:model-value="$emit('update:modelValue', $event)">
        <p class="soft">How faces made by cutting look, here and in GLB and OBJ files. A picture runs through the body: neighbours match, and nothing is stretched.</p>
        <ChoiceRow :model-value="look" :options="[...LOOKS]" label="Look of the inside" @update:model-value="choose" />
        <input ref="picker" type="file" accept=".png,.jpg,.jpeg,.webp" class="file" aria-label="Picture for the inside" tabindex="-1" @change="own(($event.target as HTMLInputElement).files)">
        <p v-if="look === 'colour'" class="line">
            <span class="label">Colour</span>
            <input type="color" :value="inside?.colour" aria-label="Colour of the inside" @change="set({ look: 'colour', colour: ($event.target as HTMLInputElement).value })">
            <span class="soft">{{ inside?.colour }}</span>
        </p>
        <template v-else-if="inside && source">
            <div class="line">
                <img :src="source" alt="The picture of the inside">
                <div>
                    <p v-if="inside.name" class="name">{{ inside.name }} <button class="link" :disabled="busy" @click="picker?.click()">another…</button></p>
                    <p class="line"><span class="label">Width</span><NumberField :model-value="inside.mm ?? 50" unit="mm" label="Width of the picture, mm" :min="0.1" :max="100000" @update:model-value="measure({ mm: $event })" /></p>
                    <p class="line"><span class="label">Turn</span><NumberField :model-value="inside.turn ?? 0" unit="°" label="Turn of the picture, °" :min="-360" :max="360" :step="15" @update:model-value="measure({ turn: $event })" /></p>
                    <p class="soft">It begins again every {{ (inside.mm ?? 50).toFixed(1) }} × {{ high.toFixed(1) }} mm.</p>
                </div>
            </div>
        </template>
        <p v-if="look === 'plain'" class="soft">Hatched in the view, so that cuts are seen; a lighter colour of each piece in files.</p>
        <p v-if="project.problem" class="problem" role="alert">{{ project.problem }}</p>
        <template #footer><ElButton type="primary" @click="$emit('update:modelValue', false)">Done</ElButton></template>
    </ElDialog>
</template>

<style scoped>
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

.name {
    margin: 0 0 4px;
}

:deep([role='radiogroup']) {
    margin-bottom: 10px;
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
