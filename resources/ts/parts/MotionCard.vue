<script setup lang="ts">
import { ElButton, ElCheckbox } from 'element-plus'
import { computed, onMounted, onUnmounted, ref, watch } from 'vue'
import type { MovementFile } from '../api/client'
import { count } from '../format'
import { useMotion, type LayerKind } from '../stores/motion'
import { useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import MovementLayerFields from './MovementLayerFields.vue'
import NumberField from './NumberField.vue'
import RunProgress from './RunProgress.vue'
import StationCard from './StationCard.vue'
import StepProgress from './StepProgress.vue'

const motion = useMotion()
const project = useProject()
const as = ref<MovementFile | 'pictures' | 'pieces'>('glb')

/** Words on the button beside what is chosen. */
const action = computed(() => (as.value === 'pieces' ? 'Take over' : motion.taking ? 'Writing…' : 'Take out'))

function take() {
    if (as.value === 'pieces') void motion.takeOver()
    else if (as.value === 'pictures') void motion.takePictures(`${(project.project?.name ?? 'pieces').replace(/[\\/:]/g, '-')}-identity`)
    else void motion.takeOut(as.value)
}

function leaveStep() {
    project.editing = null
    motion.unload()
}

const KINDS: { kind: LayerKind; hint: string }[] = [
    { kind: 'spread', hint: 'Pieces move away from the middle, a place or an axis' }, { kind: 'wave', hint: 'A front passes and sets piece after piece going' },
    { kind: 'scatter', hint: 'Each piece gets a shift and a turn of its own' }, { kind: 'keys', hint: 'Poses by hand at some frames' }, { kind: 'drop', hint: 'Pieces fall onto a floor and onto each other' },
]
const RATES = [24, 25, 30, 60]

onMounted(() => {
    project.showAsIs()
    // Left elsewhere meanwhile.
    if (project.editing === null) motion.unload()
    void motion.open()
})
// The project has come, or its pieces are others.
watch(() => project.editing, (step) => { if (step === null) motion.unload() })
watch(() => [project.project?.id, ...project.living.map(({ mesh }) => mesh)].join(), () => void motion.open())
onUnmounted(() => {
    motion.leave()
    useShown().fly = project.whole
})
</script>

<template>
    <StationCard label="Motion">
        <header>
            <h2>{{ motion.editing === null ? 'Motion' : `Step ${project.stepOf(motion.editing)?.number}` }}</h2>
            <span class="soft">{{ count(motion.pieces.length, 'piece', 'pieces') }}</span>
        </header>
        <div class="line">
            <NumberField :model-value="motion.frames" unit="" :digits="0" :min="1" :max="10000" label="Frames" class="frames" @update:model-value="motion.setTime({ frames: Math.round($event) })" />
            <span class="soft">frames</span>
            <label class="end">at <select :value="motion.fps" aria-label="Frames a second" @change="motion.setTime({ fps: Number(($event.target as HTMLSelectElement).value) })">
                <option v-for="rate in RATES" :key="rate" :value="rate">{{ rate }}</option>
            </select> a second</label>
        </div>
        <ol class="layers" aria-label="Layers">
            <li v-for="(layer, n) in motion.layers" :key="n" :class="{ chosen: n === motion.chosen, off: layer.off }">
                <ElCheckbox :model-value="!layer.off" :aria-label="`Layer ${n + 1}, ${layer.do}, counts`" @update:model-value="motion.set({ off: $event !== true }, n)" />
                <button class="what" :aria-pressed="n === motion.chosen" @click="motion.chosen = n">{{ layer.do }}</button>
                <button class="link" :disabled="n === 0" :aria-label="`Layer ${n + 1}, ${layer.do}, one up`" @click="motion.shift(n, -1)">↑</button>
                <button class="link" :disabled="n === motion.layers.length - 1" :aria-label="`Layer ${n + 1}, ${layer.do}, one down`" @click="motion.shift(n, 1)">↓</button>
                <button class="link" :aria-label="`Take layer ${n + 1}, ${layer.do}, away`" @click="motion.remove(n)">×</button>
            </li>
        </ol>
        <div class="line add"><span class="soft">add</span><button v-for="{ kind, hint } in KINDS" :key="kind" class="link" :title="hint" @click="motion.add(kind)">{{ kind }}</button></div>
        <MovementLayerFields v-if="motion.layer" :layer="motion.layer" />
        <hr>
        <div class="line">
            <ElCheckbox :model-value="motion.path" title="Pick pieces to see the way that their centres take" @update:model-value="motion.path = $event === true">way of the picked</ElCheckbox>
            <ElCheckbox class="end" :model-value="motion.ghost" title="Where pieces stand is drawn sheer: the picked ones, or all" @update:model-value="motion.ghost = $event === true">their start</ElCheckbox>
        </div>
        <template #foot>
            <RunProgress v-if="motion.waits && motion.working" :run="motion.working" label="Working out the movement" @stop="motion.stop()" />
            <StepProgress v-else-if="project.busy" />
            <div v-else-if="motion.falls" class="main">
                <ElButton type="primary" size="large" class="go" :disabled="motion.waits || (motion.known !== null && !motion.isOld)" @click="motion.work()">{{ motion.known ? 'Let it fall again' : 'Let it fall' }}</ElButton>
            </div>
            <div v-if="motion.pictured !== null" class="line out">
                <progress :value="motion.pictured" :max="motion.last" aria-label="Pictures taken" />
                <ElButton class="end" @click="motion.pictured = null">Stop</ElButton>
            </div>
            <div v-else-if="motion.editing !== null && !project.busy" class="main">
                <ElButton type="primary" size="large" class="go" :disabled="!motion.known || motion.isOld || motion.waits" :title="`The pieces stand from then on where they are at frame ${motion.frame}`" @click="motion.takeOver()">Run again at frame {{ motion.frame }}</ElButton>
                <ElButton size="large" @click="leaveStep">Leave it</ElButton>
            </div>
            <div v-else-if="motion.known && !motion.isOld && !motion.waits && !project.busy" class="line out">
                <select v-model="as" aria-label="As what to take out">
                    <option value="glb">animated GLB</option>
                    <option value="json">poses, JSON</option>
                    <option value="csv">poses, CSV</option>
                    <option value="still.glb">frame {{ motion.frame }} as GLB</option>
                    <option value="still.obj">frame {{ motion.frame }} as OBJ</option>
                    <option value="pictures">identity pictures, zip</option>
                    <option value="pieces">frame {{ motion.frame }} into the project</option>
                </select>
                <ElButton class="end" :disabled="motion.taking" @click="take">{{ action }}</ElButton>
            </div>
            <p class="sentence" aria-live="polite" data-part="sentence">{{ motion.sentence }}</p>
        </template>
    </StationCard>
</template>

<style scoped src="./card.css"></style>
<style scoped>
.frames {
    width: 76px;
}

.layers {
    margin: 0;
    padding: 0;
    border-top: 1px solid var(--rule);
    border-bottom: 1px solid var(--rule);
    list-style: none;
}

.layers:empty {
    display: none;
}

.layers li {
    display: flex;
    align-items: center;
    gap: 8px;
    padding: 0 4px;
}

.layers .chosen {
    background: var(--field);
}

.layers .off .what {
    color: var(--soft);
}

.what {
    flex: 1;
    height: 30px;
    padding: 0;
    border: 0;
    background: none;
    color: var(--ink);
    font: inherit;
    text-align: left;
    cursor: pointer;
}

.chosen .what {
    font-weight: 600;
}

.add {
    flex-wrap: wrap;
    gap: 2px 10px;
}

.out {
    margin-top: 6px;
}
</style>
