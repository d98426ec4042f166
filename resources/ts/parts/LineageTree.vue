<script setup lang="ts">
import { computed } from 'vue'
import { api } from '../api/client'
import type { Piece, Step } from '../api/types'
import { kindOf } from '../kinds'
import { useBlade } from '../stores/blade'
import { title, useProject } from '../stores/project'
import { useSettings } from '../stores/settings'

const project = useProject()
const blade = useBlade()
const settings = useSettings()

interface Row {
    key: string
    depth: number
    piece?: Piece
    step?: Step
    taken?: Piece
    together?: number
}

/** What a step does, in a few words with its numbers. */
const told = (step: Step) => kindOf(step.settings)?.told(step.settings, step.long) ?? step.settings.do

const rows = computed((): Row[] => {
    const children = new Map<number | null, Piece[]>()
    for (const piece of project.project?.pieces ?? []) children.set(piece.parent, [...(children.get(piece.parent) ?? []), piece])
    const took = new Map<number, number>()
    for (const piece of project.project?.pieces ?? []) if (piece.spent_by !== null) took.set(piece.spent_by, (took.get(piece.spent_by) ?? 0) + 1)
    const list: Row[] = []
    const visit = (piece: Piece, depth: number) => {
        list.push({ key: `p${piece.id}`, depth, piece })
        const step = project.stepOf(piece.spent_by)
        if (!step) return
        list.push({ key: `s${step.id}-${piece.id}`, depth, step, taken: piece, together: took.get(step.id) ?? 1 })
        for (const child of children.get(piece.id) ?? []) visit(child, depth + 1)
    }
    for (const stock of children.get(null) ?? []) visit(stock, 0)
    return list
})

/** What else went into a piece, beside the one it stands under. */
const others = (piece: Piece) => piece.parents.slice(1).map((id) => project.byId.get(id)).filter((one) => one !== undefined).map(title).join(', ')

/** Takes up a step to be changed; what of it is long is fetched first. */
async function edit(brief: Step) {
    const kind = kindOf(brief.settings)
    const id = project.project?.id
    if (!kind || id === undefined) return
    let step = brief
    try {
        if (Object.keys(brief.long).length) step = await api.step(id, brief.id)
    } catch (error) {
        project.refused(error)
        return
    }
    if (project.project?.id !== id) return
    project.editing = step.id
    project.before = null
    project.hidden = []
    settings.station = kind.station
    if (kind.choices.length) blade.kind = kind.id
    kind.edit(step)
}
</script>

<template>
    <section class="lineage" aria-label="Lineage">
        <ul v-if="rows.length">
            <li v-for="row in rows" :key="row.key" :style="{ paddingLeft: `${8 + 14 * Math.min(row.depth, 7)}px` }" :class="{ spent: row.piece?.spent, step: row.step, chosen: row.step && (row.step.id === project.editing || row.step.id === project.before) }">
                <template v-if="row.piece">
                    <span class="swatch" :style="{ background: row.piece.colour }" />
                    <button v-if="!row.piece.spent" class="plain name" :aria-pressed="project.pickedIds.has(row.piece.id)" @click="project.pick(row.piece.id, $event.ctrlKey || $event.metaKey)">{{ title(row.piece) }}</button>
                    <span v-else class="name soft">{{ title(row.piece) }}</span>
                    <span v-if="row.piece.parents.length > 1" class="soft with">with {{ others(row.piece) }}</span>
                </template>
                <template v-else-if="row.step && row.taken">
                    <span class="what" :data-step="row.step.number"><b>{{ row.step.number }}</b> {{ told(row.step) }}<span v-if="row.together! > 1" class="soft"> · of {{ row.together }} pieces</span></span>
                    <span class="acts">
                        <button class="link" :aria-pressed="project.before === row.step.id" :aria-label="`Compare before and after step ${row.step.number}`" @click="project.before = project.before === row.step.id ? null : row.step.id">
                            {{ project.before === row.step.id ? 'after' : 'before' }}
                        </button>
                        <button class="link" :disabled="project.busy" :aria-label="`Edit step ${row.step.number}`" @click="edit(row.step)">edit</button>
                        <button class="link" :disabled="project.held" :aria-label="`Rejoin ${title(row.taken)}`" @click="project.rejoin({ piece: row.taken.id })">rejoin</button>
                        <button v-if="row.together! > 1" class="link" :disabled="project.held" :aria-label="`Rejoin all of step ${row.step.number}`" @click="project.rejoin({ step: row.step.id })">rejoin all {{ row.together }}</button>
                    </span>
                </template>
            </li>
        </ul>
        <p v-if="!project.project?.steps.length" class="soft">No step yet. What you cut and mend is listed here; any step can be edited, or taken back on its own branch.</p>
    </section>
</template>

<style scoped>
.lineage {
    overflow-y: auto;
    min-height: 0;
}

ul {
    margin: 0;
    padding: 0 8px;
    list-style: none;
}

li {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 2px 8px;
    padding: 3px 8px;
    content-visibility: auto;
    contain-intrinsic-size: auto 26px;
}

.step {
    padding-bottom: 6px;
    font-size: 13px;
}

.chosen {
    background: var(--picked-wash);
}

.swatch {
    flex: none;
    width: 10px;
    height: 10px;
    border-radius: 2px;
}

.spent .swatch {
    opacity: 0.45;
}

.name {
    text-align: left;
}

.name[aria-pressed='true'] {
    color: var(--picked);
    font-weight: 600;
}

.what {
    flex: 1 1 100%;
    padding-left: 18px;
}

.acts {
    display: inline-flex;
    flex-wrap: wrap;
    gap: 0 12px;
    padding-left: 18px;
}

p {
    margin: 4px 16px;
}
</style>
