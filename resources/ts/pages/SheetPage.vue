<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { ElButton, ElCheckbox } from 'element-plus'
import { api } from '../api/client'
import { said } from '../api/latest'
import type { Piece, Run, SheetAnswer, Vector } from '../api/types'
import { count, duration, list, mm2, number, size, volume } from '../format'
import RunProgress from '../parts/RunProgress.vue'
import Thumbnail from '../parts/Thumbnail.vue'
import Wordmark from '../parts/Wordmark.vue'
import { asked } from '../stores/asked'
import { usePlates } from '../stores/plates'
import { title, useProject } from '../stores/project'

const props = defineProps<{ id: number }>()
const project = useProject()
const plates = usePlates()
const sheet = ref<SheetAnswer | null>(null)
const working = ref<Run | null>(null)
const waits = ref(false)
const problem = ref('')
const supported = ref(false)

/** How far apart parts are drawn, as a share of the whole. */
const APART = 0.22

const pieces = computed(() => project.living)
const byName = computed(() => new Map(pieces.value.map((piece) => [piece.name, piece])))
/** Parts are numbered in the order in which they are put together. */
const order = computed(() => [...new Set((sheet.value?.steps ?? []).filter(({ pieces: some }) => some.length === 1 || !sheet.value?.steps.some((other) => other.apart && some.includes(other.pieces[0]))).flatMap(({ pieces: some }) => some))])
const numbers = computed(() => new Map(order.value.map((name, n) => [name, n + 1])))
const parts = computed(() => order.value.flatMap((name) => byName.value.get(name) ?? []))
const carried = (piece: Piece) => ({ mesh: piece.mesh, colour: piece.colour, carries: [] as string[] })

/** Every part drawn out the way it is put in. */
const shifts = computed(() => {
    const { min, max } = project.whole
    const far = APART * Math.hypot(...max.map((high, k) => high - min[k]))
    const shifts = new Map<string, Vector>()
    for (const { pieces: some, onto, along, apart } of [...(sheet.value?.steps ?? [])].sort((a, b) => Number(a.apart) - Number(b.apart))) {
        const base = shifts.get(onto[0] ?? '') ?? ([0, 0, 0] as Vector)
        for (const name of some) {
            const own = apart ? (shifts.get(name) ?? base) : base
            shifts.set(name, along ? (own.map((c, k) => c - far * along[k]) as Vector) : own)
        }
    }
    return shifts
})
const exploded = computed(() => parts.value.map((piece) => ({ ...carried(piece), shift: shifts.value.get(piece.name) })))

const neighbours = (piece: Piece) => (sheet.value?.joints ?? []).filter(({ between }) => between.includes(piece.name))
    .map(({ between, ...joint }) => ({ other: numbers.value.get(between[between[0] === piece.name ? 1 : 0]) ?? 0, ...joint })).sort((a, b) => a.other - b.other)
const plateOf = (piece: Piece) => plates.laid.flatMap(({ pieces: some }, n) => (some.some((one) => one.piece === piece.name) ? [n + 1] : []))
const printOf = (piece: Piece) => sheet.value?.prints.flatMap((plate) => plate.pieces).find((one) => one.piece === piece.name) ?? null
const beds = computed(() => plates.laid.flatMap(({ pieces: some }, n) => (some.length ? [{
    number: n + 1, names: `${some.length === 1 ? 'part' : 'parts'} ${list(some.map(({ piece, copy }) => `${numbers.value.get(piece) ?? '?'}${copy > 1 ? ` (${copy})` : ''}`))}`, print: sheet.value?.prints[n] ?? null,
    parts: some.flatMap(({ piece, pose }) => { const own = byName.value.get(piece); return own ? [{ ...carried(own), pose }] : [] }),
}] : [])))
const total = computed(() => (sheet.value?.prints ?? []).reduce((sum, plate) => ({ seconds: sum.seconds + plate.seconds, grams: sum.grams + plate.grams }), { seconds: 0, grams: 0 }))
const told = (names: string[]) => list(names.map((name) => `${numbers.value.get(name)}`))

