<script setup lang="ts">
import { computed } from 'vue'
import type { Band, Gives } from '../api/types'
import { mm, number } from '../format'
import { useBlade } from '../stores/blade'
import { useMirror, type Axis, type Through } from '../stores/mirror'
import { useProject } from '../stores/project'
import { SCALE } from '../view/ColourMap'
import ChoiceRow from './ChoiceRow.vue'
import CutHead from './CutHead.vue'
import NumberField from './NumberField.vue'
import StationCard from './StationCard.vue'
import RunProgress from './RunProgress.vue'
import StepFoot from './StepFoot.vue'

const blade = useBlade()
const mirror = useMirror()
const project = useProject()

const axes: { value: Axis; text: Axis }[] = [{ value: 'X', text: 'X' }, { value: 'Y', text: 'Y' }, { value: 'Z', text: 'Z' }]
const places: { value: Through; text: string; hint: string }[] = [
    { value: 'origin', text: 'origin', hint: 'Through 0, 0, 0' },
    { value: 'centre', text: 'centre', hint: 'Through the middle of the pieces' },
    { value: 'low', text: 'low', hint: 'At the low end of their box' },
    { value: 'high', text: 'high', hint: 'At the high end of their box' },
]
const gives: { value: Gives; text: string; hint: string }[] = [
    { value: 'one', text: 'One body', hint: 'Both sides joined' },
    { value: 'two', text: 'Two', hint: 'Left and right as pieces of their own' },
    { value: 'reflection', text: 'Reflection', hint: 'The reflection alone' },
]
const bands: { value: Band; text: string; hint: string }[] = [
    { value: 'none', text: 'None', hint: 'They stay apart' },
    { value: 'straight', text: 'Straight', hint: 'Facing rims joined by straight faces' },
    { value: 'smoothed', text: 'Smoothed', hint: 'Faces that go on from the slope of either side' },
]
const others = computed(() => axes.filter((axis) => axis.value !== blade.axis))
const scale = `linear-gradient(to right, ${SCALE.join(', ')})`

function toggle(axis: Axis) {
    mirror.set({ further: null, also: mirror.also.includes(axis) ? mirror.also.filter((one) => one !== axis) : [...mirror.also, axis] })
}

function turned(axis: Axis) {
    blade.setAxis(axis)
    mirror.place(mirror.through)
}
</script>

