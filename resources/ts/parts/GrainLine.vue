<script setup lang="ts">
import type { Grain } from '../stores/grain'
import NumberField from './NumberField.vue'

/** The numbers of a rough surface. */
const { modelValue: grain } = defineProps<{ modelValue: Grain }>()
const emit = defineEmits<{ 'update:modelValue': [grain: Grain] }>()
const change = (some: Partial<Grain>) => emit('update:modelValue', { ...grain, ...some })
</script>

<template>
    <div class="line counts grain">
        <label>grain <NumberField class="narrow" :model-value="grain.height" unit="mm" label="Grain height" :step="0.1" :min="0.001" :max="1000" @update:model-value="change({ height: $event })" /></label>
        <label>size <NumberField class="narrow" :model-value="grain.size" unit="mm" label="Grain size" :step="0.5" :min="0.01" :max="10000" @update:model-value="change({ size: $event })" /></label>
        <label>finer <NumberField class="narrow" :model-value="grain.fineHeight" unit="mm" label="Finer grain height" :step="0.1" :min="0" :max="1000" @update:model-value="change({ fineHeight: $event, fineSize: grain.size / 5 })" /></label>
        <label>seed <NumberField class="seed" :model-value="grain.seed" unit="" label="Grain seed" :digits="0" :step="1" :min="0" :max="2147483647" @update:model-value="change({ seed: Math.round($event) })" /></label>
    </div>
</template>

<style scoped src="./card.css"></style>
<style scoped>
.grain > label {
    min-width: 0;
}

.grain .narrow {
    width: 70px;
}

.seed {
    width: 42px;
}
</style>