/** A direction in words. */
function way([x, y, z]: Vector): string {
    const parts = [[z, 'from above', 'from below'], [x, 'from the left', 'from the right'], [y, 'from the front', 'from behind']] as const
    const words = parts.filter(([c]) => Math.abs(c) > 0.35).sort((a, b) => Math.abs(b[0]) - Math.abs(a[0])).map(([c, less, more]) => (c < 0 === (less === 'from above') ? less : more))
    return words.slice(0, 2).join(' and ')
}

async function ask() {
    const printer = project.project?.printer
    if (!printer) {
        problem.value = 'Choose a printer for the project first: the sheet tells what printing takes.'
        return
    }
    problem.value = ''
    waits.value = true
    try {
        const answer = await asked(() => api.sheet(props.id, { ...plates.laidQuestion, supported: supported.value, pieces: null }), (run) => { working.value = run })
        if (answer) sheet.value = answer
    } catch (error) {
        problem.value = said(error)
    } finally {
        waits.value = false
    }
}

// A sheet is paper, by night too.
const root = document.documentElement
const theme = root.dataset.theme
root.dataset.theme = 'day'
onBeforeUnmount(() => { root.dataset.theme = theme })

onMounted(async () => {
    if (project.project?.id !== props.id) await project.open(props.id)
    await plates.load()
    document.title = `${project.project?.name ?? ''}, assembly sheet · Isotome`
    await ask()
})
watch(supported, ask)

const stop = () => { if (working.value) void api.cancel(working.value.id) }
const print = () => window.print()
</script>

<template>
    <div class="page sheet-page">
        <header class="bar">
            <RouterLink to="/" aria-label="To the shelf"><Wordmark /></RouterLink>
            <RouterLink :to="{ name: 'project', params: { id } }">back to {{ project.project?.name ?? 'the project' }}</RouterLink>
            <ElCheckbox v-model="supported" class="end">printed with supports</ElCheckbox>
            <ElButton type="primary" :disabled="!sheet" @click="print">Print, or keep as PDF</ElButton>
        </header>
        <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
        <RunProgress v-if="waits" :run="working" label="Making the sheet" @stop="stop" />
        <article v-if="sheet && project.project">
            <h1>{{ project.project.name }}</h1>
            <p class="sum">
                {{ count(parts.length, 'part', 'parts') }}, {{ count(plates.laid.filter((plate) => plate.pieces.length).length, 'plate', 'plates') }} of {{ project.project.printer?.name }}<template v-if="total.seconds"> · about {{ duration(total.seconds) }} and {{ number(total.grams, 0) }} g of material, as the simulated printer reckons</template>
            </p>
            <figure class="whole"><Thumbnail :parts="exploded" theme="day" eager /><figcaption>Every part is drawn out the way it is put in.</figcaption></figure>
            <h2>Putting it together</h2>
            <ol class="steps" aria-label="Steps of putting together">
                <li v-for="(step, n) in sheet.steps" :key="n">
                    <template v-if="step.blocked"><strong>{{ told(step.pieces) }}</strong> hold each other: no order was found in which they go together without bending.</template>
                    <template v-else-if="step.along"><strong>{{ told(step.pieces) }}</strong>{{ step.pieces.length > 1 ? ', put together before,' : '' }} {{ step.onto.length ? `onto ${told(step.onto)}` : 'beside it' }}, {{ way(step.along) }}.</template>
                    <template v-else>Begin with <strong>{{ told(step.pieces) }}</strong>{{ step.apart ? ', apart from the rest' : '' }}.</template>
                </li>
            </ol>
            <template v-if="beds.length">
                <h2>Plates</h2>
                <ul class="parts" aria-label="Plates of the sheet">
                    <li v-for="bed in beds" :key="bed.number">
                        <Thumbnail :parts="bed.parts" theme="day" eager />
                        <div>
                            <h3>Plate {{ bed.number }}</h3>
                            <p>{{ bed.names }}</p>
                            <p v-if="bed.print">{{ duration(bed.print.seconds) }}, {{ number(bed.print.grams, 0) }} g</p>
                        </div>
                    </li>
                </ul>
            </template>
            <h2>Parts</h2>
            <ul class="parts" aria-label="Parts">
                <li v-for="piece in parts" :key="piece.id">
                    <Thumbnail :parts="[carried(piece)]" theme="day" eager />
                    <div>
                        <h3><span class="number">{{ numbers.get(piece.name) }}</span> {{ title(piece) }}</h3>
                        <p>{{ size(piece.max.map((high, k) => high - piece.min[k])) }} · {{ volume(piece.volume) }}</p>
                        <p v-if="plateOf(piece).length">plate {{ list(plateOf(piece).map(String)) }}<template v-if="printOf(piece)"> · {{ duration(printOf(piece)!.seconds) }}, {{ number(printOf(piece)!.grams, 1) }} g</template></p>
                        <p v-else class="soft">on no plate</p>
                        <p v-for="joint in neighbours(piece)" :key="joint.other">to {{ joint.other }}: {{ mm2(joint.area_mm2) }}{{ joint.pegs ? `, ${count(joint.pegs, 'peg', 'pegs')}` : '' }}</p>
                    </div>
                </li>
            </ul>
        </article>
    </div>
