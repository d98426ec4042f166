<script setup lang="ts">
import { ref } from 'vue'
import { ElButton, ElInput, ElPopover } from 'element-plus'
import { api } from '../api/client'
import { said } from '../api/latest'
import type { Printer } from '../api/types'
import { number } from '../format'
import { useProject } from '../stores/project'
import NumberField from './NumberField.vue'

const project = useProject()
const printers = ref<Printer[]>([])
const problem = ref('')
const adding = ref(false)
const fresh = ref({ name: '', x: 200, y: 200, z: 200 })
const open = ref(false)

const told = (printer: Printer) => `${number(printer.x, 0)} × ${number(printer.y, 0)} × ${number(printer.z, 0)}`

async function load() {
    problem.value = ''
    printers.value = await api.printers().catch((error: unknown) => {
        problem.value = said(error)
        return []
    })
}

async function choose(id: number | null) {
    await project.choosePrinter(id)
    open.value = false
}

async function add() {
    try {
        const made = await api.addPrinter({ ...fresh.value, name: fresh.value.name.trim() })
        adding.value = false
        fresh.value.name = ''
        await load()
        await choose(made.id)
    } catch (error) {
        problem.value = said(error)
    }
}

async function remove(printer: Printer) {
    try {
        await api.removePrinter(printer.id)
        if (project.project?.printer?.id === printer.id) await project.choosePrinter(null)
        await load()
    } catch (error) {
        problem.value = said(error)
    }
}
</script>

<template>
    <ElPopover v-model:visible="open" trigger="click" :width="320" placement="bottom-start" @show="load">
        <template #reference>
            <button class="plain soft chosen">{{ project.project?.printer ? `${project.project.printer.name} ${told(project.project.printer)}` : 'no printer' }}</button>
        </template>
        <ul>
            <li v-for="printer in printers" :key="printer.id">
                <button class="plain" :aria-pressed="project.project?.printer?.id === printer.id" @click="choose(printer.id)"><span>{{ printer.name }}</span> <span class="soft">{{ told(printer) }} mm</span></button>
                <button v-if="printer.own" class="link" :aria-label="`Remove ${printer.name}`" @click="remove(printer)">remove</button>
            </li>
            <li><button class="plain" :aria-pressed="!project.project?.printer" @click="choose(null)">no printer</button></li>
        </ul>
        <button v-if="!adding" class="link" @click="adding = true">add your own…</button>
        <form v-else @submit.prevent="add">
            <ElInput v-model="fresh.name" placeholder="Name" aria-label="Name of the printer" maxlength="80" size="small" />
            <div class="sides">
                <NumberField v-for="axis in (['x', 'y', 'z'] as const)" :key="axis" class="side" :model-value="fresh[axis]" :unit="axis" label="Working space" :digits="0" :min="1" :max="100000" @update:model-value="fresh[axis] = $event" />
            </div>
            <ElButton size="small" native-type="submit" type="primary">Add</ElButton>
        </form>
        <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    </ElPopover>
</template>

<style scoped>
.chosen {
    font-size: 13px;
    white-space: nowrap;
}

.chosen:hover {
    color: var(--ink);
}

ul {
    margin: 0 0 8px;
    padding: 0;
    list-style: none;
}

li {
    display: flex;
    justify-content: space-between;
    padding: 4px 0;
}

li [aria-pressed='true'] {
    font-weight: 600;
}

.sides {
    display: flex;
    gap: 6px;
    margin: 8px 0;
}

.side {
    width: 88px;
}

.problem {
    color: var(--cut);
}
</style>
