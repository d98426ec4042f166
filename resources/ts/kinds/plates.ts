import { computed, ref, watch } from 'vue'
import type { LaidPlate, Vector } from '../api/types'
import { mm } from '../format'
import { usePlates } from '../stores/plates'
import { useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import { CellLines } from '../view/CellLines'
import { PlateDrag } from '../view/PlateDrag'
import { TurnRing } from '../view/TurnRing'
import type { View3d } from '../view/View3d'
import type { Kind } from './Kind'

/** The outline of a bed, and what its margin leaves free: six numbers a line. */
export function bedLines(x: number, y: number): number[] {
    const { margin } = usePlates()
    const printer = useProject().project?.printer
    if (!printer) return []
    const round = (radius: number) => Array.from({ length: 96 }, (_, n) => [x + printer.x / 2 + radius * Math.cos((n * Math.PI) / 48), y + printer.x / 2 + radius * Math.sin((n * Math.PI) / 48)])
    const square = (by: number) => [[x + by, y + by], [x + printer.x - by, y + by], [x + printer.x - by, y + printer.y - by], [x + by, y + printer.y - by]]
    return [0, ...(margin > 0 ? [margin] : [])].flatMap((by) => {
        const corners = printer.round ? round(printer.x / 2 - by) : square(by)
        return corners.flatMap(([a, b], n) => [a, b, 0, ...corners[(n + 1) % corners.length], 0])
    })
}

/** By what the picked piece is dragged and turned. */
function drawHandles(view: View3d, active: () => boolean): void {
    const plates = usePlates()
    const drags = view.add(new PlateDrag())
    const rings = view.add(new TurnRing())
    let before: LaidPlate[] = []
    let from: { pose: number[]; plate: number; box: [number, number, number, number] } | null = null
    const dragging = ref(false)
    const held = computed(() => {
        const holding = active() && plates.canMove() ? plates.holding : null
        if (!holding?.box) return null
        const [x, y] = plates.corners[holding.plate]
        const piece = plates.living.get(holding.one.piece)
        const high = piece ? Math.hypot(...piece.max.map((c, k) => c - piece.min[k])) : 10
        return { holding, box: holding.box, x, y, high }
    })
    watch([held, dragging], ([now, isDragged]) => {
        // While it is dragged its handles stay as they were.
        if (isDragged && now) return
        const taken = () => {
            before = plates.plates
            from = now && { pose: now.holding.one.pose, plate: now.holding.plate, box: now.box }
            dragging.value = true
        }
        const released = () => {
            from = null
            dragging.value = false
            plates.dropped(before)
        }
        drags.set(now && {
            min: [now.x + now.box[0], now.y + now.box[1], 0], max: [now.x + now.box[2], now.y + now.box[3], Math.min(now.high, plates.bed[2])],
            taken, moved: (x, y) => { if (from) plates.drag(from, [x, y]) }, released,
        })
        rings.set(now && {
            at: [now.x + (now.box[0] + now.box[2]) / 2, now.y + (now.box[1] + now.box[3]) / 2, 0], axis: [0, 0, 1], size: 0.6 * Math.hypot(now.box[2] - now.box[0], now.box[3] - now.box[1]), degrees: 0, taken,
            // In steps of 5 degrees; numbers are for the rest.
            dragged: (by) => { if (from) plates.spin(from, 5 * Math.round(by / 5)) }, released,
        })
        view.redraw()
    }, { immediate: true })
}

/** Pieces on plates: nothing is made of them; here is where they are drawn and moved, and the beds under them. */
export const plates: Kind = {
    id: 'plates',
    station: 'plate',
    choices: [],
    is: () => false,
    told: () => '',
    edit: () => undefined,
    forget: () => usePlates().forget(),
    placed: () => usePlates().placed,
    pick: (id) => usePlates().placed !== null && usePlates().pick(id),
    extent: () => usePlates().extent,
    marks() {
        const { crowding, corners, laid } = usePlates()
        return { points: laid.flatMap((_, n) => (crowding[n]?.near ?? []).flatMap(({ at }) => [corners[n][0] + at[0], corners[n][1] + at[1], 0])) }
    },
    key(event) {
        const plates = usePlates()
        if (!plates.holding) return false
        const [x, y] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key] ?? [0, 0]
        const step = event.shiftKey ? 10 : 1
        const { box } = plates.holding
        if ((x || y) && box) plates.moveTo(box[0] + step * x, box[1] + step * y)
        else if (event.key === 'r' || event.key === 'R') plates.turnBy(event.shiftKey ? -15 : 15)
        else if (event.key === 'Escape') plates.held = null
        else return false
        return true
    },
    draw(view, active) {
        const layer = view.add(new CellLines(0.5))
        const lines = computed(() => (active() && usePlates().total ? usePlates().corners.flatMap(([x, y]) => bedLines(x, y)) : []))
        watch(lines, (now) => {
            // Of what is there, not of what will be cut: in the colour of ink.
            layer.show(new Float32Array(), new Float32Array(now))
            useShown().images.plates = now.length ? 1 : 0
            view.redraw()
        }, { immediate: true })
        drawHandles(view, active)
        // How near, beside the place.
        const near = computed(() => {
            const { crowding, corners, laid } = usePlates()
            return active() ? laid.flatMap((_, n) => (crowding[n]?.near ?? []).map(({ at, mm: away }, k) => ({ at: [corners[n][0] + at[0], corners[n][1] + at[1], 0] as Vector, name: `near-${n}-${k}`, text: away > 0 ? mm(away) : 'overlap' }))) : []
        })
        watch(near, (now, old) => { if (now.length || old?.length) useShown().handles = now }, { immediate: true })
    },
}
