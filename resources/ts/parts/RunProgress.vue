<script setup lang="ts">
import { ElProgress } from 'element-plus'
import { computed } from 'vue'
import type { Run } from '../api/types'

const props = defineProps<{ run: Run | null; label: string }>()
defineEmits<{ stop: [] }>()

const phase = computed(() => (props.run?.status === 'waiting' && !props.run.worker ? 'waiting: no worker is running; it starts again by itself' : props.run?.phase))
</script>

<template>
    <div class="work" aria-live="polite">
        <ElProgress :percentage="Math.round(100 * (run?.progress ?? 0))" :stroke-width="8" :show-text="false" :aria-label="label" />
        <span class="phase"><span>{{ phase }}</span><button class="link" @click="$emit('stop')">stop</button></span>
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
