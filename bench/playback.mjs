// A movement of 500 pieces played in a real browser: how much time our own code takes of each frame, apart from what draws (three.js, WebGL).
// node bench/playback.mjs ROOT BODY.stl (WHERE=1 lists what took it), with a server running there: bin/up; any body that is cut into 500 pieces will do.
import { chromium } from '@playwright/test'
import { readFile } from 'node:fs/promises'
import { api, pause } from './api.mjs'

const [, , site, file] = process.argv
const { call, ended, bringIn } = api(site)

const id = await bringIn('Played', await readFile(file))
await ended(await call('POST', `/projects/${id}/steps`, { step: { do: 'cut', blade: { kind: 'cells', by: 'even', count: 500, seed: 4 } }, pieces: null }))
const movement = { isotome_movement: 1, fps: 30, frames: 300, layers: [{ do: 'wave', front: 'ball', length: 250, width: 40, shift: [0, 0, 60], degrees: 180 }] }
await call('PUT', `/projects/${id}/movement`, { movement, version: 0 })

const browser = await chromium.launch({ executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox', '--use-gl=swiftshader', '--enable-unsafe-swiftshader'] })
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.addInitScript(() => localStorage.setItem('isotome', JSON.stringify({ station: 'motion', hints: false })))
await page.goto(`${site}/project/${id}`)
await page.getByRole('button', { name: 'Play', exact: true }).click({ timeout: 120_000 })
await page.getByRole('button', { name: 'Pause', exact: true }).click()
await page.waitForTimeout(5000)
const cdp = await page.context().newCDPSession(page)
await cdp.send('Profiler.enable')
await cdp.send('Profiler.setSamplingInterval', { interval: 200 })
const frameOf = async () => Number((await page.locator('[data-part=frame]').innerText()).split(' ')[0])
for (let turn = 0; turn < 3; turn++) {
    await page.getByRole('slider', { name: 'Frame', exact: true }).fill('0')
    await page.waitForTimeout(500)
    // Every look of ours at the time, which is once a picture.
    await page.evaluate(() => {
        window.pictures = 0
        const count = () => {
            window.pictures++
            window.counting = requestAnimationFrame(count)
        }
        count()
    })
    await page.getByRole('button', { name: 'Play', exact: true }).click()
    await pause(500)
    await page.evaluate(() => { window.pictures = 0 })
    await cdp.send('Profiler.start')
    await pause(8000)
    const { profile } = await cdp.send('Profiler.stop')
    const pictures = await page.evaluate(() => {
        cancelAnimationFrame(window.counting)
        return window.pictures
    })
    const reached = await frameOf()
    if (await page.getByRole('button', { name: 'Pause', exact: true }).isVisible()) await page.getByRole('button', { name: 'Pause', exact: true }).click()
    console.log(times(profile, pictures, reached))
}
await browser.close()

/** Ticks by what they were in: whatever is called from a renderer's render() draws; native code and waiting count for nobody. */
function times(profile, pictures, reached) {
    const nodes = new Map(profile.nodes.map((node) => [node.id, node]))
    const parents = new Map(profile.nodes.flatMap((node) => (node.children ?? []).map((child) => [child, node.id])))
    const isDrawing = new Map()
    const draws = (id) => {
        const known = isDrawing.get(id)
        if (known !== undefined) return known
        const node = nodes.get(id)
        const found = node.callFrame.functionName === 'render' ? true : parents.has(id) ? draws(parents.get(id)) : false
        isDrawing.set(id, found)
        return found
    }
    let own = 0
    let drawing = 0
    profile.samples.forEach((id, n) => {
        const { functionName, url } = nodes.get(id).callFrame
        const microseconds = profile.timeDeltas[n] ?? 0
        if (draws(id)) drawing += microseconds
        else if (url.includes('/build/') || functionName === '(garbage collector)') own += microseconds
    })
    if (process.env.WHERE) {
        const self = new Map()
        profile.samples.forEach((id, n) => {
            if (draws(id)) return
            const { functionName, lineNumber, columnNumber, url } = nodes.get(id).callFrame
            const key = `${functionName} ${url.slice(-12)}:${lineNumber}:${columnNumber}`
            self.set(key, (self.get(key) ?? 0) + (profile.timeDeltas[n] ?? 0))
        })
        console.log([...self].sort((a, b) => b[1] - a[1]).slice(0, 14).map(([key, us]) => `${(us / 1000 / pictures).toFixed(2)} ${key}`).join('\n'))
    }
    return `${pictures} pictures in 8 s up to frame ${reached}: our own code ${(own / 1000 / pictures).toFixed(2)} ms a picture, drawing ${(drawing / 1000 / pictures).toFixed(1)} ms`
}
