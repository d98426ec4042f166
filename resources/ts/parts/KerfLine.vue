<script setup lang="ts">
import NumberField from './NumberField.vue'

/** How much material the blade takes away, with the usual fit gaps at hand. */
defineProps<{ modelValue: number }>()
defineEmits<{ 'update:modelValue': [kerf: number] }>()
</script>

<template>
    <div class="line">
        <span class="label">Kerf</span>
        <NumberField class="narrow" :model-value="modelValue" unit="mm" label="Kerf" :step="0.1" :min="0" :max="1000" @update:model-value="$emit('update:modelValue', $event)" />
        <button class="link" title="Fit gap of a well-tuned printer" aria-label="Kerf 0.3 mm" @click="$emit('update:modelValue', 0.3)">0.3</button>
        <button class="link" title="Fit gap of a printer that is not tuned" aria-label="Kerf 0.5 mm" @click="$emit('update:modelValue', 0.5)">0.5</button>
        <slot />
    </div>
</template>

<style scoped src="./card.css"></style>
