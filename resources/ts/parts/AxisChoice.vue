<script setup lang="ts">
import { computed } from 'vue'
import type { Vector } from '../api/types'
import ChoiceRow from './ChoiceRow.vue'

const props = defineProps<{ modelValue: Vector; label: string; signed?: boolean }>()
const emit = defineEmits<{ 'update:modelValue': [value: Vector] }>()

const AXES: Record<string, Vector> = { X: [1, 0, 0], Y: [0, 1, 0], Z: [0, 0, 1], '−X': [-1, 0, 0], '−Y': [0, -1, 0], '−Z': [0, 0, -1] }
const options = computed(() => Object.keys(AXES).slice(0, props.signed ? 6 : 3).map((value) => ({ value, text: value })))
const chosen = computed(() => Object.keys(AXES).find((name) => AXES[name].every((c, k) => c === props.modelValue[k])) ?? '')
</script>

<template>
    <ChoiceRow :model-value="chosen" :options="options" :label="label" @update:model-value="emit('update:modelValue', AXES[$event])" />
</template>
