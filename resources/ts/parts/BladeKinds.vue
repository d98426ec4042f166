<script setup lang="ts">
import { computed } from 'vue'
import { useBlade, type Kind } from '../stores/blade'
import { useCells } from '../stores/cells'
import { useMirror } from '../stores/mirror'
import ChoiceRow from './ChoiceRow.vue'

const blade = useBlade()
const cells = useCells()
const mirror = useMirror()

const kinds: { value: Kind; text: string; hint: string }[] = [
    { value: 'flat', text: 'One', hint: 'One flat blade' },
    { value: 'series', text: 'Series', hint: 'Several parallel blades (S)' },
    { value: 'cells', text: 'Cells', hint: 'Shards, blocks or rings' },
    { value: 'mirror', text: 'Mirror', hint: 'A half and its reflection' },
]
const kind = computed((): Kind => (blade.kind !== 'planes' ? blade.kind : blade.series ? 'series' : 'flat'))

function choose(to: Kind) {
    blade.placing = 'none'
    mirror.symmetry = null
    blade.kind = to === 'cells' || to === 'mirror' ? to : 'planes'
    if (blade.kind === 'planes') blade.setSeries(to === 'series')
    else {
        blade.series = false
        blade.touched()
    }
    cells.done = false
    cells.ask()
    if (to === 'mirror') {
        if (blade.axis === 'Z') blade.setAxis('X')
        mirror.place('origin')
    }
}
</script>

<template>
    <ChoiceRow :model-value="kind" :options="kinds" label="Blades" @update:model-value="choose($event)" />
</template>
