<script setup lang="ts">
import { useProject } from '../stores/project'
import RunProgress from './RunProgress.vue'

const project = useProject()
</script>

<template>
    <RunProgress :run="project.run" label="Progress of the step" @stop="project.stop()" />
</template>
