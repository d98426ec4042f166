<script setup lang="ts">
import { computed } from 'vue'
import type { Piece } from '../api/types'
import { count, label, size, volume } from '../format'
import { useProject } from '../stores/project'

const store = useProject()

const span = (piece: Piece) => size(piece.max.map((m, k) => m - piece.min[k]))

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
    const hidden = store.hidden.length
    const tight = leaky === 0 ? (pieces.length === 1 ? 'watertight' : 'all watertight') : `${leaky} not watertight`
    return `${count(pieces.length, 'piece', 'pieces')}, ${tight}${hidden ? `, ${hidden} hidden` : ''}.`
})
</script>

<template>
    <section class="pieces" aria-label="Pieces">
        <header>
            <h2>Pieces</h2>
            <button v-if="store.hidden.length" class="link" @click="store.showAll()">Show all</button>
        </header>
        <ul>
            <li
                v-for="piece in store.living" :key="piece.id" :class="{ picked: store.picked.includes(piece.id), away: store.hidden.includes(piece.id) }"
                :data-piece="piece.name"
            >
                <button class="plain body" :aria-pressed="store.picked.includes(piece.id)" @click="store.pick(piece.id, $event.shiftKey || $event.ctrlKey || $event.metaKey)">
                    <span class="swatch" :style="{ background: piece.colour }" />
                    <span class="text">
                        <span class="name">{{ label(piece.name) }}</span>
                        <span class="soft numbers">{{ span(piece) }}</span>
                        <span class="soft numbers">{{ volume(piece.volume) }} · {{ count(piece.triangles, 'triangle', 'triangles') }}</span>
                        <span v-if="piece.watertight" class="good state">watertight</span>
                        <span v-else class="warning state">not watertight: {{ faults(piece) }}</span>
                    </span>
                </button>
                <span class="acts">
                    <button class="link" :aria-label="`${store.hidden.includes(piece.id) ? 'Show' : 'Hide'} ${label(piece.name)}`" @click="store.hide(piece.id)">
                        {{ store.hidden.includes(piece.id) ? 'show' : 'hide' }}
                    </button>
                    <button v-if="store.living.length > 1" class="link" :aria-label="`Isolate ${label(piece.name)}`" @click="store.isolate(piece.id)">isolate</button>
                </span>
            </li>
        </ul>
        <p class="soft">{{ summary }}</p>
    </section>
</template>

<style scoped>
.pieces {
    display: flex;
    flex-direction: column;
    min-height: 0;
}

header {
    display: flex;
    align-items: baseline;
    justify-content: space-between;
    padding: 14px 16px 8px;
}

ul {
    overflow-y: auto;
    margin: 0;
    padding: 0 8px;
    list-style: none;
}

li {
    position: relative;
    border-bottom: 1px solid var(--rule);
    content-visibility: auto;
    contain-intrinsic-size: auto 88px;
}

li.picked {
    background: var(--picked-wash);
}

li.away .text {
    opacity: 0.45;
}

.body {
    display: flex;
    gap: 10px;
    width: 100%;
    padding: 8px;
    text-align: left;
}

.swatch {
    flex: none;
    width: 13px;
    height: 13px;
    margin-top: 4px;
    border-radius: 2px;
}

.text {
    display: flex;
    flex-direction: column;
    min-width: 0;
}

.name {
    font-size: 15px;
}

.numbers,
.state {
    font-size: 12.5px;
    line-height: 1.35;
}

.acts {
    position: absolute;
    top: 9px;
    right: 8px;
    display: flex;
    gap: 10px;
    font-size: 12.5px;
}

p {
    margin: 12px 16px;
}
</style>
