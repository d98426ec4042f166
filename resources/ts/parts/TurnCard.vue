<script setup lang="ts">
import { computed } from 'vue'
import { ElButton } from 'element-plus'
import { mm, size } from '../format'
import { useBlade } from '../stores/blade'
import { useProject } from '../stores/project'
import { useTurn, type Axis } from '../stores/turn'
import BladeKinds from './BladeKinds.vue'
import ChoiceRow from './ChoiceRow.vue'
import NumberField from './NumberField.vue'
import StationCard from './StationCard.vue'
import StepProgress from './StepProgress.vue'

const blade = useBlade()
const project = useProject()
const turn = useTurn()

const axes: { value: Axis; text: Axis; hint: string }[] = [
    { value: 'X', text: 'X', hint: 'Forward and back' }, { value: 'Y', text: 'Y', hint: 'Over to a side' }, { value: 'Z', text: 'Z', hint: 'On the spot' },
]
const quarters = [{ by: -90, text: '−90°' }, { by: 90, text: '90°' }, { by: 180, text: '180°' }]

const fits = computed(() => {
    const told = turn.forecast
    if (!told) return ''
    if (told.pieces > 1) return `${told.fits} of ${told.pieces} fit`
    return told.fits ? 'fits' : `${mm(told.over_mm)} too large`
})

function way(to: 'about' | 'face') {
    blade.placing = to === 'face' && !turn.face ? 'face' : 'none'
    turn.set({ way: to })
}
</script>

<template>
    <StationCard label="Turn">
        <header>
            <h2>{{ project.editing === null ? 'Turn' : `Step ${project.stepOf(project.editing)?.number}` }}</h2>
            <BladeKinds />
        </header>
        <div class="line">
            <span class="label">Turn</span>
            <ChoiceRow :model-value="turn.way" :options="[{ value: 'about', text: 'about an axis' }, { value: 'face', text: 'onto a face' }]" label="Turn" @update:model-value="way($event)" />
        </div>
        <template v-if="turn.way === 'about'">
            <div class="line">
                <span class="label">About</span>
                <ChoiceRow :model-value="turn.own ? '' : turn.axis" :options="axes" label="About" @update:model-value="turn.set({ axis: $event, own: null })" />
                <span v-if="turn.own" class="soft">an axis of its own</span>
            </div>
            <div class="line">
                <span class="label">By</span>
                <NumberField class="narrow" :model-value="turn.degrees" unit="°" label="Degrees" :digits="turn.degrees % 1 ? 2 : 0" :step="5" :min="-360" :max="360" @update:model-value="turn.set({ degrees: $event })" />
                <button v-for="one in quarters" :key="one.by" class="link" :aria-pressed="turn.degrees === one.by" @click="turn.set({ degrees: one.by })">{{ one.text }}</button>
            </div>
        </template>
        <div v-else class="line">
            <span class="label">Face</span>
            <button class="link" :aria-pressed="blade.placing === 'face'" @click="blade.placing = blade.placing === 'face' ? 'none' : 'face'">{{ turn.face ? 'click another…' : 'click it…' }}</button>
            <span class="soft">{{ turn.face ? 'will lie below' : 'the pieces will stand on it' }}</span>
        </div>
        <div class="line">
            <span class="label">Through</span>
            <ChoiceRow
                :model-value="turn.place ? '' : turn.through" :options="[{ value: 'centre', text: 'centre', hint: 'The middle of all that is turned stays' }, { value: 'origin', text: 'origin', hint: 'The point 0, 0, 0 stays' }]"
                label="Through" @update:model-value="turn.set({ through: $event, place: null })"
            />
        </div>
        <dl v-if="project.taken.length" class="sizes">
            <div><dt>Now</dt><dd>{{ size(project.box.max.map((high, k) => high - project.box.min[k])) }}</dd></div>
            <div v-if="turn.forecast"><dt>After</dt><dd data-number="size-after">{{ size(turn.forecast.size) }}</dd></div>
            <div v-if="turn.forecast && turn.forecast.fits !== null">
                <dt>{{ project.project?.printer?.name }}</dt>
                <dd :class="turn.forecast.fits === turn.forecast.pieces ? 'good' : 'warning'">{{ fits }}</dd>
            </div>
        </dl>
        <template #foot>
            <StepProgress v-if="project.busy" />
            <div v-else class="main">
                <ElButton type="primary" size="large" class="cut" :disabled="!turn.ready" @click="turn.run()">{{ project.editing !== null ? 'Run again' : turn.way === 'face' ? 'Stand' : 'Turn' }}</ElButton>
                <ElButton v-if="project.editing !== null" size="large" @click="project.editing = null">Leave it</ElButton>
            </div>
            <p class="sentence" aria-live="polite" data-part="sentence">{{ turn.sentence }}</p>
        </template>
    </StationCard>
</template>

<style scoped src="./card.css"></style>
<style scoped>
.sizes {
    display: block;
}

.sizes div {
    display: flex;
    justify-content: space-between;
    gap: 10px;
}
</style>
