import { api } from '../api/client'
import { latest, onlyRefusals } from '../api/latest'
import type { DrawnForecast, StepQuestion } from '../api/types'

/** What is known of a cut along lines before it is made. */
export interface Foreseen {
    forecast: DrawnForecast | null
    /** Why there is no forecast. */
    refusal: string
    asked: boolean
    /** The cut is made; nothing is foreseen until something is set. */
    done: boolean
}

/** Milliseconds without a change after which a cut is tried out. */
const REST = 350

/** Asks what a cut along lines would make: at once from what stands in for the pieces; at rest the same, made for a try. */
export function foreseen(store: () => Foreseen) {
    let waiting: ReturnType<typeof setTimeout> | undefined
    let last: (StepQuestion & { project: number }) | null = null
    function told(forecast: DrawnForecast | null, refusal: string) {
        const state = store()
        state.forecast = forecast
        state.refusal = refusal
        state.asked = false
    }
    const ask = (q: StepQuestion & { project: number }, tried: boolean) => api.foresee<DrawnForecast>(q.project, { step: q.step, pieces: q.pieces, tried })
    const tries = latest((q: StepQuestion & { project: number }) => ask(q, true), (answer) => { if (!answer.left_out) told(answer, '') }, onlyRefusals((words) => told(null, words)))
    const forecasts = latest(
        (q: StepQuestion & { project: number }) => ask(q, false),
        (answer) => {
            told(answer, '')
            waiting = setTimeout(() => { if (last && !store().done) tries.ask(last) }, REST)
        },
        (error) => told(null, error instanceof Error ? error.message : 'The cut could not be worked out.'),
    )
    function still() {
        clearTimeout(waiting)
        tries.drop()
    }
    return {
        ask(question: StepQuestion & { project: number }) {
            still()
            last = question
            store().asked = true
            forecasts.ask(question)
        },
        drop() {
            still()
            forecasts.drop()
            told(null, '')
        },
    }
}
