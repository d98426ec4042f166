<script setup lang="ts">
import { useBlade } from '../stores/blade'
import { usePlate, type PlateWork } from '../stores/plate'
import { useProject } from '../stores/project'
import ChoiceRow from './ChoiceRow.vue'

/** What is done at the Plate station, in the order in which it is done. */
const WORKS: { value: PlateWork; text: string; hint: string }[] = [
    { value: 'plan', text: 'Plan', hint: 'Cuts after which every piece fits the printer' },
    { value: 'pegs', text: 'Pegs', hint: 'Pins, dowels or magnets across the faces that pieces share' },
    { value: 'marks', text: 'Marks', hint: 'Numbers and arrows on the faces that pieces share' },
    { value: 'plates', text: 'Plates', hint: 'Pieces laid down and packed on the printer’s bed' },
    { value: 'print', text: 'Print', hint: 'Plates in layers, printed by a simulated printer' },
]
const plate = usePlate()

function choose(work: PlateWork) {
    plate.work = work
    useBlade().placing = 'none'
    useProject().editing = null
    useProject().showAsIs()
}
</script>

<template>
    <div><ChoiceRow :model-value="plate.work" :options="WORKS" label="What to do at the plate" @update:model-value="choose" /></div>
</template>
