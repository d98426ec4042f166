<script setup lang="ts">
import { computed, ref } from 'vue'
import { api } from '../api/client'
import type { Keep, KerfSide, Seal, Vector } from '../api/types'
import { fitWords, mm, mm2, size, volume } from '../format'
import { useBlade, type Placing } from '../stores/blade'
import { useProject } from '../stores/project'
import ChoiceRow from './ChoiceRow.vue'
import CutHead from './CutHead.vue'
import GrainLine from './GrainLine.vue'
import NumberField from './NumberField.vue'
import RoughTick from './RoughTick.vue'
import SectionDrawing from './SectionDrawing.vue'
import StationCard from './StationCard.vue'
import StepFoot from './StepFoot.vue'

const blade = useBlade()
const project = useProject()
const vectorOpen = ref(false)

const axes = [{ value: 'X' as const, text: 'X' }, { value: 'Y' as const, text: 'Y' }, { value: 'Z' as const, text: 'Z' }]
const ways: { value: Placing; text: string; hint: string }[] = [
    { value: 'line', text: 'Line', hint: 'Draw a line across the view (L)' },
    { value: 'face', text: 'Face', hint: 'Click a face to lie in it' },
    { value: 'points', text: 'Points', hint: 'Click three points' },
]
const keeps: { value: Keep; text: string; hint: string }[] = [
    { value: 'both', text: 'Both', hint: 'Both sides become pieces' },
    { value: 'ahead', text: 'Ahead', hint: 'Only the side the blade faces' },
    { value: 'behind', text: 'Behind', hint: 'Only the side behind the blade' },
    { value: 'outline', text: 'Outline', hint: 'Only the section face, as a flat sheet' },
]
const seals: { value: Seal; text: string; hint: string }[] = [
    { value: 'open', text: 'Open', hint: 'The cut stays open' },
    { value: 'lean', text: 'Lean', hint: 'Closed with the fewest triangles, no new points inside' },
    { value: 'even', text: 'Even', hint: 'Closed with triangles about as large as those around, for remeshing, bevels and subdivision' },
]
const kerfSides: { value: KerfSide; text: string; hint: string }[] = [
    { value: 'centre', text: 'mid', hint: 'The kerf is centred on the blade' },
    { value: 'behind', text: 'behind', hint: 'The kerf lies behind the blade' },
    { value: 'ahead', text: 'ahead', hint: 'The kerf lies ahead of the blade' },
]
const name = computed(() => (blade.axis === 'Z' ? 'Height' : 'Place'))
const sealMeans = computed(() => seals.find((one) => one.value === blade.seal)?.hint ?? '')
const limited = computed(() => (blade.faces ? `within ${blade.faces.list.length} faces` : blade.placing === 'paint' ? 'click the faces' : 'limit to faces…'))

function set<K extends 'keep' | 'seal' | 'kerf' | 'kerfSide' | 'catch' | 'score' | 'edge' | 'grain'>(key: K, value: (typeof blade)[K]) {
    blade.$patch({ [key]: value })
    blade.ask()
}

function place(way: Placing) {
    blade.points = []
    blade.placing = blade.placing === way ? 'none' : way
    if (way !== 'none') blade.touched()
}

function coordinate(k: number, value: number) {
    const next = [...blade.facing] as Vector
    next[k] = value
    blade.setVector(next)
}
</script>

