<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { ElSlider } from 'element-plus'
import { Matrix4, type Texture } from 'three'
import { api } from '../api/client'
import type { Vector } from '../api/types'
import { mm, number } from '../format'
import { KINDS } from '../kinds'
import { station } from '../stations'
import { useBlade } from '../stores/blade'
import { useProject } from '../stores/project'
import { useSettings } from '../stores/settings'
import { useShown } from '../stores/shown'
import { Shapes } from '../view/shapes'
import { insideTexture } from '../view/sheets'
import { View3d, type DrawnLine, type ShownPiece } from '../view/View3d'
import ViewBar from './ViewBar.vue'

const project = useProject()
const blade = useBlade()
const settings = useSettings()
const shownMarks = useShown()

const host = useTemplateRef('host')
const loading = ref(0)
const held = ref<'stem' | 'rim' | null>(null)
const line = shallowRef<DrawnLine | null>(null)
let view: View3d | null = null
let held0 = 0
let stuff: { name: string; texture: Texture | null } | null = null

const shapes = new Shapes(
    () => {
        loading.value = shapes.waiting
        view?.show(shown.value, shapes.get)
    },
    (error) => project.refused(error),
)

/** What is set in the open station. */
const kind = computed(() => station().kind?.() ?? null)
const diagonal = computed(() => {
    const { min, max } = project.whole
    return Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2])
})

/** What is looked at. */
const whole = computed(() => kind.value?.extent?.() ?? project.whole)

/** Pieces stand apart along the line from the middle of all to their own centre. */
const shown = computed((): ShownPiece[] => {
    const { min, max } = project.whole
    const middle = min.map((low, k) => (low + max[k]) / 2)
    const away = project.shown.map((piece) => piece.centroid.map((c, k) => c - middle[k]))
    const furthest = away.reduce((most, [x, y, z]) => Math.max(most, Math.hypot(x, y, z)), 1e-9)
    const share = project.spread / furthest
    // Nothing sinks below the ground.
    const lift = -away.reduce((least, [, , z]) => Math.min(least, z * share), 0)
    const placed = kind.value?.placed?.() ?? null
    if (placed) {
        return placed.flatMap(({ id, piece, ...how }) => {
            const own = project.byId.get(piece)
            return own ? [{ id, mesh: own.mesh, colour: own.colour, visible: !project.hiddenIds.has(piece), ...how }] : []
        })
    }
    return project.shown.map((piece, n) => ({
        id: piece.id, mesh: piece.mesh, colour: piece.colour,
        visible: !project.hiddenIds.has(piece.id), picked: project.pickedIds.has(piece.id), over: kind.value?.over?.(piece.id),
        pose: new Matrix4().makeTranslation(away[n][0] * share, away[n][1] * share, away[n][2] * share + lift),
    }))
})

const pose = computed(() => {
    const sides = kind.value?.blade?.() ?? null
    return {
        centre: blade.centre, facing: blade.facing, turn: blade.turn, size: size.value, keep: sides?.keep ?? ('both' as const), lost: sides?.lost ?? [], bare: sides?.bare ?? false,
        shown: sides !== null && blade.shown && project.taken.length > 0,
    }
})

const size = computed(() => {
    const { min, max } = project.box
    return Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2])
})

const chip = ref<{ x: number; y: number; text: string } | null>(null)
const tips = ref<{ x: number; y: number; name: string; text: string }[]>([])
const sides = ref<{ x: number; y: number; text: string }[]>([])

/** Labels follow the view; only a change is told, because this runs after every frame. */
function label() {
    if (view) shownMarks.seen = view.directions()
    const at = view?.gripOnPage()
    const text = held.value === 'rim' ? `tilt ${number(blade.tilt, 1)}°` : mm(blade.place)
    const known = chip.value
    if (!(at && known && Math.abs(at.x - known.x) + Math.abs(at.y - known.y) < 0.1 && known.text === text)) chip.value = at ? { ...at, text } : null
    const pages = shownMarks.handles.map(({ at, name, text }) => ({ ...(view as View3d).project(at), name, text }))
    if (JSON.stringify(pages) !== JSON.stringify(tips.value)) tips.value = pages
    if (!settings.box || !view) {
        if (sides.value.length) sides.value = []
        return
    }
    const { min, max } = project.box
    const now = [0, 1, 2].map((k) => {
        const middle = [0, 1, 2].map((j) => (j === k ? (min[j] + max[j]) / 2 : j === 2 ? min[2] : k === 2 ? max[j] : j === (k === 0 ? 1 : 0) && k === 0 ? min[j] : max[j])) as Vector
        const page = (view as View3d).project(middle)
        return { ...page, text: mm(max[k] - min[k]) }
    })
    if (JSON.stringify(now) !== JSON.stringify(sides.value)) sides.value = now
}

