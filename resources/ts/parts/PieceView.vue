<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue'
import { ElSlider } from 'element-plus'
import { api } from '../api/client'
import { mm, number } from '../format'
import { useBlade } from '../stores/blade'
import { useProject } from '../stores/project'
import { useSettings } from '../stores/settings'
import { decode, type Drawn } from '../view/geometry'
import { View3d, type ShownPiece } from '../view/View3d'

const project = useProject()
const blade = useBlade()
const settings = useSettings()

const host = useTemplateRef('host')
const drawn = new Map<string, Drawn>()
const asked = new Set<string>()
const loading = ref(0)
const held = ref<'stem' | 'rim' | null>(null)
let view: View3d | null = null
let held0 = 0

const directions = ['front', 'back', 'left', 'right', 'top', 'bottom', 'corner']
const diagonal = computed(() => {
    const { min, max } = project.whole
    return Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2])
})

/** Pieces stand apart along the line from the middle of all to their own centre. */
const shown = computed((): ShownPiece[] => {
    const { min, max } = project.whole
    const middle = min.map((low, k) => (low + max[k]) / 2)
    const away = project.living.map((piece) => piece.centroid.map((c, k) => c - middle[k]))
    const furthest = Math.max(1e-9, ...away.map(([x, y, z]) => Math.hypot(x, y, z)))
    const share = project.spread / furthest
    // Nothing sinks below the ground.
    const lift = -Math.min(0, ...away.map(([, , z]) => z * share))
    return project.living.map((piece, n) => ({
        id: piece.id, mesh: piece.mesh, colour: piece.colour,
        visible: !project.hidden.includes(piece.id), picked: project.picked.includes(piece.id),
        offset: [away[n][0] * share, away[n][1] * share, away[n][2] * share + lift],
    }))
})

const pose = computed(() => ({
    centre: blade.centre, facing: blade.facing, turn: blade.turn, size: size.value, keep: blade.keep,
    shown: blade.shown && project.taken.length > 0,
}))
const size = computed(() => {
    const { min, max } = project.box
    return Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2])
})

const chip = ref<{ x: number; y: number; text: string } | null>(null)

function label() {
    const at = view?.gripOnPage()
    const text = held.value === 'rim' ? `tilt ${number(blade.tilt, 1)}°` : mm(blade.place)
    const known = chip.value
    // Only a change is told: this runs after every frame.
    if (at && known && Math.abs(at.x - known.x) + Math.abs(at.y - known.y) < 0.1 && known.text === text) return
    chip.value = at ? { ...at, text } : null
}

async function load() {
    for (const piece of project.living) {
        if (asked.has(piece.mesh)) continue
        asked.add(piece.mesh)
        loading.value++
        api.geometry(piece.mesh).then((bytes) => {
            drawn.set(piece.mesh, decode(bytes))
            view?.show(shown.value, (mesh) => drawn.get(mesh))
        }).catch((error: unknown) => {
            asked.delete(piece.mesh)
            project.refused(error)
        }).finally(() => loading.value--)
    }
    // What no piece shows any more is let go.
    const used = new Set(project.living.map((piece) => piece.mesh))
    for (const [mesh, shape] of drawn) {
        if (used.has(mesh)) continue
        shape.geometry.dispose()
        shape.rims.dispose()
        drawn.delete(mesh)
        asked.delete(mesh)
    }
}

onMounted(() => {
    view = new View3d(host.value as HTMLElement, {
        pick: (id, more) => { if (id !== null) project.pick(id, more); else if (!more) project.picked = [] },
        grab: (grip) => {
            held.value = grip
            held0 = blade.place
            label()
        },
        slide: (by) => {
            blade.setPlace(held0 + by)
            label()
        },
        tilt: (to, free) => {
            const step = free ? 0.1 : 5
            const rounded = Math.round(to / step) * step
            if (rounded < 0) {
                blade.setTurn(blade.turn + 180)
                blade.setTilt(-rounded)
            } else blade.setTilt(rounded)
            label()
        },
        release: () => { held.value = null },
        drawn: label,
    })
    view.theme()
    view.style(settings.display === 'glass', settings.lines)
    refresh()
    view.extent(project.whole.min, project.whole.max)
    view.look('corner')
})

