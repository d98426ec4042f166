<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, watch } from 'vue'
import { ElButton } from 'element-plus'
import { count, fitWords, mm, number, size, volume } from '../format'
import { FAULTS, placesOf, type FaultKind } from '../faults'
import { useCheck } from '../stores/check'
import { title, useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import MendPreviewBox from './MendPreviewBox.vue'
import NumberField from './NumberField.vue'
import RunProgress from './RunProgress.vue'
import StationCard from './StationCard.vue'
import StepProgress from './StepProgress.vue'

const check = useCheck()
const project = useProject()
const shown = useShown()
const open = ref<string | null>(null)
const rims = ref<number[]>([])
const thickness = ref(2)

const piece = computed(() => check.looked)
const known = computed(() => (piece.value ? check.known[piece.value.mesh] : undefined))
const report = computed(() => check.report)
const faults = computed(() => {
    const known = report.value
    return known ? FAULTS.map((kind) => ({ kind, n: kind.count(known) })).filter(({ n }) => n > 0) : []
})
/** Mending leaves bodies that overlap as they are; one that crosses itself it makes solid. */
const mendable = computed(() => faults.value.some(({ kind }) => kind.key !== 'sliver_faces' && !(kind.key === 'crossing_faces' && (piece.value?.shells ?? 1) > 1) && !(kind.key === 'inner_faces' && piece.value?.watertight)))
const isSheet = computed(() => report.value !== null && report.value.notes.rims > 0 && report.value.counts.nonmanifold_edges === 0)
const unchecked = computed(() => (check.editing ? [piece.value].filter((one) => one !== null) : project.living).filter((one) => !check.known[one.mesh]).length)
const bad = computed(() => project.living.filter((one) => check.known[one.mesh]?.sound === false))

/** Small enough to be checked without being asked. */
const AT_ONCE = 300_000
/** A check that had to wait for what is under way. */
let waits = false

async function look() {
    rims.value = []
    open.value = null
    if (piece.value && !known.value) await check.load()
    await check.look()
    if (!unchecked.value || project.living.reduce((sum, one) => sum + one.triangles, 0) >= AT_ONCE) return
    waits = project.busy
    if (!waits) void check.check()
}

onMounted(() => {
    project.spread = 0
    project.before = null
    void look()
})
onUnmounted(() => shown.clear())
watch(() => piece.value?.mesh, look)
watch(() => project.busy, (busy) => {
    if (busy || !waits) return
    waits = false
    void look()
})
watch(() => check.editing, (step) => { thickness.value = step?.settings.thickness_mm ?? thickness.value }, { immediate: true })

/** Shows the next place of a fault. */
function fly(kind: FaultKind, to?: number) {
    if (!report.value || !piece.value) return
    const { kind: as, list } = placesOf(report.value, kind.key)
    if (!list.length) return
    const n = to ?? (check.at?.fault === kind.key ? (check.at.n + 1) % list.length : 0)
    check.at = { fault: kind.key, n }
    check.preview = null
    open.value = kind.key
    shown.mark({ [as]: list.flat() })
    const { min, max } = piece.value
    const whole = Math.hypot(...max.map((m, k) => m - min[k]))
    shown.flyTo(list[n], 0.09 * whole)
}

/** The step stays as it is. */
function leaveIt() {
    project.editing = null
    check.leave()
}

function rim(n: number) {
    rims.value = rims.value.includes(n) ? rims.value.filter((one) => one !== n) : [...rims.value, n]
    fly(FAULTS[0], n)
}

const mend = (kind: FaultKind) => {
    if (!kind.mend || !piece.value) return
    const some = kind.key === 'rims' && rims.value.length ? { rims: rims.value } : {}
    void check.tryOut({ step: { do: 'mend', only: kind.mend.kind, ...some }, pieces: [piece.value.id] }, kind.mend.words)
}
const mendAll = () => piece.value && check.tryOut({ step: { do: 'mend' }, pieces: [piece.value.id] }, 'Mend all')
const thicken = () => piece.value && check.tryOut({ step: { do: 'thicken', thickness_mm: thickness.value }, pieces: [piece.value.id] }, `Thicken by ${number(thickness.value, 1)} mm`)
const at = (kind: FaultKind) => (check.at?.fault === kind.key && report.value ? `${check.at.n + 1} of ${placesOf(report.value, kind.key).list.length}` : 'show')
</script>

<template>
    <StationCard label="Check">
        <header>
            <h2>{{ check.editing ? `Step ${check.editing.number}` : 'Check' }}</h2>
            <span v-if="piece" class="soft">{{ title(piece) }}</span>
        </header>
        <p v-if="!piece" class="soft">There is nothing to check yet.</p>
        <template v-else>
            <dl class="numbers">
                <div><dt>Size</dt><dd>{{ size(piece.max.map((m, k) => m - piece!.min[k])) }}</dd></div>
                <div v-if="project.project?.printer">
                    <dt>{{ project.project.printer.name }}</dt>
                    <dd v-if="piece.fit" :class="piece.fit.fits ? 'good' : 'warning'">{{ fitWords(piece.fit) }}</dd>
                </div>
                <div><dt>Volume</dt><dd>{{ volume(piece.volume) }}</dd></div>
                <div><dt>Faces</dt><dd>{{ number(piece.triangles, 0) }} in {{ count(piece.shells, 'shell', 'shells') }}</dd></div>
                <div v-if="known?.notes.cavities"><dt>Cavities</dt><dd>{{ known.notes.cavities }}</dd></div>
                <div v-if="known && known.notes.handles !== null"><dt>Handles</dt><dd>{{ known.notes.handles }}</dd></div>
            </dl>
            <p class="state" data-part="soundness">
                <b v-if="known?.sound" class="good">Sound: watertight, nothing crosses, nothing lies inside.</b>
                <b v-else-if="known" class="warning">{{ piece.watertight ? 'Watertight, but with faults.' : 'Not watertight.' }}</b>
                <span v-else class="soft">{{ piece.watertight ? 'Watertight; not checked for crossing and inner faces yet.' : 'Not watertight; not checked in full yet.' }}</span>
            </p>
            <MendPreviewBox v-if="check.preview" />
            <ol v-if="faults.length && check.editing?.settings.do !== 'thicken'" class="faults">
                <li v-for="{ kind, n } in faults" :key="kind.key" :data-fault="kind.key">
                    <div class="fault">
                        <button class="plain name" :aria-expanded="open === kind.key" @click="open = open === kind.key ? null : kind.key">{{ kind.title }}</button>
                        <span class="count">{{ number(n, 0) }}</span>
                        <button class="link" :aria-label="`Show the next of ${kind.title}`" @click="fly(kind)">{{ at(kind) }}</button>
                    </div>
                    <div v-if="open === kind.key" class="means">
                        <p><span class="soft">Print</span> {{ kind.print }}</p>
                        <p><span class="soft">Cut</span> {{ kind.cut }}</p>
                        <ul v-if="kind.key === 'rims' && report" class="rims">
                            <li v-for="(one, k) in report.rims.slice(0, 30)" :key="k">
                                <label><input type="checkbox" :checked="rims.includes(k)" @change="rim(k)"> {{ count(one.edges, 'edge', 'edges') }}, {{ mm(one.length_mm) }} round</label>
                            </li>
                        </ul>
                        <button v-if="kind.mend" class="link" :disabled="project.busy || check.trying" @click="mend(kind)">
                            {{ kind.key === 'rims' && rims.length ? `Close ${rims.length} picked` : kind.mend.words }}…
                        </button>
                    </div>
                </li>
            </ol>
            <div v-if="check.editing ? check.editing.settings.do === 'thicken' : isSheet" class="sheet">
                <span>An open sheet? Give it a thickness</span>
                <NumberField class="narrow" :model-value="thickness" unit="mm" label="Thickness" :min="0.01" :max="1000" @update:model-value="thickness = $event" />
                <button class="link" :disabled="project.busy || check.trying" @click="thicken()">thicken…</button>
            </div>
            <p v-if="bad.length > 1" class="soft">
                {{ bad.length }} of {{ project.living.length }} pieces have faults:
                <template v-for="(one, n) in bad.slice(0, 12)" :key="one.id">{{ n ? ', ' : ' ' }}<button class="link" @click="project.picked = [one.id]">{{ title(one) }}</button></template>
            </p>
        </template>
        <template v-if="piece" #foot>
            <StepProgress v-if="project.busy" />
            <RunProgress v-else-if="check.run" :run="check.run" label="Progress of the try" @stop="check.stop()" />
            <div v-else class="foot">
                <ElButton v-if="unchecked" type="primary" size="large" class="main" @click="check.check()">{{ unchecked === 1 && project.living.length === 1 ? 'Check' : `Check ${count(unchecked, 'piece', 'pieces')}` }}</ElButton>
                <ElButton v-else-if="mendable && !check.preview && check.editing?.settings.do !== 'thicken'" type="primary" size="large" class="main" :loading="check.trying" @click="mendAll()">Mend all…</ElButton>
                <ElButton v-if="check.editing" size="large" @click="leaveIt()">Leave it</ElButton>
            </div>
            <p class="sentence" aria-live="polite">
                {{ project.busy ? 'The check is at work.' : check.run ? 'The mend is tried out on a copy; nothing happens to the piece.' : check.editing && !check.preview && !unchecked ? `Choose what step ${check.editing.number} is to do instead; it and what follows it run again.` : unchecked ? 'Looks at every face of what was not checked since it last changed.' : known?.sound ? 'Nothing to mend here. Go on to Cut.' : check.preview ? 'Nothing has happened yet.' : !mendable ? 'Only bodies that overlap are left: they print as one, and mending does not unite them.' : 'Shows first what the whole sequence would change; nothing happens until you agree.' }}
            </p>
        </template>
    </StationCard>
</template>

<style scoped>
header,
.fault,
.numbers div {
    display: flex;
    align-items: baseline;
    justify-content: space-between;
    gap: 10px;
}

dl,
p {
    margin: 0;
}

dt {
    color: var(--soft);
}

dd {
    margin: 0;
}

.faults,
.rims {
    margin: 0;
    padding: 0;
    list-style: none;
}

.faults > li {
    padding: 6px 0;
    border-top: 1px solid var(--rule);
}

.fault .name {
    flex: 1;
    text-align: left;
}

.count {
    font-weight: 600;
}

.means {
    display: flex;
    flex-direction: column;
    align-items: flex-start;
    gap: 5px;
    padding: 5px 0 4px 12px;
    font-size: 13px;
    line-height: 1.35;
}

.rims {
    overflow-y: auto;
    max-height: 132px;
}

.rims label {
    display: inline-flex;
    gap: 6px;
}

.sheet {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 10px;
    padding-top: 8px;
    border-top: 1px solid var(--rule);
}

.narrow {
    width: 76px;
}

.foot {
    display: flex;
    gap: 8px;
}

.foot .el-button + .el-button {
    margin: 0;
}

.main {
    flex: 1;
    font-size: 15px;
    font-weight: 600;
}
</style>
