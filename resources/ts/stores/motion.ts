import { defineStore } from 'pinia'
import { markRaw } from 'vue'
import { api, type MovementFile } from '../api/client'
import { latest, said } from '../api/latest'
import type { Movement, MovementLayer, Run, Vector } from '../api/types'
import { count, number } from '../format'
import type { Placed } from '../kinds/Kind'
import { Moving, readPoses } from '../view/poses'
import { asked } from './asked'
import { useProject } from './project'
import { useSettings } from './settings'
import { useShown } from './shown'

export type LayerKind = MovementLayer['do']

interface State {
    /** The project that was loaded. */
    of: number | null
    /** Of the movement as the server keeps it. */
    version: number
    fps: number
    frames: number
    layers: MovementLayer[]
    /** The layer whose settings are shown. */
    chosen: number
    /** What is known, and what it was worked out from. */
    known: Moving | null
    asksKnown: string
    /** The frame that is shown; while it plays the view goes by it alone. */
    frame: number
    /** The one at which pieces stand when nothing plays. */
    still: number
    playing: boolean
    loop: boolean
    /** The way of the picked pieces is drawn. */
    path: boolean
    waits: boolean
    working: Run | null
    taking: boolean
    problem: string
}

/** Milliseconds between two looks at what has been worked out meanwhile. */
const LOOK = 500

/** What a layer starts out with. All of it can be changed. */
const FRESH: Record<LayerKind, (frames: number) => Omit<MovementLayer, 'do'>> = {
    spread: (frames) => ({ distance_mm: 60, start: 0, length: Math.round(0.6 * frames), ease: 'smooth', alike: false }),
    wave: (frames) => ({ front: 'plane', facing: [0, 0, 1], along: [0, 0, 1], start: 0, length: Math.round(0.6 * frames), width: 20, softness: 1, random: 0, shift: [0, 0, 40], about: [0, 0, 1], degrees: 0, scale: 1, seed: 1 }),
    scatter: (frames) => ({ distance_mm: 20, degrees: 40, drift: false, start: 0, length: Math.round(0.6 * frames), ease: 'smooth', seed: 1 }),
    keys: () => ({ keys: [{ frame: 0, shift: [0, 0, 0], about: [0, 0, 1], degrees: 0, scale: 1 }], ease: 'smooth' }),
    drop: () => ({ start: 0, density: 1.8, gravity: 9.81, friction: 0.6, bounce: 0.1, floor: 0, glue: 0, speed: [0, 0, 0], spin: [0, 0, 0] }),
}

const keeping = latest(
    ([id, movement, version]: [number, Movement, number]) => api.keepMovement(id, movement, version).then((kept) => [id, kept.version] as const),
    ([id, version]) => { if (useMotion().of === id) useMotion().version = version },
    (error) => void useMotion().notKept(error),
)

let playing = 0
let soon = 0
let looking = 0

