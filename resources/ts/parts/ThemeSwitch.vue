<script setup lang="ts">
import { useSettings } from '../stores/settings'

const settings = useSettings()

function set(theme: 'day' | 'night') {
    settings.theme = theme
    settings.keep()
}
</script>

<template>
    <span class="theme" role="group" aria-label="Colours of the page">
        <button class="plain" :aria-pressed="settings.theme === 'day'" @click="set('day')">Day</button>
        ·
        <button class="plain" :aria-pressed="settings.theme === 'night'" @click="set('night')">Night</button>
    </span>
</template>

<style scoped>
.theme {
    color: var(--soft);
}

button[aria-pressed='true'] {
    color: var(--ink);
    font-weight: 600;
}
</style>
