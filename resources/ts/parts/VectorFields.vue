<script setup lang="ts">
import type { Vector } from '../api/types'
import NumberField from './NumberField.vue'

const props = defineProps<{ modelValue: Vector; label: string; unit: string; digits?: number }>()
const emit = defineEmits<{ 'update:modelValue': [value: Vector] }>()

function set(k: number, value: number) {
    emit('update:modelValue', props.modelValue.map((c, n) => (n === k ? value : c)) as Vector)
}
</script>

<template>
    <span class="three">
        <NumberField v-for="(axis, k) in ['X', 'Y', 'Z']" :key="axis" :model-value="modelValue[k]" :unit="k === 2 ? unit : ''" :digits="digits ?? 0" :label="`${label} ${axis}`" @update:model-value="set(k, $event)" />
    </span>
</template>

<style scoped>
.three {
    display: grid;
    flex: 1;
    grid-template-columns: 1fr 1fr 1.4fr;
    gap: 4px;
}

.three :deep(.field) {
    width: 100%;
    min-width: 0;
}
</style>
