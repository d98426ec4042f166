<script setup lang="ts">
import { CHOSEN, current } from '../kinds'
import { useBlade } from '../stores/blade'
import ChoiceRow from './ChoiceRow.vue'

const options = CHOSEN.flatMap((kind) => kind.choices)

function choose(choice: string) {
    const before = current()
    useBlade().placing = 'none'
    const now = CHOSEN.find((kind) => kind.choices.some(({ value }) => value === choice))
    now?.choose?.(choice)
    if (before !== now) before.left?.()
}
</script>

<template>
    <ChoiceRow :model-value="current().chosen?.() ?? ''" :options="options" class="kinds" label="Blades" @update:model-value="choose($event)" />
</template>

<style scoped>
/* The heading stands beside it. */
.kinds :deep(button) {
    padding: 0 6px;
    font-size: 13.5px;
}
</style>
