<script setup lang="ts">
import { computed } from 'vue'
import type { Piece, Step, Vector } from '../api/types'
import { number } from '../format'
import { useBlade } from '../stores/blade'
import { useCells } from '../stores/cells'
import { useCheck } from '../stores/check'
import { useMirror } from '../stores/mirror'
import { title, useProject } from '../stores/project'
import { useSettings } from '../stores/settings'
import { anglesOf, dot } from '../view/direction'

const project = useProject()
const blade = useBlade()
const cells = useCells()
const mirror = useMirror()
const check = useCheck()
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
function told(step: Step): string {
    const { settings } = step
    if (settings.do === 'mend') return settings.only ? `Mend: ${{ join: 'join vertices', doubled: 'doubled faces', slivers: 'slivers', inner: 'inner faces', turn: 'turn faces', close: 'close rims' }[settings.only]}` : 'Mend all'
    if (settings.do === 'thicken') return `Thicken by ${number(settings.thickness_mm ?? 0, 1)} mm`
    if (settings.do === 'turn') {
        const along = (of: Vector) => (of.filter((part) => part !== 0).length === 1 ? `${of.some((part) => part < 0) ? '−' : ''}${'XYZ'[of.findIndex((part) => part !== 0)]}` : of.map((part) => number(part, 2)).join(', '))
        if (settings.face) return `Turn ${along(settings.face)} to ${along(settings.towards ?? [0, 0, -1])}`
        return `Turn ${number(settings.degrees ?? 0, 1)}° about ${along(settings.about ?? [0, 0, 1])}`
    }
    if (settings.do === 'mirror') {
        if (settings.copies) return `${settings.copies.count} copies about an axis`
        const planes = settings.planes?.length ?? 1
        return `Mirror${planes > 1 ? ` over ${planes} planes` : ''}, ${{ one: 'one body', two: 'two pieces', reflection: 'reflection' }[settings.gives ?? 'one']}${settings.catch ? `, catch ${settings.catch}` : ''}`
    }
    const b = settings.blade
    if (!b) return settings.do
    if (b.kind === 'cells') {
        const seed = b.seed !== undefined && ['uniform', 'even', 'gathered', 'chop'].includes(b.by) ? `, seed ${b.seed}` : ''
        const what = {
            uniform: `${b.count as number} cells`, even: `${b.count as number} even cells`, gathered: `${b.count as number} cells gathered`, points: `cells around ${b.points?.length ?? 0} points`,
            blocks: b.brick ? 'bricks' : 'blocks', rings: `${b.rings} rings, ${b.sectors} sectors`, chop: `chop, ${b.rounds} rounds`,
        }[b.by]
        return `Cut into ${what}${seed}${settings.smallest ? `, least ${number(100 * settings.smallest, 2)} %` : ''}${settings.kerf ? `, kerf ${settings.kerf}` : ''}`
    }
    const [x, y, z] = b.facing
    const { turn, tilt } = anglesOf(b.facing.map((c) => c / Math.hypot(x, y, z)) as [number, number, number])
    const facing = z === 1 ? 'Z' : x === 1 ? 'X' : y === 1 ? 'Y' : `tilt ${number(tilt, 1)}°, turn ${number(turn, 1)}°`
    const what = settings.do === 'score' ? 'Score' : 'Cut'
    const wander = b.wander ? `, wander ${b.wander.seed}` : ''
    if (settings.faces) return `${what} within ${settings.faces.length} faces, ${facing}`
    if (b.parts) return `${what} into ${b.parts} parts, ${facing}${wander}`
    if (b.stops) return `${what} at ${b.stops.length} stops, ${facing}${wander}`
    if (b.step) return `${what} every ${number(b.step, 1)} mm, ${b.count} times, ${facing}${wander}`
    const place = b.through ? dot(b.through, b.facing) / Math.hypot(x, y, z) : 0
    const more = [settings.keep && settings.keep !== 'both' ? settings.keep : '', settings.kerf ? `kerf ${settings.kerf}` : '', settings.seal && settings.seal !== 'lean' ? settings.seal : ''].filter(Boolean)
    return `${what} ${facing}, ${number(place, 1)} mm${more.length ? `, ${more.join(', ')}` : ''}`
}

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

function edit(step: Step) {
    project.editing = step.id
    project.before = null
    project.hidden = []
    const isMend = step.settings.do === 'mend' || step.settings.do === 'thicken'
    settings.station = isMend ? 'check' : 'cut'
    if (isMend) check.leave()
    else if (step.settings.do === 'mirror') mirror.load(step)
    else if (step.settings.blade?.kind === 'cells') cells.load(step)
    else blade.load(step)
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
                        <button v-if="row.step.settings.do !== 'turn'" class="link" :disabled="project.busy" :aria-label="`Edit step ${row.step.number}`" @click="edit(row.step)">edit</button>
                        <button class="link" :disabled="project.busy" :aria-label="`Rejoin ${title(row.taken)}`" @click="project.rejoin({ piece: row.taken.id })">rejoin</button>
                        <button v-if="row.together! > 1" class="link" :disabled="project.busy" :aria-label="`Rejoin all of step ${row.step.number}`" @click="project.rejoin({ step: row.step.id })">rejoin all {{ row.together }}</button>
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
