<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { api } from '../api/client'
import { label } from '../format'
import BladeCard from '../parts/BladeCard.vue'
import KeySheet from '../parts/KeySheet.vue'
import PieceList from '../parts/PieceList.vue'
import PieceView from '../parts/PieceView.vue'
import ThemeSwitch from '../parts/ThemeSwitch.vue'
import Wordmark from '../parts/Wordmark.vue'
import { useBlade } from '../stores/blade'
import { useProject } from '../stores/project'
import { useSettings } from '../stores/settings'

const props = defineProps<{ id: number }>()
const project = useProject()
const blade = useBlade()
const settings = useSettings()
const keys = ref(false)

async function open() {
    blade.$reset()
    await project.open(props.id)
    if (project.project) document.title = `${project.project.name} · Isotome`
    if (project.living.length) blade.centreOnTaken()
}

onMounted(() => {
    void open()
    window.addEventListener('keydown', key)
})
onBeforeUnmount(() => window.removeEventListener('keydown', key))
watch(() => props.id, open)
// What the blade takes has changed: so has its section. Stock that arrives is what the blade goes to.
watch(() => project.taken.map((piece) => piece.id).join(), (now, before) => {
    if (now && !before) blade.centreOnTaken()
    else void blade.ask()
})

function step(by: number) {
    const pieces = project.living
    if (pieces.length < 2) return
    const alone = project.visible.length === 1 ? pieces.indexOf(project.visible[0]) : by > 0 ? -1 : 0
    const next = pieces[(alone + by + pieces.length) % pieces.length]
    project.hidden = pieces.filter((piece) => piece !== next).map((piece) => piece.id)
}

function key(event: KeyboardEvent) {
    const target = event.target as HTMLElement
    const control = event.ctrlKey || event.metaKey
    if (control && event.key === 'Enter') void blade.cut()
    else if (target.closest('input, textarea, [role=dialog], [role=slider]')) return
    else if (control && event.key.toLowerCase() === 'z') void project.rejoin()
    else if (control) return
    else if (event.key === '1' || event.key === '2' || event.key === '3') blade.setAxis((['X', 'Y', 'Z'] as const)[Number(event.key) - 1])
    else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
        blade.setPlace(blade.place + (event.key === 'ArrowUp' ? 1 : -1) * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1))
    } else if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') blade.setTilt(blade.tilt + (event.key === 'ArrowRight' ? 1 : -1) * (event.altKey ? 1 : 5))
    else if (event.key === '0') blade.centreOnTaken()
    else if (event.key === 'n') step(1)
    else if (event.key === 'b') step(-1)
    else if (event.key === 'a') project.showAll()
    else if (event.key === 'g') settings.display = settings.display === 'glass' ? 'shaded' : 'glass'
    else if (event.key === '?') keys.value = true
    else return
    event.preventDefault()
}
</script>

<template>
    <div class="frame">
        <header class="top">
            <RouterLink to="/" aria-label="To the shelf"><Wordmark /></RouterLink>
            <span v-if="project.project" class="what">
                <span class="name">{{ project.project.name }}</span>
                <span class="soft">brought in from {{ project.project.file }}, in {{ project.project.units }}</span>
            </span>
            <nav aria-label="Stations"><span class="station" aria-current="page">Cut</span></nav>
            <span class="end">
                <button class="plain soft" @click="keys = true">Keys</button>
                <ThemeSwitch />
            </span>
        </header>
        <aside class="left">
            <PieceList />
            <footer v-if="project.project && project.living.length">
                <button class="link" :disabled="!project.project.steps.length || project.busy" @click="project.rejoin()">Rejoin the last cut</button>
                <a :href="api.zip(project.project.id)" download>Download all pieces (STL, zip)</a>
                <a v-if="project.project.steps.length" :href="api.recipe(project.project.id)" download>Download the recipe (JSON)</a>
            </footer>
        </aside>
        <main>
            <PieceView v-if="project.project" />
            <div v-if="project.problem" class="message problem" role="alert">
                <span>{{ project.problem }}</span><button class="link" @click="project.problem = ''">close</button>
            </div>
            <div v-else-if="project.result" class="message" role="status">
                <span>{{ project.result }}</span><button class="link" @click="project.result = ''">close</button>
            </div>
            <div v-if="project.project && !project.living.length && !project.busy" class="empty">
                <p>{{ label(project.project.name) }} has no pieces.</p>
                <RouterLink to="/">Back to the shelf</RouterLink>
            </div>
        </main>
        <aside class="right"><BladeCard /></aside>
        <KeySheet v-model="keys" />
    </div>
</template>

<style scoped>
.frame {
    display: grid;
    grid-template: 46px minmax(0, 1fr) / clamp(220px, 21vw, 300px) minmax(0, 1fr) 312px;
    height: 100%;
    min-width: 1000px;
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
    overflow: hidden;
    font-size: 13px;
    text-overflow: ellipsis;
    white-space: nowrap;
}

.name {
    font-size: 15px;
}

.station {
    padding: 12px 14px;
    border-bottom: 3px solid var(--cut);
}

.end {
    display: flex;
    flex: 1;
    justify-content: flex-end;
    gap: 20px;
    font-size: 13px;
}

.left,
.right {
    display: flex;
    flex-direction: column;
    min-height: 0;
}

.left {
    justify-content: space-between;
    border-right: 1px solid var(--rule);
}

.right {
    border-left: 1px solid var(--rule);
}

.left footer {
    display: flex;
    flex-direction: column;
    align-items: flex-start;
    gap: 7px;
    padding: 12px 16px 14px;
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
