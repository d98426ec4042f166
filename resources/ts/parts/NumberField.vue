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
/** Why what was typed was not taken. */
const wrong = ref('')

const shown = () => props.modelValue.toFixed(props.digits).replace(/^-(0(\.0*)?)$/, '$1')

watch(() => [props.modelValue, props.digits], () => { if (!editing.value) text.value = shown() }, { immediate: true })

function take() {
    editing.value = false
    const value = Number(text.value.trim().replace(',', '.').replace('−', '-'))
    const typed = text.value.trim()
    // What cannot be taken leaves the number as it was.
    if (typed === '' || !Number.isFinite(value)) wrong.value = `${typed === '' ? 'Nothing' : `“${typed.slice(0, 12)}”`} is no number: ${shown()} stays.`
    else if (value < props.min) wrong.value = `At least ${props.min}: ${shown()} stays.`
    else if (value > props.max) wrong.value = `At most ${props.max}: ${shown()} stays.`
    else {
        wrong.value = ''
        if (text.value !== shown()) emit('update:modelValue', value)
    }
    text.value = shown()
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
    <label class="field" :class="{ wrong: wrong !== '' }">
        <input
            v-model="text" :aria-label="unit ? `${label}, ${unit}` : label" inputmode="decimal" autocomplete="off" spellcheck="false"
            @focus="editing = true; wrong = ''; ($event.target as HTMLInputElement).select()" @blur="take" @keydown.enter="take"
            @keydown.up="nudge($event, 1)" @keydown.down="nudge($event, -1)"
        >
        <span class="unit">{{ unit }}</span>
        <span v-if="wrong" class="why" role="alert">{{ wrong }}</span>
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

.field.wrong {
    position: relative;
    border-color: var(--warning);
}

.why {
    position: absolute;
    z-index: 3;
    top: calc(100% + 3px);
    right: 0;
    padding: 3px 8px;
    border: 1px solid var(--warning);
    border-radius: 3px;
    background: var(--sheet);
    color: var(--ink);
    font-size: 13px;
    width: max-content;
    max-width: 130px;
    line-height: 1.3;
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
