import { expect, test, type Page } from '@playwright/test'
import { card, cut, field, pieces, project, sentence, type } from './helpers'

// Requests that are under way when interception begins may be lost: so it is on from the beginning.
test.beforeEach(({ page }) => page.route(/never-asked/, (route) => route.abort()))
// What is still asked when a test ends is of no interest any more.
test.afterEach(({ page }) => page.unrouteAll({ behavior: 'ignoreErrors' }))

/** Where the rail is, once it is at rest: its settings and its labels may still be taking their places. */
async function rail(page: Page) {
    let box = await page.locator('[data-part=rail]').boundingBox()
    for (let before = ''; JSON.stringify(box) !== before; box = await page.locator('[data-part=rail]').boundingBox()) {
        before = JSON.stringify(box)
        await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))))
    }
    if (!box) throw new Error('there is no rail')
    // The drawing keeps 14 pixels at both ends.
    return { y: box.y + 40, at: (share: number) => box.x + 14 + share * (box.width - 28) }
}

test('stops on the rail, with the extents that the printer does not reach', async ({ page }) => {
    await project(page, 'beam', 'long beam')
    await expect(card(page, 'long-beam')).toContainText('440 mm too large')
    await page.getByRole('radio', { name: 'X', exact: true }).click()
    await expect(page.getByRole('heading', { name: 'Profile along X' })).toBeVisible()
    await page.getByRole('radio', { name: 'Series' }).click()
    await expect(page.getByRole('slider', { name: /^Stop/ })).toHaveCount(1)
    await expect(page.locator('[data-part=too-tall]')).toHaveText('2 parts taller than the printer')
    await expect(sentence(page)).toHaveText('Cuts 1 piece at 1 stop, keeps all, sealed. 2 parts are taller than the printer.')
    const { y, at } = await rail(page)
    await page.keyboard.down('Alt')
    await page.mouse.click(at(0.25), y)
    await expect(page.getByRole('slider', { name: /^Stop/ })).toHaveCount(2)
    await page.mouse.click(at(0.74), y)
    await expect(page.getByRole('slider', { name: /^Stop/ })).toHaveCount(3)
    await page.keyboard.up('Alt')
    await expect(page.locator('[data-part=too-tall]')).toHaveCount(0)
    // A stop is moved by its keys, and taken away; what is too tall then is said at once.
    await page.getByRole('slider', { name: 'Stop 2' }).focus()
    await page.keyboard.press('Shift+ArrowRight')
    await expect(page.getByRole('slider', { name: 'Stop 2' })).toHaveAttribute('aria-valuenow', '330')
    await page.keyboard.press('Delete')
    await expect(page.getByRole('slider', { name: /^Stop/ })).toHaveCount(2)
    await expect(page.locator('[data-part=too-tall]')).toHaveText('1 part taller than the printer')

    await page.getByRole('radio', { name: 'Step', exact: true }).click()
    await type(page, 'First stop, mm', '180')
    await type(page, 'Step, mm', '140')
    await type(page, 'Stops, count, ×', '3')
    await expect(page.getByRole('slider', { name: 'Stop 3' })).toHaveAttribute('aria-valuenow', '460')
    await expect(page.locator('[data-part=too-tall]')).toHaveCount(0)
    await cut(page, '4 pieces, all watertight, 0.000 % volume lost.')
    await expect(pieces(page)).toHaveCount(4)
    await expect(card(page, 'long-beam-A')).toContainText('180.0 × 56.0')
    for (const name of ['A', 'B', 'C', 'D']) await expect(card(page, `long-beam-${name}`)).toContainText('fits')
})

test('a press on the rail counts while the profile is still being worked out', async ({ page }) => {
    await project(page, 'beam', 'unhurried beam')
    let answer = () => {}
    const waits = new Promise<void>((resolve) => { answer = resolve })
    await page.route('**/profile', async (route) => {
        await waits
        await route.continue()
    })
    await page.getByRole('radio', { name: 'X', exact: true }).click()
    await page.getByRole('radio', { name: 'Series' }).click()
    const words = page.getByText('the profile is being worked out…')
    await expect(words).toBeVisible()
    const { at } = await rail(page)
    const box = await words.boundingBox()
    if (!box) throw new Error('there are no words')
    await page.mouse.click(at(0.25), box.y + box.height / 2)
    await expect(page.getByRole('slider', { name: /^Stop/ })).toHaveCount(2)
    await expect(page.getByRole('slider', { name: 'Stop 1' })).toHaveAttribute('aria-valuenow', '160')
    answer()
    await expect(words).toHaveCount(0)
    await expect(page.getByRole('slider', { name: /^Stop/ })).toHaveCount(2)
})

test('a stop dragged near a good place is drawn to it, unless it is freed', async ({ page }) => {
    await project(page, 'jar', 'waisted jar')
    await page.getByRole('radio', { name: 'X', exact: true }).click()
    await expect(page.locator('.good-place')).toHaveCount(1)
    const { y, at } = await rail(page)
    await page.mouse.move(at(0.5), y)
    await page.mouse.down()
    await page.mouse.move(at(0.7), y, { steps: 3 })
    await page.mouse.move(at(0.505), y, { steps: 3 })
    // Sections are sampled every 58 / 240 mm: the waist lies half of that beside the nearest ones.
    await expect.poll(async () => Math.abs(Number(await field(page, 'Place, mm').inputValue()) - 29)).toBeLessThan(0.125)
    await page.keyboard.down('Alt')
    await page.mouse.move(at(0.506), y)
    await expect.poll(async () => Number(await field(page, 'Place, mm').inputValue())).toBeGreaterThan(29.2)
    await page.mouse.up()
    await page.keyboard.up('Alt')
})

test('equal parts cut each piece at its own centre, and wander is shown before it cuts', async ({ page }) => {
    await project(page, 'post', 'parted post')
    await type(page, 'Height, mm', '5')
    await cut(page, '2 pieces')
    await page.keyboard.press('s')
    await page.getByRole('radio', { name: 'Equal parts' }).click()
    await expect(sentence(page)).toHaveText('Cuts 2 pieces into 2 equal parts each, keeps all, sealed.')
    await cut(page, '4 pieces, all watertight')
    for (const [name, height] of [['A-A', '2.5'], ['A-B', '2.5'], ['B-A', '7.5'], ['B-B', '7.5']]) await expect(card(page, `parted-post-${name}`)).toContainText(`40.0 × 30.0 × ${height} mm`)
    await page.keyboard.press('Control+z')
    await page.keyboard.press('1')
    await page.getByLabel('Wander').check()
    await type(page, 'Lean, °', '10')
    await type(page, 'Seed, seed', '4')
    await expect(sentence(page)).toHaveText('Cuts 2 pieces into 2 equal parts each, keeps all, sealed, with wander.')
    await cut(page, '4 pieces, all watertight')
})
