<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import type { Piece } from '../api/types'
import { count, fitTitle, fitWords, size, volume } from '../format'
import { title, useProject } from '../stores/project'
import { useSettings, type Sorting } from '../stores/settings'
import { choose } from '../kinds'
import MaterialList from './MaterialList.vue'

const store = useProject()
const settings = useSettings()
const wanted = ref('')
const naming = ref<number | null>(null)
const newName = ref('')
let last: number | null = null

const sortings: { value: Sorting; text: string }[] = [
    { value: 'lineage', text: 'by lineage' }, { value: 'name', text: 'by name' }, { value: 'size', text: 'largest side first' }, { value: 'volume', text: 'largest volume first' },
    { value: 'triangles', text: 'most triangles first' }, { value: 'trouble', text: 'trouble first' },
]
const span = (piece: Piece) => piece.max.map((m, k) => m - piece.min[k])
const trouble = (piece: Piece) => (piece.watertight ? 0 : 2) + (piece.fit && !piece.fit.fits ? 1 : 0)

const order: Record<Sorting, ((a: Piece, b: Piece) => number) | null> = {
    lineage: null,
    name: (a, b) => title(a).localeCompare(title(b), 'en', { numeric: true }),
    size: (a, b) => Math.max(...span(b)) - Math.max(...span(a)),
    volume: (a, b) => b.volume - a.volume,
    triangles: (a, b) => b.triangles - a.triangles,
    trouble: (a, b) => trouble(b) - trouble(a),
}

/** Words to look for are in the name, or one of: watertight, open, large, fits, hidden. */
const listed = computed(() => {
    const words = wanted.value.toLowerCase().split(/\s+/).filter(Boolean)
    const matches = (piece: Piece) => words.every((word) => title(piece).toLowerCase().includes(word)
        || (word === 'watertight' && piece.watertight) || (word === 'open' && !piece.watertight) || (word === 'large' && piece.fit?.fits === false)
        || (word === 'fits' && piece.fit?.fits === true) || (word === 'hidden' && store.hiddenIds.has(piece.id)))
    const some = words.length ? store.living.filter(matches) : store.living
    const compare = order[settings.sorting]
    return compare ? [...some].sort(compare) : some
})

const faults = (piece: Piece) => {
    const { open_edges: open, nonmanifold_edges: crowded, flipped_edges: flipped } = piece.faults
    const parts = []
    if (open) parts.push(count(open, 'open edge', 'open edges'))
    if (crowded) parts.push(count(crowded, 'edge with too many faces', 'edges with too many faces'))
    if (flipped) parts.push(count(flipped, 'edge facing both ways', 'edges facing both ways'))
    return parts.join(', ')
}

const summary = computed(() => {
    const pieces = store.living
    if (!pieces.length) return 'No pieces yet.'
    const leaky = pieces.filter((piece) => !piece.watertight).length
    const large = pieces.filter((piece) => piece.fit?.fits === false).length
    const tight = leaky === 0 ? (pieces.length === 1 ? 'watertight' : 'all watertight') : `${leaky} not watertight`
    const fits = large ? `, ${large === pieces.length ? (large === 1 ? 'too large' : 'all too large') : `${large} too large`} for the printer` : ''
    return `${count(pieces.length, 'piece', 'pieces')}, ${tight}${fits}${store.hidden.length ? `, ${store.hidden.length} hidden` : ''}.`
})

function pick(piece: Piece, event: MouseEvent) {
    if (event.shiftKey && last !== null) {
        const ids = listed.value.map((one) => one.id)
        const [from, to] = [ids.indexOf(last), ids.indexOf(piece.id)].sort((a, b) => a - b)
        if (from >= 0) store.picked = [...new Set([...store.picked, ...ids.slice(from, to + 1)])]
    } else store.pick(piece.id, event.ctrlKey || event.metaKey)
    last = piece.id
}

async function rename(piece: Piece) {
    naming.value = piece.id
    newName.value = title(piece)
    await nextTick()
    document.querySelector<HTMLInputElement>('input.naming')?.select()
}

function named(piece: Piece) {
    if (naming.value !== piece.id) return
    naming.value = null
    if (newName.value.trim() !== title(piece)) void store.change({ pieces: [piece.id], title: newName.value.trim() || null })
}

function combine() {
    settings.station = 'cut'
    choose('combine')
}

function recolour(piece: Piece, colour: string) {
    void store.change({ pieces: store.pickedIds.has(piece.id) ? store.picked : [piece.id], colour })
}
</script>

