<script setup lang="ts">
import { ElProgress } from 'element-plus'
import { computed } from 'vue'
import { useProject } from '../stores/project'

const project = useProject()
const phase = computed(() => (project.run?.status === 'waiting' && !project.run.worker ? 'waiting: no worker is running; it starts again by itself' : project.run?.phase))
</script>

<template>
    <div class="work" aria-live="polite">
        <ElProgress :percentage="Math.round(100 * (project.run?.progress ?? 0))" :stroke-width="8" :show-text="false" aria-label="Progress of the step" />
        <span class="phase"><span>{{ phase }}</span><button class="link" @click="project.stop()">stop</button></span>
    </div>
</template>

<style scoped>
.work {
    min-height: 40px;
}

.phase {
    display: flex;
    justify-content: space-between;
    margin-top: 6px;
}
</style>
