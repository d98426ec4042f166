import type {
    BladeQuestion, CheckCounts, CheckReport, CutSettings, FilesAnswer, Format, Inside, Material, Printer, ProfileAnswer, Project, Run, Said, SectionAnswer, ShelfEntry,
    SidesAnswer, Step, StepQuestion, StopsAnswer, FitsAnswer, PlanAnswer, PlatesAnswer, CrowdingAnswer, KeptMovement, KeptPlates, LaidPlate, Movement, PlatePrint, SheetAnswer, SymmetryAnswer, Units, Upload, Vector, WidthsAnswer,
} from './types'

export interface PlatesQuestion {
    margin: number
    spacing: number
    turned: boolean
    step: number
    /** All living ones when null. */
    pieces: number[] | null
    copies: { piece: number; count: number }[]
    /** What lies on them, or stays there. */
    plates: LaidPlate[]
}

export interface LaidQuestion {
    margin: number
    spacing: number
    plates: LaidPlate[]
}

/** A refusal: its message is the server's one sentence. */
export class Refused extends Error {}

/** Nothing answered, or something between here and Isotome did: asking again may help. */
export class Unanswered extends Refused {}

const ROOT = '/api/v1'

/** Milliseconds: longer than the server works at any answer. What is not there by then got lost on the way. */
const LONGEST = 150_000

async function answer<T>(response: Response): Promise<T> {
    if (response.ok) {
        if (response.status === 204) return undefined as T
        try {
            return (await response.json()) as T
        } catch (error) {
            if (error instanceof DOMException && error.name === 'AbortError') throw error
            throw new Unanswered('What Isotome answered did not arrive whole; try again.')
        }
    }
    let message = `Isotome did not answer this as it should (${response.status}); try again.`
    try {
        const body = (await response.json()) as { message?: string }
        message = body.message ?? message
    } catch {
        // Not JSON: the sentence above stands.
    }
    throw response.status < 500 ? new Refused(message) : new Unanswered(message)
}

