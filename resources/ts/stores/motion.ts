import { defineStore } from 'pinia'
import { markRaw } from 'vue'
import { api, type MovementFile } from '../api/client'
import { latest, said } from '../api/latest'
import type { Movement, MovementLayer, Piece, Run, Step, Vector } from '../api/types'
import { count, number } from '../format'
import type { Placed } from '../kinds/Kind'
import { Pictures } from '../view/pictures'
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
    /** Where pieces stand is drawn too. */
    ghost: boolean
    /** Pictures of so many frames are taken. */
    pictured: number | null
    /** The project's own movement, while that of a step is edited. */
    aside: Pick<State, 'fps' | 'frames' | 'layers'> | null
    /** Takes pictures of what is seen, at a frame. */
    camera: ((frame: number) => HTMLCanvasElement) | null
    problem: string
}

/** A pose by hand, at a frame. */
export interface Key { frame: number; shift: Vector; about: Vector; degrees: number; scale: number }

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

/** Of every project's movement as this window knows it: what had to wait for an answer goes out with the version of that answer, or it would be taken for somebody else's. */
const versions = new Map<number, number>()

const keeping = latest(
    ([id, movement]: [number, Movement]) => api.keepMovement(id, movement, versions.get(id) ?? 0).then((kept) => [id, kept.version] as const),
    ([id, version]) => {
        versions.set(id, version)
        if (useMotion().of === id) useMotion().version = version
    },
    (error) => void useMotion().notKept(error),
)

/** As a recipe names pieces. */
const isNamed = (name: string, of: string[]) => of.some((one) => one === '*' || one === name || (one.endsWith('*') && name.startsWith(one.slice(0, -1))))

/** A picture as PNG. */
async function png(picture: HTMLCanvasElement): Promise<Uint8Array> {
    const blob = await new Promise<Blob | null>((done) => picture.toBlob(done, 'image/png'))
    if (!blob) throw new Error('The picture could not be made; make the window smaller, or close other tabs, and try again.')
    return new Uint8Array(await blob.arrayBuffer())
}

let playing = 0
let soon = 0
let looking = 0

