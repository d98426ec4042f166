<script setup lang="ts">
import { ref } from 'vue'
import { ElButton, ElCheckbox, ElInput, ElPopover } from 'element-plus'
import { api } from '../api/client'
import { said } from '../api/latest'
import type { Printer } from '../api/types'
import { number } from '../format'
import { useProject } from '../stores/project'
import NumberField from './NumberField.vue'

const project = useProject()
const printers = ref<Printer[]>([])
const problem = ref('')
/** The printer that is added or changed: null when none is. */
const edited = ref<Printer | Omit<Printer, 'id' | 'own'> | null>(null)
/** Common practice. */
const FRESH = { name: '', x: 200, y: 200, z: 200, round: false, nozzle: 0.4, layer: 0.2, gap: 0.3, margin: 2 }
const LENGTHS = [['nozzle', 'nozzle', 0.05, 10, 2], ['layer', 'layer', 0.01, 10, 2], ['gap', 'fit gap', 0, 10, 2], ['margin', 'margin', 0, 1000, 1]] as const
const open = ref(false)

const told = (printer: Printer) => printer.round ? `Ø ${number(printer.x, 0)} × ${number(printer.z, 0)}` : `${number(printer.x, 0)} × ${number(printer.y, 0)} × ${number(printer.z, 0)}`

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

/** Enter takes a number; it does not send the form. */
const isNumber = (event: KeyboardEvent) => (event.target as HTMLElement).getAttribute('inputmode') === 'decimal'

async function save() {
    const printer = edited.value
    if (!printer) return
    const asked = { ...printer, name: printer.name.trim(), y: printer.round ? printer.x : printer.y }
    try {
        const made = 'id' in asked ? await api.changePrinter(asked.id, asked) : await api.addPrinter(asked)
        // Closed at once: whoever opens it again while the rest is under way finds it open.
        edited.value = null
        open.value = false
        await project.choosePrinter(made.id)
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
                <span v-if="printer.own" class="own"><button class="link" :aria-label="`Change ${printer.name}`" @click="edited = { ...printer }">change</button> <button class="link" :aria-label="`Remove ${printer.name}`" @click="remove(printer)">remove</button></span>
            </li>
            <li><button class="plain" :aria-pressed="!project.project?.printer" @click="choose(null)">no printer</button></li>
        </ul>
        <p v-if="project.project?.printer && !edited" class="soft numbers">nozzle {{ number(project.project.printer.nozzle, 2) }}, layers {{ number(project.project.printer.layer, 2) }}, fit gap {{ number(project.project.printer.gap, 2) }}, margin {{ number(project.project.printer.margin, 1) }} mm</p>
        <button v-if="!edited" class="link" @click="edited = { ...FRESH }">add your own…</button>
        <form v-else @submit.prevent="save" @keydown.enter="isNumber($event) && $event.preventDefault()">
            <ElInput v-model="edited.name" placeholder="Name" aria-label="Name of the printer" maxlength="80" size="small" />
            <div class="sides">
                <NumberField v-for="axis in (edited.round ? (['x', 'z'] as const) : (['x', 'y', 'z'] as const))" :key="axis" class="side" :model-value="edited[axis]" :unit="edited.round && axis === 'x' ? 'Ø' : axis" label="Working space" :digits="0" :min="1" :max="100000" @update:model-value="edited[axis] = $event" />
            </div>
            <ElCheckbox v-model="edited.round">round bed</ElCheckbox>
            <div class="lengths">
                <label v-for="[key, words, min, max, digits] in LENGTHS" :key="key">{{ words }} <NumberField class="side" :model-value="edited[key]" unit="mm" :label="`Printer’s ${words}`" :digits="digits" :step="0.05" :min="min" :max="max" @update:model-value="edited[key] = $event" /></label>
            </div>
            <ElButton size="small" native-type="submit" type="primary">{{ 'id' in edited ? 'Save' : 'Add' }}</ElButton>
            <ElButton size="small" @click="edited = null">Leave it</ElButton>
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

.own {
    white-space: nowrap;
}

.lengths {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 6px;
    margin-bottom: 8px;
}

.lengths label {
    display: flex;
    align-items: center;
    justify-content: space-between;
    color: var(--soft);
    font-size: 12.5px;
}

.numbers {
    margin: 0 0 8px;
    font-size: 12.5px;
}

.problem {
    color: var(--cut);
}
</style>
