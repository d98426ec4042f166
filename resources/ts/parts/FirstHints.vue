<script setup lang="ts">
import { computed } from 'vue'
import { station } from '../stations'
import { useSettings } from '../stores/settings'

const settings = useSettings()
const hints = computed(() => station().hints)
</script>

<template>
    <aside v-if="settings.hints" class="hints" aria-label="Hints">
        <ul><li v-for="hint in hints" :key="hint">{{ hint }}</li></ul>
        <button class="link" @click="settings.hints = false">send the hints away</button>
    </aside>
</template>

<style scoped>
.hints {
    position: absolute;
    bottom: 56px;
    left: 14px;
    z-index: 1;
    max-width: 330px;
    padding: 9px 14px 10px;
    border: 1px solid var(--rule);
    border-radius: 3px;
    background: color-mix(in srgb, var(--sheet) 94%, transparent);
    font-size: 13px;
}

ul {
    margin: 0 0 6px;
    padding-left: 16px;
}
</style>
