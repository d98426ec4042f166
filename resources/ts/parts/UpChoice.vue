<script setup lang="ts">
import { onMounted, useTemplateRef, watch } from 'vue'
import { drawSketch } from '../view/sketch'
import { vRoving } from './roving'

type Up = 'z' | 'y'

const props = defineProps<{ modelValue: Up; sketch: string }>()
defineEmits<{ 'update:modelValue': [up: Up] }>()

const ways: { value: Up; text: string }[] = [{ value: 'z', text: 'Z is up' }, { value: 'y', text: 'Y is up' }]
const pictures = useTemplateRef<HTMLCanvasElement[]>('pictures')

function draw() {
    const bytes = Uint8Array.from(atob(props.sketch), (letter) => letter.charCodeAt(0))
    const ratio = Math.min(devicePixelRatio, 2)
    pictures.value?.forEach((canvas, n) => {
        canvas.width = 132 * ratio
        canvas.height = 108 * ratio
        drawSketch(canvas, bytes, ways[n].value, [168, 178, 160])
    })
}

onMounted(draw)
watch(() => props.sketch, draw)
</script>

<template>
    <span v-roving class="ways" role="radiogroup" aria-label="This way is up">
        <button v-for="way in ways" :key="way.value" type="button" role="radio" :aria-checked="modelValue === way.value" @click="$emit('update:modelValue', way.value)">
            <canvas ref="pictures" aria-hidden="true" /><span>{{ way.text }}</span>
        </button>
    </span>
</template>

<style scoped>
.ways {
    display: inline-flex;
    gap: 10px;
}

button {
    display: grid;
    gap: 2px;
    padding: 6px 8px 4px;
    border: 1px solid var(--rule);
    border-radius: 3px;
    background: var(--ground);
    color: var(--soft);
    cursor: pointer;
}

button[aria-checked='true'] {
    border-color: var(--cut);
    box-shadow: inset 0 -2px 0 var(--cut);
    color: var(--ink);
}

canvas {
    width: 132px;
    height: 108px;
}
</style>
