<script setup lang="ts">
import { computed } from 'vue'
import type { CellsBy, Seal, Vector } from '../api/types'
import { mm, number, volume } from '../format'
import { useBlade } from '../stores/blade'
import { useCells, type Along } from '../stores/cells'
import { title, useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import ChoiceRow from './ChoiceRow.vue'
import CutHead from './CutHead.vue'
import GrainLine from './GrainLine.vue'
import NumberField from './NumberField.vue'
import RoughTick from './RoughTick.vue'
import StationCard from './StationCard.vue'
import StepFoot from './StepFoot.vue'

const blade = useBlade()
const cells = useCells()
const shown = useShown()
const project = useProject()

const ways: { value: CellsBy; text: string; hint: string }[] = [
    { value: 'uniform', text: 'Random', hint: 'Points anywhere in the piece, by chance' },
    { value: 'even', text: 'Even', hint: 'Points by chance that keep their distance' },
    { value: 'gathered', text: 'Gathered', hint: 'Points around places picked on the skin, fewer farther off' },
]
const divisions: { value: CellsBy; text: string; hint: string }[] = [
    { value: 'points', text: 'Points', hint: 'Points of your own, or the vertices of a piece' },
    { value: 'blocks', text: 'Blocks', hint: 'A grid along three axes' },
    { value: 'rings', text: 'Rings', hint: 'Rings, sectors and layers about an axis' },
    { value: 'chop', text: 'Chop', hint: 'Every piece through its own middle, again and again' },
]
const seals: { value: Seal; text: string }[] = [{ value: 'open', text: 'Open' }, { value: 'lean', text: 'Lean' }, { value: 'even', text: 'Even' }]
const axes: { value: 'X' | 'Y' | 'Z'; text: string }[] = [{ value: 'X', text: 'X' }, { value: 'Y', text: 'Y' }, { value: 'Z', text: 'Z' }]
const own = (direction: Vector): { value: Along; text: string; hint: string } => ({ value: 'own', text: 'as seen', hint: `Along ${direction.map((c) => number(c, 3)).join(', ')}` })
const alongs = computed((): { value: Along; text: string; hint?: string }[] => [...axes, ...(cells.along === 'own' ? [own(cells.own.along)] : [{ value: 'own' as const, text: 'view', hint: 'Along your line of sight, as it is now' }])])
const turns = computed((): { value: Along; text: string; hint?: string }[] => [...axes, ...(cells.axis === 'own' ? [own(cells.own.axis)] : [{ value: 'own' as const, text: 'view', hint: 'About your line of sight, as it is now' }])])
const hasPoints = computed(() => ['uniform', 'even', 'gathered', 'points'].includes(cells.by))
const hasCount = computed(() => ['uniform', 'even', 'gathered'].includes(cells.by) || (cells.by === 'points' && cells.verticesOf !== null))
const isRandom = computed(() => ['uniform', 'even', 'gathered', 'chop'].includes(cells.by) || cells.wander > 0)
const typed = computed(() => cells.points.map((point) => point.join(' ')).join('\n'))

function choose(by: CellsBy) {
    blade.placing = by === 'gathered' && !cells.places.length ? 'place' : 'none'
    cells.set({ by })
}

function part(key: 'blocks' | 'size' | 'turned', k: number, value: number) {
    const next = [...cells[key]] as Vector
    next[k] = value
    cells.set({ [key]: next })
}

/** Along an axis, or along the line of sight. */
function turn(key: 'along' | 'axis', to: Along) {
    if (to === 'own' && cells[key] !== 'own') cells.set({ [key]: to, own: { ...cells.own, [key]: shown.seen[2] } })
    else cells.set({ [key]: to })
}

function take(text: string) {
    const points = text.split('\n').map((line) => line.trim().split(/[\s,;]+/).map(Number)).filter((line) => line.length === 3 && line.every(Number.isFinite)) as Vector[]
    cells.set({ points, verticesOf: null })
}
</script>

<template>
    <StationCard label="Cells">
        <CutHead title="Cells" />
        <div class="line">
            <span class="label">By</span>
            <ChoiceRow :model-value="cells.by" :options="ways" label="Cells by chance" @update:model-value="choose($event)" />
        </div>
        <div class="line">
            <span class="label" />
            <ChoiceRow :model-value="cells.by" :options="divisions" label="Cells by plan" @update:model-value="choose($event)" />
        </div>
        <div v-if="hasCount" class="line">
            <span class="label">Count</span>
            <NumberField class="narrow" :model-value="cells.count" unit="" label="Count" :digits="0" :min="2" :max="5000" @update:model-value="cells.set({ count: Math.round($event) })" />
            <button class="link" aria-label="Half as many" @click="cells.set({ count: Math.max(2, Math.round(cells.count / 2)) })">half</button>
            <button class="link" aria-label="Twice as many" @click="cells.set({ count: Math.min(5000, cells.count * 2) })">twice</button>
        </div>
        <div v-if="cells.by === 'gathered'" class="line">
            <span class="label">Around</span>
            <button class="link" :aria-pressed="blade.placing === 'place'" @click="blade.placing = blade.placing === 'place' ? 'none' : 'place'">{{ cells.places.length ? `${cells.places.length} picked` : 'pick a place…' }}</button>
            <button v-if="cells.places.length" class="link" @click="cells.set({ places: [] }); blade.placing = 'place'">clear</button>
            <span class="label near">Fall-off</span>
            <NumberField class="narrow" :model-value="cells.falloff" unit="mm" label="Fall-off" :min="0.001" :step="5" @update:model-value="cells.set({ falloff: $event })" />
        </div>
        <div v-if="cells.by === 'points'" class="points">
            <label class="soft">Vertices of
                <select :value="cells.verticesOf ?? ''" aria-label="Vertices of a piece" @change="cells.set({ verticesOf: Number(($event.target as HTMLSelectElement).value) || null })">
                    <option value="">no piece: type points</option>
                    <option v-for="piece in project.living" :key="piece.id" :value="piece.id">{{ title(piece) }}</option>
                </select>
            </label>
            <textarea v-if="cells.verticesOf === null" rows="4" aria-label="Points, one a line" placeholder="x y z, one point a line, mm" :value="typed" @change="take(($event.target as HTMLTextAreaElement).value)" />
        </div>
        <template v-if="cells.by === 'blocks'">
            <div class="line">
                <span class="label">Blocks</span>
                <ChoiceRow :model-value="cells.bySize ? 'size' : 'count'" :options="[{ value: 'count', text: 'count' }, { value: 'size', text: 'mm' }]" label="Blocks by" @update:model-value="cells.set({ bySize: $event === 'size' })" />
                <label class="tick"><input type="checkbox" :checked="cells.brick" @change="cells.set({ brick: ($event.target as HTMLInputElement).checked })"> bricks</label>
            </div>
            <div class="line">
                <span class="label" />
                <NumberField
                    v-for="(axis, k) in axes" :key="axis.value" class="narrow" :model-value="cells.bySize ? cells.size[k] : cells.blocks[k]" :unit="axis.text" :label="`Blocks along ${axis.text}`"
                    :digits="cells.bySize ? 1 : 0" :min="cells.bySize ? 0.01 : 1" :max="1e5" @update:model-value="part(cells.bySize ? 'size' : 'blocks', k, cells.bySize ? $event : Math.round($event))"
                />
            </div>
            <div class="line">
                <span class="label">Turned</span>
                <NumberField v-for="(axis, k) in axes" :key="axis.value" class="narrow" :model-value="cells.turned[k]" unit="°" :label="`Turned about ${axis.text}`" :step="5" @update:model-value="part('turned', k, $event)" />
            </div>
        </template>
        <template v-if="cells.by === 'rings'">
            <div class="line">
                <span class="label">About</span>
                <ChoiceRow :model-value="cells.axis" :options="turns" label="Axis of the rings" @update:model-value="turn('axis', $event)" />
            </div>
            <div class="line">
                <span class="label">Through</span>
                <button class="link" :aria-pressed="blade.placing === 'place'" title="Click on the skin where the blow falls" @click="blade.placing = blade.placing === 'place' ? 'none' : 'place'">{{ cells.through ? 'a picked place' : 'the middle: pick a place…' }}</button>
                <button v-if="cells.through" class="link" @click="cells.set({ through: null })">the middle</button>
            </div>
            <div class="line counts">
                <label>Rings <NumberField class="narrow" :model-value="cells.rings" unit="" label="Rings" :digits="0" :min="1" :max="200" @update:model-value="cells.set({ rings: Math.round($event) })" /></label>
                <label>Sectors <NumberField class="narrow" :model-value="cells.sectors" unit="" label="Sectors" :digits="0" :min="1" :max="360" @update:model-value="cells.set({ sectors: Math.round($event) })" /></label>
                <label>Layers <NumberField class="narrow" :model-value="cells.layers" unit="" label="Layers" :digits="0" :min="1" :max="200" @update:model-value="cells.set({ layers: Math.round($event) })" /></label>
            </div>
        </template>
        <div v-if="cells.by === 'chop'" class="line counts">
            <label>Rounds <NumberField class="narrow" :model-value="cells.rounds" unit="" label="Rounds" :digits="0" :min="1" :max="12" @update:model-value="cells.set({ rounds: Math.round($event) })" /></label>
            <label>Shift <NumberField class="narrow" :model-value="100 * cells.shift" unit="%" label="Shift" :digits="0" :step="5" :min="0" :max="40" @update:model-value="cells.set({ shift: $event / 100 })" /></label>
            <label>Tilt <NumberField class="narrow" :model-value="cells.tilt" unit="°" label="Tilt by chance" :digits="0" :step="5" :min="0" :max="45" @update:model-value="cells.set({ tilt: $event })" /></label>
        </div>
        <div v-if="cells.by === 'chop'" class="line">
            <span class="label">Along</span>
            <ChoiceRow
                :model-value="cells.chopAlong ? 'view' : 'axes'" :options="[{ value: 'axes', text: 'X, Y, Z' }, { value: 'view', text: 'the view', hint: 'Right, up and away, as it is seen now' }]" label="Chop along"
                @update:model-value="cells.set({ chopAlong: $event === 'view' ? shown.seen : null })"
            />
        </div>
        <div v-if="hasPoints" class="line">
            <span class="label">Longer</span>
            <NumberField class="narrow" :model-value="cells.times" unit="×" label="Times longer" :step="0.5" :min="0.05" :max="50" @update:model-value="cells.set({ times: $event })" />
            <ChoiceRow :model-value="cells.along" :options="alongs" label="Longer along" @update:model-value="turn('along', $event)" />
        </div>
        <div class="line">
            <template v-if="cells.by === 'blocks' || cells.by === 'rings'">
                <span class="label">Wander</span>
                <NumberField class="narrow" :model-value="100 * cells.wander" unit="%" label="Wander" :digits="0" :step="5" :min="0" :max="45" @update:model-value="cells.set({ wander: $event / 100 })" />
            </template>
            <template v-if="isRandom">
                <span class="label" :class="{ near: cells.by === 'blocks' || cells.by === 'rings' }">Seed</span>
                <NumberField class="narrow" :model-value="cells.seed" unit="" label="Seed" :digits="0" :min="0" :max="2147483647" @update:model-value="cells.set({ seed: Math.round($event) })" />
                <button class="link" title="Another arrangement of the same kind" @click="cells.set({ seed: cells.seed + 1 })">another</button>
            </template>
        </div>
        <hr>
        <div class="line">
            <span class="label">Kerf</span>
            <NumberField class="narrow" :model-value="cells.kerf" unit="mm" label="Kerf" :step="0.1" :min="0" :max="1000" @update:model-value="cells.set({ kerf: $event })" />
            <span class="label near">Wall</span>
            <NumberField class="narrow" :model-value="cells.wall" unit="mm" label="Wall" :step="0.5" :min="0" :max="1000" @update:model-value="cells.set({ wall: $event })" />
        </div>
        <div class="line">
            <span class="label">Seal</span>
            <ChoiceRow :model-value="cells.isRough && cells.seal === 'even' ? 'lean' : cells.seal" :options="cells.isRough ? seals.filter(({ value }) => value !== 'even') : seals" label="Seal" @update:model-value="cells.set({ seal: $event })" />
            <RoughTick v-if="cells.by !== 'chop'" :model-value="cells.grain" @update:model-value="cells.set({ grain: $event })" />
        </div>
        <GrainLine v-if="cells.isRough && cells.grain" :model-value="cells.grain" @update:model-value="cells.set({ grain: $event })" />
        <div v-else-if="cells.seal === 'even'" class="line sub">
            <NumberField class="narrow" :model-value="cells.edge ?? 0" unit="mm" label="Edge length" :step="0.5" :min="0" :max="1000" @update:model-value="cells.set({ edge: $event > 0 ? $event : null })" />
            <span class="soft">{{ cells.edge ? 'edges of the walls' : '0: as long as those around' }}</span>
        </div>
        <div class="line">
            <span class="label">Least</span>
            <NumberField class="narrow" :model-value="cells.smallest" unit="%" label="Smallest piece" :digits="2" :step="0.1" :min="0" :max="50" @update:model-value="cells.set({ smallest: $event })" />
            <label class="tick" title="What is in one cell but not connected becomes pieces of its own"><input type="checkbox" :checked="cells.apart" @change="cells.set({ apart: ($event.target as HTMLInputElement).checked })"> each body a piece</label>
        </div>
        <p class="soft means">{{ cells.smallest > 0 ? 'Smaller pieces join the neighbour with the largest common face.' : 'Share of the volume below which a piece joins a neighbour; 0 for none.' }}</p>
        <dl :class="{ waits: cells.asked }">
            <div><dt>Pieces</dt><dd data-number="pieces">{{ cells.forecast ? `${cells.forecast.about ? 'about ' : ''}${cells.forecast.pieces}` : '–' }}</dd></div>
            <div><dt>Largest</dt><dd data-number="largest">{{ cells.forecast?.largest ? volume(cells.forecast.largest) : '–' }}</dd></div>
            <div><dt>Smallest</dt><dd data-number="smallest">{{ cells.forecast?.smallest ? volume(cells.forecast.smallest) : '–' }}</dd></div>
            <div v-if="cells.forecast?.smallest"><dt>Across</dt><dd>{{ mm(Math.cbrt(cells.forecast.smallest)) }} and more</dd></div>
        </dl>
        <template #foot><StepFoot :action="cells.by === 'chop' ? 'Chop' : 'Shatter'" :ready="cells.ready" :sentence="cells.sentence" @run="cells.run()" @left="cells.ask()" /></template>
    </StationCard>
</template>

<style scoped src="./card.css"></style>
<style scoped>
.points {
    display: grid;
    gap: 6px;
    padding-left: 58px;
}

textarea,
select {
    border: 1px solid var(--rule);
    border-radius: 3px;
    background: var(--field);
    color: var(--ink);
    font: inherit;
}

textarea {
    width: 100%;
    resize: vertical;
}

.sub {
    padding-left: 58px;
}

.waits dd {
    color: var(--soft);
}
</style>
