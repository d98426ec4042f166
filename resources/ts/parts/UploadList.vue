<script setup lang="ts">
import type { Upload } from '../api/types'
import { count, list, size } from '../format'

defineProps<{ uploads: Upload[]; sizeOf: (upload: Upload) => number[] }>()

const state = (upload: Upload) => {
    const { watertight, faults } = upload.report
    if (watertight) return 'watertight'
    const parts = []
    if (faults.open_edges) parts.push(count(faults.open_edges, 'open edge', 'open edges'))
    if (faults.nonmanifold_edges) parts.push(count(faults.nonmanifold_edges, 'edge with more than two faces', 'edges with more than two faces'))
    if (faults.flipped_edges) parts.push(count(faults.flipped_edges, 'edge whose faces disagree', 'edges whose faces disagree'))
    return `not watertight: ${parts.join(', ')}`
}
</script>

<template>
    <ul class="files">
        <li v-for="upload in uploads" :key="upload.id">
            <p class="size" data-part="dimensions">{{ size(sizeOf(upload), 2) }}</p>
            <p class="soft">
                {{ upload.file }}, {{ upload.report.format }}{{ upload.report.states_unit ? ', which states its unit' : '' }}: {{ count(upload.report.triangles, 'triangle', 'triangles') }},
                <template v-if="upload.report.parts">{{ upload.report.parts }} parts as pieces,</template><template v-else>{{ count(upload.report.shells, 'shell', 'shells') }},</template>
                <span :class="upload.report.watertight ? 'good' : 'warning'">{{ ` ${state(upload)}` }}</span>.
                <template v-if="upload.report.collapsed">{{ count(upload.report.collapsed, 'triangle', 'triangles') }} without area left out.</template>
            </p>
            <p v-if="upload.report.carries.length" class="soft">It carries {{ list(upload.report.carries) }}: pieces keep them.</p>
            <p v-for="what in upload.report.left_out" :key="what" class="warning">Left out: {{ what }}.</p>
        </li>
    </ul>
    <p v-if="uploads.some((upload) => !upload.report.watertight)" class="soft">The Check station shows the faults and mends them. It can be cut as it is; outlines that run into an open edge stay open and are told.</p>
</template>

<style scoped>
p {
    margin: 0 0 6px;
}

.files {
    overflow-y: auto;
    max-height: 280px;
    margin: 0;
    padding: 0;
    list-style: none;
}

.size {
    font-size: 20px;
}
</style>
