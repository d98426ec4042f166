<script setup lang="ts">
import { ref, watch } from 'vue'

const props = withDefaults(defineProps<{
    modelValue: number
    unit: string
    label: string
    digits?: number
    step?: number
    min?: number
    max?: number
}>(), { digits: 1, step: 1, min: -1e9, max: 1e9 })

const emit = defineEmits<{ 'update:modelValue': [value: number] }>()

const text = ref('')
const editing = ref(false)
const wrong = ref(false)

const shown = () => props.modelValue.toFixed(props.digits).replace(/^-(0(\.0*)?)$/, '$1')

watch(() => [props.modelValue, props.digits], () => { if (!editing.value) text.value = shown() }, { immediate: true })

function take() {
    editing.value = false
    const value = Number(text.value.trim().replace(',', '.').replace('−', '-'))
    wrong.value = text.value.trim() === '' || !Number.isFinite(value) || value < props.min || value > props.max
    // What cannot be read leaves the number as it was.
    if (!wrong.value && text.value !== shown()) emit('update:modelValue', value)
    text.value = shown()
    wrong.value = false
}

function nudge(event: KeyboardEvent, sign: number) {
    event.preventDefault()
    const by = props.step * sign * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1)
    const value = Math.max(props.min, Math.min(props.max, props.modelValue + by))
    text.value = value.toFixed(props.digits)
    emit('update:modelValue', value)
}
</script>

<template>
    <label class="field" :class="{ wrong }">
        <input
            v-model="text" :aria-label="unit ? `${label}, ${unit}` : label" inputmode="decimal" autocomplete="off" spellcheck="false"
            @focus="editing = true; ($event.target as HTMLInputElement).select()" @blur="take" @keydown.enter="take"
            @keydown.up="nudge($event, 1)" @keydown.down="nudge($event, -1)"
        >
        <span class="unit">{{ unit }}</span>
    </label>
</template>

<style scoped>
.field {
    display: inline-flex;
    align-items: center;
    width: 84px;
    height: 30px;
    border: 1px solid var(--rule);
    border-radius: 3px;
    background: var(--field);
}

.field:focus-within {
    border-color: var(--picked);
}

input {
    flex: 1;
    min-width: 0;
    padding: 0 0 0 8px;
    border: 0;
    outline: 0;
    background: none;
    color: inherit;
    font: inherit;
    font-variant-numeric: tabular-nums;
}

.unit {
    padding: 0 8px 0 4px;
    color: var(--soft);
    font-size: 13px;
}
</style>
