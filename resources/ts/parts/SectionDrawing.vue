<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { number } from '../format'
import { useBlade } from '../stores/blade'
import { useProject } from '../stores/project'

const WIDTH = 278
const HEIGHT = 108
const MARGIN = 9
/** Below it stands the ruler. */
const BELOW = 22
/** So many times larger the drawing must become before it is turned on its side, or back: it does not flicker between the two. */
const WORTH = 1.25

const blade = useBlade()
const project = useProject()

const colours = computed(() => new Map(project.living.map((piece, n) => [piece.id, { colour: piece.colour, lean: n % 2 }])))

const box = computed(() => {
    let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
    for (const piece of blade.section?.pieces ?? []) {
        for (const line of [...piece.outlines, ...piece.lines]) {
            for (const [x, y] of line) {
                if (x < x0) x0 = x
                if (x > x1) x1 = x
                if (y < y0) y0 = y
                if (y > y1) y1 = y
            }
        }
    }
    return x1 >= x0 ? { x0, y0, x1, y1 } : null
})

/** Pixels a millimetre at which so much goes into the frame. */
const fitting = (width: number, height: number) => Math.min((WIDTH - 2 * MARGIN) / Math.max(width, 1e-9), (HEIGHT - MARGIN - BELOW) / Math.max(height, 1e-9))

/** What is tall lies on its side, so that it fills the frame. */
const turned = ref(false)
watch(box, (b) => {
    if (!b) return
    const upright = fitting(b.x1 - b.x0, b.y1 - b.y0)
    const lying = fitting(b.y1 - b.y0, b.x1 - b.x0)
    if (turned.value ? upright > WORTH * lying : lying > WORTH * upright) turned.value = !turned.value
}, { immediate: true })

/** The box as it is drawn. */
const page = computed(() => {
    const b = box.value
    return b && (turned.value ? { x0: -b.y1, y0: b.x0, x1: -b.y0, y1: b.x1 } : b)
})

/** Pixels a millimetre, the same both ways. */
const scale = computed(() => (page.value ? fitting(page.value.x1 - page.value.x0, page.value.y1 - page.value.y0) : 1))

const drawn = computed(() => {
    const b = page.value
    if (!b || !blade.section) return []
    const s = scale.value
    const left = (WIDTH - s * (b.x1 - b.x0)) / 2
    const top = MARGIN + (HEIGHT - MARGIN - BELOW - s * (b.y1 - b.y0)) / 2
    const isTurned = turned.value
    const onPage = ([x, y]: [number, number]) => (isTurned ? [-y, x] : [x, y])
    const at = (x: number, y: number) => `${(left + s * (x - b.x0)).toFixed(2)} ${(top + s * (b.y1 - y)).toFixed(2)}`
    const point = (of: [number, number]) => {
        const [x, y] = onPage(of)
        return at(x, y)
    }
    return blade.section.pieces.filter((piece) => piece.outlines.length || piece.lines.length).map((piece) => ({
        id: piece.piece,
        lean: colours.value.get(piece.piece)?.lean ?? 0,
        path: piece.outlines.map((outline) => `M${outline.map(point).join('L')}Z`).join(''),
        open: piece.lines.map((line) => `M${line.map(point).join('L')}`).join(''),
    }))
})

/** A round length that takes about a fifth of the width. */
const ruler = computed(() => {
    const want = WIDTH / 5 / scale.value
    const ten = 10 ** Math.floor(Math.log10(want))
    const length = [5, 2, 1].map((n) => n * ten).find((n) => n <= want) ?? ten
    return { length, pixels: length * scale.value, text: `${number(length, length < 1 ? 2 : 0)} mm` }
})
</script>

<template>
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" :aria-label="`Section: ${blade.outlineCount} outlines`" data-part="section">
        <defs>
            <pattern id="hatch-0" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><path d="M0 0V5" /></pattern>
            <pattern id="hatch-1" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)"><path d="M0 0V5" /></pattern>
        </defs>
        <g v-for="piece in drawn" :key="piece.id">
            <path :d="piece.path" :fill="`url(#hatch-${piece.lean})`" fill-rule="evenodd" class="outline" />
            <path v-if="piece.open" :d="piece.open" class="open" />
        </g>
        <g v-if="drawn.length" class="ruler">
            <path :d="`M12 ${HEIGHT - 8}h${ruler.pixels}m0 -3v6m${-ruler.pixels} -6v6`" />
            <text :x="18 + ruler.pixels" :y="HEIGHT - 5">{{ ruler.text }}</text>
            <text v-if="turned" :x="WIDTH - 10" :y="HEIGHT - 5" class="side">on its side</text>
        </g>
        <text v-else :x="WIDTH / 2" :y="HEIGHT / 2" class="none">no section here</text>
    </svg>
</template>

<style scoped>
svg {
    display: block;
    /* It takes what room the numbers leave. */
    flex: 1 1 70px;
    min-height: 70px;
    max-height: 130px;
    width: 100%;
    border: 1px solid var(--rule);
    background: var(--field);
}

pattern path {
    stroke: var(--soft);
    stroke-width: 1;
}

.outline {
    stroke: var(--cut);
    stroke-width: 1.4;
    stroke-linejoin: round;
}

.open {
    fill: none;
    stroke: var(--warning);
    stroke-width: 1.6;
    stroke-dasharray: 4 3;
}

.ruler path {
    fill: none;
    stroke: var(--ink);
}

text {
    fill: var(--ink);
    font-size: 10.5px;
}

.side {
    fill: var(--soft);
    text-anchor: end;
}

.none {
    fill: var(--soft);
    font-size: 13px;
    text-anchor: middle;
}
</style>
