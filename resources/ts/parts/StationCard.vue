<script setup lang="ts">
defineProps<{ label: string }>()
</script>

<template>
    <section class="card" :aria-label="label">
        <div class="body"><slot /></div>
        <footer v-if="$slots.foot"><slot name="foot" /></footer>
    </section>
</template>

<style scoped>
.card {
    display: flex;
    flex: 1;
    flex-direction: column;
    min-height: 0;
}

.body {
    display: flex;
    flex: 1;
    flex-direction: column;
    gap: 6px;
    overflow-y: auto;
    padding: 8px 16px 6px;
}

footer {
    padding: 8px 16px 6px;
    border-top: 1px solid var(--rule);
}

footer :deep(.sentence) {
    min-height: 38px;
    margin: 6px 0 0;
    line-height: 1.35;
}
</style>
