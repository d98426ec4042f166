import { expect, type Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, readFileSync, readlinkSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

export const folder = () => mkdtempSync(join(tmpdir(), 'isotome-browser-'))

export function stl(kind: string): Buffer {
    const file = join(folder(), `${kind}.stl`)
    execFileSync('php', ['-d', 'memory_limit=2G', 'tests/Support/make-stl.php', kind, file])
    return readFileSync(file)
}

/** Lets go of a file over the place for it, as a person does with the mouse. */
export async function drop(page: Page, name: string, bytes: Buffer): Promise<void> {
    const transfer = await page.evaluateHandle(
        ({ name, base64 }) => {
            const data = new DataTransfer()
            data.items.add(new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], name))
            return data
        },
        { name, base64: bytes.toString('base64') },
    )
    await page.dispatchEvent('[data-part=drop]', 'dragover', { dataTransfer: transfer })
    await page.dispatchEvent('[data-part=drop]', 'drop', { dataTransfer: transfer })
}

/** Brings in a mesh and opens its project. What the page's own policy forbids fails the test. */
export async function project(page: Page, kind: string, name: string): Promise<void> {
    page.on('console', (message) => {
        if (/content security policy/i.test(message.text())) throw new Error(message.text())
    })
    await page.goto('/')
    await drop(page, `${name}.stl`, stl(kind))
    await expect(page.getByRole('dialog')).toBeVisible()
    await page.getByRole('button', { name: 'Make the project' }).click()
    await expect(page.getByRole('button', { name: 'Cut', exact: true })).toBeEnabled()
}

export const pieces = (page: Page) => page.locator('[data-piece]')
export const sentence = (page: Page) => page.locator('[data-part=sentence]')
export const field = (page: Page, name: string) => page.getByLabel(name, { exact: true })

export async function type(page: Page, name: string, value: string): Promise<void> {
    await field(page, name).fill(value)
    await field(page, name).press('Enter')
}

/** Takes hold of the blade's grip and draws it by so many pixels. */
export async function dragGrip(page: Page, dx: number, dy: number): Promise<void> {
    const box = await page.locator('[data-part=grip]').boundingBox()
    if (!box) throw new Error('the blade has no grip on the page')
    await page.mouse.move(box.x, box.y)
    await page.mouse.down()
    for (let i = 1; i <= 4; i++) await page.mouse.move(box.x + (dx * i) / 4, box.y + (dy * i) / 4)
    await page.mouse.up()
}

export async function area(page: Page): Promise<number> {
    return Number((await page.locator('[data-number=area]').innerText()).replace(/[^\d.]/g, ''))
}

/** The data folder of the server that the tests of this process use; playwright.config.ts starts one for each. */
const DATA = `test-results/data-${process.env.TEST_PARALLEL_INDEX ?? 0}`

/** From now on the worker waits where a phase of this name begins, until it is let go: no test has to catch a moment. */
export function hold(phase: string): void {
    writeFileSync(join(DATA, 'storage/hold'), phase)
}

/** Waits until a worker waits there. */
export async function held(phase: string): Promise<void> {
    const file = join(DATA, 'storage/held')
    await expect.poll(() => (existsSync(file) ? readFileSync(file, 'utf8') : ''), { timeout: 300_000 }).toMatch(new RegExp(`^${phase}`))
}

export function letGo(): void {
    rmSync(join(DATA, 'storage/hold'), { force: true })
}

/** Waits until the view has all its shapes and has drawn what was asked of it. */
export async function still(page: Page): Promise<void> {
    await expect(page.locator('.loading')).toHaveCount(0)
    await expect(page.locator('canvas')).not.toHaveAttribute('data-waits', /.*/)
}

/** Waits until nothing changes its colour or place any more. */
export async function settled(page: Page): Promise<void> {
    await page.waitForFunction(() => document.getAnimations().every((animation) => animation.playState !== 'running'))
}

/** The middle and the size of the view on the page. */
export async function viewBox(page: Page) {
    const box = await page.locator('canvas').boundingBox()
    if (!box) throw new Error('there is no view')
    return { ...box, cx: box.x + box.width / 2, cy: box.y + box.height / 2 }
}

export async function look(page: Page, from: string): Promise<void> {
    await page.getByRole('button', { name: from, exact: true }).click()
    await still(page)
}

export async function cut(page: Page, says: string | RegExp = /pieces/): Promise<void> {
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText(says)
}

export const card = (page: Page, name: string) => page.locator(`[data-piece="${name}"]`)

/** Kills the worker for steps of the server under test, the hard way. */
export function killWorker(): number {
    let killed = 0
    for (const id of readdirSync('/proc').filter((name) => /^\d+$/.test(name))) {
        try {
            const command = readFileSync(`/proc/${id}/cmdline`, 'utf8')
            if (command.startsWith('php') && command.includes('isotome:work') && !command.includes('questions') && readlinkSync(`/proc/${id}/cwd`) === process.cwd() && readFileSync(`/proc/${id}/environ`, 'utf8').includes(DATA)) {
                process.kill(Number(id), 'SIGKILL')
                killed++
            }
        } catch {
            // It ended by itself meanwhile.
        }
    }
    return killed
}

/** The middle of what is written at a handle in the view, once it stands still: it follows the view a frame later. */
export async function handleAt(page: Page, name: string): Promise<{ x: number; y: number }> {
    let now = { x: NaN, y: NaN }
    await expect.poll(async () => {
        const before = now
        const box = await page.locator(`[data-arrow=${name}]`).boundingBox()
        now = box ? { x: box.x + box.width / 2, y: box.y + box.height / 2 } : { x: NaN, y: NaN }
        return now.x === before.x && now.y === before.y
    }, { intervals: [200] }).toBe(true)
    return now
}

/** Takes hold of an arrow a little before its tip, given by the way there, and draws it by so many pixels. */
export async function dragArrow(page: Page, name: string, hold: { x: number; y: number }, dx: number, dy: number): Promise<void> {
    const tip = await handleAt(page, name)
    const from = { x: tip.x + hold.x, y: tip.y + hold.y }
    await page.mouse.move(from.x, from.y)
    await page.mouse.down()
    await page.mouse.move(from.x + dx, from.y + dy, { steps: 6 })
    await page.mouse.up()
}
