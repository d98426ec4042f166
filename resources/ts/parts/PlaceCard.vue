<script setup lang="ts">
import { computed } from 'vue'
import { ElCheckbox } from 'element-plus'
import type { Vector } from '../api/types'
import { mm, number, size, volume } from '../format'
import { useBlade } from '../stores/blade'
import { useProject } from '../stores/project'
import { usePlace, type Axis, type Way } from '../stores/place'
import ChoiceRow from './ChoiceRow.vue'
import CutHead from './CutHead.vue'
import NumberField from './NumberField.vue'
import StationCard from './StationCard.vue'
import StepFoot from './StepFoot.vue'

const blade = useBlade()
const project = useProject()
const place = usePlace()

const axes: { value: Axis; text: Axis; hint: string }[] = [
    { value: 'X', text: 'X', hint: 'Forward and back' }, { value: 'Y', text: 'Y', hint: 'Over to a side' }, { value: 'Z', text: 'Z', hint: 'On the spot' },
]
const quarters = [{ by: -90, text: '−90°' }, { by: 90, text: '90°' }, { by: 180, text: '180°' }]

const fits = computed(() => {
    const told = place.forecast
    if (!told) return ''
    if (told.pieces > 1) return `${told.fits} of ${told.pieces} fit`
    return told.fits ? 'fits' : `${mm(told.over_mm)} too large`
})

const ways: { value: Way; text: string; hint: string }[] = [
    { value: 'about', text: 'Turn', hint: 'About an axis' }, { value: 'face', text: 'Stand', hint: 'On a face that is clicked' },
    { value: 'lay', text: 'Lay', hint: 'On the bed, each by itself' }, { value: 'move', text: 'Move', hint: 'Along the axes' }, { value: 'scale', text: 'Scale', hint: 'Larger or smaller' },
]
const action = computed(() => ways.find(({ value }) => value === place.way)?.text ?? '')
const now = computed(() => project.box.max.map((high, k) => high - project.box.min[k]))

function alike(is: boolean) {
    place.set({ alike: is, times: is ? [place.times[0], place.times[0], place.times[0]] : place.times })
}

const middle = computed(() => project.box.max.map((high, k) => (high + project.box.min[k]) / 2))
const spot = (place: number[]) => `${place.map((part) => number(part, 1)).join(' · ')} mm`

/** A size that is wanted along an axis. */
function resize(axis: number, mm: number) {
    if (now.value[axis] > 0 && mm > 0) place.scale(axis, mm / now.value[axis])
}

function way(to: Way) {
    blade.placing = to === 'face' && !place.face ? 'face' : 'none'
    place.set({ way: to })
}

const tilts = (margin: number) => (margin > 0 ? `to ${number(margin, 0)}°` : 'falls')
const isAlike = (one: Vector, other: Vector) => one.every((part, k) => Math.abs(part - other[k]) < 1e-9)
/** Which of the faces is chosen; the first one, while none is. */
const chosen = computed(() => (place.stands?.faces ?? []).findIndex((face, n) => (place.on ? isAlike(face.facing, place.on) : n === 0)))
const alone = computed(() => (place.stands?.pieces.length === 1 && project.taken.length === 1 ? place.stands.pieces[0] : null))
const large = computed(() => (place.stands?.pieces ?? []).filter((piece) => (piece.over_mm ?? 0) > 0))
const lying = computed(() => {
    const pieces = place.stands?.pieces ?? []
    if (pieces.length > 1) return `${pieces.length - large.value.length} of ${pieces.length} fit`
    return large.value.length ? `${mm(large.value[0].over_mm ?? 0)} too large` : 'fits'
})
const turned = computed(() => (project.taken.length === 1 ? place.stands?.turned ?? null : null))
/** Into the turn in which it fits the printer, as numbers that can be changed. */
function tilt() {
    if (turned.value) place.set({ way: 'about', own: turned.value.about, degrees: turned.value.degrees, through: 'centre', place: null })
}
const falling = computed(() => (place.stands?.pieces ?? []).filter((piece) => piece.margin <= 0))
</script>