/** How the pieces move: layers in time, worked out by the server, played here. */
export const useMotion = defineStore('motion', {
    state: (): State => ({
        of: null, version: 0, fps: 25, frames: 100, layers: [], chosen: 0, known: null, asksKnown: '', frame: 0, still: 0, playing: false, loop: false, path: false, waits: false, working: null, taking: false, ghost: false, pictured: null,
        aside: null, camera: null, problem: '',
    }),
    getters: {
        movement: (state): Movement => ({ isotome_movement: 1, fps: state.fps, frames: state.frames, layers: state.layers }),
        falls: (state): boolean => state.layers.some((layer) => layer.do === 'drop' && !layer.off),
        /** Those that move: what is there, or for a step that is edited what was there before it. */
        pieces(): Piece[] {
            return this.editing === null ? useProject().living : useProject().shown
        },
        /** The step whose movement is being changed; steps of other kinds may be open elsewhere. */
        editing: (state): number | null => (state.aside ? useProject().editing : null),
        /** All that decides the poses. */
        asks(): string {
            return JSON.stringify([this.movement, this.pieces.map(({ name, mesh }) => [name, mesh])])
        },
        /** Keys of the chosen layer, in their order. */
        keys(): Key[] {
            return this.layer?.do === 'keys' ? [...((this.layer.keys ?? []) as Key[])].sort((a, b) => a.frame - b.frame) : []
        },
        /** The key at the frame that is shown. */
        key(): Key | null {
            return this.keys.find(({ frame }) => frame === this.frame) ?? null
        },
        /** Where the group is from which the chosen layer's key shifts: the middle of the pieces that it moves, as they are now; null when it has none here. */
        group(state): Vector | null {
            const { known } = state
            const { layer } = this
            if (!known || !layer || !this.key || state.playing) return null
            const project = useProject()
            const centres = known.pieces.flatMap((id, n) => (isNamed(project.byId.get(id)?.name ?? '', layer.of ?? ['*']) ? [known.centre(n, state.still)] : []))
            return centres.length ? ([0, 1, 2].map((k) => centres.reduce((sum, centre) => sum + centre[k], 0) / centres.length) as Vector) : null
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
            const there = new Set(this.pieces.map(({ id }) => id))
            return known.pieces.flatMap((id, n) => (there.has(id) ? [{ id, piece: id, picked: project.pickedIds.has(id), pose: known.pose(n, state.still) }] : []))
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
            if (state.pictured !== null) return `Takes a picture of frame ${state.pictured} of ${this.last}.`
            if (state.waits) return state.known && this.falls ? `Worked out up to ${number(Math.max(0, state.known.count - 1) / state.fps, 2)} s; what is known plays already.` : 'Works out where the pieces go.'
            if (this.isOld) return 'What plays is older than the settings; work it out again.'
            if (!state.known) return `Lets ${count(this.pieces.length, 'piece', 'pieces')} fall, with what the other layers do.`
            return `${count(this.pieces.length, 'piece', 'pieces')} in ${count(state.frames, 'frame', 'frames')}, ${number((state.frames - 1) / state.fps, 2)} s.`
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
        /** The movement of a step that is to be changed; the project's own waits. */
        load(step: Step) {
            const { movement, frame } = step.settings
            const { fps, frames, layers } = movement as unknown as Movement
            this.pause()
            this.aside ??= { fps: this.fps, frames: this.frames, layers: this.layers }
            Object.assign(this, { fps, frames, layers, chosen: 0, known: null, asksKnown: '', frame: frame ?? 0, still: frame ?? 0 })
            this.freshen()
        },
        /** Back from a step to the project's own movement. */
        unload() {
            if (!this.aside) return
            Object.assign(this, { ...this.aside, aside: null, chosen: 0 })
            this.stand()
            this.freshen()
        },
        /** The pieces of the project stand from now on where they are at this frame. */
        async takeOver() {
            const project = useProject()
            const { movement, frame } = this
            this.pause()
            const { editing } = this
            if (!(await project.work({ step: { do: 'settle', movement: movement as never, frame }, pieces: null }, editing))) return
            if (editing !== null) {
                project.editing = null
                this.unload()
                return
            }
            // Else they would go on from where they are now, as far again.
            this.layers = this.layers.map((layer) => ({ ...layer, off: true }))
            this.frame = this.still = 0
            this.changed()
        },
        /** A picture of every frame, each piece flat in its own colour, as a zip. */
        async takePictures(name: string) {
            const { camera } = this
            if (!camera || this.taking) return
            this.pause()
            this.taking = true
            this.problem = ''
            try {
                const zip = new Pictures()
                for (let frame = 0; frame <= this.last; frame++) {
                    this.pictured = frame
                    const picture = await png(camera(frame))
                    // Stopped, or left.
                    if (this.pictured === null || !this.isAtHand) return
                    zip.add(`${name}-${String(frame).padStart(String(this.last).length, '0')}.png`, picture)
                }
                const link = document.createElement('a')
                link.href = URL.createObjectURL(zip.end())
                link.download = `${name}.zip`
                link.click()
                URL.revokeObjectURL(link.href)
            } catch (error) {
                this.problem = said(error)
            } finally {
                this.pictured = null
                this.taking = false
            }
        },
        take({ version, movement }: { version: number; movement: Movement | null }) {
            this.version = version
            if (this.of !== null) versions.set(this.of, version)
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
                if (this.of !== null && !this.aside) keeping.ask([this.of, this.movement])
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
        /** Changes the key at the frame that is shown. */
        setKey(change: Partial<Key>) {
            const now = this.key
            if (now) this.set({ keys: this.keys.map((key) => (key === now ? { ...key, ...change } : key)) })
        },
        /** Sets a key at the frame that is shown, as the last key before it has it. */
        addKey() {
            const before = this.keys.filter(({ frame }) => frame < this.frame).at(-1) ?? { shift: [0, 0, 0], about: [0, 0, 1], degrees: 0, scale: 1 }
            this.set({ keys: [...this.keys, { ...before, frame: this.frame } as Key].sort((a, b) => a.frame - b.frame) })
        },
        removeKey() {
            if (this.keys.length > 1) this.set({ keys: this.keys.filter((key) => key !== this.key) })
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
            const pieces = this.pieces.map((piece) => piece.id)
            this.waits = true
            this.problem = ''
            let from: string | null = null
            try {
                const file = await asked(() => api.moves(id, movement, this.editing === null ? null : pieces), (run) => {
                    this.working = run
                    if (run && from !== run.id && this.falls) {
                        from = run.id
                        this.follow(run.id, new Moving(movement.fps, movement.frames, pieces, project.byId, null), asks)
                    }
                })
                clearTimeout(looking)
                if (!file || useProject().project?.id !== id) return
                const moving = readPoses(await api.file(file.url), this.pieces, project.byId)
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
