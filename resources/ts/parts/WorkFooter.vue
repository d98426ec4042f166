<script setup lang="ts">
import { ref, useTemplateRef } from 'vue'
import { api } from '../api/client'
import { useBlade } from '../stores/blade'
import { useProject } from '../stores/project'
import ExportDialog from './ExportDialog.vue'
import FurtherMesh from './FurtherMesh.vue'
import InsideDialog from './InsideDialog.vue'

const project = useProject()
const blade = useBlade()
const out = ref(false)
const inside = ref(false)
const file = useTemplateRef('file')
const further = useTemplateRef('further')

async function apply(files: FileList | null) {
    const one = files?.[0]
    if (!one || !project.project || project.busy) return
    try {
        let recipe: unknown
        try {
            recipe = JSON.parse(await one.text())
        } catch {
            project.problem = `The file ${one.name} is not JSON; choose a file that was downloaded as a recipe.`
            return
        }
        if (await project.follow(await api.apply(project.project.id, recipe))) blade.ask()
    } catch (error) {
        project.refused(error)
    } finally {
        if (file.value) file.value.value = ''
    }
}

/** Files that were dropped on the project. */
defineExpose({ bringIn: (files: FileList | null | undefined) => further.value?.begin(files) })
</script>

<template>
    <footer v-if="project.project && project.living.length" class="work">
        <span class="row">
            <button class="link" :disabled="!project.project.history.undo || project.held" :title="`Undo ${project.project.history.undo ?? ''}`" @click="project.undo()">Undo{{ project.project.history.undo ? `: ${project.project.history.undo}` : '' }}</button>
            <button v-if="project.project.history.redo" class="link" :disabled="project.held" :title="`Do again ${project.project.history.redo}`" @click="project.redo()">Do again: {{ project.project.history.redo }}</button>
        </span>
        <span class="row">
            <FurtherMesh ref="further" />
            <button class="link" @click="out = true">Take out…</button>
            <button class="link" title="How faces made by cutting look" @click="inside = true">Inside…</button>
        </span>
        <span class="row">
            <span class="soft">Recipe</span>
            <a v-if="project.project.steps.length" :href="api.recipe(project.project.id)" download>download</a>
            <button class="link" :disabled="project.busy" @click="file?.click()">apply one…</button>
            <input ref="file" type="file" accept=".json,application/json" class="file" aria-label="Recipe to apply" tabindex="-1" @change="apply(($event.target as HTMLInputElement).files)">
        </span>
        <ExportDialog v-model="out" />
        <InsideDialog v-model="inside" />
    </footer>
</template>

<style scoped>
.work {
    display: flex;
    flex-direction: column;
    gap: 5px;
    padding: 9px 16px 11px;
    border-top: 1px solid var(--rule);
}

.row {
    display: flex;
    gap: 14px;
}

.row .link {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}

.file {
    position: absolute;
    width: 1px;
    height: 1px;
    opacity: 0;
}
</style>
