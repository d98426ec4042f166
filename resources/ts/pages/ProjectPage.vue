<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { label } from '../format'
import { KINDS } from '../kinds'
import ChoiceRow from '../parts/ChoiceRow.vue'
import FirstHints from '../parts/FirstHints.vue'
import KeySheet from '../parts/KeySheet.vue'
import LineageTree from '../parts/LineageTree.vue'
import PieceList from '../parts/PieceList.vue'
import PieceView from '../parts/PieceView.vue'
import PrinterChoice from '../parts/PrinterChoice.vue'
import { vRoving } from '../parts/roving'
import ThemeSwitch from '../parts/ThemeSwitch.vue'
import WorkFooter from '../parts/WorkFooter.vue'
import Wordmark from '../parts/Wordmark.vue'
import { next, station, STATIONS } from '../stations'
import { useBlade } from '../stores/blade'
import { useProject } from '../stores/project'
import { useSettings } from '../stores/settings'

const props = defineProps<{ id: number }>()
const project = useProject()
const blade = useBlade()
const settings = useSettings()
const keys = ref(false)
const view = useTemplateRef('view')
const footer = useTemplateRef('footer')

const rail = computed(() => station().rail?.() ?? null)

async function open() {
    for (const kind of KINDS) kind.forget?.()
    await project.open(props.id)
    if (project.project) document.title = `${project.project.name} · Isotome`
    if (project.living.length) blade.centreOnTaken()
}

/** Files let go of over the project come beside its pieces. */
async function dropped(files: FileList | null | undefined) {
    if (!files?.length || project.busy || !project.living.length) return
    settings.leftOpen = true
    await nextTick()
    footer.value?.bringIn(files)
}

onMounted(() => {
    void open()
    window.addEventListener('keydown', key)
})
onBeforeUnmount(() => window.removeEventListener('keydown', key))
watch(() => props.id, open)
// What the blade takes has changed: so has its section. Stock that arrives is what the blade goes to.
watch(() => project.taken.map((piece) => `${piece.id}${piece.mesh}`).join(), (now, before) => {
    if (now && !before) blade.centreOnTaken()
    else blade.ask()
    for (const kind of KINDS) kind.taken?.()
})

watch(() => project.picked.join(), () => { for (const kind of KINDS) kind.picked?.() })
// Some kinds go by the blade: wherever it is moved, by hand, by key or by number.
watch(() => [blade.kind, blade.offset, ...blade.facing].join(), () => { for (const kind of KINDS) kind.moved?.() })

// A step was taken back: the blade is where it was, to be placed better.
watch(() => project.project?.steps.length ?? 0, (now, before) => { if (now < before) blade.shown = true })

function key(event: KeyboardEvent) {
    const target = event.target as HTMLElement
    const control = event.ctrlKey || event.metaKey
    if (control && event.key === 'Enter') {
        station().run?.()
    } else if (target.closest('input:not([type=checkbox]):not([type=color]), select, textarea, [role=dialog], [role=slider]')) return
    // A space presses what has the focus.
    else if (event.key === ' ' && target.closest('button, input, a')) return
    else if (control && (event.key.toLowerCase() === 'y' || (event.shiftKey && event.key.toLowerCase() === 'z'))) void project.redo()
    else if (control && event.key.toLowerCase() === 'z') void project.undo()
    else if (control) return
    else if (station().key?.(event)) {
        event.preventDefault()
        return
    } else if (event.key === 'Escape') {
        if (blade.placing !== 'none') blade.placing = 'none'
        else project.editing = null
        blade.points = []
        project.before = null
    } else if (event.key === 'n') project.step(1)
    else if (event.key === 'b') project.step(-1)
    else if (event.key === 'a') project.showAll()
    else if (event.key === 'h') project.hide(project.picked)
    else if (event.key === 'f') view.value?.frame()
    else if (event.key === 'c') project.before = project.before === null ? (project.project?.steps.at(-1)?.id ?? null) : null
    else if (event.key === 't') settings.left = settings.left === 'pieces' ? 'lineage' : 'pieces'
    else if (event.key === 'k') settings.station = next().id
    else if (event.key === 'g') settings.display = ({ shaded: 'flat', flat: 'glass', glass: 'shaded' } as const)[settings.display]
    else if (event.key === '?') keys.value = true
    else return
    event.preventDefault()
}
</script>