<template>
    <StationCard label="Place">
        <CutHead title="Place" />
        <div class="line">
            <ChoiceRow :model-value="place.way" :options="ways" label="How pieces are placed" @update:model-value="way($event)" />
        </div>
        <template v-if="place.way === 'about'">
            <div class="line">
                <span class="label">About</span>
                <ChoiceRow :model-value="place.own ? '' : place.axis" :options="axes" label="About" @update:model-value="place.set({ axis: $event, own: null })" />
                <span v-if="place.own" class="soft">an axis of its own</span>
            </div>
            <div class="line">
                <span class="label">By</span>
                <NumberField class="narrow" :model-value="place.degrees" unit="°" label="Degrees" :digits="place.degrees % 1 ? 2 : 0" :step="5" :min="-360" :max="360" @update:model-value="place.set({ degrees: $event })" />
                <button v-for="one in quarters" :key="one.by" class="link" :aria-pressed="place.degrees === one.by" @click="place.set({ degrees: one.by })">{{ one.text }}</button>
            </div>
        </template>
        <template v-else-if="place.way === 'move'">
            <div v-for="(axis, k) in axes" :key="axis.value" class="line">
                <span class="label">{{ axis.text }}</span>
                <NumberField :model-value="place.by[k]" unit="mm" :label="`Along ${axis.text}`" :digits="2" @update:model-value="place.set({ by: place.by.map((one, l) => (l === k ? $event : one)) as Vector })" />
            </div>
        </template>
        <template v-else-if="place.way === 'scale'">
            <div v-for="(axis, k) in axes" :key="axis.value" class="line">
                <span class="label">{{ axis.text }}</span>
                <NumberField class="narrow" :model-value="place.times[k]" unit="×" :label="`Times along ${axis.text}`" :digits="4" :step="0.1" :min="0.0001" :max="10000" @update:model-value="place.scale(k, $event)" />
                <NumberField :model-value="now[k] * place.times[k]" unit="mm" :label="`Size along ${axis.text}`" :digits="2" :min="0.001" @update:model-value="resize(k, $event)" />
            </div>
            <ElCheckbox :model-value="place.alike" @update:model-value="alike($event === true)">alike along all three</ElCheckbox>
        </template>
        <template v-else-if="place.way === 'lay'">
            <p v-if="place.looking && !place.looking.over" class="soft" role="status">Looking for faces to stand on… {{ Math.round(100 * place.looking.progress) }} %</p>
            <table v-if="place.stands && place.stands.faces.length" class="faces" aria-label="Faces to stand on">
                <thead><tr><th>stands</th><th>foot</th><th>height</th><th title="Skin that looks down more steeply than 45°, not on the bed">overhang</th></tr></thead>
                <tbody>
                    <tr v-for="(face, n) in place.stands.faces" :key="n" :class="{ chosen: n === chosen }">
                        <td><button class="link" :aria-pressed="n === chosen" @click="place.set({ on: n === 0 ? null : face.facing })"><span :class="face.margin > 0 ? '' : 'warning'">{{ tilts(face.margin) }}</span></button></td>
                        <td>{{ number(face.footprint_mm2 / 100, 1) }} cm²</td><td>{{ number(face.height_mm, 1) }} mm</td><td>{{ number(face.overhang_mm2 / 100, 1) }} cm²</td>
                    </tr>
                </tbody>
            </table>
            <div class="line">
                <button class="link" :aria-pressed="blade.placing === 'face'" @click="blade.placing = blade.placing === 'face' ? 'none' : 'face'">click a face…</button>
                <button v-if="place.on" class="link" @click="place.set({ on: null })">the best again</button>
            </div>
            <dl v-if="place.stands" class="sizes">
                <template v-if="alone">
                    <div><dt>Stands</dt><dd data-number="margin" :class="alone.margin > 0 ? 'good' : 'warning'">{{ alone.margin > 0 ? `until it is tilted by ${number(alone.margin, 1)}°` : 'not: it falls over' }}</dd></div>
                    <div><dt>Height</dt><dd>{{ mm(alone.height_mm) }}</dd></div>
                </template>
                <div v-if="alone && place.stands.below_mm3 !== null"><dt><ElCheckbox v-model="place.over" class="over" title="Skin that looks down within 45° of straight down then is marked"><span class="legend" />Hangs over</ElCheckbox></dt><dd data-number="overhang">{{ number(alone.overhang_mm2 / 100, 1) }} cm², below it {{ volume(place.stands.below_mm3) }}</dd></div>
                <div v-else-if="!alone && place.stands.pieces.length"><dt>Stand</dt><dd :class="falling.length ? 'warning' : 'good'">{{ place.stands.pieces.length - falling.length }} of {{ place.stands.pieces.length }}</dd></div>
                <div v-if="place.stands.pieces.length && place.stands.pieces[0].over_mm !== null"><dt>{{ project.project?.printer?.name }}</dt><dd data-number="lying" :class="large.length ? 'warning' : 'good'">{{ lying }}</dd></div>
                <div v-if="turned">
                    <dt>Tilted</dt>
                    <dd v-if="turned.fits" data-number="tilted"><span class="good">fits</span> <button class="link" @click="tilt()">turn it so</button></dd>
                    <dd v-else data-number="tilted" class="warning">{{ turned.least_mm > 0 ? `at least ${mm(turned.least_mm)} too large` : 'no way found' }}</dd>
                </div>
            </dl>
            <p v-if="place.stands && place.stands.open.length" class="warning">{{ place.stands.open.length === 1 ? `${place.stands.open[0]} is not closed` : `${place.stands.open.length} pieces are not closed` }}: mend first.</p>
        </template>
        <div v-else class="line">
            <span class="label">Face</span>
            <button class="link" :aria-pressed="blade.placing === 'face'" @click="blade.placing = blade.placing === 'face' ? 'none' : 'face'">{{ place.face ? 'click another…' : 'click it…' }}</button>
            <span class="soft">{{ place.face ? 'will lie below' : 'the pieces will stand on it' }}</span>
        </div>
        <p v-if="place.way !== 'face' && place.way !== 'lay'" class="soft">Or drag {{ place.way === 'about' ? 'the knob on the ring' : 'the arrows' }} in the view.</p>
        <div v-if="place.way !== 'move' && place.way !== 'lay'" class="line">
            <span class="label">{{ place.way === 'scale' ? 'Stays' : 'Through' }}</span>
            <ChoiceRow
                :model-value="place.place ? '' : place.through" :options="[{ value: 'centre', text: 'centre', hint: 'The middle of all that is placed stays' }, { value: 'origin', text: 'origin', hint: 'The point 0, 0, 0 stays' }]"
                label="Through" @update:model-value="place.set({ through: $event, place: null })"
            />
        </div>
        <dl v-if="project.taken.length && place.way === 'move'" class="sizes">
            <div><dt>Middle now</dt><dd>{{ spot(middle) }}</dd></div>
            <div><dt>After</dt><dd data-number="middle-after">{{ spot(middle.map((one, k) => one + place.by[k])) }}</dd></div>
        </dl>
        <dl v-else-if="project.taken.length && place.way !== 'lay'" class="sizes">
            <div><dt>Now</dt><dd>{{ size(now) }}</dd></div>
            <div v-if="place.forecast"><dt>After</dt><dd data-number="size-after">{{ size(place.forecast.size) }}</dd></div>
            <div v-if="place.forecast && place.forecast.fits !== null">
                <dt>{{ project.project?.printer?.name }}</dt>
                <dd :class="place.forecast.fits === place.forecast.pieces ? 'good' : 'warning'">{{ fits }}</dd>
            </div>
        </dl>
        <template #foot><StepFoot :action="action" :ready="place.ready" :sentence="place.sentence" @run="place.run()" /></template>
    </StationCard>
</template>

<style scoped src="./card.css"></style>
<style scoped>
:deep(.el-checkbox) {
    --el-checkbox-checked-text-color: var(--ink);
}

.faces {
    width: 100%;
    border-collapse: collapse;
    font-size: 12px;
}

.faces th {
    font-weight: 400;
    color: var(--soft);
}

.faces th,
.faces td {
    padding: 3px 0;
    text-align: right;
    white-space: nowrap;
}

.faces th:first-child,
.faces td:first-child {
    text-align: left;
}

.faces .chosen td {
    border-bottom: 1px solid var(--cut);
}

.sizes {
    display: block;
}

.sizes div {
    display: flex;
    justify-content: space-between;
    gap: 10px;
}
</style>
