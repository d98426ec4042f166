<script setup lang="ts">
import { ElDialog } from 'element-plus'

defineProps<{ modelValue: boolean }>()
defineEmits<{ 'update:modelValue': [open: boolean] }>()

const groups: { title: string; keys: [string, string][] }[] = [
    {
        title: 'Blade',
        keys: [
            ['1 2 3', 'face X, Y, Z'], ['↑ ↓', 'slide by 1 mm; Shift 10, Alt 0.1'], ['← →', 'tilt by 5°; Alt 1°'], [', .', 'turn by 5°; Alt 1°'], ['0', 'to the middle'],
            ['L', 'lay it through a line across the view'], ['O S E D X', 'flat, series, bent, drawn, cells'], ['M U P', 'mirror, combine, place'], ['Enter, ⌫', 'while a line is drawn: end it, take a corner back'], ['Ctrl Enter', 'cut'], ['Esc', 'leave what is being placed or edited'],
        ],
    },
    {
        title: 'Pieces and view',
        keys: [
            ['N  B', 'isolate the next piece, the one before'], ['A', 'show all pieces'], ['H', 'hide what is picked'], ['F', 'frame what is picked'], ['G', 'shaded, facets, glass'],
            ['C', 'before and after the last step'], ['T', 'pieces or lineage'],
        ],
    },
    { title: 'Plates and layers', keys: [['↑ ↓ ← →', 'move the picked piece by 1 mm, Shift 10; or go through the layers'], ['R', 'turn it by 15°; Shift the other way'], ['Space', 'play the layers']] },
    { title: 'Work', keys: [['Ctrl Z', 'undo'], ['Ctrl Shift Z, Ctrl Y', 'do again'], ['K', 'the next station'], ['?', 'this sheet']] },
]
</script>

<template>
    <ElDialog :model-value="modelValue" title="Keys" width="720" @update:model-value="$emit('update:modelValue', $event)">
        <div class="groups">
            <section v-for="group in groups" :key="group.title">
                <h3>{{ group.title }}</h3>
                <table>
                    <tbody>
                        <tr v-for="[key, what] in group.keys" :key="key"><th scope="row"><kbd>{{ key }}</kbd></th><td>{{ what }}</td></tr>
                    </tbody>
                </table>
            </section>
        </div>
        <p class="soft">
            In the view: drag to turn, right-drag to shift, wheel to come nearer, click to pick (Ctrl for more). Drag the grip to slide the blade, the rim to tilt it in steps of 5°. Holding Alt frees
            the steps, here, on the rim, in a drawn line and on the rail. On the rail, arrow keys move a stop and Delete takes it away.
        </p>
    </ElDialog>
</template>

<style scoped>
.groups {
    columns: 2;
    column-gap: 28px;
}

section {
    break-inside: avoid;
    margin-bottom: 14px;
}

h3 {
    margin-bottom: 4px;
    font-size: 15px;
}

th {
    padding: 2px 14px 2px 0;
    text-align: left;
    vertical-align: top;
    white-space: nowrap;
}

kbd {
    font: 600 13.5px 'Source Sans 3 Variable', sans-serif;
}
</style>