async function send(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<Response> {
    const init: RequestInit = { method, headers: { Accept: 'application/json' } }
    if (body !== undefined) {
        init.body = JSON.stringify(body)
        init.headers = { Accept: 'application/json', 'Content-Type': 'application/json' }
    }
    const limit = AbortSignal.timeout(LONGEST)
    init.signal = signal ? AbortSignal.any([signal, limit]) : limit
    try {
        return await fetch(ROOT + path, init)
    } catch (error) {
        if (error instanceof DOMException && error.name === 'AbortError') throw error
        throw new Unanswered('Isotome does not answer; check that it is still running, then try again.')
    }
}

const call = async <T>(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<T> => answer<T>(await send(method, path, body, signal))

/** What may take long: its answer, or the run that works it out, after which the same question has its answer. */
export type Answered<T> = { answer: T } | { run: Run }

async function ask<T>(path: string, body: unknown): Promise<Answered<T>> {
    const response = await send('POST', path, body)
    return response.status === 202 ? { run: await answer<Run>(response) } : { answer: await answer<T>(response) }
}

/** As what a movement is taken out. */
export type MovementFile = 'glb' | 'json' | 'csv' | 'still.glb' | 'still.obj'

export const api = {
    shelf: (removed = false) => call<ShelfEntry[]>('GET', `/projects${removed ? '?removed=1' : ''}`),
    project: (id: number) => call<Project>('GET', `/projects/${id}`),
    change: (id: number, change: { name?: string; note?: string; printer?: number | null; inside?: Pick<Inside, 'look' | 'colour' | 'mm' | 'turn'> | null }) => call<Project>('PATCH', `/projects/${id}`, change),
    /** Keeps a picture of the person's own for the inside, and chooses it. */
    insidePicture: async (id: number, file: File): Promise<Project> =>
        answer<Project>(await fetch(`${ROOT}/projects/${id}/inside-picture?name=${encodeURIComponent(file.name)}`, { method: 'PUT', headers: { Accept: 'application/json', 'Content-Type': 'application/octet-stream' }, body: file })),
    duplicate: (id: number) => call<{ id: number }>('POST', `/projects/${id}/duplicate`),
    remove: (id: number) => call<undefined>('DELETE', `/projects/${id}`),
    restore: (id: number) => call<undefined>('POST', `/projects/${id}/restore`),
    purge: (id: number) => call<undefined>('DELETE', `/projects/${id}/for-good`),
    accept: (uploads: string[], name: string, units: Units, up: 'z' | 'y' = 'z') => call<{ id: number; run: Run }>('POST', '/projects', { uploads, name, units, up }),
    /** Into a project that is open. */
    further: (id: number, uploads: string[], up: 'z' | 'y' = 'z') => call<Run>('POST', `/projects/${id}/meshes`, { uploads, up }),
    /** Outlines of an SVG file, mm. */
    outlines: async (file: File) =>
        answer<{ lines: [number, number][][]; size: [number, number] }>(await fetch(`${ROOT}/outlines`, { method: 'POST', headers: { Accept: 'application/json', 'Content-Type': 'application/octet-stream' }, body: file })),
    forget: (upload: string) => call<undefined>('DELETE', `/uploads/${upload}`),

    printers: () => call<Printer[]>('GET', '/printers'),
    addPrinter: (printer: Omit<Printer, 'id' | 'own'>) => call<Printer>('POST', '/printers', printer),
    changePrinter: (id: number, printer: Omit<Printer, 'id' | 'own'>) => call<Printer>('PUT', `/printers/${id}`, printer),
    removePrinter: (id: number) => call<undefined>('DELETE', `/printers/${id}`),

    section: (project: number, question: BladeQuestion, signal?: AbortSignal) => call<SectionAnswer>('POST', `/projects/${project}/section`, question, signal),
    sides: (project: number, question: BladeQuestion & Pick<CutSettings, 'kerf' | 'kerf_side' | 'catch'>) => call<SidesAnswer>('POST', `/projects/${project}/section/sides`, question),
    profile: (project: number, question: BladeQuestion) => call<ProfileAnswer>('POST', `/projects/${project}/profile`, question),
    widths: (project: number, question: BladeQuestion) => call<WidthsAnswer>('POST', `/projects/${project}/profile/widths`, question),
    stops: (project: number, question: BladeQuestion & Pick<CutSettings, 'series'>) => call<StopsAnswer>('POST', `/projects/${project}/profile/stops`, question),

    /** Steps of every kind: start one, give one of the lineage other settings, ask what one would do. */
    start: (project: number, question: StepQuestion) => call<Run>('POST', `/projects/${project}/steps`, question),
    step: (project: number, step: number) => call<Step>('GET', `/projects/${project}/steps/${step}`),
    edit: (project: number, step: number, question: StepQuestion) => call<Run>('PUT', `/projects/${project}/steps/${step}`, question),
    foresee: <Answer>(project: number, question: StepQuestion) => call<Answer>('POST', `/projects/${project}/steps/foresee`, question),
    /** The same where it may take long. */
    foreseeLong: <Answer>(project: number, question: StepQuestion) => ask<Answer>(`/projects/${project}/steps/foresee`, question),

    /** A picture that some browser drew before, or null. */
    async picture(mesh: string, colour: string, theme: string): Promise<Blob | null> {
        const response = await fetch(`${ROOT}/meshes/${mesh}/picture/${colour.replace('#', '')}/${theme}`)
        return response.status === 200 ? response.blob() : null
    },
    async keepPicture(mesh: string, colour: string, theme: string, png: Blob): Promise<void> {
        await fetch(`${ROOT}/meshes/${mesh}/picture/${colour.replace('#', '')}/${theme}`, { method: 'PUT', headers: { Accept: 'application/json', 'Content-Type': 'image/png' }, body: png })
    },

    fits: (project: number) => ask<FitsAnswer>(`/projects/${project}/fits`, {}),
    plan: (project: number, question: { piece: number; margin: number; gap: number; peg: number; whole?: { at: Vector; radius: number }[]; cuts?: { of: string; through: Vector; facing: Vector }[]; more?: boolean }) => ask<PlanAnswer>(`/projects/${project}/plan`, question),
    plates: (project: number, question: PlatesQuestion) => ask<PlatesAnswer>(`/projects/${project}/plates`, question),
    keptPlates: (project: number) => call<KeptPlates>('GET', `/projects/${project}/plates`),
    keepPlates: (project: number, question: PlatesQuestion & { version: number }) => call<{ version: number }>('PUT', `/projects/${project}/plates`, question),
    plateFiles: (project: number, question: LaidQuestion & { as: '3mf' | 'stl' }) => ask<FilesAnswer>(`/projects/${project}/plates/files`, question),
    crowding: (project: number, question: LaidQuestion) => ask<CrowdingAnswer>(`/projects/${project}/plates/crowding`, question),
    /** The layers of one plate, as a file. */
    layers: (project: number, question: LaidQuestion & { supported: boolean }) => ask<FilesAnswer>(`/projects/${project}/plates/layers`, question),
    keptMovement: (project: number) => call<KeptMovement>('GET', `/projects/${project}/movement`),
    keepMovement: (project: number, movement: Movement, version: number) => call<{ version: number }>('PUT', `/projects/${project}/movement`, { movement, version }),
    /** Where pieces are at every frame, as a file; null for all that are there. */
    moves: (project: number, movement: Movement, pieces: number[] | null) => ask<FilesAnswer>(`/projects/${project}/movement/poses`, { movement, pieces }),
    movementFiles: (project: number, movement: Movement, as: MovementFile, frame: number) => ask<FilesAnswer>(`/projects/${project}/movement/files`, { movement, as, frame }),
    /** The frames that a run has worked out so far, from a byte on. */
    frames: async (run: string, from: number): Promise<ArrayBuffer> => {
        const response = await fetch(`${ROOT}/runs/${run}/frames?from=${from}`)
        if (!response.ok) return answer<ArrayBuffer>(response)
        return response.arrayBuffer()
    },
    file: async (url: string): Promise<ArrayBuffer> => {
        const response = await fetch(url)
        if (!response.ok) return answer<ArrayBuffer>(response)
        return response.arrayBuffer()
    },
    sheet: (project: number, question: LaidQuestion & { supported: boolean; pieces: number[] | null }) => ask<SheetAnswer>(`/projects/${project}/sheet`, question),
    prints: (project: number) => call<PlatePrint[]>('GET', `/projects/${project}/prints`),
    print: (project: number, question: LaidQuestion & { supported: boolean; title: string; times: number }) => call<PlatePrint[]>('POST', `/projects/${project}/prints`, question),
    unprint: (project: number, print: number) => call<PlatePrint[]>('DELETE', `/projects/${project}/prints/${print}`),
    symmetry: (project: number, question: { piece: number; through?: Vector; facing?: Vector }) => ask<SymmetryAnswer>(`/projects/${project}/symmetry`, question),
    check: (project: number, pieces: number[] | null) => call<Run>('POST', `/projects/${project}/checks`, { pieces }),
    checks: (project: number) => call<Record<string, CheckCounts>>('GET', `/projects/${project}/checks`),
    report: (mesh: string) => call<CheckReport>('GET', `/meshes/${mesh}/check`),
    name: (project: number, change: { pieces: number[]; title?: string | null; colour?: string }) => call<Project>('PATCH', `/projects/${project}/pieces`, change),

    rejoin: (project: number, what: { step?: number; piece?: number }) => call<Said>('POST', `/projects/${project}/rejoin`, what),
    undo: (project: number) => call<Said>('POST', `/projects/${project}/undo`),
    redo: (project: number) => call<Said>('POST', `/projects/${project}/redo`),
    apply: (project: number, recipe: unknown, as: 'recipe' | 'plan' = 'recipe') => call<Run>('POST', `/projects/${project}/recipe?as=${as}`, recipe),

    run: (id: string) => call<Run>('GET', `/runs/${id}`),
    cancel: (id: string) => call<Run>('POST', `/runs/${id}/cancel`),
    face: (mesh: string, face: number) => call<{ point: Vector; normal: Vector; region: number[] }>('GET', `/meshes/${mesh}/faces/${face}`),
    /** The materials that came with a mesh, and the faces that have one of them. */
    materials: (mesh: string) => call<Material[]>('GET', `/meshes/${mesh}/materials`),
    facesOf: (mesh: string, material: number) => call<{ faces: number[] }>('GET', `/meshes/${mesh}/materials/${material}/faces`),
    /** Rough: a stand-in for a first picture, when the mesh is large. */
    geometry: async (mesh: string, rough = false): Promise<ArrayBuffer> => {
        const response = await fetch(`${ROOT}/meshes/${mesh}/geometry${rough ? '?rough=1' : ''}`)
        if (!response.ok) return answer<ArrayBuffer>(response)
        return response.arrayBuffer()
    },
    /** The colours that a mesh carries: three bytes a corner. */
    colours: async (mesh: string): Promise<ArrayBuffer> => {
        const response = await fetch(`${ROOT}/meshes/${mesh}/colours`)
        if (!response.ok) return answer<ArrayBuffer>(response)
        return response.arrayBuffer()
    },
    /** The pictures that lie on a mesh: see view/sheets. */
    pictures: async (mesh: string): Promise<ArrayBuffer> => {
        const response = await fetch(`${ROOT}/meshes/${mesh}/pictures`)
        if (!response.ok) return answer<ArrayBuffer>(response)
        return response.arrayBuffer()
    },
    /** Where the inside faces of a mesh lie, mm: across and up for each corner of each, as 32-bit floats. */
    insidePlaces: async (mesh: string): Promise<ArrayBuffer> => {
        const response = await fetch(`${ROOT}/meshes/${mesh}/inside`)
        if (!response.ok) return answer<ArrayBuffer>(response)
        return response.arrayBuffer()
    },
    /** A picture: pictures/ and its hash, for one that came with a mesh or for the inside; insides/ and its name, for one that is always there. */
    ownPicture: async (picture: string): Promise<Blob> => {
        const response = await fetch(`${ROOT}/${picture}`)
        if (!response.ok) return answer<Blob>(response)
        return response.blob()
    },
    /** Some or all of these, in order: as many as the server sends at once. */
    geometries: async (meshes: string[]): Promise<ArrayBuffer[]> => {
        const response = await fetch(`${ROOT}/meshes/geometry`, {
            method: 'POST', headers: { Accept: 'application/json', 'Content-Type': 'application/json' }, body: JSON.stringify({ meshes }),
        })
        if (!response.ok) return answer<ArrayBuffer[]>(response)
        const bytes = await response.arrayBuffer()
        const view = new DataView(bytes)
        const parts: ArrayBuffer[] = []
        for (let at = 0; at < bytes.byteLength; ) {
            const length = view.getUint32(at, true)
            parts.push(bytes.slice(at + 8, at + 8 + length))
            at += 8 + length
        }
        return parts
    },
    /** The address of a picture: see ownPicture. */
    pictureAt: (picture: string) => `${ROOT}/${picture}`,
    recipe: (project: number) => `${ROOT}/projects/${project}/recipe.json`,
    takeOut: (project: number, as: Format, together: boolean, pieces: number[] | null, density = 0) =>
        ask<FilesAnswer>(`/projects/${project}/exports`, { as, together, density: density > 0 ? density : null, pieces: pieces ? pieces.join(',') : null }),
    drawing: (project: number, format: 'svg' | 'dxf', { through, facing, pieces }: BladeQuestion) => {
        const query = new URLSearchParams()
        for (const number of through) query.append('through[]', String(number))
        for (const number of facing) query.append('facing[]', String(number))
        for (const piece of pieces ?? []) query.append('pieces[]', String(piece))
        return `${ROOT}/projects/${project}/section.${format}?${query.toString()}`
    },
}

/** Sends a file, telling the share that has gone out (0 to 1). */
export function bringIn(file: File, progress: (share: number) => void): Promise<Upload> {
    return new Promise((resolve, reject) => {
        const request = new XMLHttpRequest()
        request.open('POST', `${ROOT}/uploads?file=${encodeURIComponent(file.name)}`)
        request.setRequestHeader('Accept', 'application/json')
        request.setRequestHeader('Content-Type', 'application/octet-stream')
        request.responseType = 'json'
        request.upload.onprogress = (event) => progress(event.lengthComputable ? event.loaded / event.total : 0)
        request.onerror = () => reject(new Refused('The file did not arrive; check that Isotome is still running, then bring it in again.'))
        request.onload = () => {
            if (request.status === 201) resolve(request.response as Upload)
            else {
                const body = request.response as { message?: string } | null
                reject(new Refused(body?.message ?? 'The file could not be brought in; try again.'))
            }
        }
        request.send(file)
    })
}
