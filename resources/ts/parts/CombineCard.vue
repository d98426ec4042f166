<script setup lang="ts">
import { computed } from 'vue'
import { ElCheckbox } from 'element-plus'
import type { Piece } from '../api/types'
import { mm2, volume } from '../format'
import { useCheck } from '../stores/check'
import { useCombine } from '../stores/combine'
import { title } from '../stores/project'
import { useSettings } from '../stores/settings'
import ChoiceRow from './ChoiceRow.vue'
import CutHead from './CutHead.vue'
import NumberField from './NumberField.vue'
import StationCard from './StationCard.vue'
import StepFoot from './StepFoot.vue'

const combine = useCombine()

const WAYS = [
    { value: 'unite', text: 'Unite', hint: 'One piece of several' },
    { value: 'subtract', text: 'Subtract', hint: 'Some pieces are taken out of the others' },
    { value: 'common', text: 'Common', hint: 'What is in all of them' },
    { value: 'divide', text: 'Divide', hint: 'Some pieces cut the others along their skin' },
] as const

const SIDES = [
    { value: 'both', text: 'Both', hint: 'What is within and what is around' },
    { value: 'ahead', text: 'Around', hint: 'What is around what cuts' },
    { value: 'behind', text: 'Within', hint: 'What is within what cuts' },
] as const
const verb = computed(() => (combine.way === 'divide' ? 'cuts' : 'take out'))

/** Pairs that are listed; of more, the largest. */
const ROWS = 60

/** Pieces that are listed; who has more picks some. */
const PIECES = 200

/** What needs a hand comes first. */
const listed = computed(() => [...combine.open, ...combine.pieces.filter((piece) => piece.watertight)])
/** Tools that stayed are not among the pieces that the step took. */
const others = computed(() => (combine.usesTools ? combine.marked.filter((name) => !combine.pieces.some((piece) => piece.name === name)) : []))
const action = computed(() => WAYS.find(({ value }) => value === combine.way)?.text ?? '')
const together = computed(() => combine.pieces.reduce((sum, piece) => sum + piece.volume, 0))
const outcome = computed(() => ({ unite: 'United', subtract: 'Taken out', common: 'Common', divide: 'Within' })[combine.way])

function mend(piece: Piece) {
    // What is picked stays picked, to be combined when it is mended.
    useCheck().piece = piece.id
    useSettings().station = 'check'
}
</script>

<template>
    <StationCard label="Combine">
        <CutHead title="Combine" />
        <div class="line"><ChoiceRow :model-value="combine.way" :options="[...WAYS]" label="How pieces are combined" @update:model-value="combine.set({ way: $event, spend: $event !== 'divide' })" /></div>
        <ul class="pieces" aria-label="Pieces that are combined">
            <li v-for="piece in listed.slice(0, PIECES)" :key="piece.id">
                <span class="swatch" :style="{ background: piece.colour }" />
                <span class="name" :title="title(piece)">{{ title(piece) }}</span>
                <span v-if="piece.watertight" class="soft">{{ volume(piece.volume) }}</span>
                <button v-else class="link warning" :aria-label="`Mend ${title(piece)}`" title="It is not watertight: nobody can say what is inside of it" @click="mend(piece)">mend…</button>
                <ElCheckbox v-if="combine.usesTools" :model-value="combine.tools.includes(piece.name)" :aria-label="`${verb} ${title(piece)}`" @update:model-value="combine.mark(piece.name, $event === true)">{{ verb }}</ElCheckbox>
            </li>
            <li v-if="listed.length > PIECES" class="soft">and {{ listed.length - PIECES }} more, which are combined as well</li>
            <li v-for="name in others" :key="name"><span class="name">{{ combine.titleOf(name) }}</span><span class="soft">{{ combine.way === 'divide' ? 'cuts' : 'is taken out' }} and stays</span></li>
        </ul>
        <template v-if="combine.way === 'subtract'">
            <div class="line">
                <span>Gap all round</span>
                <NumberField :model-value="combine.gap" unit="mm" label="Gap all round" :digits="2" :step="0.05" :min="0" :max="1000" @update:model-value="combine.set({ gap: $event })" />
            </div>
            <ElCheckbox :model-value="!combine.spend" @update:model-value="combine.set({ spend: $event !== true })">Keep what is taken out, as pieces</ElCheckbox>
        </template>
        <template v-else-if="combine.way === 'divide'">
            <div class="line">
                <span class="label">Keep</span>
                <ChoiceRow :model-value="combine.keep" :options="[...SIDES]" label="What stays" @update:model-value="combine.set({ keep: $event })" />
            </div>
            <ElCheckbox :model-value="!combine.spend" @update:model-value="combine.set({ spend: $event !== true })">Keep what cuts, as pieces</ElCheckbox>
        </template>
        <p v-if="combine.looking" class="soft looking">
            Looking for overlaps… {{ Math.round(100 * combine.looking.progress) }} %
            <button class="link" @click="combine.stop()">stop</button>
        </p>
        <template v-else-if="combine.forecast">
            <ul v-if="combine.pairs.length" class="pairs" aria-label="Pairs that meet">
                <li v-for="pair in combine.pairs.slice(0, ROWS)" :key="`${pair.one}|${pair.other}`">
                    <span class="name">{{ combine.titleOf(pair.one) }} · {{ combine.titleOf(pair.other) }}</span>
                    <span class="soft">{{ pair.common_mm3 > 0 ? volume(pair.common_mm3) : `touch on ${mm2(pair.contact_mm2)}` }}</span>
                </li>
                <li v-if="combine.pairs.length > ROWS" class="soft">and {{ combine.pairs.length - ROWS }} smaller ones</li>
            </ul>
            <dl class="sizes">
                <div v-if="!combine.usesTools"><dt>Pieces together</dt><dd>{{ volume(together) }}</dd></div>
                <div><dt>{{ outcome }}</dt><dd data-number="outcome">{{ volume(combine.forecast.volume_mm3) }}</dd></div>
            </dl>
        </template>
        <template #foot><StepFoot :action="action" :ready="combine.ready" :sentence="combine.sentence" @run="combine.run()" /></template>
    </StationCard>
</template>

<style scoped src="./card.css"></style>
<style scoped>
:deep(.el-checkbox) {
    --el-checkbox-checked-text-color: var(--ink);
    --el-checkbox-text-color: var(--soft);
    --el-checkbox-font-weight: 400;
    height: 28px;
}

ul {
    flex: none;
    max-height: 204px;
    margin: 0;
    padding: 0;
    overflow-y: auto;
    border-top: 1px solid var(--rule);
    list-style: none;
}

.pairs {
    max-height: 176px;
}

li {
    display: flex;
    align-items: center;
    gap: 8px;
    min-height: 29px;
    border-bottom: 1px solid var(--rule);
}

.pairs li {
    min-height: 25px;
}

.swatch {
    flex: none;
    width: 12px;
    height: 12px;
    border-radius: 2px;
}

.name {
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}

.warning {
    color: var(--cut);
}

.looking {
    margin: 4px 0;
}

.sizes {
    display: block;
    border-top: 0;
    padding-top: 0;
}
</style>