async function clicked(id: number, face: number, point: Vector) {
    const piece = project.byId.get(id)
    if (!piece) return
    // A rough picture has faces of its own.
    if (loading.value) {
        project.problem = 'The pieces are still being drawn; click again in a moment.'
        return
    }
    try {
        if (await kind.value?.click?.({ piece, face, point })) return
    } catch (error) {
        project.refused(error)
        return
    }
    if (blade.placing === 'points') {
        blade.points = [...blade.points, point]
        if (blade.points.length < 3) return
        const [a, b, c] = blade.points
        const u = b.map((n, k) => n - a[k])
        const v = c.map((n, k) => n - a[k])
        const normal: Vector = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
        blade.points = []
        blade.placing = 'none'
        if (Math.hypot(...normal) < 1e-9) {
            project.problem = 'The three points lie on one line; pick three that do not.'
            return
        }
        blade.setVector(normal[2] < 0 ? (normal.map((n) => -n) as Vector) : normal)
        blade.setThrough(a)
        return
    }
    if (blade.placing !== 'face') return
    try {
        const answer = await api.face(piece.mesh, face)
        blade.placing = 'none'
        blade.setVector(answer.normal)
        blade.setThrough(answer.point)
    } catch (error) {
        project.refused(error)
    }
}

/** The look of the inside, as it is set; its picture is fetched when it is another one. */
async function showInside() {
    const set = project.project?.inside ?? null
    const picture = set?.picture
    if (picture !== stuff?.name) {
        stuff?.texture?.dispose()
        stuff = picture ? { name: picture, texture: null } : null
        if (picture) {
            const mine = stuff
            try {
                const texture = await insideTexture(picture)
                if (mine) mine.texture = texture
            } catch (error) {
                project.refused(error)
            }
            if (stuff !== mine) {
                mine?.texture?.dispose()
                return
            }
        }
        void shapes.placeInsides(picture !== undefined)
    }
    const [across, down] = set?.scales ?? [1, 1]
    const turn = ((set?.turn ?? 0) * Math.PI) / 180
    // Up on the face is against the way in which places on a picture are counted.
    const place: [number, number, number, number] = [across * Math.cos(turn), -across * Math.sin(turn), -down * Math.sin(turn), -down * Math.cos(turn)]
    view?.setInside(set ? { colour: set.colour ?? null, picture: stuff?.texture ?? null, place } : null)
}

/** What the kind points out, once the pieces themselves are drawn. */
const pointed = computed(() => kind.value?.marks?.((mesh) => (loading.value === 0 ? shapes.get(mesh) : undefined)) ?? {})

