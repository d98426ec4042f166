<script setup lang="ts">
import { computed, onMounted, onUnmounted } from 'vue'
import { ElButton } from 'element-plus'
import type { PlanAlternative, PlanTerms } from '../api/types'
import { bedSize, count, fitTitle, fitWords, label, mm, number, size } from '../format'
import { useBlade } from '../stores/blade'
import { usePlan } from '../stores/plan'
import { title, useProject } from '../stores/project'
import { anglesOf, dot } from '../view/direction'
import NumberField from './NumberField.vue'
import PlateWorks from './PlateWorks.vue'
import RunProgress from './RunProgress.vue'
import StationCard from './StationCard.vue'
import StepProgress from './StepProgress.vue'

const blade = useBlade()
const plan = usePlan()
const project = useProject()

const TERMS: { key: keyof PlanTerms; words: string; means: string }[] = [
    { key: 'area', words: 'cut faces', means: 'How large the sections are, by the bed' },
    { key: 'outlines', words: 'outlines', means: 'Sections in more than one outline' },
    { key: 'thin', words: 'thin places', means: 'Sections that are narrower than a peg somewhere' },
    { key: 'pegs', words: 'no room for pegs', means: 'Cut faces into which no peg goes' },
    { key: 'leftovers', words: 'leftovers', means: 'Pieces of next to nothing' },
    { key: 'tilt', words: 'tilted cuts', means: 'Cuts that are not square to an axis' },
    { key: 'symmetry', words: 'symmetry', means: 'Cuts in the plane of symmetry count in favour' },
    { key: 'supports', words: 'overhang', means: 'Skin that hangs over however the pieces lie on a cut face' },
]

const printer = computed(() => project.project?.printer ?? null)
const large = computed(() => project.living.filter((piece) => piece.fit && !piece.fit.fits))
const piece = computed(() => plan.piece)
const shown = computed(() => plan.alternative)
const terms = computed(() => TERMS.filter(({ key }) => Math.abs(shown.value?.terms[key] ?? 0) >= 0.005))
const ready = computed(() => printer.value !== null && piece.value !== null && !project.busy && !plan.waits)

/** How a cut lies: by its axis, or by its angles. */
function lies({ facing }: PlanAlternative['cuts'][number]) {
    const axis = facing.findIndex((part) => Math.abs(part) === 1)
    if (axis >= 0) return `${facing[axis] < 0 ? '−' : ''}${'XYZ'[axis]}`
    const { turn, tilt } = anglesOf(facing)
    return `tilt ${number(tilt, 1)}°, turn ${number(turn, 1)}°`
}

const cutsOf = (of: PlanAlternative) => count(of.cuts.length, 'cut', 'cuts')
const piecesOf = (of: PlanAlternative) => count(of.pieces.length, 'piece', 'pieces')
const missing = computed(() => shown.value?.pieces.filter(({ over_mm }) => over_mm > 0) ?? [])
const turned = computed(() => shown.value?.pieces.filter(({ turn }) => turn.degrees > 0).length ?? 0)

const sentence = computed(() => {
    if (!printer.value) return 'Choose a printer beside the project’s name: plans are made for its space.'
    if (!piece.value) return project.living.length ? 'Every piece fits the printer; there is nothing to plan.' : 'There is no piece yet.'
    if (project.busy) return project.busyWords
    if (plan.problem) return plan.problem
    if (plan.waits) return 'Looks for cuts; you can go on working meanwhile.'
    if (plan.isOld) return `The plans are for other settings; look again for ${title(piece.value)}.`
    if (!shown.value) return `Looks for cuts after which every piece of ${title(piece.value)} fits ${printer.value.name}. Nothing is cut yet.`
    if (!shown.value.cuts.length) return `${title(piece.value)} fits without a cut, turned by ${number(shown.value.pieces[0].turn.degrees, 1)}°.`
    if (missing.value.length) return `${label(missing.value[0].name)} would be ${mm(missing.value[0].over_mm)} too large${missing.value.length > 1 ? `, and ${missing.value.length - 1} more` : ''}; move the cut, or make the cuts all the same.`
    const gap = plan.gap > 0 ? `, ${mm(plan.gap)} removed at each` : ''
    return `Makes ${cutsOf(shown.value)} through ${title(piece.value)}${gap}: ${piecesOf(shown.value)}, each fits${turned.value ? `, ${turned.value} of them turned` : ' as it stands'}.`
})

onMounted(() => project.showAsIs())
onUnmounted(() => { if (blade.placing === 'place') blade.placing = 'none' })

</script>

