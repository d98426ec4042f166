<script setup lang="ts">
import { computed } from 'vue'
import { useBlade, type Spacing } from '../stores/blade'
import ChoiceRow from './ChoiceRow.vue'
import NumberField from './NumberField.vue'

const blade = useBlade()
const spacings: { value: Spacing; text: string; hint: string }[] = [
    { value: 'stops', text: 'By hand', hint: 'Click the rail to add a stop, drag it, press Delete to take it away' },
    { value: 'step', text: 'Step', hint: 'Stops a fixed distance apart' },
    { value: 'parts', text: 'Equal parts', hint: 'Each piece by its own extent, so two parts cut each at its own centre' },
]
const low = computed(() => blade.freshProfile?.low ?? blade.reach[0])

function set(change: Partial<{ from: number; step: number; times: number; parts: number; spacing: Spacing }>) {
    blade.$patch(change)
    blade.touched()
}

function wander(change: Partial<{ shift: number; tilt: number; seed: number }> | null) {
    blade.wander = change ? { ...(blade.wander ?? { shift: 0.02, tilt: 5, seed: 1 }), ...change } : null
    blade.touched()
}
</script>

<template>
    <span class="series">
        <ChoiceRow :model-value="blade.spacing" :options="spacings" label="Stops" @update:model-value="set({ spacing: $event })" />
        <template v-if="blade.spacing === 'step'">
            <NumberField class="f" :model-value="blade.from - low" unit="mm" label="First stop" @update:model-value="set({ from: $event + low })" />
            <NumberField class="f" :model-value="blade.step" unit="mm" label="Step" :min="0.001" @update:model-value="set({ step: $event })" />
            <NumberField class="n" :model-value="blade.times" unit="×" label="Stops, count" :digits="0" :min="1" :max="1000" @update:model-value="set({ times: Math.round($event) })" />
        </template>
        <NumberField v-else-if="blade.spacing === 'parts'" class="n" :model-value="blade.parts" unit="parts" label="Equal parts" :digits="0" :min="2" :max="1000" @update:model-value="set({ parts: Math.round($event) })" />
        <label class="check" title="A random shift and tilt of every blade, from a seed"><input type="checkbox" :checked="blade.wander !== null" @change="wander(($event.target as HTMLInputElement).checked ? {} : null)"> Wander</label>
        <template v-if="blade.wander">
            <NumberField class="n" :model-value="100 * blade.wander.shift" unit="%" label="Shift" :min="0" :max="50" @update:model-value="wander({ shift: $event / 100 })" />
            <NumberField class="n" :model-value="blade.wander.tilt" unit="°" label="Lean" :min="0" :max="45" @update:model-value="wander({ tilt: $event })" />
            <NumberField class="n" :model-value="blade.wander.seed" unit="seed" label="Seed" :digits="0" :min="0" :max="999999" @update:model-value="wander({ seed: Math.round($event) })" />
        </template>
    </span>
</template>

<style scoped>
.series {
    display: inline-flex;
    align-items: center;
    gap: 8px;
}

.f {
    width: 82px;
}

.n {
    width: 72px;
}

.check {
    display: inline-flex;
    align-items: center;
    gap: 5px;
    margin-left: 6px;
}
</style>
