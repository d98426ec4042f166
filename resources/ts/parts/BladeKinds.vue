<script setup lang="ts">
import { computed } from 'vue'
import { choose, CHOSEN, current } from '../kinds'
import { vRoving } from './roving'

const options = CHOSEN.flatMap((kind) => kind.choices)
const chosen = computed(() => current().chosen?.() ?? '')
</script>

<template>
    <div v-roving class="kinds" role="radiogroup" aria-label="What to do">
        <button
            v-for="option in options" :key="option.value" type="button" role="radio" :aria-checked="chosen === option.value" :aria-keyshortcuts="option.key"
            :title="`${option.hint} (${option.key.toUpperCase()})`" @click="choose(option.value)"
        >
            <svg viewBox="0 0 24 20" aria-hidden="true"><path v-for="(path, n) in option.icon.split('|')" :key="n" :d="path" :class="{ cut: n > 0 }" /></svg>
            <span>{{ option.text }}</span>
        </button>
    </div>
</template>

<style scoped>
.kinds {
    display: grid;
    grid-template-columns: repeat(4, auto);
    border: 1px solid var(--rule);
    border-radius: 3px;
    overflow: hidden;
    background: var(--rule);
    gap: 1px;
}

button {
    display: flex;
    align-items: center;
    justify-content: flex-start;
    gap: 4px;
    height: 29px;
    padding: 0 4px 0 5px;
    border: 0;
    background: var(--field);
    color: var(--soft);
    font-size: 12.5px;
    cursor: pointer;
}

svg {
    flex: none;
    width: 19px;
    height: 16px;
    fill: none;
    stroke: currentColor;
    stroke-width: 1.3;
    stroke-linejoin: round;
}

.cut {
    stroke: var(--cut);
    stroke-width: 1.8;
}

button:hover {
    color: var(--ink);
}

button[aria-checked='true'] {
    background: var(--ink);
    color: var(--sheet);
}

button[aria-checked='true'] .cut {
    stroke: color-mix(in srgb, var(--cut) 55%, var(--sheet));
}

button:focus-visible {
    outline-offset: -3px;
}
</style>
