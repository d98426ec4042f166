import { expect, test, type Page } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { field, pieces, project, sentence, still, type } from './helpers'

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
    if (await page.getByRole('button', { name: 'Pause', exact: true }).isVisible()) await page.getByRole('button', { name: 'Pause', exact: true }).click()
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
    const glb = readFileSync(await (await arrives).path())
    const json = JSON.parse(glb.subarray(20, 20 + glb.readUInt32LE(12)).toString()) as { animations: { channels: unknown[] }[]; nodes: unknown[] }
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
