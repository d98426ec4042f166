import { defineStore } from 'pinia'
import { markRaw } from 'vue'
import { api, type LaidQuestion } from '../api/client'
import { said } from '../api/latest'
import type { LayersHeader, PlatePrint, Run, Trouble, Vector } from '../api/types'
import { count } from '../format'
import type { Placed } from '../kinds/Kind'
import { readLayers, type PlateLayers } from '../view/layerFile'
import { asked } from './asked'
import { usePlate } from './plate'
import { labelOf, usePlates } from './plates'
import { useProject } from './project'
import { useSettings } from './settings'
import { useShown } from './shown'

interface State {
    /** The plate that is looked at. */
    plate: number
    supported: boolean
    /** As fast as a printer. */
    times: number
    /** Plates in layers, by what was asked: the last few. */
    known: Record<string, PlateLayers>
    /** The layer that is shown. */
    layer: number
    playing: boolean
    waits: boolean
    /** The run that cuts layers. */
    working: Run | null
    prints: PlatePrint[]
    problem: string
}

/** Plates whose layers are kept in this window. */
const KNOWN = 12

/** Layers a second while they are played. */
const PLAYED = 40

let playing = 0
let asking = 0

/** Plates in layers, and the simulated printer that prints them. */
export const usePrints = defineStore('prints', {
    state: (): State => ({ plate: 0, supported: false, times: 600, known: {}, layer: 0, playing: false, waits: false, working: null, prints: [], problem: '' }),
    getters: {
        question(state): LaidQuestion & { supported: boolean } {
            const plates = usePlates()
            return { margin: plates.margin, spacing: plates.spacing, plates: plates.laid.slice(state.plate, state.plate + 1).map(({ pieces }) => ({ locked: false, pieces })), supported: state.supported }
        },
        /** All that decides the layers. */
        asks(): string {
            const printer = useProject().project?.printer
            return JSON.stringify([this.question, printer])
        },
        layers(state): PlateLayers | null {
            return state.known[this.asks] ?? null
        },
        header(): LayersHeader | null {
            return this.layers?.header ?? null
        },
        count(): number {
            return this.header?.layers.length ?? 0
        },
        height(state): number {
            return this.header?.layers[state.layer]?.at ?? 0
        },
        /** Seconds until the layer that is shown is done. */
        until(state): number {
            return this.header?.layers.slice(0, state.layer + 1).reduce((sum, { seconds }) => sum + seconds, 0) ?? 0
        },
        isAtHand: (): boolean => useSettings().station === 'plate' && usePlate().work === 'print',
        /** The pieces of the plate, up to the layer that is shown. */
        placed(state): Placed[] | null {
            const plates = usePlates()
            if (!plates.total) return null
            const header = this.header
            // Between the cut through a layer and its top nothing is left to be seen.
            const top = header ? (header.layers[state.layer]?.at ?? Infinity) : Infinity
            return plates.drawn.filter(({ plate }) => plate === state.plate).map(({ plate: n, index, ...one }) => {
                const { pose } = plates.laid[n].pieces[index]
                return { ...one, picked: false, pose: poseAt(one.pose, plates.corners[n]), ...(state.layer + 1 < this.count ? { cap: { up: [pose[2], pose[5], pose[8]] as Vector, limit: top - pose[11] } } : {}) }
            })
        },
        extent(): { min: Vector; max: Vector } | null {
            if (!usePlates().total) return null
            const [x, y, z] = usePlates().bed
            const high = this.header?.layers.at(-1)?.at ?? z / 3
            return { min: [0, 0, 0], max: [x, y, high] }
        },
        ready(state): boolean {
            return !useProject().busy && !state.waits && usePlates().total > 0
        },
        sentence(state): string {
            const plates = usePlates()
            const project = useProject()
            if (!project.project?.printer) return 'Choose a printer beside the project’s name.'
            if (!plates.total) return 'Pack the pieces on plates first.'
            if (plates.gone) return 'Pieces have changed since they were packed; pack them again.'
            if (state.waits) return 'Cuts the plate into layers; you can go on working meanwhile.'
            if (state.problem) return state.problem
            const header = this.header
            if (!header) return `Cuts plate ${state.plate + 1} into layers of ${project.project.printer.layer} mm, and looks whether a printer could print it.`
            if (header.troubles.length) return `The printer would refuse this plate: ${count(header.troubles.length, 'trouble', 'troubles')}.`
            return `Has the simulated printer print plate ${state.plate + 1}, ${state.times} times as fast as it says.`
        },
    },
    actions: {
        async open() {
            await usePlates().load()
            if (this.plate >= usePlates().plates.length) this.plate = 0
            useShown().fly = this.extent
            this.follow()
        },
        choose(plate: number) {
            this.pause()
            Object.assign(this, { plate, problem: '' })
            this.layer = Math.max(0, this.count - 1)
            useShown().fly = this.extent
        },
        async look() {
            const id = useProject().project?.id
            if (id === undefined || !this.ready) return
            const { question, asks } = this
            this.problem = ''
            this.waits = true
            try {
                const file = await asked(() => api.layers(id, question), (run) => { this.working = run })
                if (!file || useProject().project?.id !== id) return
                const layers = markRaw(readLayers(await api.file(file.url)))
                this.known = Object.fromEntries([...Object.entries(this.known).filter(([key]) => key !== asks).slice(1 - KNOWN), [asks, layers]])
                this.layer = Math.max(0, layers.header.layers.length - 1)
            } catch (error) {
                this.problem = said(error)
            } finally {
                this.waits = false
            }
        },
        show(layer: number) {
            this.layer = Math.max(0, Math.min(this.count - 1, Math.round(layer)))
        },
        play() {
            if (this.playing || !this.count) return
            if (this.layer >= this.count - 1) this.layer = 0
            this.playing = true
            const start = performance.now()
            const from = this.layer
            const step = () => {
                if (!this.playing) return
                this.show(from + ((performance.now() - start) / 1000) * Math.max(PLAYED, this.count / 12))
                if (this.layer >= this.count - 1) this.playing = false
                else playing = requestAnimationFrame(step)
            }
            step()
        },
        pause() {
            this.playing = false
            cancelAnimationFrame(playing)
        },
        lookAt({ at }: Trouble) {
            this.pause()
            const layer = this.header?.layers.findIndex((one) => one.at >= at[2] - 1e-6) ?? -1
            if (layer >= 0) this.show(layer)
            const room = 12
            useShown().fly = { min: at.map((c) => c - room) as Vector, max: at.map((c) => c + room) as Vector }
        },
        async print(all = false) {
            const id = useProject().project?.id
            if (id === undefined || !this.header) return
            this.problem = ''
            const plates = all ? usePlates().laid.map((_, n) => n) : [this.plate]
            const now = this.plate
            try {
                for (const plate of plates) {
                    if (plate !== this.plate) {
                        this.choose(plate)
                        await this.look()
                        if (this.problem) return
                    }
                    this.prints = await api.print(id, { ...this.question, title: `Plate ${plate + 1}`, times: this.times })
                }
                if (all) this.choose(now)
            } catch (error) {
                this.problem = said(error)
            }
            this.follow()
        },
        async unprint(print: number) {
            const id = useProject().project?.id
            if (id === undefined) return
            try {
                this.prints = await api.unprint(id, print)
            } catch (error) {
                this.problem = said(error)
            }
        },
        /** Asks the printer how far it is, as long as somebody looks and it is not through. */
        follow() {
            clearTimeout(asking)
            const id = useProject().project?.id
            if (id === undefined || !this.isAtHand) return
            void api.prints(id).then((prints) => {
                if (useProject().project?.id !== id) return
                this.prints = prints
                const now = prints.find(({ state }) => state === 'printing')
                // What is being printed is what is seen.
                if (now && now.title === `Plate ${this.plate + 1}` && this.count === now.layers && !this.playing) this.show(Math.max(0, now.layer - 1))
                if (now || prints.some(({ state }) => state === 'waiting')) asking = window.setTimeout(() => this.follow(), 400)
            }).catch(() => { asking = window.setTimeout(() => this.follow(), 3000) })
        },
        async stop() {
            if (this.working) await api.cancel(this.working.id).catch((error: unknown) => { this.problem = said(error) })
        },
        leave() {
            this.pause()
            clearTimeout(asking)
        },
        forget() {
            this.leave()
            this.$reset()
        },
        titleOf(name: string): string {
            const one = usePlates().laid.flatMap(({ pieces }) => pieces).find((other) => labelOf(other) === name)
            return one ? usePlates().titleOf(one) : name
        },
    },
})

/** On a bed whose corner is the origin. */
function poseAt(pose: Placed['pose'], [x, y]: [number, number]): Placed['pose'] {
    const own = pose.clone()
    own.elements[12] -= x
    own.elements[13] -= y
    return own
}