<template>
    <StationCard label="Blade">
        <CutHead title="Blade" />
        <div class="line">
            <span class="label">Facing</span>
            <ChoiceRow :model-value="blade.axis" :options="axes" label="Facing" @update:model-value="blade.setAxis($event)" />
            <span class="ways" role="group" aria-label="Place the blade by">
                <button v-for="way in ways" :key="way.value" type="button" :title="way.hint" :aria-pressed="blade.placing === way.value" @click="place(way.value)">{{ way.text }}</button>
            </span>
        </div>
        <div class="line">
            <span class="label">{{ name }}</span>
            <NumberField :model-value="blade.place" unit="mm" :label="name" :digits="2" @update:model-value="blade.setPlace($event)" />
            <NumberField
                class="narrow" :model-value="blade.share" unit="%" label="Share of the extent"
                @update:model-value="blade.setPlace($event * blade.extent / 100)"
            />
            <button class="link" title="To the middle of what it takes (0)" @click="blade.centreOnTaken()">centre</button>
        </div>
        <div class="line">
            <span class="label">Tilt</span>
            <NumberField class="narrow" :model-value="blade.tilt" unit="°" label="Tilt" :step="5" :min="0" :max="180" @update:model-value="blade.setTilt($event)" />
            <span class="label near">Turn</span>
            <NumberField class="narrow" :model-value="blade.turn" unit="°" label="Turn" :step="5" @update:model-value="blade.setTurn($event)" />
            <button class="link" :aria-expanded="vectorOpen" title="The facing as a unit vector" @click="vectorOpen = !vectorOpen">vector</button>
        </div>
        <div v-if="vectorOpen" class="line">
            <span class="label" />
            <NumberField v-for="(axis, k) in ['x', 'y', 'z']" :key="axis" class="narrow" :model-value="blade.facing[k]" :unit="axis" label="Facing" :digits="4" :step="0.1" @update:model-value="coordinate(k, $event)" />
            <button class="link" title="Ahead becomes behind" @click="blade.flip()">flip</button>
        </div>
        <div class="line">
            <span class="label">Keep</span>
            <ChoiceRow :model-value="blade.wander && blade.series ? 'both' : blade.keep" :options="keeps" label="Keep" @update:model-value="set('keep', $event)" />
        </div>
        <div class="line tight">
            <span class="label">Kerf</span>
            <NumberField class="narrow" :model-value="blade.kerf" unit="mm" label="Kerf" :step="0.1" :min="0" :max="1000" @update:model-value="set('kerf', $event)" />
            <span class="gaps">
                <button class="link gap" title="Fit gap of a well-tuned printer" aria-label="Kerf 0.3 mm" @click="set('kerf', 0.3)">0.3</button>
                <button class="link gap" title="Fit gap of a printer that is not tuned" aria-label="Kerf 0.5 mm" @click="set('kerf', 0.5)">0.5</button>
            </span>
            <span v-if="!blade.isRough" class="label near">Catch</span>
            <NumberField v-if="!blade.isRough" class="fine" :model-value="blade.catch" unit="mm" label="Catch" :digits="2" :step="0.05" :min="0" :max="1000" @update:model-value="set('catch', $event)" />
        </div>
        <div v-if="blade.kerf > 0 || blade.catch > 0" class="line sub">
            <ChoiceRow v-if="blade.kerf > 0" class="small" :model-value="blade.kerfSide" :options="kerfSides" label="Kerf lies" @update:model-value="set('kerfSide', $event)" />
            <span v-if="blade.catch > 0 && !blade.isRough" class="soft note" data-number="caught">catches {{ blade.sides?.caught ?? '…' }}</span>
        </div>
        <div class="line">
            <span class="label">Seal</span>
            <span v-if="blade.isRough" class="soft">its own surface</span>
            <ChoiceRow v-else :model-value="blade.seal" :options="seals" label="Seal" @update:model-value="set('seal', $event)" />
            <RoughTick v-if="!blade.wander || !blade.series" :model-value="blade.grain" @update:model-value="set('grain', $event)" />
        </div>
        <GrainLine v-if="blade.isRough && blade.grain" :model-value="blade.grain" @update:model-value="set('grain', $event)" />
        <div v-if="blade.seal === 'even' && !blade.isRough" class="line sub">
            <NumberField class="narrow" :model-value="blade.edge ?? 0" unit="mm" label="Edge length" :step="0.5" :min="0" :max="1000" @update:model-value="set('edge', $event > 0 ? $event : null)" />
            <span class="soft note">{{ blade.edge ? 'edges of the cut face' : '0: as long as those around' }}</span>
        </div>
        <p v-else-if="blade.seal === 'open' && !blade.isRough" class="means soft">{{ sealMeans }}.</p>
        <SectionDrawing />
        <dl>
            <div><dt>Area</dt><dd data-number="area">{{ blade.section ? mm2(blade.section.area) : '–' }}</dd></div>
            <div><dt>Outlines</dt><dd data-number="outlines">{{ blade.section ? blade.outlineCount : '–' }}</dd></div>
            <div><dt>Perimeter</dt><dd>{{ blade.section ? mm(blade.section.perimeter) : '–' }}</dd></div>
            <div><dt>Narrowest</dt><dd data-number="narrowest">{{ blade.sides?.narrowest ? mm(blade.sides.narrowest) : '–' }}</dd></div>
        </dl>
        <dl v-if="blade.sides && !blade.series" class="sides">
            <div v-for="side in (['ahead', 'behind'] as const)" :key="side" :data-side="side" :class="{ gone: !blade.score && blade.keep !== 'both' && blade.keep !== side }">
                <dt>{{ side === 'ahead' ? 'Ahead' : 'Behind' }}</dt>
                <template v-if="blade.sides[side]">
                    <dd>{{ volume(blade.sides[side].volume) }}</dd>
                    <dd>{{ size(blade.sides[side].size, 0) }}</dd>
                    <dd v-if="blade.sides[side].fit" :class="blade.sides[side].fit.fits ? 'good' : 'warning'">{{ fitWords(blade.sides[side].fit) }}</dd>
                </template>
                <dd v-else class="soft">nothing</dd>
            </div>
        </dl>
        <p class="files soft">
            <span v-if="blade.section && blade.cutCount && project.project">
                Drawing <a :href="api.drawing(project.project.id, 'svg', blade.question)" download>SVG</a> · <a :href="api.drawing(project.project.id, 'dxf', blade.question)" download>DXF</a>
            </span>

            <label v-if="!blade.series" class="score" title="Lays the section's edges into the mesh and separates nothing"><input type="checkbox" :checked="blade.score" aria-label="Score only" @change="set('score', ($event.target as HTMLInputElement).checked)"> score</label>
            <span v-if="!blade.series" class="within">
                <button class="link" :aria-pressed="blade.placing === 'paint'" title="Limit the cut to picked faces of one piece" @click="place('paint')">{{ limited }}</button>
                <button v-if="blade.faces" class="link" @click="blade.faces = null; blade.ask()">all faces</button>
            </span>
        </p>
        <template #foot><StepFoot :action="blade.score && !blade.series ? 'Score' : 'Cut'" :ready="blade.ready" :sentence="blade.sentence" @run="blade.cut()" @left="blade.centreOnTaken()" /></template>
    </StationCard>
