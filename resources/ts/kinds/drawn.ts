import { computed, watch } from 'vue'
import { floats } from '../api/floats'
import type { DrawnForecast, Vector } from '../api/types'
import { count, number } from '../format'
import DrawnCard from '../parts/DrawnCard.vue'
import { useBlade } from '../stores/blade'
import { MOST_CORNERS, useDrawn } from '../stores/drawn'
import { rough } from '../stores/grain'
import { useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import { CellLines } from '../view/CellLines'
import { DrawnLines } from '../view/DrawnLines'
import type { PenAt } from '../view/Layer'
import { smooth } from '../view/lines'
import { cross, towards } from '../view/sight'
import type { View3d } from '../view/View3d'
import type { Kind } from './Kind'

/** Lines drawn across the view: a stroke, an outline, a grid, outlines of a file. */
export const drawn: Kind = {
    id: 'drawn',
    station: 'cut',
    choices: [{ value: 'drawn', text: 'Drawn', hint: 'Along a line that you draw, an outline, a grid, letters from a file', key: 'd', icon: 'M3 3h18v14H3z|M0 12c4-6 6 3 11 0s6-7 13-3' }],
    card: DrawnCard,
    is: ({ blade }) => blade?.kind === 'drawn',
    told(settings, long) {
        const b = settings.blade
        if (b?.kind !== 'drawn') return settings.do
        const lines = long['blade.lines'] ?? b.lines?.length ?? 1
        const what = { stroke: 'Cut along a line', outline: `Cut out ${lines > 1 ? `${lines} outlines` : 'an outline'}`, grid: `Cut along ${count(lines, 'line', 'lines')}` }[b.shape ?? 'stroke']
        if (settings.do === 'score') return `Score ${b.shape === 'outline' ? 'an outline' : 'a line'}${settings.seen === false ? '' : ', where it is seen'}`
        const side = settings.keep === 'behind' ? (b.shape === 'outline' ? ', within' : ', behind') : settings.keep === 'ahead' ? (b.shape === 'outline' ? ', around' : ', ahead') : ''
        return `${what}${b.depth_mm ? `, ${number(b.depth_mm, 1)} mm deep` : ''}${settings.kerf ? `, kerf ${settings.kerf}` : ''}${rough(settings.grain)}${side}`
    },
    edit: (step) => useDrawn().load(step),
    chosen: () => 'drawn',
    choose() {
        const blade = useBlade()
        const drawn = useDrawn()
        blade.kind = 'drawn'
        blade.series = false
        useProject().showAsIs()
        drawn.done = false
        if (drawn.way === 'line' && !drawn.lines.length) blade.placing = 'draw'
        drawn.ask()
    },
    left() {
        useDrawn().leave()
        useDrawn().ask()
    },
    run: () => useDrawn().run(),
    taken: () => useDrawn().ask(),
    picked: () => useDrawn().ask(),
    forget: () => useDrawn().forget(),
    key(event) {
        const drawn = useDrawn()
        if (!drawn.going.length) return false
        if (event.key === 'Enter') drawn.finish(false)
        else if (event.key === 'Backspace') drawn.back()
        else return false
        return true
    },
    draw(view, active) {
        const drawn = useDrawn()
        const project = useProject()
        const lines = view.add(new DrawnLines(() => (active() && !project.busy ? pen(view) : null)))
        const free = computed(() => active() && !project.busy && project.spread === 0 && !drawn.done)
        const shown = computed(() => (free.value ? drawn.cutting.map((line) => curve(line, drawn.smooth, drawn.cutShape === 'outline')) : []))
        const going = computed(() => (free.value && drawn.going.length ? [...drawn.going, ...(drawn.pointer ? [drawn.pointer.place] : [])] : []))
        const corners = computed(() => {
            const all = drawn.lines.flatMap((line, l) => line.map((at, k) => ({ at, l, k })))
            if (!free.value || drawn.way !== 'line' || going.value.length || !all.length || all.length > MOST_CORNERS) return null
            const { min, max } = project.box
            return {
                at: all.map(({ at }) => at), facing: towards(drawn.sight, all[0].at), reach: 0.014 * Math.hypot(...min.map((low, k) => max[k] - low)), taken: () => undefined,
                placed: (n: number, to: Vector) => drawn.move(all[n].l, all[n].k, to),
            }
        })
        /** From the middle of a stroke to the side that is ahead. */
        const ahead = computed((): Vector[] => {
            const line = drawn.cutShape === 'stroke' && free.value && !going.value.length && !drawn.score ? (drawn.cutting[0] ?? []) : []
            if (line.length < 2) return []
            const length = (k: number) => Math.hypot(...line[k + 1].map((c, j) => c - line[k][j]))
            const longest = line.slice(1).reduce((best, _, k) => (length(k) > length(best) ? k : best), 0)
            const [from, to] = [line[longest], line[longest + 1]]
            const middle = from.map((c, k) => (c + to[k]) / 2) as Vector
            const left = cross(to.map((c, k) => c - from[k]) as Vector, towards(drawn.sight, middle))
            const { min, max } = project.box
            const by = (0.07 * Math.hypot(...min.map((low, k) => max[k] - low))) / (Math.hypot(...left) || 1)
            return [middle, middle.map((c, k) => c + by * left[k]) as Vector]
        })
        watch([shown, going, ahead], ([now, line, way]) => {
            lines.show([...now, ...(drawn.going.length > 1 ? [drawn.going] : [])], [...(line.length > 1 ? [line] : []), ...(way.length ? [way] : [])])
            useShown().images.drawn = now.length
            view.redraw()
        }, { immediate: true })
        watch([corners, ahead], ([now, way]) => {
            lines.setCorners(now)
            if (active()) useShown().handles = [...handles(now?.at), ...(way.length ? [{ at: way[1].map((c, k) => c + 0.25 * (c - way[0][k])) as Vector, name: 'ahead', text: 'ahead' }] : [])]
            view.redraw()
        }, { immediate: true })
        watch(() => (active() ? drawn.pointer : null), (now) => { useShown().hint = now && { x: now.x, y: now.y, text: now.says, corners: drawn.going.length } })
        watch(() => useBlade().placing, (now) => { if (now !== 'draw') drawn.leave() })
        parting(view, () => (free.value ? drawn.forecast : null))
    },
    asking: () => (useBlade().placing === 'draw' ? 'Draw by hand, or press corner by corner and end with Enter. Near its beginning the line closes. Backspace takes a corner back.' : undefined),
}

function pen(view: View3d) {
    const drawn = useDrawn()
    // The view may have been turned, moved or laid out anew since the last corner.
    const now = (at: PenAt) => {
        drawn.pages = drawn.going.map((place) => [view.project(place).x, view.project(place).y])
        return at
    }
    return {
        plane: () => (drawn.going.length ? { at: drawn.going[0], facing: towards(drawn.sight, drawn.going[0]) } : null),
        down: (at: PenAt) => drawn.down(now(at), view.sight()),
        move: (at: PenAt, isDown: boolean) => drawn.drawTo(now(at), isDown),
        up: (at: PenAt) => drawn.lift(now(at)),
    }
}

function curve(line: Vector[], isSmooth: boolean, closed: boolean): Vector[] {
    const through = isSmooth ? smooth(line, closed) : line
    return closed && !isSmooth && line.length ? [...through, line[0]] : through
}

/** Marks on the page where corners are taken hold of. */
export const handles = (corners: Vector[] = []) => corners.slice(0, 20).map((at, k) => ({ at, name: `corner-${k + 1}`, text: '' }))

/** The lines along which the skin will part, as they are foreseen. */
export function parting(view: View3d, forecast: () => Pick<DrawnForecast, 'skin' | 'inner' | 'lost'> | null): void {
    const cells = view.add(new CellLines())
    watch(forecast, (now) => {
        cells.show(floats(now?.skin ?? ''), floats(now?.inner ?? ''))
        view.setLost(now?.lost ?? null)
    })
}
