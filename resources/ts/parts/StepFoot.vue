<script setup lang="ts">
import { ElButton } from 'element-plus'
import { useProject } from '../stores/project'
import StepProgress from './StepProgress.vue'

/** The button of a card of the Cut station, and under it what it will do. While a step is edited it says “Run again”. */
defineProps<{ action: string; ready: boolean; sentence: string }>()
const emit = defineEmits<{ run: []; left: [] }>()
const project = useProject()

function leave() {
    project.editing = null
    emit('left')
}
</script>

<template>
    <div>
        <StepProgress v-if="project.busy" />
        <div v-else class="main">
            <ElButton type="primary" size="large" class="cut" :disabled="!ready" @click="$emit('run')">{{ project.editing !== null ? 'Run again' : action }}</ElButton>
            <ElButton v-if="project.editing !== null" size="large" @click="leave">Leave it</ElButton>
        </div>
        <p class="sentence" aria-live="polite" data-part="sentence">{{ sentence }}</p>
    </div>
</template>

<style scoped>
.main {
    display: flex;
    gap: 8px;
}

.main .el-button + .el-button {
    margin: 0;
}

.cut {
    flex: 1;
    font-size: 15px;
    font-weight: 600;
}
</style>