<template>
    <StationCard label="Mirror">
        <CutHead title="Mirror" />
        <div class="line">
            <span class="label">Make</span>
            <ChoiceRow
                :model-value="mirror.copying ? 'copies' : 'half'" :options="[{ value: 'half', text: 'Reflection', hint: 'Over a plane' }, { value: 'copies', text: 'Copies', hint: 'Turned about an axis' }]" label="Make"
                @update:model-value="mirror.set({ copying: $event === 'copies' })"
            />
        </div>
        <template v-if="!mirror.copying">
            <div class="line">
                <span class="label">Facing</span>
                <ChoiceRow :model-value="blade.axis" :options="axes" label="Facing" @update:model-value="turned($event)" />
                <button class="link" :aria-pressed="blade.placing === 'face'" title="Click a face to mirror over it" @click="blade.placing = blade.placing === 'face' ? 'none' : 'face'">face</button>
            </div>
            <div class="line">
                <span class="label">Through</span>
                <ChoiceRow :model-value="''" :options="places" label="Through" @update:model-value="mirror.place($event)" />
            </div>
            <div class="line">
                <span class="label" />
                <NumberField :model-value="blade.offset" unit="mm" label="Distance from the origin" :digits="2" @update:model-value="blade.setOffset($event); mirror.ask()" />
                <span class="soft">from the origin</span>
            </div>
            <div class="line">
                <span class="label">Tilt</span>
                <NumberField class="narrow" :model-value="blade.tilt" unit="°" label="Tilt" :step="5" :min="0" :max="180" @update:model-value="blade.setTilt($event); mirror.ask()" />
                <span class="label near">Turn</span>
                <NumberField class="narrow" :model-value="blade.turn" unit="°" label="Turn" :step="5" @update:model-value="blade.setTurn($event); mirror.ask()" />
            </div>
            <div class="line">
                <span class="label">Also</span>
                <span class="soft">over</span>
                <label v-for="axis in others" :key="axis.value" class="also"><input type="checkbox" :checked="mirror.also.includes(axis.value)" :aria-label="`Also over ${axis.value}`" @change="toggle(axis.value)"> {{ axis.text }}</label>
            </div>
            <hr>
            <div class="line">
                <span class="label">Keep</span>
                <ChoiceRow
                    :model-value="mirror.halves ? mirror.keep : ''" :options="[{ value: 'ahead', text: 'Ahead' }, { value: 'behind', text: 'Behind' }]" label="Keep"
                    @update:model-value="mirror.set({ keep: $event, halves: true })"
                />
                <label class="tick" title="Mirrors the whole, also what lies across the plane"><input type="checkbox" :checked="!mirror.halves" aria-label="Without a cut" @change="mirror.set({ halves: !($event.target as HTMLInputElement).checked })"> whole</label>
            </div>
            <div class="line">
                <span class="label">Gives</span>
                <ChoiceRow :model-value="mirror.gives" :options="gives" label="Gives" @update:model-value="mirror.set({ gives: $event })" />
            </div>
            <div v-if="!mirror.halves && mirror.gives === 'one'" class="line">
                <span class="label">Band</span>
                <ChoiceRow :model-value="mirror.band" :options="bands" label="Band" @update:model-value="mirror.set({ band: $event })" />
            </div>
        </template>
        <template v-else>
            <div class="line">
                <span class="label">About</span>
                <ChoiceRow :model-value="mirror.about ? '' : mirror.copyAxis" :options="axes" label="Axis of the copies" @update:model-value="mirror.set({ copyAxis: $event, about: null })" />
                <NumberField class="narrow" :model-value="mirror.copies" unit="×" label="Copies" :digits="0" :min="2" :max="360" @update:model-value="mirror.set({ copies: Math.round($event) })" />
            </div>
            <div class="line">
                <span class="label">Through</span>
                <ChoiceRow :model-value="mirror.about ? '' : mirror.through" :options="places.slice(0, 2)" label="Axis through" @update:model-value="mirror.set({ through: $event, about: null })" />
            </div>
            <p v-if="mirror.about" class="soft means">About {{ mirror.about.axis.map((c) => number(c, 3)).join(', ') }} through {{ mirror.about.through.map((c) => number(c, 1)).join(', ') }}, as the step has it.</p>
        </template>
        <div class="line">
            <span class="label">Catch</span>
            <NumberField class="narrow" :model-value="mirror.catch" unit="mm" label="Catch" :digits="2" :step="0.05" :min="0" :max="1000" @update:model-value="mirror.set({ catch: $event })" />
            <template v-if="!mirror.copying && mirror.gives === 'one'">
                <span class="label near">Smooth</span>
                <NumberField class="narrow" :model-value="mirror.smooth" unit="°" label="Smooth kinks below" :digits="0" :step="5" :min="0" :max="180" @update:model-value="mirror.set({ smooth: $event })" />
            </template>
        </div>
        <p v-if="!mirror.copying && mirror.forecast?.rims" class="gap" data-part="gap">
            Rim up to <b>{{ mm(mirror.forecast.gap, 2) }}</b> off the plane
            <button v-if="mirror.catch < mirror.forecast.gap" class="link" @click="mirror.set({ catch: mirror.forecast.weld })">catch {{ mm(mirror.forecast.weld, 2) }}</button>
            <span v-else class="good">caught</span>
        </p>
        <p v-if="!mirror.copying && mirror.forecast && mirror.forecast.kink !== null" class="gap" data-part="kink">
            <template v-if="mirror.forecast.kink < 0.05">No kink along the seam</template>
            <template v-else>Kink along the seam up to <b>{{ number(mirror.forecast.kink, 1) }}°</b>, {{ number(mirror.forecast.mean_kink ?? 0, 1) }}° on average</template>
        </p>
        <p v-if="!mirror.copying && mirror.forecast?.unjoined.length" class="gap warning" data-part="unjoined">Rims near the plane stay open: they are drawn in the view.</p>
        <section class="how" aria-label="How symmetric">
            <h3>How symmetric</h3>
            <p>
                <button class="link" :disabled="mirror.measuring || !project.taken.length" @click="mirror.measure(false)">over this plane</button>
                <button class="link" :disabled="mirror.measuring || !project.taken.length" @click="mirror.measure(true)">find the best plane</button>
                <button v-if="mirror.symmetry" class="link" @click="mirror.symmetry = null">clear</button>
                <span v-if="mirror.measuring && !mirror.measuringRun" class="soft">measuring…</span>
            </p>
            <RunProgress v-if="mirror.measuringRun" :run="mirror.measuringRun" label="Progress of the measuring" @stop="mirror.stopMeasuring()" />
            <template v-if="mirror.symmetry">
                <dl>
                    <div><dt>Largest</dt><dd data-number="deviation">{{ mm(mirror.symmetry.largest, 2) }}</dd></div>
                    <div><dt>Mean</dt><dd data-number="mean-deviation">{{ mm(mirror.symmetry.mean, 3) }}</dd></div>
                </dl>
                <div class="legend" role="img" :aria-label="`Colours from 0 to ${number(mirror.symmetry.largest, 2)} mm`">
                    <span class="bar" :style="{ background: scale }" />
                    <span>0</span><span>{{ number(mirror.symmetry.largest / 2, 2) }}</span><span>{{ mm(mirror.symmetry.largest, 2) }}</span>
                </div>
            </template>
        </section>
        <template #foot><StepFoot :action="mirror.copying ? 'Copy' : 'Mirror'" :ready="mirror.ready" :sentence="mirror.sentence" @run="mirror.run()" @left="blade.centreOnTaken()" /></template>
    </StationCard>
</template>

<style scoped src="./card.css"></style>
<style scoped>
.also {
    display: inline-flex;
    align-items: center;
    gap: 4px;
}

.gap {
    margin: 0 0 0 58px;
    font-size: 13px;
}

.good {
    color: var(--good);
}

.how {
    margin-top: 6px;
    padding-top: 6px;
    border-top: 1px solid var(--rule);
}

h3 {
    margin: 0;
    font-size: 14px;
    font-weight: 600;
}

.how p {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 14px;
    margin: 2px 0;
}

.how dl {
    margin: 0;
    padding: 0;
    border: 0;
}

.legend {
    display: grid;
    grid-template-columns: 1fr 1fr 1fr;
    margin-top: 4px;
    font-size: 12.5px;
}

.legend .bar {
    grid-column: 1 / -1;
    height: 10px;
    border: 1px solid var(--rule);
}

.legend span:nth-child(3) {
    text-align: center;
}

.legend span:nth-child(4) {
    text-align: right;
}
</style>
