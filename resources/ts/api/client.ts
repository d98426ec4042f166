import type { BladeQuestion, Keep, Project, Run, Seal, SectionAnswer, ShelfEntry, Units, Upload } from './types'

/** A refusal: its message is the server's one sentence. */
export class Refused extends Error {}

const ROOT = '/api/v1'

async function answer<T>(response: Response): Promise<T> {
    if (response.ok) {
        return (response.status === 204 ? undefined : await response.json()) as T
    }
    let message = `Isotome did not answer this as it should (${response.status}); try again.`
    try {
        const body = (await response.json()) as { message?: string; errors?: Record<string, string[]> }
        message = Object.values(body.errors ?? {})[0]?.[0] ?? body.message ?? message
    } catch {
        // Not JSON: the sentence above stands.
    }
    throw new Refused(message)
}

async function call<T>(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<T> {
    const init: RequestInit = { method, headers: { Accept: 'application/json' } }
    if (body !== undefined) {
        init.body = JSON.stringify(body)
        init.headers = { Accept: 'application/json', 'Content-Type': 'application/json' }
    }
    if (signal) init.signal = signal
    let response: Response
    try {
        response = await fetch(ROOT + path, init)
    } catch (error) {
        if (error instanceof DOMException && error.name === 'AbortError') throw error
        throw new Refused('Isotome does not answer; check that it is still running, then try again.')
    }
    return answer<T>(response)
}

export const api = {
    shelf: () => call<ShelfEntry[]>('GET', '/projects'),
    project: (id: number) => call<Project>('GET', `/projects/${id}`),
    remove: (id: number) => call<undefined>('DELETE', `/projects/${id}`),
    accept: (upload: string, name: string, units: Units) => call<{ id: number; run: Run }>('POST', '/projects', { upload, name, units }),
    forget: (upload: string) => call<undefined>('DELETE', `/uploads/${upload}`),
    section: (project: number, question: BladeQuestion, signal: AbortSignal) =>
        call<SectionAnswer>('POST', `/projects/${project}/section`, question, signal),
    cut: (project: number, question: BladeQuestion & { keep: Keep; seal: Seal; kerf: number }) =>
        call<Run>('POST', `/projects/${project}/cuts`, question),
    rejoin: (project: number) => call<{ said: string; project: Project }>('POST', `/projects/${project}/rejoin`),
    run: (id: string) => call<Run>('GET', `/runs/${id}`),
    cancel: (id: string) => call<Run>('POST', `/runs/${id}/cancel`),
    geometry: async (mesh: string): Promise<ArrayBuffer> => {
        const response = await fetch(`${ROOT}/meshes/${mesh}/geometry`)
        if (!response.ok) return answer<ArrayBuffer>(response)
        return response.arrayBuffer()
    },
    zip: (project: number) => `${ROOT}/projects/${project}/pieces.zip`,
    recipe: (project: number) => `${ROOT}/projects/${project}/recipe.json`,
}

/** Sends a file, telling the share that has gone out (0 to 1). */
export function bringIn(file: File, progress: (share: number) => void): Promise<Upload> {
    return new Promise((resolve, reject) => {
        const request = new XMLHttpRequest()
        const form = new FormData()
        form.append('file', file)
        request.open('POST', `${ROOT}/uploads`)
        request.setRequestHeader('Accept', 'application/json')
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
        request.send(form)
    })
}
