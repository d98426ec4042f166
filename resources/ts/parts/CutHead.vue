<script setup lang="ts">
import { useProject } from '../stores/project'
import BladeKinds from './BladeKinds.vue'

/** What the card is for; the chosen kind says it to those who see it. */
defineProps<{ title: string }>()
const project = useProject()
</script>

<template>
    <div class="head">
        <h2 :class="{ spoken: project.editing === null }">{{ project.editing === null ? title : `Step ${project.stepOf(project.editing)?.number}` }}</h2>
        <BladeKinds />
    </div>
</template>

<style scoped>
/* Not a header: those are laid out by the card. */
.head {
    display: grid;
    gap: 6px;
}

.spoken {
    position: absolute;
    width: 1px;
    height: 1px;
    overflow: hidden;
    clip-path: inset(50%);
}
</style>
