<script setup lang="ts">
import { ElDialog } from 'element-plus'

defineProps<{ modelValue: boolean }>()
defineEmits<{ 'update:modelValue': [open: boolean] }>()

const keys: [string, string][] = [
    ['1 2 3', 'blade faces X, Y, Z'],
    ['↑ ↓', 'slide the blade by 1 mm; with Shift 10, with Alt 0.1'],
    ['← →', 'tilt the blade by 5°; with Alt 1°'],
    ['0', 'blade to the middle'],
    ['Ctrl Enter', 'cut'],
    ['Ctrl Z', 'rejoin the last cut'],
    ['N  B', 'isolate the next piece, the one before'],
    ['A', 'show all pieces'],
    ['G', 'glass or shaded'],
    ['?', 'this sheet'],
]
</script>

<template>
    <ElDialog :model-value="modelValue" title="Keys" width="440" @update:model-value="$emit('update:modelValue', $event)">
        <table>
            <tbody>
                <tr v-for="[key, what] in keys" :key="key"><th scope="row"><kbd>{{ key }}</kbd></th><td>{{ what }}</td></tr>
            </tbody>
        </table>
        <p class="soft">In the view: drag to turn, right-drag to shift, wheel to come nearer. Drag the grip to slide the blade, the rim to tilt it in steps of 5° (free with Alt).</p>
    </ElDialog>
</template>

<style scoped>
th {
    padding: 3px 18px 3px 0;
    text-align: left;
    white-space: nowrap;
}

kbd {
    font: 600 13.5px 'Source Sans 3 Variable', sans-serif;
}
</style>
