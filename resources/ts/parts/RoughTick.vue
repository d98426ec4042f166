<script setup lang="ts">
import { NO_GRAIN, type Grain } from '../stores/grain'

/** Whether what is cut looks like broken stone. */
defineProps<{ modelValue: Grain | null }>()
defineEmits<{ 'update:modelValue': [grain: Grain | null] }>()
</script>

<template>
    <label class="tick" title="The cut looks like broken stone">
        <input type="checkbox" :checked="modelValue !== null" aria-label="Rough" @change="$emit('update:modelValue', ($event.target as HTMLInputElement).checked ? NO_GRAIN : null)"> rough
    </label>
</template>

<style scoped>
.tick {
    display: inline-flex;
    align-items: center;
    gap: 5px;
    margin-left: auto;
}
</style>