onBeforeUnmount(() => view?.dispose())

function refresh() {
    void load()
    view?.show(shown.value, (mesh) => drawn.get(mesh))
    view?.setBlade(pose.value)
}

watch(shown, refresh)
watch(() => project.whole, ({ min, max }, old) => {
    view?.extent(min, max)
    if (old && String([old.min, old.max]) === String([min, max])) return
    if (!old || old.min.every((low) => low === 0)) view?.look('corner')
})
watch(pose, (now) => view?.setBlade(now))
watch(() => blade.section, (section) => view?.setSection(section))
watch(() => settings.theme, () => view?.theme())
watch(() => [settings.display, settings.lines], () => {
    view?.style(settings.display === 'glass', settings.lines)
    settings.keep()
})

</script>

<template>
    <div class="view">
        <div class="bar">
            <span role="radiogroup" aria-label="Display">
                <button class="plain" role="radio" :aria-checked="settings.display === 'shaded'" @click="settings.display = 'shaded'">Shaded</button>
                <button class="plain" role="radio" :aria-checked="settings.display === 'glass'" @click="settings.display = 'glass'">Glass</button>
            </span>
            <button class="plain" :aria-pressed="settings.lines" @click="settings.lines = !settings.lines">Mesh lines</button>
            <span class="from" role="group" aria-label="Look from">
                <span class="soft">from</span>
                <button v-for="direction in directions" :key="direction" class="plain" @click="view?.look(direction)">{{ direction }}</button>
            </span>
        </div>
        <div ref="host" class="host" />
        <div v-if="held && chip" class="chip" :style="{ left: `${chip.x + 26}px`, top: `${chip.y}px` }">{{ chip.text }}</div>
        <div v-if="loading" class="loading soft">drawing {{ loading === 1 ? 'the piece' : `${loading} pieces` }}…</div>
        <div v-if="project.living.length > 1" class="spread">
            <span class="soft">Spread</span>
            <ElSlider v-model="project.spread" :min="0" :max="Math.ceil(diagonal / 3)" :show-tooltip="false" size="small" aria-label="Spread, mm" />
            <span class="value">{{ mm(project.spread) }}</span>
        </div>
        <div
            v-if="chip && blade.shown" class="grip-mark" data-part="grip" aria-hidden="true" :style="{ left: `${chip.x}px`, top: `${chip.y}px` }"
        />
    </div>
</template>

<style scoped>
.view {
    position: relative;
    min-width: 0;
    min-height: 0;
    overflow: hidden;
    background: var(--ground);
}

.host {
    position: absolute;
    inset: 0;
    touch-action: none;
}

.bar {
    position: absolute;
    z-index: 2;
    top: 0;
    left: 0;
    right: 0;
    display: flex;
    gap: 16px;
    padding: 10px 14px;
    pointer-events: none;
}

.bar > * {
    pointer-events: auto;
}

.bar span {
    display: inline-flex;
    gap: 14px;
}

.bar .from {
    gap: 9px;
    margin-left: auto;
}

.bar button {
    white-space: nowrap;
    color: var(--soft);
    padding-bottom: 2px;
}

.bar button:hover {
    color: var(--ink);
}

.bar [aria-checked='true'],
.bar [aria-pressed='true'] {
    color: var(--ink);
    box-shadow: 0 1.5px 0 var(--cut);
}

@media (max-width: 1180px) {
    .bar {
        gap: 10px;
    }

    .bar .from {
        gap: 7px;
        font-size: 13px;
    }

    .bar .from .soft {
        display: none;
    }
}

.chip,
.loading,
.spread {
    position: absolute;
    padding: 3px 9px;
    border: 1px solid var(--rule);
    border-radius: 3px;
    background: var(--sheet);
    pointer-events: none;
}

.chip {
    transform: translateY(-50%);
}

.loading {
    top: 44px;
    left: 14px;
}

.spread {
    display: flex;
    align-items: center;
    gap: 12px;
    left: 14px;
    bottom: 14px;
    padding: 2px 12px;
    pointer-events: auto;
}

.spread .el-slider {
    width: 150px;
}

.value {
    min-width: 58px;
    text-align: right;
}

.grip-mark {
    position: absolute;
    width: 0;
    height: 0;
    pointer-events: none;
}
</style>
