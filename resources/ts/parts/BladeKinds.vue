<script setup lang="ts">
import { choose, CHOSEN, current } from '../kinds'
import ChoiceRow from './ChoiceRow.vue'

const options = CHOSEN.flatMap((kind) => kind.choices)
</script>

<template>
    <ChoiceRow :model-value="current().chosen?.() ?? ''" :options="options" class="kinds" label="Blades" @update:model-value="choose($event)" />
</template>

<style scoped>
/* The whole width is theirs. */
span.kinds {
    display: flex;
}

.kinds :deep(button) {
    flex: 1 1 auto;
    padding: 0 4px;
    font-size: 13px;
}
</style>