<template>
    <section class="pieces" aria-label="Pieces">
        <div v-if="store.living.length > 4" class="tools">
            <input v-model="wanted" type="search" placeholder="find…" aria-label="Find pieces" title="Part of a name, or: open, watertight, large, fits, hidden">
            <select v-model="settings.sorting" aria-label="Sort pieces"><option v-for="one in sortings" :key="one.value" :value="one.value">{{ one.text }}</option></select>
        </div>
        <div v-if="store.picked.length || store.hidden.length || wanted" class="tools picked-tools">
            <template v-if="store.picked.length">
                <span>{{ store.picked.length }} picked</span>
                <button class="link" @click="store.hide(store.picked)">hide</button>
                <button v-if="store.picked.length > 1" class="link" :disabled="store.busy" title="Unite them, take some out of the others, or keep what they have in common" @click="combine">combine…</button>
                <button class="link" @click="store.picked = []">none</button>
            </template>
            <button v-if="wanted" class="link" @click="store.picked = listed.map((piece) => piece.id)">pick {{ listed.length }} found</button>
            <button v-if="store.hidden.length" class="link" @click="store.showAll()">Show all</button>
        </div>
        <ul tabindex="-1">
            <li
                v-for="piece in listed" :key="piece.id" :class="{ picked: store.pickedIds.has(piece.id), away: store.hiddenIds.has(piece.id) }"
                :data-piece="piece.name"
            >
                <input
                    class="swatch" type="color" :value="piece.colour" :aria-label="`Colour of ${title(piece)}`" title="Another colour"
                    @change="recolour(piece, ($event.target as HTMLInputElement).value)"
                >
                <input
                    v-if="naming === piece.id" v-model="newName" class="naming" maxlength="120" :aria-label="`New name of ${title(piece)}`"
                    @keydown.enter="named(piece)" @keydown.esc.stop="naming = null" @blur="named(piece)"
                >
                <button v-else class="plain body" :aria-pressed="store.pickedIds.has(piece.id)" @click="pick(piece, $event)" @dblclick="rename(piece)">
                    <span class="name" :title="title(piece)">{{ title(piece) }}</span>
                    <span class="soft numbers">{{ size(span(piece)) }}</span>
                    <span class="soft numbers">{{ volume(piece.volume) }} · {{ count(piece.triangles, 'triangle', 'triangles') }}</span>
                    <span class="state">
                        <span v-if="piece.watertight" class="good">watertight</span>
                        <span v-else class="warning">not watertight: {{ faults(piece) }}</span>
                        <template v-if="piece.fit"> · <span :class="piece.fit.fits ? 'good' : 'warning'" :title="fitTitle(piece.fit)">{{ fitWords(piece.fit) }}</span></template>
                    </span>
                </button>
                <span class="acts">
                    <button class="link" :aria-label="`Rename ${title(piece)}`" @click="rename(piece)">name</button>
                    <button class="link" :aria-label="`${store.hiddenIds.has(piece.id) ? 'Show' : 'Hide'} ${title(piece)}`" @click="store.hide([piece.id])">
                        {{ store.hiddenIds.has(piece.id) ? 'show' : 'hide' }}
                    </button>
                    <button v-if="store.living.length > 1" class="link" :aria-label="`Isolate ${title(piece)}`" @click="store.isolate(piece.id)">isolate</button>
                </span>
                <MaterialList v-if="piece.carries.includes('materials') && (store.living.length === 1 || (store.picked.length === 1 && store.pickedIds.has(piece.id)))" :piece="piece" />
            </li>
        </ul>
        <p v-if="wanted && !listed.length" class="soft">No piece is like that. <button class="link" @click="wanted = ''">Show all</button></p>
        <p class="soft summary">{{ summary }}</p>
    </section>
</template>

<style scoped>
.pieces {
    display: flex;
    flex-direction: column;
    min-height: 0;
}

.tools {
    display: flex;
    gap: 8px;
    padding: 0 16px 8px;
}

.tools input,
.tools select,
.naming {
    min-width: 0;
    height: 28px;
    padding: 0 6px;
    border: 1px solid var(--rule);
    border-radius: 3px;
    background: var(--field);
    color: inherit;
    font: inherit;
    font-size: 13px;
}

.tools input {
    flex: 1;
}

.tools select {
    width: 108px;
}

.picked-tools {
    gap: 14px;
    font-size: 13px;
}

ul {
    overflow-y: auto;
    margin: 0;
    padding: 0 8px;
    list-style: none;
}

li {
    position: relative;
    display: flex;
    flex-wrap: wrap;
    gap: 0 10px;
    padding: 7px 8px;
    border-bottom: 1px solid var(--rule);
    content-visibility: auto;
    contain-intrinsic-size: auto 88px;
}

li.picked {
    background: var(--picked-wash);
}

li.away .body,
li.away .swatch {
    opacity: 0.55;
}

.body {
    display: flex;
    flex: 1;
    flex-direction: column;
    min-width: 0;
    text-align: left;
}

.naming {
    flex: 1;
    margin-bottom: 40px;
}

.swatch {
    flex: none;
    width: 14px;
    height: 14px;
    margin: 4px 0 0;
    padding: 0;
    border: 0;
    border-radius: 2px;
    background: none;
    cursor: pointer;
}

.swatch::-webkit-color-swatch-wrapper {
    padding: 0;
}

.swatch::-webkit-color-swatch {
    border: 0;
    border-radius: 2px;
}

.name {
    overflow: hidden;
    max-width: 100%;
    font-size: 15px;
    text-overflow: ellipsis;
    white-space: nowrap;
}

.numbers,
.state {
    font-size: 12.5px;
    line-height: 1.35;
}

.acts {
    position: absolute;
    top: 8px;
    right: 8px;
    display: flex;
    gap: 9px;
    font-size: 12.5px;
}

/* The whole name can be read; what can be done shows where the pointer, the focus or the picking is. */
.acts {
    opacity: 0;
}

li:hover .acts,
li:focus-within .acts,
li.picked .acts {
    opacity: 1;
}

li:hover .name,
li:focus-within .name,
li.picked .name {
    max-width: calc(100% - 118px);
}

p {
    margin: 10px 16px;
}
</style>
