<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { useSettings } from '../stores/settings'
import { picture } from '../view/picture'

const props = defineProps<{ mesh: string; colour: string }>()
const settings = useSettings()
const source = ref('')

async function draw() {
    source.value = await picture(props.mesh, props.colour, settings.theme).catch(() => '')
}

onMounted(draw)
watch(() => settings.theme, draw)
</script>

<template>
    <div class="thumbnail"><img v-if="source" :src="source" alt=""></div>
</template>

<style scoped>
.thumbnail {
    height: 230px;
    border-bottom: 1px solid var(--rule);
    background: var(--ground);
}

img {
    display: block;
    width: 100%;
    height: 100%;
    object-fit: contain;
}
</style>