<template>
    <div class="frame" :class="{ 'no-left': !settings.leftOpen, 'no-right': !settings.rightOpen }">
        <header class="top">
            <RouterLink to="/" aria-label="To the shelf"><Wordmark /></RouterLink>
            <span v-if="project.project" class="what">
                <h1 class="name">{{ project.project.name }}</h1>
                <span class="soft" :title="`brought in from ${project.project.file} in ${project.project.units}`">mm</span>
                <PrinterChoice />
            </span>
            <div v-roving class="stations" role="tablist" aria-label="Stations">
                <button
                    v-for="one in STATIONS" :id="`tab-${one.id}`" :key="one.id" class="plain station" role="tab" :aria-selected="one === station()" :aria-controls="settings.rightOpen ? 'station' : undefined"
                    @click="settings.station = one.id"
                >
                    {{ one.title }}
                </button>
            </div>
            <span class="end">
                <span class="folds" role="group" aria-label="Folded or open">
                    <button class="plain soft" :aria-pressed="settings.leftOpen" @click="settings.leftOpen = !settings.leftOpen">pieces</button>
                    <button class="plain soft" :aria-pressed="settings.rightOpen" @click="settings.rightOpen = !settings.rightOpen">card</button>
                    <button v-if="rail" class="plain soft" :aria-pressed="settings.railOpen" @click="settings.railOpen = !settings.railOpen">rail</button>
                </span>
                <button class="plain soft" @click="keys = true">Keys</button>
                <ThemeSwitch />
            </span>
        </header>
        <aside v-if="settings.leftOpen" class="left" aria-label="Pieces and lineage">
            <header>
                <h2>{{ settings.left === 'pieces' ? 'Pieces' : 'Lineage' }}</h2>
                <ChoiceRow v-model="settings.left" :options="[{ value: 'pieces', text: 'Pieces' }, { value: 'lineage', text: 'Lineage' }]" label="Left side" />
            </header>
            <PieceList v-if="settings.left === 'pieces'" />
            <LineageTree v-else />
            <WorkFooter ref="footer" />
        </aside>
        <main @dragover.prevent @drop.prevent="dropped($event.dataTransfer?.files)">
            <PieceView v-if="project.project" ref="view" />
            <FirstHints v-if="project.living.length && blade.placing === 'none'" />
            <div v-if="project.problem" class="message problem" role="alert">
                <span>{{ project.problem }}</span><button class="link" @click="project.problem = ''">close</button>
            </div>
            <div v-else-if="project.before !== null" class="message" role="status">
                <span>Before step {{ project.stepOf(project.before)?.number }}: the pieces as they were.</span><button class="link" @click="project.before = null">back to after</button>
            </div>
            <div v-else-if="project.result" class="message" role="status">
                <span>{{ project.result }}</span><button class="link" @click="project.result = ''">close</button>
            </div>
            <div v-if="project.project && !project.living.length && !project.busy" class="empty">
                <p>{{ label(project.project.name) }} has no pieces.</p>
                <RouterLink to="/">Back to the shelf</RouterLink>
            </div>
            <div v-else-if="project.project && !project.living.length" class="empty soft"><p>{{ project.run?.phase === 'waiting' ? 'Waiting for its turn' : project.run?.phase }}…</p></div>
        </main>
        <div v-if="settings.rightOpen" id="station" class="right" role="tabpanel" :aria-labelledby="`tab-${station().id}`">
            <component :is="station().card()" />
        </div>
        <component :is="rail" v-if="rail && settings.railOpen && project.living.length" class="bottom" />
        <KeySheet v-model="keys" />
        <component :is="kind.dialog" v-for="kind in KINDS.filter((one) => one.dialog)" :key="kind.id" />
    </div>
</template>

<style scoped>
.frame {
    display: grid;
    grid-template: 46px minmax(0, 1fr) auto / clamp(226px, 20vw, 300px) minmax(0, 1fr) 316px;
    height: 100%;
    min-width: 1000px;
}

.frame.no-left {
    grid-template-columns: minmax(0, 1fr) 316px;
}

.frame.no-right {
    grid-template-columns: clamp(226px, 20vw, 300px) minmax(0, 1fr);
}

.frame.no-left.no-right {
    grid-template-columns: minmax(0, 1fr);
}

.top {
    grid-column: 1 / -1;
    display: flex;
    align-items: center;
    gap: 18px;
    padding: 0 16px;
    border-bottom: 1px solid var(--rule);
}

.top a {
    color: var(--ink);
    text-decoration: none;
}

.what {
    display: flex;
    flex: 1;
    align-items: baseline;
    gap: 14px;
    min-width: 0;
}

.what .soft {
    font-size: 13px;
}

.name {
    overflow: hidden;
    font: 400 15px 'Source Sans 3 Variable', sans-serif;
    text-overflow: ellipsis;
    white-space: nowrap;
}

.stations {
    display: flex;
}

.station {
    padding: 12px 16px;
    border-bottom: 3px solid transparent;
    color: var(--soft);
}

.station[aria-selected='true'] {
    border-bottom-color: var(--cut);
    color: var(--ink);
}

.end {
    display: flex;
    flex: 1;
    justify-content: flex-end;
    gap: 18px;
    font-size: 13px;
    white-space: nowrap;
}

.folds {
    display: inline-flex;
    gap: 10px;
}

.folds [aria-pressed='true'] {
    color: var(--ink);
    box-shadow: 0 1.5px 0 var(--rule);
}

.left,
.right {
    display: flex;
    flex-direction: column;
    min-height: 0;
}

.left {
    border-right: 1px solid var(--rule);
}

.left > header {
    display: flex;
    align-items: center;
    justify-content: space-between;
    padding: 10px 16px 8px;
}

.left > :deep(section) {
    flex: 1;
}

.right {
    border-left: 1px solid var(--rule);
}

.bottom {
    grid-column: 1 / -1;
    border-top: 1px solid var(--rule);
}

main {
    position: relative;
    display: grid;
    min-width: 0;
    min-height: 0;
}

.message {
    position: absolute;
    right: 14px;
    bottom: 14px;
    z-index: 3;
    display: flex;
    gap: 16px;
    align-items: baseline;
    max-width: calc(100% - 320px);
    padding: 9px 14px;
    border: 1px solid var(--rule);
    border-left: 3px solid var(--good);
    border-radius: 3px;
    background: var(--sheet);
    box-shadow: var(--shadow);
}

.message.problem {
    border-left-color: var(--cut);
}

.empty {
    position: absolute;
    inset: 40% 0 auto;
    text-align: center;
}
</style>
