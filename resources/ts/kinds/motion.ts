import { computed, watch } from 'vue'
import { Matrix4 } from 'three'
import { useMotion } from '../stores/motion'
import { useProject } from '../stores/project'
import { useShown } from '../stores/shown'
import { CellLines } from '../view/CellLines'
import { Reflections } from '../view/Reflections'
import type { Kind } from './Kind'
import { drawKeyHandles } from './motionHandles'

/** Pieces that move; they can be taken over as they are at a frame. */
export const motion: Kind = {
    id: 'motion',
    station: 'motion',
    choices: [],
    is: (settings) => settings.do === 'settle',
    told: (settings) => `As they are at frame ${settings.frame ?? 0}`,
    edit: (step) => useMotion().load(step),
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
        const motion = useMotion()
        drawKeyHandles(view, active)
        const ghosts = view.add(new Reflections())
        const ghost = computed(() => {
            if (!active() || !motion.ghost || !motion.known) return null
            const { pickedIds } = useProject()
            const picked = motion.known.pieces.filter((id) => pickedIds.has(id))
            return { to: [new Matrix4()], ahead: [], pieces: new Set(picked.length ? picked : motion.known.pieces) }
        })
        watch(ghost, (now) => {
            ghosts.set(now)
            useShown().images.ghost = now ? now.pieces.size : 0
            view.redraw()
        })
        const ways = view.add(new CellLines(0.5))
        // While it plays the view is told where pieces are without anything else being looked at.
        const poses = new Map<number, Matrix4>()
        watch(() => (active() && motion.playing ? motion.frame : -1), (frame) => {
            if (frame < 0 || !motion.known) return
            carry(frame)
        }, { flush: 'sync' })
        const carry = (frame: number) => {
            const { known } = motion
            known?.pieces.forEach((id, n) => {
                const pose = poses.get(id)
                if (pose) known.pose(n, frame, pose)
                else poses.set(id, known.pose(n, frame))
            })
            view.carry(poses)
        }
        motion.camera = (frame) => {
            carry(frame)
            const picture = view.identity()
            carry(motion.still)
            return picture
        }
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
