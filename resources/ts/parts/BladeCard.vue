<script setup lang="ts">
import { computed } from 'vue'
import { ElButton, ElProgress } from 'element-plus'
import type { Keep, Seal } from '../api/types'
import { mm, mm2, number } from '../format'
import { useBlade } from '../stores/blade'
import { useProject } from '../stores/project'
import ChoiceRow from './ChoiceRow.vue'
import NumberField from './NumberField.vue'
import SectionDrawing from './SectionDrawing.vue'

const blade = useBlade()
const project = useProject()

const axes = [{ value: 'X' as const, text: 'X' }, { value: 'Y' as const, text: 'Y' }, { value: 'Z' as const, text: 'Z' }]
const keeps: { value: Keep; text: string; hint: string }[] = [
    { value: 'both', text: 'Both', hint: 'Both sides become pieces' },
    { value: 'ahead', text: 'Ahead', hint: 'Only the side the blade faces' },
    { value: 'behind', text: 'Behind', hint: 'Only the side behind the blade' },
    { value: 'outline', text: 'Outline', hint: 'Only the section face, as a flat sheet' },
]
const seals: { value: Seal; text: string; hint: string }[] = [
    { value: 'open', text: 'Open', hint: 'The cut stays open' },
    { value: 'lean', text: 'Lean', hint: 'Closed with the fewest triangles, no new points' },
]
const name = computed(() => (blade.axis === 'Z' ? 'Height' : 'Place'))
const vector = computed(() => blade.facing.map((c) => number(c, 3)).join(', '))
</script>

<template>
    <section class="card" aria-label="Blade">
        <header>
            <h2>Blade</h2>
            <span class="soft">Flat</span>
        </header>
        <div class="line">
            <span class="label">Facing</span>
            <ChoiceRow :model-value="blade.axis" :options="axes" label="Facing" @update:model-value="blade.setAxis($event)" />
            <span class="soft vector" :title="`Facing ${vector}`">{{ vector }}</span>
        </div>
        <div class="line">
            <span class="label">{{ name }}</span>
            <NumberField :model-value="blade.place" unit="mm" :label="name" :digits="2" @update:model-value="blade.setPlace($event)" />
            <NumberField
                class="narrow" :model-value="blade.share" unit="%" label="Share of the extent"
                @update:model-value="blade.setPlace($event * blade.extent / 100)"
            />
            <button class="link" @click="blade.centreOnTaken()">centre</button>
        </div>
        <div class="line">
            <span class="label">Tilt</span>
            <NumberField class="narrow" :model-value="blade.tilt" unit="°" label="Tilt" :step="5" :min="0" :max="180" @update:model-value="blade.setTilt($event)" />
            <span class="label near">Turn</span>
            <NumberField class="narrow" :model-value="blade.turn" unit="°" label="Turn" :step="5" @update:model-value="blade.setTurn($event)" />
        </div>
        <div class="line">
            <span class="label">Keep</span>
            <ChoiceRow v-model="blade.keep" :options="keeps" label="Keep" />
        </div>
        <div class="line">
            <span class="label">Seal</span>
            <ChoiceRow v-model="blade.seal" :options="seals" label="Seal" />
            <span class="label near">Kerf</span>
            <NumberField class="narrow" :model-value="blade.kerf" unit="mm" label="Kerf" :step="0.1" :min="0" :max="1000" @update:model-value="blade.kerf = $event" />
        </div>
        <SectionDrawing />
        <dl>
            <div><dt>Area</dt><dd data-number="area">{{ blade.section ? mm2(blade.section.area) : '–' }}</dd></div>
            <div><dt>Outlines</dt><dd data-number="outlines">{{ blade.section ? blade.outlineCount : '–' }}</dd></div>
            <div><dt>Perimeter</dt><dd>{{ blade.section ? mm(blade.section.perimeter) : '–' }}</dd></div>
            <div><dt>Pieces cut</dt><dd>{{ blade.section ? `${blade.cutCount} of ${project.living.length}` : '–' }}</dd></div>
        </dl>
        <div v-if="project.busy" class="work" aria-live="polite">
            <ElProgress :percentage="Math.round(100 * (project.run?.progress ?? 0))" :stroke-width="8" :show-text="false" />
            <span class="phase"><span>{{ project.run?.phase }}</span><button class="link" @click="project.stop()">stop</button></span>
        </div>
        <ElButton v-else type="primary" size="large" class="cut" :disabled="!blade.ready" @click="blade.cut()">Cut</ElButton>
        <p class="sentence" aria-live="polite" data-part="sentence">{{ blade.sentence }}</p>
    </section>
</template>

<style scoped>
.card {
    display: flex;
    flex-direction: column;
    gap: 9px;
    overflow-y: auto;
    padding: 14px 16px;
}

header {
    display: flex;
    align-items: baseline;
    justify-content: space-between;
}

.line {
    display: flex;
    align-items: center;
    gap: 8px;
}

.label {
    flex: none;
    width: 44px;
    color: var(--soft);
}

.label.near {
    width: auto;
    margin-left: 6px;
}

.narrow {
    width: 68px;
}

.vector {
    overflow: hidden;
    font-size: 12px;
    text-overflow: ellipsis;
    white-space: nowrap;
}

dl {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 3px 16px;
    margin: 0;
}

dl div {
    display: flex;
    justify-content: space-between;
    gap: 6px;
}

dt {
    color: var(--soft);
}

dd {
    margin: 0;
    white-space: nowrap;
}

.cut {
    flex: none;
    width: 100%;
    font-size: 15px;
    font-weight: 600;
}

.work {
    min-height: 40px;
}

.phase {
    display: flex;
    justify-content: space-between;
    margin-top: 6px;
}

.sentence {
    min-height: 38px;
    margin: 0;
}
</style>
