<script setup lang="ts" generic="T extends string">
import { vRoving } from './roving'

defineProps<{ modelValue: T | ''; options: { value: T; text: string; hint?: string }[]; label: string }>()
defineEmits<{ 'update:modelValue': [value: T] }>()
</script>

<template>
    <span v-roving class="row" role="radiogroup" :aria-label="label">
        <button
            v-for="option in options" :key="option.value" type="button" role="radio" :aria-checked="modelValue === option.value"
            :title="option.hint" @click="$emit('update:modelValue', option.value)"
        >
            {{ option.text }}
        </button>
    </span>
</template>

<style scoped>
.row {
    display: inline-flex;
    border: 1px solid var(--rule);
    border-radius: 3px;
    overflow: hidden;
    background: var(--field);
}

button {
    height: 28px;
    padding: 0 9px;
    border: 0;
    border-right: 1px solid var(--rule);
    background: none;
    color: var(--soft);
    cursor: pointer;
}

button:last-child {
    border-right: 0;
}

button:hover {
    color: var(--ink);
}

button[aria-checked='true'] {
    background: var(--ink);
    color: var(--sheet);
}

button:focus-visible {
    outline-offset: -3px;
}
</style>