<template>
    <StationCard label="Plate">
        <PlateWorks />
        <header>
            <h2>Plan</h2>
            <span v-if="piece" class="soft">{{ title(piece) }}</span>
        </header>
        <dl class="state">
            <div v-if="printer"><dt>{{ printer.name }}</dt><dd>{{ bedSize(printer) }}</dd></div>
            <div v-if="piece"><dt>{{ title(piece) }}</dt><dd>{{ size(piece.max.map((high, k) => high - piece!.min[k])) }}</dd></div>
            <div v-if="piece?.fit"><dt>Fit</dt><dd :class="piece.fit.fits ? 'good' : 'warning'" :title="fitTitle(piece.fit)">{{ fitWords(piece.fit) }}</dd></div>
            <div v-if="printer && large.length > 1"><dt>Too large</dt><dd class="warning">{{ large.length }} of {{ count(project.living.length, 'piece', 'pieces') }}</dd></div>
        </dl>
        <div class="line counts">
            <label>margin <NumberField :model-value="plan.margin" unit="mm" label="Margin of the bed" :min="0" :max="1000" @update:model-value="plan.wish({ ownMargin: $event })" /></label>
            <label>gap <NumberField :model-value="plan.gap" unit="mm" label="Gap at each cut" :digits="2" :step="0.1" :min="0" :max="50" @update:model-value="plan.wish({ ownGap: $event })" /></label>
            <label>pegs <NumberField :model-value="plan.peg" unit="mm" label="Width of pegs" :min="0" :max="100" @update:model-value="plan.wish({ peg: $event })" /></label>
        </div>
        <div class="whole">
            <div class="line">
                <span class="soft">stays whole</span>
                <button class="link" :aria-pressed="blade.placing === 'place'" @click="blade.placing = blade.placing === 'place' ? 'none' : 'place'">{{ blade.placing === 'place' ? 'done' : 'click places…' }}</button>
            </div>
            <div v-for="(one, n) in plan.whole" :key="n" class="line">
                <span class="soft">{{ n + 1 }}, radius</span>
                <NumberField class="stop" :model-value="one.radius" unit="mm" :label="`Radius of place ${n + 1}`" :min="0.1" :max="10000" @update:model-value="plan.wish({ whole: plan.whole.map((other, k) => (k === n ? { ...other, radius: $event } : other)) })" />
                <button class="link" :aria-label="`Let place ${n + 1} go`" @click="plan.wish({ whole: plan.whole.filter((_, k) => k !== n) })">let go</button>
            </div>
        </div>
        <template v-if="plan.answer && !plan.isOld">
            <p class="bound" data-number="least">At least {{ count(plan.answer.least, 'piece is', 'pieces are') }} needed.</p>
            <div class="alternatives" role="radiogroup" aria-label="Alternatives">
                <button
                    v-for="(one, n) in plan.answer.alternatives" :key="n" class="plain alternative" role="radio" :aria-checked="n === plan.chosen"
                    :aria-label="`Alternative ${n + 1}: ${piecesOf(one)}, ${cutsOf(one)}`" @click="plan.chosen = n"
                >
                    <span class="pieces" :class="{ warning: one.pieces.some(({ over_mm }) => over_mm > 0) }">{{ piecesOf(one) }}</span>
                    <span class="soft">{{ cutsOf(one) }}{{ one.terms.symmetry < 0 ? ', symmetric' : one.terms.tilt > 0 ? ', tilted' : '' }}</span>
                    <span class="cost"><span class="soft">cost</span> {{ number(one.cost, 2) }}</span>
                </button>
            </div>
            <template v-if="shown">
                <dl class="terms" aria-label="What the plan costs">
                    <div><dt>pieces</dt><dd>{{ number(shown.terms.pieces, 2) }}</dd></div>
                    <div v-for="{ key, words, means } in terms" :key="key" :title="means"><dt>{{ words }}</dt><dd :class="{ good: shown.terms[key] < 0 }">{{ number(shown.terms[key], 2) }}</dd></div>
                </dl>
                <ol v-if="shown.cuts.length" class="cuts" aria-label="Cuts of the plan">
                    <li v-for="(one, n) in shown.cuts" :key="n">
                        <span class="soft">{{ label(one.of) }}</span> <span>{{ lies(one) }}</span>
                        <NumberField class="stop" :model-value="dot(one.through, one.facing)" unit="mm" :label="`Place of cut ${n + 1}`" @update:model-value="plan.move(n, $event)" />
                    </li>
                </ol>
                <button v-if="shown.pieces.some(({ over_mm }) => over_mm > 0)" class="link" :disabled="plan.waits" @click="plan.more()">cut what does not fit</button>
            </template>
        </template>
        <template #foot>
            <RunProgress v-if="plan.waits" :run="plan.looking" label="Looking for cuts" @stop="plan.stop()" />
            <StepProgress v-else-if="project.busy" />
            <div v-else class="main">
                <ElButton v-if="shown && shown.cuts.length" type="primary" size="large" class="go" :disabled="!ready" @click="plan.cut()">Make {{ cutsOf(shown) }}</ElButton>
                <ElButton v-else type="primary" size="large" class="go" :disabled="!ready || (shown !== null && !shown.cuts.length)" @click="plan.look()">Look for cuts</ElButton>
            </div>
            <p class="sentence" aria-live="polite" data-part="sentence">{{ sentence }}</p>
        </template>
    </StationCard>
</template>

<style scoped src="./card.css"></style>
<style scoped>
.state,
.terms {
    display: block;
}

.state div,
.terms div {
    display: flex;
    justify-content: space-between;
    gap: 10px;
}

.bound {
    margin: 4px 0 0;
    font-family: var(--serif, inherit);
}

.alternatives {
    display: grid;
    gap: 4px;
}

.alternative {
    display: grid;
    grid-template-columns: 76px 1fr auto;
    gap: 8px;
    align-items: baseline;
    padding: 6px 8px;
    text-align: left;
    border: 1px solid var(--rule);
    border-radius: 3px;
}

.alternative[aria-checked='true'] {
    border-color: var(--cut);
    box-shadow: inset 3px 0 0 var(--cut);
}

.pieces {
    font-weight: 600;
}

.cost {
    font-variant-numeric: tabular-nums;
}

.cuts {
    margin: 0;
    padding: 4px 0 0;
    border-top: 1px solid var(--rule);
    font-size: 12.5px;
    line-height: 1.5;
}

.cuts li {
    display: flex;
    gap: 6px;
    align-items: center;
    padding: 2px 0;
}

.cuts {
    list-style: none;
}

.stop {
    width: 92px;
    margin-left: auto;
}

.whole .line .link {
    margin-left: auto;
}

.whole .stop + .link {
    margin-left: 0;
}

.main {
    display: flex;
}
</style>
