<script setup lang="ts">
import { computed } from 'vue'
import { useProject } from '../stores/project'
import { useSettings, type Display } from '../stores/settings'
import { vRoving } from './roving'

defineEmits<{ look: [from: string]; frame: []; parallel: []; identity: [] }>()
const settings = useSettings()
const project = useProject()

const displays: { value: Display; text: string }[] = [{ value: 'shaded', text: 'Shaded' }, { value: 'flat', text: 'Facets' }, { value: 'glass', text: 'Glass' }]
const hasOwn = computed(() => project.project?.inside != null || project.living.some((piece) => ['colours', 'materials', 'pictures'].some((own) => piece.carries.includes(own))))
const directions = ['front', 'back', 'left', 'right', 'top', 'bottom', 'corner']
</script>

<template>
    <div class="bar">
        <span v-roving role="radiogroup" aria-label="Display">
            <button v-for="one in displays" :key="one.value" class="plain" role="radio" :aria-checked="settings.display === one.value" @click="settings.display = one.value">{{ one.text }}</button>
        </span>
        <span role="group" aria-label="Show">
            <button class="plain" :aria-pressed="settings.lines" title="Mesh lines" @click="settings.lines = !settings.lines">Mesh</button>
            <button v-if="hasOwn" class="plain" :aria-pressed="settings.own" title="Skin in the colours and pictures that came with it, inside with its look; or each piece in its one colour" @click="settings.own = !settings.own">As it came</button>
            <button class="plain" :aria-pressed="settings.box" title="The box with its three dimensions" @click="settings.box = !settings.box">Box</button>
            <button v-if="project.project?.printer" class="plain" :aria-pressed="settings.printer" title="The printer's working space around the pieces" @click="settings.printer = !settings.printer">Printer</button>
        </span>
        <span v-if="project.living.length > 1" role="group" aria-label="Picture">
            <button class="plain" title="This view as a picture, each piece flat in its own colour (PNG)" @click="$emit('identity')">Identity</button>
        </span>
        <span class="from" role="group" aria-label="Look from">
            <button class="plain" title="Bring what is picked into the middle (F)" @click="$emit('frame')">frame</button>
            <button class="plain" title="Parallel or perspective" @click="$emit('parallel')">parallel</button>
            <button v-for="direction in directions" :key="direction" class="plain" @click="$emit('look', direction)">{{ direction }}</button>
        </span>
    </div>
</template>

<style scoped>
.bar {
    position: absolute;
    z-index: 2;
    top: 0;
    left: 0;
    right: 0;
    display: flex;
    flex-wrap: wrap;
    gap: 2px 12px;
    padding: 9px 12px 7px;
    background: color-mix(in srgb, var(--ground) 84%, transparent);
    pointer-events: none;
}

.bar > * {
    pointer-events: auto;
}

.bar span {
    display: inline-flex;
    gap: 7px;
}

.bar .from {
    gap: 6px;
    margin-left: auto;
    font-size: 13px;
}

.bar button {
    padding-bottom: 2px;
    color: var(--soft);
    white-space: nowrap;
}

.bar button:hover {
    color: var(--ink);
}

.bar [aria-checked='true'],
.bar [aria-pressed='true'] {
    color: var(--ink);
    box-shadow: 0 1.5px 0 var(--cut);
}
</style>