onMounted(() => {
    view = new View3d(host.value as HTMLElement, {
        pick: (id, more) => { if (kind.value?.pick?.(id)) return; if (id !== null) project.pick(id, more); else if (!more) project.picked = [] },
        line: (drawn, done) => {
            line.value = done ? null : drawn
            if (done) blade.placing = 'none'
            blade.setVector(drawn.facing)
            blade.setThrough(drawn.through)
        },
        face: (id, face, point) => void clicked(id, face, point),
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
    for (const one of KINDS) one.draw?.(view, () => kind.value === one)
    view.style(settings.display, settings.lines, settings.own)
    refresh()
    void showInside()
    view.extent(project.whole.min, project.whole.max)
    view.look(from)
    boxes()
})

onBeforeUnmount(() => {
    stuff?.texture?.dispose()
    view?.dispose()
})

/** Where it was last asked to be looked at from: what arrives later is shown from there too. */
let from = 'corner'

function look(asked: string) {
    from = asked
    view?.look(from)
}

function refresh() {
    shapes.need(project.shown)
    loading.value = shapes.waiting
    view?.show(shown.value, shapes.get)
    view?.setBlade(pose.value)
}

function boxes() {
    const printer = project.project?.printer
    const box = settings.box || settings.printer ? project.box : null
    view?.setBoxes(box, settings.printer && printer ? [printer.x, printer.y, printer.z] : null, printer?.round)
}

watch(shown, refresh)
watch(() => JSON.stringify(project.project?.inside ?? null), showInside)
watch(whole, ({ min, max }, old) => {
    view?.extent(min, max)
    if (old && String([old.min, old.max]) === String([min, max])) return
    // Nothing was there before: the stock has just arrived.
    if (!old || [...old.min, ...old.max].every((side) => side === 0)) view?.look(from)
})
watch(pose, (now) => view?.setBlade(now))
watch(() => blade.section, (section) => view?.setSection(section))
watch(() => settings.theme, () => view?.theme())
watch(() => [settings.display, settings.lines, settings.own], () => view?.style(settings.display, settings.lines, settings.own))
watch(() => [project.box, settings.box, settings.printer, project.project?.printer], boxes)
watch(() => settings.$state, () => settings.keep(), { deep: true })
watch(() => blade.placing, (tool) => view?.setTool(tool))
watch(() => [shownMarks.marked, blade.points, pointed.value] as const, ([marked, points, more]) => {
    const both = (key: keyof typeof marked) => [...(marked[key] ?? []), ...(more[key] ?? [])]
    view?.setMarks({ lines: both('lines'), triangles: both('triangles'), added: both('added'), points: [...both('points'), ...points.flat()] })
})
watch(() => shownMarks.fly, (to) => { if (to) view?.frame(to.min, to.max) })

const asking = computed(() => kind.value?.asking?.() ?? {
    none: '',
    line: 'Draw a line across the pieces: the blade goes through it, along your line of sight. Steps of 5°, free with Alt.',
    face: 'Click a face: the blade will lie in it.',
    points: `Click ${['three points', 'two more points', 'one more point'][blade.points.length] ?? 'a point'}: the blade will go through them.`,
    place: '',
    paint: '',
    draw: '',
}[blade.placing])

/** Saves the view with each piece flat in its own colour. */
function identity() {
    view?.identity().toBlob((picture) => {
        if (!picture) return
        const link = document.createElement('a')
        link.href = URL.createObjectURL(picture)
        link.download = `${project.project?.name ?? 'pieces'}-identity.png`
        link.click()
        URL.revokeObjectURL(link.href)
    }, 'image/png')
}

function frame() {
    const { min, max } = kind.value?.extent?.() ?? project.box
    view?.frame(min, max)
}

defineExpose({ frame })
</script>

<template>
    <div class="view" :data-images="Object.values(shownMarks.images).reduce((sum, n) => sum + n, 0)">
        <ViewBar @look="look" @frame="frame()" @parallel="view?.setParallel(!view.isParallel())" @identity="identity" />
        <div ref="host" class="host" />
        <span v-for="tip in tips" :key="tip.name" class="tip" :data-arrow="tip.name" aria-hidden="true" :style="{ left: `${tip.x}px`, top: `${tip.y}px` }">{{ tip.text }}</span>
        <svg v-if="line" class="line" aria-hidden="true"><line :x1="line.from.x" :y1="line.from.y" :x2="line.to.x" :y2="line.to.y" /></svg>
        <div v-if="line" class="chip" data-part="line-angle" :style="{ left: `${line.to.x + 16}px`, top: `${line.to.y}px` }">{{ number(line.angle, 1) }}°</div>
        <div v-if="held && chip" class="chip" :style="{ left: `${chip.x + 26}px`, top: `${chip.y}px` }">{{ chip.text }}</div>
        <div v-if="shownMarks.hint" class="chip hint" data-part="hint" :data-corners="shownMarks.hint.corners" :style="{ left: `${shownMarks.hint.x + 18}px`, top: `${shownMarks.hint.y + 18}px` }">{{ shownMarks.hint.text }}</div>
        <div v-for="side in sides" :key="side.text + side.x" class="side" :style="{ left: `${side.x}px`, top: `${side.y}px` }">{{ side.text }}</div>
        <div v-if="asking" class="asking" role="note">
            <span>{{ asking }}</span><button class="link" @click="blade.placing = 'none'; blade.points = []">{{ blade.placing === 'paint' || blade.placing === 'place' ? 'done' : 'leave it' }}</button>
        </div>
        <div v-if="loading" class="loading soft">drawing {{ loading === 1 ? 'the piece' : `${loading} pieces` }}…</div>
        <div v-if="project.shown.length > 1 && !kind?.placed?.()" class="spread">
            <span class="soft">Spread</span>
            <ElSlider v-model="project.spread" :min="0" :max="Math.ceil(diagonal / 3)" :show-tooltip="false" size="small" aria-label="Spread, mm" />
            <span class="value">{{ mm(project.spread) }}</span>
        </div>
        <div
            v-if="chip && pose.shown" class="grip-mark" data-part="grip" aria-hidden="true" :style="{ left: `${chip.x}px`, top: `${chip.y}px` }"
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

.host :deep(canvas) {
    display: block;
    width: 100%;
    height: 100%;
}

.line {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    pointer-events: none;
}

.line line {
    stroke: var(--cut);
    stroke-width: 2;
    stroke-dasharray: 7 4;
}

.chip,
.loading,
.asking,
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

.hint {
    color: var(--soft);
    font-size: 13px;
    white-space: nowrap;
}

.side {
    position: absolute;
    padding: 0 4px;
    background: color-mix(in srgb, var(--ground) 80%, transparent);
    font-size: 12.5px;
    transform: translate(-50%, -50%);
    pointer-events: none;
}

.asking {
    display: flex;
    gap: 14px;
    top: 44px;
    left: 14px;
    max-width: calc(100% - 28px);
    padding: 6px 12px;
    border-left: 3px solid var(--cut);
    pointer-events: auto;
}

.asking button {
    flex: none;
}

.loading {
    top: 44px;
    right: 14px;
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
    width: 130px;
}

.value {
    min-width: 58px;
    text-align: right;
}

.tip {
    position: absolute;
    transform: translate(-50%, -50%);
    color: var(--ink);
    font-size: 13px;
    pointer-events: none;
}

.grip-mark {
    position: absolute;
    width: 0;
    height: 0;
    pointer-events: none;
}
</style>
