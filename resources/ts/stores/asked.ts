import { api, Refused, type Answered } from '../api/client'
import type { Run } from '../api/types'
import { useProject } from './project'

/** Times that an answer may have gone again before it was fetched. */
const TRIES = 3

/**
 * Asks what may take long. While it is worked out, the run that does it is told; when it is stopped, or the project is left, there is no answer.
 */
export async function asked<T>(ask: () => Promise<Answered<T>>, tell: (run: Run | null) => void): Promise<T | null> {
    const project = useProject()
    const id = project.project?.id
    try {
        for (let n = 0; n < TRIES; n++) {
            const told = await project.persist(ask)
            if ('answer' in told) return told.answer
            let { run } = told
            tell(run)
            while (!run.over) {
                await new Promise((resolve) => setTimeout(resolve, 150))
                if (project.project?.id !== id) {
                    await api.cancel(run.id)
                    return null
                }
                run = await project.persist(() => api.run(run.id))
                tell(run)
            }
            if (run.status === 'cancelled') return null
            if (run.status === 'failed') throw new Refused(run.message ?? 'This could not be worked out; try again.')
        }
        throw new Refused('The answer was cleared away before it arrived; the disk may be nearly full. Free space, then ask again.')
    } finally {
        tell(null)
    }
}
