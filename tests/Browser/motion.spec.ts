import { expect, test, type Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { copyFileSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { unzipSync } from 'fflate'
import { dragArrow, field, folder, handleAt, look, pieces, project, sentence, still, type } from './helpers'

const frame = async (page: Page) => Number((await page.locator('[data-part=frame]').innerText()).split(' ')[0])
const add = (page: Page, kind: string) => page.locator('.add').getByRole('button', { name: kind, exact: true }).click()

async function shattered(page: Page, name: string) {
    await project(page, 'clay', name)
    await page.getByRole('radio', { name: 'Cells' }).click()
    await type(page, 'Count', '9')
    await page.getByRole('button', { name: 'Shatter', exact: true }).click()
    await expect.poll(() => pieces(page).count()).toBeGreaterThan(6)
    await page.getByRole('tab', { name: 'Motion' }).click()
}

/** What plays is stopped, or comes to its end just then. */
async function paused(page: Page) {
    await page.getByRole('button', { name: 'Pause', exact: true }).click({ timeout: 2_000 }).catch(() => undefined)
    await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible()
}

test('a jar is shattered, dropped, played, changed, dropped again and taken out', async ({ page }) => {
    await shattered(page, 'falling jar')
    await expect(sentence(page)).toHaveText('Nothing moves yet: add a layer. Layers add up, in their order.')
    await type(page, 'Frames', '40')
    await add(page, 'drop')
    await type(page, 'Height of the floor, mm', '-120')
    await expect(sentence(page)).toHaveText(/^Lets \d+ pieces fall, with what the other layers do\.$/)
    await page.getByRole('button', { name: 'Let it fall', exact: true }).click()
    await expect(sentence(page)).toHaveText(/^\d+ pieces in 40 frames, 1\.56 s\.$/)
    // What was known meanwhile may be playing.
    await paused(page)
    const slider = page.getByRole('slider', { name: 'Frame', exact: true })
    await slider.fill('0')
    await still(page)
    const picture = () => page.locator('canvas').first().screenshot()
    const before = await picture()
    await slider.fill('39')
    await still(page)
    expect((await picture()).equals(before)).toBe(false)
    // It plays to its end by itself.
    await slider.fill('20')
    await page.getByRole('button', { name: 'Play', exact: true }).click()
    await expect.poll(() => frame(page)).toBe(39)
    await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible()

    // One setting more: what plays is old, until it is worked out again.
    await type(page, 'Bounce', '0.4')
    await expect(sentence(page)).toHaveText('What plays is older than the settings; work it out again.')
    await expect(page.getByRole('button', { name: 'Take out', exact: true })).toBeHidden()
    await page.getByRole('button', { name: 'Let it fall again' }).click()
    await expect(sentence(page)).toHaveText(/^\d+ pieces in 40 frames, 1\.56 s\.$/)

    const arrives = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Take out', exact: true }).click()
    const taken = join(folder(), 'taken.glb')
    copyFileSync(await (await arrives).path(), taken)
    const glb = readFileSync(taken)
    const json = JSON.parse(glb.subarray(20, 20 + glb.readUInt32LE(12)).toString()) as { animations: { channels: unknown[] }[]; nodes: unknown[] }
    const [told] = JSON.parse(execFileSync('node', ['tests/Support/validate-glb.mjs', taken]).toString()) as { errors: number; warnings: number }[]
    expect([told.errors, told.warnings]).toEqual([0, 0])
    expect(json.animations).toHaveLength(1)
    expect(json.animations[0].channels.length).toBeGreaterThan(6)

    // It is kept with the project.
    await page.reload()
    await expect(field(page, 'Bounce')).toHaveValue('0.40')
})

test('a wave is set on the rail, by mouse and by keys, and layers are reordered and left out', async ({ page }) => {
    await shattered(page, 'waving jar')
    await add(page, 'wave')
    await expect(sentence(page)).toHaveText(/^\d+ pieces in 100 frames, 3\.96 s\.$/)
    const begins = page.getByRole('slider', { name: 'Layer 1, wave, begins at frame' })
    const takes = page.getByRole('slider', { name: 'Layer 1, wave, takes frames' })
    await expect(begins).toHaveAttribute('aria-valuenow', '0')
    const box = await begins.boundingBox()
    if (!box) throw new Error('no bar')
    await page.mouse.move(box.x + 40, box.y + 5)
    await page.mouse.down()
    await page.mouse.move(box.x + 140, box.y + 5, { steps: 5 })
    await page.mouse.up()
    await expect.poll(async () => Number(await begins.getAttribute('aria-valuenow'))).toBeGreaterThan(5)
    const start = Number(await begins.getAttribute('aria-valuenow'))
    await begins.press('ArrowLeft')
    await expect(begins).toHaveAttribute('aria-valuenow', String(start - 1))
    await takes.press('ArrowRight')
    await expect(field(page, 'Frames that it takes, f')).toHaveValue('61')
    // Pieces start one after the other: a tick each.
    await expect.poll(() => page.locator('.tick-mark').count()).toBeGreaterThan(4)

    // By keys alone: through the frames, playing and stopping.
    await page.evaluate(() => (document.activeElement as HTMLElement).blur())
    await page.locator('body').press('Home')
    await expect.poll(() => frame(page)).toBe(0)
    await page.locator('body').press('Shift+ArrowRight')
    await expect.poll(() => frame(page)).toBe(10)
    await page.locator('body').press(' ')
    await expect.poll(() => frame(page)).toBeGreaterThan(12)
    await page.locator('body').press(' ')
    const now = await frame(page)
    await page.waitForTimeout(300)
    expect(await frame(page)).toBe(now)

    await add(page, 'scatter')
    await expect(page.getByRole('slider', { name: /^Layer 2, scatter, begins/ })).toBeVisible()
    await page.getByRole('button', { name: 'Layer 2, scatter, one up' }).click()
    await expect(page.getByRole('slider', { name: /^Layer 1, scatter, begins/ })).toBeVisible()
    await page.getByRole('checkbox', { name: 'Layer 2, wave, counts' }).press(' ')
    await expect(page.getByRole('checkbox', { name: 'Layer 2, wave, counts' })).not.toBeChecked()
    await page.getByRole('button', { name: 'Take layer 1, scatter, away' }).click()
    await expect(sentence(page)).toHaveText('Nothing moves yet: add a layer. Layers add up, in their order.')
})

test('pieces as they lie become those of the project, can be set anew, and are pictured frame by frame', async ({ page }) => {
    await shattered(page, 'lying jar')
    const count = await pieces(page).count()
    const id = Number(page.url().split('/').at(-1))
    const living = async () => ((await (await page.request.get(`/api/v1/projects/${id}`)).json()) as { pieces: { spent: boolean; min: number[]; colour: string }[] }).pieces.filter(({ spent }) => !spent)
    const lowest = async () => Math.min(...(await living()).map(({ min }) => min[2]))
    await type(page, 'Frames', '30')
    await add(page, 'drop')
    await type(page, 'Height of the floor, mm', '-60')
    await page.getByRole('button', { name: 'Let it fall', exact: true }).click()
    await expect(sentence(page)).toHaveText(/^\d+ pieces in 30 frames, 1\.16 s\.$/)
    const slider = page.getByRole('slider', { name: 'Frame', exact: true })
    await paused(page)

    // Where they stand is drawn too, when it is wanted.
    await slider.fill('29')
    await still(page)
    const picture = () => page.locator('canvas').first().screenshot()
    const without = await picture()
    await page.getByRole('checkbox', { name: 'their start' }).press(' ')
    await expect.poll(async () => (await picture()).equals(without)).toBe(false)
    await page.getByRole('checkbox', { name: 'their start' }).press(' ')

    // A picture of each frame, in the pieces' own colours only.
    await page.getByRole('combobox', { name: 'As what to take out' }).selectOption('identity pictures, zip')
    const arrives = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Take out', exact: true }).click()
    const download = await arrives
    expect(download.suggestedFilename()).toBe('Lying jar-identity.zip')
    const files = unzipSync(readFileSync(await download.path()))
    expect(Object.keys(files)).toEqual(Array.from({ length: 30 }, (_, n) => `Lying jar-identity-${String(n).padStart(2, '0')}.png`))
    const colours = await coloursOf(page, [files['Lying jar-identity-00.png'], files['Lying jar-identity-29.png']])
    const own = (await living()).map(({ colour }) => [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16)).join(','))
    for (const found of colours) {
        expect(found.length).toBeGreaterThan(4)
        for (const colour of found) expect(own).toContain(colour)
    }
    expect(Buffer.from(files['Lying jar-identity-00.png']).equals(Buffer.from(files['Lying jar-identity-29.png']))).toBe(false)
    // The view stands where it stood.
    await expect.poll(() => frame(page)).toBe(29)

    await page.getByRole('combobox', { name: 'As what to take out' }).selectOption('frame 29 into the project')
    await page.getByRole('button', { name: 'Take over', exact: true }).click()
    await expect(page.getByText(/As they are at frame 29: \d+ pieces, all watertight/)).toBeVisible()
    expect(await pieces(page).count()).toBe(count)
    // The movement does not begin anew from there.
    await expect(page.getByRole('checkbox', { name: 'Layer 1, drop, counts' })).not.toBeChecked()
    expect(await lowest()).toBeGreaterThan(-60.1)
    expect(await lowest()).toBeLessThan(-59)

    // The step is taken up again, at an earlier frame.
    await page.getByRole('radio', { name: 'Lineage' }).click()
    await page.getByRole('button', { name: 'Edit step 2' }).first().click()
    await expect(page.getByRole('heading', { name: 'Step 2' })).toBeVisible()
    await page.getByRole('button', { name: 'Let it fall', exact: true }).click()
    await expect(page.getByRole('button', { name: 'Run again at frame 29' })).toBeEnabled()
    await paused(page)
    await slider.fill('2')
    await page.getByRole('button', { name: 'Run again at frame 2', exact: true }).click()
    await expect(page.getByRole('heading', { name: 'Motion', exact: true })).toBeVisible()
    await expect.poll(lowest).toBeGreaterThan(-50)
    // The project's own movement is back.
    await expect(page.getByRole('checkbox', { name: 'Layer 1, drop, counts' })).not.toBeChecked()
    await page.keyboard.press('Control+z')
    await expect.poll(lowest).toBeLessThan(-59)
})

/** The colours of each picture's pixels that are not clear. */
async function coloursOf(page: Page, pictures: Uint8Array[]): Promise<string[][]> {
    return page.evaluate(async (all) => Promise.all(all.map(async (bytes) => {
        const bitmap = await createImageBitmap(new Blob([new Uint8Array(bytes)], { type: 'image/png' }))
        const canvas = new OffscreenCanvas(bitmap.width, bitmap.height)
        const context = canvas.getContext('2d')
        if (!context) throw new Error('no canvas')
        context.drawImage(bitmap, 0, 0)
        const { data } = context.getImageData(0, 0, bitmap.width, bitmap.height)
        const colours = new Set<string>()
        for (let i = 0; i < data.length; i += 4) if (data[i + 3]) colours.add(`${data[i]},${data[i + 1]},${data[i + 2]}`)
        return [...colours]
    })), pictures.map((bytes) => [...bytes]))
}

test('a key is set by arrows and a ring in the view', async ({ page }) => {
    await project(page, 'post', 'keyed post')
    await page.getByRole('tab', { name: 'Motion' }).click()
    await add(page, 'keys')
    await expect(sentence(page)).toHaveText('1 piece in 100 frames, 3.96 s.')
    await page.getByRole('slider', { name: 'Frame', exact: true }).fill('50')
    await page.getByRole('button', { name: 'key at frame 50' }).click()
    await look(page, 'front')
    await dragArrow(page, 'Z', { x: 0, y: 20 }, 0, -60)
    const up = Number(await field(page, 'Shift at the key Z, mm').inputValue())
    expect(up).toBeGreaterThan(3)
    // The arrows go where the piece is then.
    await expect(sentence(page)).toHaveText('1 piece in 100 frames, 3.96 s.')
    // By the knob on the ring, which begins along X as seen from above, where what is written stands a little further out.
    await look(page, 'top')
    const tip = await handleAt(page, 'turn')
    const x = await handleAt(page, 'X')
    const centre = { x: tip.x - (tip.x - x.x) / (1 - (0.2 * 1.08) / (0.28 * 1.14)), y: tip.y }
    const radius = (tip.x - centre.x) / 1.14
    await page.mouse.move(centre.x + radius, centre.y)
    await page.mouse.down()
    await page.mouse.move(centre.x + radius, centre.y - radius * (Math.PI / 4), { steps: 6 })
    await page.mouse.up()
    const degrees = Number(await field(page, 'Turn at the key, °').inputValue())
    expect(degrees % 5).toBe(0)
    expect(Math.abs(degrees - 45)).toBeLessThanOrEqual(5)
    await page.getByRole('slider', { name: 'Frame', exact: true }).fill('25')
    // Half way between the keys nothing is to be taken hold of.
    await expect(page.locator('[data-arrow]')).toHaveCount(0)
})
