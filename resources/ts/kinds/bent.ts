import { computed, watch } from 'vue'
import type { Vector } from '../api/types'
import { number } from '../format'
import BentCard from '../parts/BentCard.vue'
import { useBent } from '../stores/bent'
import { useBlade } from '../stores/blade'
import { rough } from '../stores/grain'
import { useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import { DrawnLines } from '../view/DrawnLines'
import { smooth, type Flat } from '../view/lines'
import { handles, parting } from './drawn'
import type { Kind } from './Kind'

/** A flat blade whose edge has corners. */
export const bent: Kind = {
    id: 'bent',
    station: 'cut',
    choices: [{ value: 'bent', text: 'Bent', hint: 'A flat blade with corners, round a detail', key: 'e', icon: 'M3 3h18v14H3z|M0 13h8l3-6 4 3h9' }],
    card: BentCard,
    is: ({ blade }) => blade?.kind === 'bent',
    told(settings) {
        const b = settings.blade
        if (b?.kind !== 'bent') return settings.do
        const heights = b.profile.map(([, height]) => height)
        return `Cut bent, ${b.profile.length} corners, ${number(Math.max(...heights) - Math.min(...heights), 1)} mm high${settings.kerf ? `, kerf ${settings.kerf}` : ''}${rough(settings.grain)}${settings.keep && settings.keep !== 'both' ? `, ${settings.keep}` : ''}`
    },
    edit: (step) => useBent().load(step),
    chosen: () => 'bent',
    choose() {
        const blade = useBlade()
        blade.kind = 'bent'
        blade.series = false
        blade.touched()
        useBent().set({})
    },
    left: () => useBent().ask(),
    run: () => useBent().run(),
    taken: () => useBent().ask(),
    picked: () => useBent().set({}),
    moved: () => useBent().set({}),
    forget: () => useBent().forget(),
    blade: () => ({ keep: 'both', lost: [], bare: true }),
    draw(view, active) {
        const bent = useBent()
        const project = useProject()
        const lines = view.add(new DrawnLines(() => null))
        const free = computed(() => active() && !project.busy && project.spread === 0 && !bent.done && project.taken.length > 0)
        /** The sheet: its profile near and far, and the creases between. */
        const shown = computed((): { chains: Vector[][]; reach: number } => {
            if (!free.value) return { chains: [], reach: 0 }
            const reach = 0.56 * bent.reach(bent.straight)
            const wide = 0.62 * bent.reach(bent.across)
            const line = edge(bent.corners, bent.smooth, wide)
            const creases = bent.smooth ? [line[0], line[line.length - 1]] : line
            return { reach, chains: [line.map((at) => bent.placeOf(at, -reach)), line.map((at) => bent.placeOf(at, reach)), ...creases.map((at) => [bent.placeOf(at, -reach), bent.placeOf(at, reach)])] }
        })
        let held = 0
        const corners = computed(() => {
            if (!free.value) return null
            const { reach } = shown.value
            const list = bent.corners
            const between = list.slice(1).map(([x, h], k) => [(x + list[k][0]) / 2, (h + list[k][1]) / 2] as Flat)
            const { min, max } = project.box
            return {
                at: [...list, ...between].map((corner) => bent.placeOf(corner, -reach)), facing: bent.straight, reach: 0.016 * Math.hypot(...min.map((low, k) => max[k] - low)),
                taken(n: number) {
                    held = n
                    // The middle of an edge becomes a corner.
                    if (n >= list.length) {
                        held = n - list.length + 1
                        bent.set({ profile: [...list.slice(0, held), between[n - list.length], ...list.slice(held)] })
                    }
                },
                placed: (_: number, to: Vector) => bent.set({ profile: bent.corners.map((corner, k) => (k === held ? bent.cornerAt(to) : corner)) }),
            }
        })
        watch(shown, ({ chains }) => {
            lines.show(chains.slice(0, 1), chains.slice(1))
            useShown().images.bent = chains.length
            view.redraw()
        }, { immediate: true })
        watch(corners, (now) => {
            lines.setCorners(now)
            if (active()) useShown().handles = handles(now?.at)
            view.redraw()
        }, { immediate: true })
        parting(view, () => (free.value ? bent.forecast : null))
    },
}

/** The profile as it cuts, its ends carried on straight. */
function edge(corners: Flat[], isSmooth: boolean, wide: number): Flat[] {
    const line = isSmooth ? smooth(corners.map(([x, h]) => [x, h, 0] as Vector), false).map(([x, h]) => [x, h] as Flat) : corners
    const on = ([x0, h0]: Flat, [x1, h1]: Flat): Flat => {
        const length = Math.hypot(x1 - x0, h1 - h0) || 1
        const by = Math.max(0.1 * wide, wide - Math.abs(x1))
        return [x1 + (by * (x1 - x0)) / length, h1 + (by * (h1 - h0)) / length]
    }
    const n = line.length
    return n < 2 ? line : [on(line[1], line[0]), ...line, on(line[n - 2], line[n - 1])]
}
