<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useSettings } from '../stores/settings'
import { picture, type Part } from '../view/picture'

const props = defineProps<{ parts: Part[]; theme?: 'day'; /** Drawn though it is not in sight: on paper all is. */ eager?: boolean }>()
const settings = useSettings()
const source = ref('')
const place = ref<HTMLElement>()
const gone = new AbortController()
const watched = new IntersectionObserver(seen, { rootMargin: '300px' })

async function draw() {
    source.value = await picture(props.parts, props.theme ?? settings.theme, gone.signal, inSight).catch(() => '')
}

function inSight() {
    const box = place.value?.getBoundingClientRect()
    return box !== undefined && box.bottom > 0 && box.top < innerHeight
}

// A long shelf draws what comes into sight.
function seen(entries: IntersectionObserverEntry[]) {
    if (!entries.some((entry) => entry.isIntersecting)) return
    watched.disconnect()
    void draw()
}

onMounted(() => {
    if (props.eager) void draw()
    else if (place.value) watched.observe(place.value)
})
onBeforeUnmount(() => {
    watched.disconnect()
    gone.abort()
})
watch(() => settings.theme, draw)
</script>

<template>
    <div ref="place" class="thumbnail"><img v-if="source" :src="source" alt=""><span v-else class="soft">being drawn…</span></div>
</template>

<style scoped>
.thumbnail {
    height: 230px;
    border-bottom: 1px solid var(--rule);
    background: var(--ground);
}

span {
    display: grid;
    height: 100%;
    place-items: center;
    font-size: 13px;
}

img {
    display: block;
    width: 100%;
    height: 100%;
    object-fit: contain;
}
</style>