/** How the pieces move: layers in time, worked out by the server, played here. */
export const useMotion = defineStore('motion', {
    state: (): State => ({
        of: null, version: 0, fps: 25, frames: 100, layers: [], chosen: 0, known: null, asksKnown: '', frame: 0, still: 0, playing: false, loop: false, path: false, waits: false, working: null, taking: false, problem: '',
    }),
    getters: {
        movement: (state): Movement => ({ isotome_movement: 1, fps: state.fps, frames: state.frames, layers: state.layers }),
        falls: (state): boolean => state.layers.some((layer) => layer.do === 'drop' && !layer.off),
        /** All that decides the poses. */
        asks(): string {
            return JSON.stringify([this.movement, useProject().living.map(({ name, mesh }) => [name, mesh])])
        },
        /** Something was changed since what is played was worked out. */
        isOld(state): boolean {
            return state.known !== null && state.asksKnown !== this.asks
        },
        layer: (state): MovementLayer | null => state.layers[state.chosen] ?? null,
        last: (state): number => (state.known?.frames ?? state.frames) - 1,
        isAtHand: (): boolean => useSettings().station === 'motion',
        /** The pieces where they are when nothing plays. */
        placed(state): Placed[] | null {
            const { known } = state
            if (!known) return null
            const project = useProject()
            return known.pieces.flatMap((id, n) => (project.byId.get(id)?.spent === false ? [{ id, piece: id, picked: project.pickedIds.has(id), pose: known.pose(n, state.still) }] : []))
        },
        extent(state): { min: Vector; max: Vector } | null {
            return state.known?.extent ?? null
        },
        /** Pieces that move from this frame to the next. */
        underWay(state): number {
            return state.known?.underWay(state.frame) ?? 0
        },
        sentence(state): string {
            const project = useProject()
            if (state.problem) return state.problem
            if (!project.living.length) return 'Bring in a mesh first.'
            if (!state.layers.some((layer) => !layer.off)) return 'Nothing moves yet: add a layer. Layers add up, in their order.'
            if (state.waits) return state.known && this.falls ? `Worked out up to ${number(Math.max(0, state.known.count - 1) / state.fps, 2)} s; what is known plays already.` : 'Works out where the pieces go.'
            if (this.isOld) return 'What plays is older than the settings; work it out again.'
            if (!state.known) return `Lets ${count(project.living.length, 'piece', 'pieces')} fall, with what the other layers do.`
            return `${count(project.living.length, 'piece', 'pieces')} in ${count(state.frames, 'frame', 'frames')}, ${number((state.frames - 1) / state.fps, 2)} s.`
        },
    },
    actions: {
        async open() {
            const id = useProject().project?.id
            if (id === undefined) return
            if (this.of !== id) {
                try {
                    const kept = await api.keptMovement(id)
                    if (useProject().project?.id !== id) return
                    this.of = id
                    this.take(kept)
                } catch (error) {
                    this.problem = said(error)
                }
            }
            this.freshen()
        },
        take({ version, movement }: { version: number; movement: Movement | null }) {
            this.version = version
            if (movement) Object.assign(this, { fps: movement.fps, frames: movement.frames, layers: movement.layers })
            this.chosen = Math.max(0, Math.min(this.chosen, this.layers.length - 1))
        },
        async notKept(error: unknown) {
            this.problem = said(error)
            const id = this.of
            const kept = id === null ? null : await api.keptMovement(id).catch(() => null)
            // Somebody else's is newer.
            if (kept && kept.version !== this.version) {
                this.take(kept)
                this.freshen()
            }
        },
        /** Something was changed: it is kept, and what is quick is worked out at once. */
        changed() {
            this.problem = ''
            clearTimeout(soon)
            soon = window.setTimeout(() => {
                if (this.of !== null) keeping.ask([this.of, this.movement, this.version])
                this.freshen()
            }, 250)
        },
        /** What is quick is worked out without being asked for. */
        freshen() {
            if (!this.layers.some((layer) => !layer.off)) this.stand()
            else if (!this.falls && (this.isOld || !this.known)) void this.work()
        },
        /** Nothing moves any more. */
        stand() {
            this.pause()
            Object.assign(this, { known: null, asksKnown: '', frame: 0, still: 0 })
        },
        add(kind: LayerKind) {
            this.layers = [...this.layers, { do: kind, ...FRESH[kind](this.frames) }]
            this.chosen = this.layers.length - 1
            this.changed()
        },
        set(change: Partial<MovementLayer>, at?: number) {
            this.layers = this.layers.map((layer, n) => (n === (at ?? this.chosen) ? { ...layer, ...change } : layer))
            this.changed()
        },
        setTime(change: Partial<Pick<State, 'fps' | 'frames'>>) {
            Object.assign(this, change)
            this.changed()
        },
        remove(at: number) {
            this.layers = this.layers.filter((_, n) => n !== at)
            this.chosen = Math.max(0, Math.min(this.chosen, this.layers.length - 1))
            this.changed()
        },
        /** One place earlier or later in the list. */
        shift(at: number, by: number) {
            const to = at + by
            if (to < 0 || to >= this.layers.length) return
            const layers = [...this.layers]
            layers.splice(to, 0, ...layers.splice(at, 1))
            this.layers = layers
            if (this.chosen === at) this.chosen = to
            else if (this.chosen === to) this.chosen = at
            this.changed()
        },
        /** The layer is for the picked pieces only, or for all. */
        setOf(picked: boolean) {
            const project = useProject()
            const names = project.living.filter(({ id }) => project.pickedIds.has(id)).map(({ name }) => name)
            this.set({ of: picked && names.length ? names : ['*'] })
        },
        async work() {
            const project = useProject()
            const id = project.project?.id
            if (id === undefined || this.waits || project.busy) return
            const { movement, asks } = this
            const isNew = this.known === null
            const pieces = project.living.map((piece) => piece.id)
            this.waits = true
            this.problem = ''
            let from: string | null = null
            try {
                const file = await asked(() => api.moves(id, movement), (run) => {
                    this.working = run
                    if (run && from !== run.id && this.falls) {
                        from = run.id
                        this.follow(run.id, new Moving(movement.fps, movement.frames, pieces, project.byId, null), asks)
                    }
                })
                clearTimeout(looking)
                if (!file || useProject().project?.id !== id) return
                const moving = readPoses(await api.file(file.url), project.living, project.byId)
                // What is seen for the first time is looked at as a whole.
                if (isNew) useShown().fly = moving.extent
                this.known = markRaw(moving)
                this.asksKnown = asks
                this.show(Math.min(this.frame, this.last))
            } catch (error) {
                this.problem = said(error)
            } finally {
                clearTimeout(looking)
                this.waits = false
            }
            // Changed meanwhile.
            if (this.isAtHand && !this.problem) this.freshen()
        },
        /** Reads the frames that are known while the rest is worked out. */
        follow(run: string, moving: Moving, asks: string) {
            looking = window.setTimeout(() => {
                void api.frames(run, moving.bytes).then((bytes) => {
                    if (!this.waits) return
                    const isFirst = moving.count === 0
                    moving.take(bytes)
                    if (isFirst && moving.count > 0) {
                        this.asksKnown = asks
                        this.frame = this.still = 0
                    }
                    if (moving.count > 0) {
                        const floor = Math.min(...this.layers.map((layer) => (layer.do === 'drop' ? Number(layer.floor ?? 0) : Infinity)))
                        if (isFirst) useShown().fly = { min: [useProject().whole.min[0], useProject().whole.min[1], Math.min(floor, useProject().whole.min[2])], max: useProject().whole.max }
                        this.known = markRaw(moving.seen())
                        if (isFirst && !this.playing) this.play()
                    }
                }).catch(() => undefined).finally(() => { if (this.waits) this.follow(run, moving, asks) })
            }, LOOK)
        },
        async stop() {
            if (this.working) await api.cancel(this.working.id).catch((error: unknown) => { this.problem = said(error) })
        },
        show(frame: number) {
            this.frame = Math.max(0, Math.min(this.last, Math.round(frame)))
            if (!this.playing) this.still = this.frame
        },
        play() {
            if (this.playing || !this.known) return
            if (this.frame >= this.last) this.frame = 0
            this.playing = true
            let start = performance.now()
            let from = this.frame
            const step = (now: number) => {
                if (!this.playing || !this.known) return
                const end = this.known.count - 1
                let frame = from + Math.floor(((now - start) / 1000) * this.known.fps)
                if (frame > end && this.waits) {
                    // What is not known yet is waited for.
                    frame = end
                    start = now
                    from = end
                } else if (frame > end && this.loop) {
                    start = now
                    from = frame = 0
                }
                this.show(frame)
                if (this.frame >= this.last && !this.loop && !this.waits) this.pause()
                else playing = requestAnimationFrame(step)
            }
            playing = requestAnimationFrame(step)
        },
        pause() {
            this.playing = false
            cancelAnimationFrame(playing)
            this.still = this.frame
        },
        async takeOut(as: MovementFile) {
            const id = useProject().project?.id
            if (id === undefined || this.taking) return
            this.taking = true
            this.problem = ''
            const { movement, frame } = this
            try {
                const file = await asked(() => api.movementFiles(id, movement, as, frame), (run) => { this.working = run })
                if (!file) return
                const link = document.createElement('a')
                link.href = file.url
                link.download = file.name
                link.click()
            } catch (error) {
                this.problem = said(error)
            } finally {
                this.taking = false
            }
        },
        leave() {
            this.pause()
            clearTimeout(soon)
            useShown().handles = []
        },
        forget() {
            this.leave()
            this.$reset()
        },
    },
})
