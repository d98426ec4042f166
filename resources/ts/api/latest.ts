import { Refused, Unanswered } from './client'

/**
 * Asks the newest question only: while an answer is under way, questions replace each other, so there is never a queue of stale ones.
 */
export function latest<Q, A>(ask: (question: Q) => Promise<A>, take: (answer: A, question: Q) => void, refused: (error: unknown) => void) {
    let next: { question: Q } | null = null
    let busy = false
    let era = 0

    async function run() {
        busy = true
        const mine = era
        while (next && mine === era) {
            const { question } = next
            next = null
            try {
                const answer = await ask(question)
                if (mine === era) take(answer, question)
            } catch (error) {
                // Told; what was asked meanwhile goes out all the same.
                if (mine === era) refused(error)
            }
        }
        if (mine === era) busy = false
    }

    return {
        ask(question: Q) {
            next = { question }
            if (!busy) void run()
        },
        /** Forgets what was asked: answers under way are not taken. */
        drop() {
            era++
            next = null
            busy = false
        },
    }
}

export const said = (error: unknown) => (error instanceof Refused ? error.message : 'Something unexpected went wrong in this window; reload it. Your work is kept.')

/** For what is tried out: a refusal tells what will be refused; whatever else goes wrong, the step stays as it was foreseen. */
export const onlyRefusals = (told: (words: string) => void) => (error: unknown) => { if (error instanceof Refused && !(error instanceof Unanswered)) told(error.message) }