</template>

<style scoped src="./card.css"></style>
<style scoped>
.narrow {
    width: 66px;
}

.ways {
    display: inline-flex;
    gap: 9px;
    margin-left: 4px;
}

.ways button {
    padding: 3px 0;
    border: 0;
    border-bottom: 1.5px solid transparent;
    background: none;
    color: var(--picked);
    cursor: pointer;
}

.ways [aria-pressed='true'] {
    border-bottom-color: var(--cut);
    color: var(--ink);
}

.gap {
    padding: 0 1px;
}

/* Two fields, two ready numbers and a name: each as wide as what it may hold. */
.tight {
    gap: 5px;
}

.gaps {
    display: inline-flex;
    gap: 3px;
    font-size: 13px;
}

.tight > .narrow {
    width: 69px;
    margin-left: 3px;
}

.fine {
    width: 74px;
}

.note {
    font-size: 12.5px;
    white-space: nowrap;
}

/* A row of four fields needs the room. */
.label {
    width: 44px;
}

.small {
    flex: none;
    font-size: 12.5px;
}

.means {
    margin: -4px 0 0 52px;
    font-size: 12.5px;
    line-height: 1.25;
}

.sub {
    justify-content: space-between;
    padding-left: 52px;
}

.score {
    display: inline-flex;
    align-items: center;
    gap: 5px;
    margin-left: auto;
}

.files .score {
    margin: 0;
    color: var(--ink);
}

.within {
    display: inline-flex;
    gap: 10px;
}

dl {
    margin: 0;
    padding: 0;
    border: 0;
}

.sides {
    padding-top: 5px;
    border-top: 1px solid var(--rule);
    font-size: 12.5px;
    line-height: 1.3;
}

.sides div {
    display: block;
}

.sides .gone {
    opacity: 0.6;
    text-decoration: line-through;
}

.files {
    display: flex;
    justify-content: space-between;
    margin: 0;
    font-size: 12.5px;
}

</style>