</template>

<style scoped>
.page {
    height: 100%;
    overflow: auto;
    background: var(--sheet);
}

.bar {
    display: flex;
    gap: 18px;
    align-items: center;
    padding: 8px 16px;
    border-bottom: 1px solid var(--rule);
}

.bar a {
    color: var(--ink);
}

.end {
    margin-left: auto;
}

.problem {
    padding: 8px 16px;
    color: var(--cut);
}

.page > .work {
    width: 320px;
    margin: 24px auto;
}

article {
    max-width: 860px;
    margin: 0 auto;
    padding: 22px 24px 60px;
}

h1 {
    margin: 0;
    font: 600 28px 'Source Serif 4 Variable', serif;
}

h2 {
    margin: 22px 0 8px;
    font: 600 18px 'Source Serif 4 Variable', serif;
}

h3 {
    margin: 0 0 2px;
    font-size: 14px;
}

.sum {
    margin: 4px 0 12px;
}

figure {
    margin: 0;
    border: 1px solid var(--rule);
}

.whole :deep(.thumbnail) {
    height: 430px;
}

figcaption {
    padding: 4px 10px;
    color: var(--soft);
    font-size: 12.5px;
}

.steps {
    margin: 0;
    padding-left: 22px;
    columns: 2;
    column-gap: 32px;
    line-height: 1.5;
}

.parts {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 12px;
    margin: 0;
    padding: 0;
    list-style: none;
}

.parts li {
    break-inside: avoid;
    border: 1px solid var(--rule);
}

.parts li > div:last-child {
    padding: 6px 10px 8px;
    font-size: 12.5px;
}

.parts p {
    margin: 0;
    font-variant-numeric: tabular-nums;
}

.parts :deep(.thumbnail) {
    height: 150px;
}

.number {
    display: inline-block;
    min-width: 20px;
    margin-right: 4px;
    padding: 0 5px;
    border: 1px solid var(--ink);
    border-radius: 10px;
    font-size: 12.5px;
    text-align: center;
}

@media print {
    .bar,
    .problem {
        display: none;
    }

    .page {
        height: auto;
        overflow: visible;
    }

    article {
        max-width: none;
        padding: 0;
    }
}
</style>

<style>
@media print {
    html:has(.sheet-page),
    html:has(.sheet-page) body,
    html:has(.sheet-page) #app {
        height: auto;
        overflow: visible;
    }
}
</style>
