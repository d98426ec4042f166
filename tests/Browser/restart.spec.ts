import { expect, test } from '@playwright/test'
import { spawn, type ChildProcess } from 'node:child_process'
import { folder, pieces, project } from './helpers'

const port = 8499

/** bin/up on its own port; resolves when it prints its address. */
function up(data: string): Promise<{ process: ChildProcess; seconds: number }> {
    const start = Date.now()
    const process = spawn('bin/up', ['--port', String(port), '--data', data], { stdio: ['ignore', 'pipe', 'inherit'], env: { ...globalThis.process.env, ISOTOME_DEMO: '0' } })
    return new Promise((resolve, reject) => {
        process.stdout.on('data', (text: Buffer) => {
            if (text.toString().includes('Isotome is at')) resolve({ process, seconds: (Date.now() - start) / 1000 })
        })
        process.on('exit', () => reject(new Error('bin/up ended')))
    })
}

async function down(process: ChildProcess): Promise<void> {
    const ended = new Promise((resolve) => process.on('exit', resolve))
    process.kill('SIGINT')
    await ended
}

test('projects, pieces and lineage survive a restart, and Ctrl-C ends everything', async ({ browser }) => {
    const data = folder()
    let server = await up(data)
    const page = await (await browser.newContext({ baseURL: `http://127.0.0.1:${port}`, viewport: { width: 1280, height: 800 } })).newPage()
    await project(page, 'jar', 'kept jar')
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await expect(pieces(page)).toHaveCount(2)
    const told = pieces(page).filter({ hasText: 'watertight · fits' })
    await expect(told).toHaveCount(2)
    // All the text, drawn or not: what is off the screen is not laid out.
    const before = (await told.allTextContents()).map((text) => text.trim())
    await down(server.process)
    await expect(page.request.get('/api/v1/projects').catch(() => 'gone')).resolves.toBe('gone')

    server = await up(data)
    console.log(`second start: ${server.seconds.toFixed(1)} s`)
    await page.reload()
    await expect(pieces(page)).toHaveText(before)
    await page.getByRole('button', { name: 'Undo: the cut' }).click()
    await expect(pieces(page)).toHaveCount(1)
    await down(server.process)
})
