<script setup lang="ts">
import { computed } from 'vue'
import { ElButton } from 'element-plus'
import type { AllFaults } from '../api/types'
import { count, number, volume } from '../format'
import { useCheck } from '../stores/check'
import { useProject } from '../stores/project'

const check = useCheck()
const project = useProject()

const rows: [keyof AllFaults, string][] = [
    ['open_edges', 'open edges'], ['nonmanifold_edges', 'edges with more than two faces'], ['flipped_edges', 'edges whose faces disagree'], ['doubled_faces', 'doubled faces'], ['sliver_faces', 'slivers'],
]
const answer = computed(() => check.preview?.answer ?? null)
const changes = computed(() => rows.filter(([key]) => answer.value && (answer.value.before.faults[key] || answer.value.after.faults[key])))
const nothing = computed(() => answer.value !== null && answer.value.added === 0 && answer.value.removed === 0)
</script>

<template>
    <section v-if="check.preview && answer" class="preview" aria-label="What the mend would change" data-part="preview">
        <h3>{{ check.preview.words }}</h3>
        <p v-if="nothing">It would change nothing.</p>
        <template v-else>
            <table>
                <thead><tr><th scope="col"><span class="soft">faults</span></th><th scope="col">before</th><th scope="col">after</th></tr></thead>
                <tbody>
                    <tr v-for="[key, words] in changes" :key="key">
                        <th scope="row">{{ words }}</th><td>{{ number(answer.before.faults[key] ?? 0, 0) }}</td><td :class="answer.after.faults[key] ? 'warning' : 'good'">{{ number(answer.after.faults[key] ?? 0, 0) }}</td>
                    </tr>
                    <tr><th scope="row">volume</th><td>{{ volume(answer.before.volume_mm3) }}</td><td>{{ volume(answer.after.volume_mm3) }}</td></tr>
                </tbody>
            </table>
            <p>
                Removes <span class="mark removed">{{ count(answer.removed, 'face', 'faces') }}</span>, adds <span class="mark added">{{ count(answer.added, 'face', 'faces') }}</span>;
                <b :class="answer.after.watertight ? 'good' : 'warning'">{{ answer.after.watertight ? 'watertight after' : 'still not watertight' }}</b>.
            </p>
            <p v-if="answer.did.redrawn" class="warning" data-part="redrawn">
                The gaps are too wide to join across. A new surface is drawn around what the faces enclose: along them, and across the gaps.
                No face stays quite where it was, and sharp edges become a little rounder.
            </p>
            <p v-else-if="answer.did.joined" class="soft">{{ count(answer.did.joined, 'vertex joined', 'vertices joined') }}.</p>
        </template>
        <div class="acts">
            <ElButton v-if="!nothing" type="primary" :disabled="project.busy" @click="check.mend(check.preview.question)">{{ check.editing ? 'Run again' : 'Do it' }}</ElButton>
            <ElButton @click="check.leave()">Leave it</ElButton>
        </div>
    </section>
</template>

<style scoped>
.preview {
    display: flex;
    flex-direction: column;
    gap: 8px;
    padding: 10px 12px;
    border: 1px solid var(--rule);
    border-left: 3px solid var(--good);
    border-radius: 3px;
    background: var(--field);
    font-size: 13px;
}

h3 {
    font-size: 15px;
}

table {
    border-collapse: collapse;
}

th {
    padding: 1px 0;
    font-weight: 400;
    text-align: left;
}

thead th + th,
td {
    padding-left: 8px;
    text-align: right;
    white-space: nowrap;
}

p {
    margin: 0;
}

.mark {
    border-bottom: 2px solid var(--cut);
}

.mark.added {
    border-bottom-color: var(--good);
}

.acts {
    display: flex;
}
</style>
