// The workbench at its sizes, through HTTP and a real browser: node bench/workbench.mjs ROOT MESH.stl ROD.stl (bench/run does)
// 1. A blade dragged through a mesh of a million triangles: questions come 60 times a second, the newest waits while one is under way, and
//    volumes and boxes are asked beside them, as the window does.  2. The first picture of that mesh.  3. A project of 500 pieces.
import { chromium } from '@playwright/test'
import { readFile } from 'node:fs/promises'
import { api, pause } from './api.mjs'

const [, , site, file, rod] = process.argv
const { call, ended, bringIn } = api(site)

/** One lane of questions: how long each answered one took, from being sent to being read. */
function lane(path, times) {
    let next = null
    let busy = false
    const run = async () => {
        busy = true
        while (next) {
            const question = next
            next = null
            const start = performance.now()
            await call('POST', path, question)
            times.push(performance.now() - start)
        }
        busy = false
    }
    return (question) => {
        next = question
        if (!busy) void run()
    }
}

const share = (times, part) => [...times].sort((a, b) => a - b)[Math.floor(part * (times.length - 1))]
const told = (what, times) => console.log(`${what.padEnd(58)} median ${share(times, 0.5).toFixed(1)} ms, 95 % under ${share(times, 0.95).toFixed(1)} ms, ${times.length} answers`)

const large = await bringIn('Bench million', await readFile(file))
const stock = (await call('GET', `/projects/${large}`)).pieces[0]
for (const [what, facing] of [['level', [0, 0, 1]], ['upright', [1, 0, 0]], ['tilted', [0.2, 0.1, 1]]]) {
    for (const beside of [false, true]) {
        const sections = []
        const sides = []
        const section = lane(`/projects/${large}/section`, sections)
        const both = lane(`/projects/${large}/section/sides`, sides)
        for (let n = 0; n < 300; n++) {
            const t = 0.15 + 0.7 * (0.5 - 0.5 * Math.cos(n / 40))
            const question = { through: stock.min.map((low, k) => low + t * (stock.max[k] - low)), facing, pieces: null }
            section(question)
            if (beside) both({ ...question, kerf: 0, kerf_side: 'centre', catch: 0 })
            await pause(1000 / 60)
        }
        await pause(1500)
        told(`section, ${what}, ${stock.triangles} triangles${beside ? ', sides asked beside' : ''}`, sections.slice(3))
        if (beside) told(`volumes, boxes and width of both sides, ${what}`, sides.slice(2))
    }
}

const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist'],
})
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.goto(site)
await pause(1500)
const painted = () => page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))))
for (let n = 0; n < 3; n++) {
    const start = Date.now()
    await page.goto(`${site}/project/${large}`)
    await page.waitForFunction(() => performance.getEntriesByType('resource').some((one) => one.name.includes('rough=1') && one.responseEnd > 0), null, { polling: 20 })
    await painted()
    const first = Date.now() - start
    await page.waitForFunction(() => !document.querySelector('.loading'), null, { polling: 20 })
    console.log(`first picture of a million triangles: ${first} ms; all of them: ${Date.now() - start} ms`)
}
const many = await bringIn('Bench rod', await readFile(rod))
await ended(await call('POST', `/projects/${many}/steps`, { step: { do: 'cut', blade: { kind: 'series', facing: [0, 0, 1], parts: 500 } } }))
for (let n = 0; n < 3; n++) {
    const start = Date.now()
    await page.goto(`${site}/project/${many}`)
    await page.waitForFunction(() => document.querySelectorAll('[data-piece]').length === 500, null, { polling: 20 })
    const listed = Date.now() - start
    await page.waitForFunction(() => !document.querySelector('.loading'), null, { polling: 20 })
    const drawn = Date.now() - start
    const pick = await page.evaluate(async () => {
        const row = document.querySelectorAll('[data-piece] button.body')[300]
        const began = performance.now()
        row.click()
        await new Promise((resolve) => setTimeout(resolve))
        return performance.now() - began
    })
    console.log(`500 pieces: listed after ${listed} ms, drawn after ${drawn} ms, a pick takes ${pick.toFixed(0)} ms`)
}
await browser.close()
