import { computed, watch } from 'vue'
import { Matrix4 } from 'three'
import { useMotion } from '../stores/motion'
import { useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import { CellLines } from '../view/CellLines'
import type { Kind } from './Kind'

/** Pieces that move: nothing is made of them here. */
export const motion: Kind = {
    id: 'motion',
    station: 'motion',
    choices: [],
    is: () => false,
    told: () => '',
    edit: () => undefined,
    forget: () => useMotion().forget(),
    placed: () => useMotion().placed,
    extent: () => useMotion().extent,
    key(event) {
        const motion = useMotion()
        if (!motion.known) return false
        const by = { ArrowRight: 1, ArrowLeft: -1, PageUp: 25, PageDown: -25, Home: -1e6, End: 1e6 }[event.key]
        if (by !== undefined) {
            motion.pause()
            motion.show(motion.frame + (event.shiftKey ? 10 : 1) * by)
        } else if (event.key === ' ') void (motion.playing ? motion.pause() : motion.play())
        else if (event.key === 'o') motion.loop = !motion.loop
        else return false
        return true
    },
    draw(view, active) {
        const ways = view.add(new CellLines(0.5))
        const motion = useMotion()
        // While it plays the view is told where pieces are without anything else being looked at.
        const poses = new Map<number, Matrix4>()
        watch(() => (active() && motion.playing ? motion.frame : -1), (frame) => {
            const { known } = motion
            if (frame < 0 || !known) return
            known.pieces.forEach((id, n) => {
                const pose = poses.get(id) ?? new Matrix4()
                poses.set(id, known.pose(n, frame, pose))
            })
            view.carry(poses)
        }, { flush: 'sync' })
        const lines = computed(() => {
            const { known, path } = motion
            const project = useProject()
            if (!active() || !known || !path) return null
            const skin: number[] = []
            known.pieces.forEach((id, n) => {
                if (!project.pickedIds.has(id)) return
                for (let frame = 1; frame < known.count; frame++) skin.push(...known.centre(n, frame - 1), ...known.centre(n, frame))
            })
            return skin
        })
        watch(lines, (now) => {
            ways.show(new Float32Array(now ?? []), new Float32Array())
            useShown().images.motion = now?.length ? 1 : 0
            view.redraw()
        })
    },
}
