import { api } from '../api/client'
import { said } from '../api/latest'
import type { Piece, Run, StepQuestion } from '../api/types'
import { list } from '../format'
import { title, useProject } from './project'

/** What stores of pegs and of marks have in common: they put something on the faces that pieces share. */
interface Joining {
    forecast: unknown
    problem: string
    done: boolean
    looking: Run | null
    readonly isAtHand: boolean
    readonly missing: string
    readonly ready: boolean
    readonly question: StepQuestion
    ask(): void
    stop(): void
}

interface Forecasts {
    ask(question: StepQuestion & { project: number }): void
    drop(): void
}

/** What is wrong, without the step's place in a recipe. */
export const plainly = (error: unknown) => said(error).replace(/^(The step|step)(\.at)?: /, '').replace(/^./, (first) => first.toUpperCase())

/** Why pieces cannot be joined; empty when they can. */
export function unjoinable(pieces: Piece[]): string {
    if (pieces.length < 2) return useProject().living.length < 2 ? 'There are no pieces that share a face: cut first.' : 'One piece alone shares no face: pick two or more, or none for all.'
    const open = pieces.filter((piece) => !piece.watertight)
    if (!open.length) return ''
    return `${list(open.slice(0, 3).map(title))}${open.length > 3 ? ` and ${open.length - 3} more` : ''} ${open.length > 1 ? 'are' : 'is'} not watertight: mend ${open.length > 1 ? 'them' : 'it'} first, or hide ${open.length > 1 ? 'them' : 'it'}.`
}

/** Asks what will be on the faces, if anybody wants to know. */
export function askAgain(store: Joining, forecasts: Forecasts): void {
    const project = useProject()
    store.stop()
    store.forecast = null
    store.problem = ''
    if (store.isAtHand && project.project && !project.busy && !store.done && !store.missing) forecasts.ask({ ...store.question, project: project.project.id })
}

/** Lets go of what is being looked for. */
export function letGo(store: Joining, forecasts: Forecasts): void {
    forecasts.drop()
    const run = store.looking
    store.looking = null
    if (run && !run.over) void api.cancel(run.id).catch(() => undefined)
}

/** Makes it; whether it was made. */
export async function makeIt(store: Joining): Promise<boolean> {
    const project = useProject()
    if (!store.ready) return false
    const { question } = store
    store.stop()
    if (!(await project.work(question))) {
        store.ask()
        return false
    }
    project.editing = null
    // What was asked meanwhile is about faces that are no more like that.
    store.stop()
    store.done = true
    store.forecast = null
    project.partALittle()
    return true
}
