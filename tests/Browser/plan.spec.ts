import { expect, test } from '@playwright/test'
import { card, look, pieces, project, sentence, still, type, viewBox } from './helpers'

// Requests that are under way when interception begins may be lost: so it is on from the beginning.
test.beforeEach(({ page }) => page.route(/never-asked/, (route) => route.abort()))
// What is still asked when a test ends is of no interest any more.
test.afterEach(({ page }) => page.unrouteAll({ behavior: 'ignoreErrors' }))

test('cuts are looked for, compared, one of them is moved, and they are made: every piece fits', async ({ page }) => {
    await project(page, 'beam', 'planned beam')
    await page.getByRole('tab', { name: 'Plate' }).click()
    await expect(sentence(page)).toHaveText('Looks for cuts after which every piece of Planned beam fits Standard bed. Nothing is cut yet.')
    await page.getByRole('button', { name: 'Look for cuts' }).click()
    const alternatives = page.getByRole('radiogroup', { name: 'Alternatives' }).getByRole('radio')
    await expect(alternatives.first()).toBeVisible({ timeout: 60_000 })
    const count = await alternatives.count()
    expect(count).toBeGreaterThanOrEqual(2)
    const least = Number(/\d+/.exec(await page.locator('[data-number=least]').innerText())?.[0])
    for (let n = 0; n < count; n++) expect(Number(/: (\d+) piece/.exec((await alternatives.nth(n).getAttribute('aria-label')) ?? '')?.[1])).toBeGreaterThanOrEqual(least)

    // Another one is shown, with its own cuts; then the first again.
    const cuts = page.getByRole('list', { name: 'Cuts of the plan' })
    const first = await cuts.innerText()
    await alternatives.nth(1).click()
    await expect(alternatives.nth(1)).toHaveAttribute('aria-checked', 'true')
    await expect(cuts).not.toHaveText(first)
    await alternatives.first().click()

    // A cut is moved: what comes of it is told, be it that a piece does not fit.
    const place = page.getByLabel('Place of cut 1, mm')
    const before = await place.inputValue()
    // By its stop on the profile, too.
    const stop = page.getByRole('region', { name: 'Profile of the plan' }).getByRole('slider', { name: 'Cut 1' })
    const from = Number(await stop.getAttribute('aria-valuenow'))
    await stop.press('ArrowRight')
    await expect.poll(async () => Number(await stop.getAttribute('aria-valuenow'))).toBeCloseTo(from + 1, 3)
    await expect(sentence(page)).toContainText(/^Makes/, { timeout: 30_000 })
    await stop.press('ArrowLeft')
    await expect.poll(async () => Number(await stop.getAttribute('aria-valuenow'))).toBeCloseTo(from, 3)
    await expect(sentence(page)).toContainText(/^Makes/, { timeout: 30_000 })
    await type(page, 'Place of cut 1, mm', String(Number(before) + 90))
    await expect(sentence(page)).toContainText('too large', { timeout: 30_000 })
    // One cut more, where it is needed.
    await page.getByRole('button', { name: 'cut what does not fit' }).click()
    await expect(sentence(page)).toContainText(/each fits/, { timeout: 60_000 })
    await expect(page.getByRole('button', { name: 'cut what does not fit' })).toHaveCount(0)
    await expect(sentence(page)).toContainText(/^Makes \d+ cuts through Planned beam, 0\.3 mm removed at each: \d+ pieces, each fits/, { timeout: 30_000 })
    const told = Number(/: (\d+) pieces/.exec(await sentence(page).innerText())?.[1])

    await page.getByRole('button', { name: /^Make \d+ cuts$/ }).click()
    await expect(page.getByRole('status')).toContainText(`${told} pieces, all watertight`, { timeout: 30_000 })
    await expect(pieces(page)).toHaveCount(told)
    for (let n = 0; n < told; n++) await expect(pieces(page).nth(n)).toContainText('· fits')
    await expect(sentence(page)).toHaveText('Every piece fits the printer; there is nothing to plan.')
    await expect(page.getByRole('button', { name: 'Look for cuts' })).toBeDisabled()
    await page.getByRole('button', { name: 'Undo: the plan' }).click()
    await expect(pieces(page)).toHaveCount(1)
})

test('a place that is clicked stays whole', async ({ page }) => {
    await project(page, 'beam', 'whole beam')
    await page.getByRole('tab', { name: 'Plate' }).click()
    await page.getByRole('button', { name: 'click places…' }).click()
    await expect(page.getByText('Click what must stay whole: no cut will go through it.')).toBeVisible()
    // From above: seen from the front there is a slot in its middle.
    await look(page, 'top')
    await still(page)
    const view = await viewBox(page)
    await page.mouse.click(view.cx, view.cy)
    await expect(page.getByLabel('Radius of place 1, mm')).toBeVisible()
    await type(page, 'Radius of place 1, mm', '40')
    await page.getByRole('button', { name: 'done' }).first().click()
    await page.getByRole('button', { name: 'Look for cuts' }).click()
    await expect(page.getByRole('radiogroup', { name: 'Alternatives' })).toBeVisible({ timeout: 60_000 })
    // The beam runs along X and its middle was clicked: every cut across it is as far away as the ball is large.
    const cuts = page.getByRole('list', { name: 'Cuts of the plan' }).getByRole('listitem')
    expect(await cuts.count()).toBeGreaterThanOrEqual(2)
    const straight: number[] = []
    for (const cut of await cuts.all()) {
        if (/ X$/.test((await cut.innerText()).replace(/\s+/g, ' ').replace(' mm', '').trim())) straight.push(Math.abs(Number(await cut.getByRole('textbox').inputValue())))
    }
    expect(straight.length).toBeGreaterThan(0)
    expect(Math.min(...straight)).toBeGreaterThanOrEqual(40)
    await page.getByRole('button', { name: 'Let place 1 go' }).click()
    await expect(sentence(page)).toHaveText('The plans are for other settings; look again for Whole beam.')
})

test('what is asked for is old when settings change, and what cannot be is refused in a sentence', async ({ page }) => {
    await project(page, 'beam', 'wished beam')
    await page.getByRole('tab', { name: 'Plate' }).click()
    await type(page, 'Margin of the bed, mm', '100')
    await page.getByRole('button', { name: 'Look for cuts' }).click()
    await expect(sentence(page)).toHaveText('A margin of 100 mm leaves nothing of the bed; give less than half its width.')
    await type(page, 'Margin of the bed, mm', '2')
    await page.getByRole('button', { name: 'Look for cuts' }).click()
    await expect(page.getByRole('radiogroup', { name: 'Alternatives' })).toBeVisible({ timeout: 60_000 })
    await type(page, 'Gap at each cut, mm', '0')
    await expect(sentence(page)).toHaveText('The plans are for other settings; look again for Wished beam.')
    await expect(page.getByRole('radiogroup', { name: 'Alternatives' })).toHaveCount(0)
})

test('a piece that fits only tilted is marked so by itself', async ({ page }) => {
    await project(page, 'stick', 'tilted rod')
    await expect(card(page, 'tilted-rod')).toContainText('fits tilted', { timeout: 20_000 })
    await expect(card(page, 'tilted-rod').locator('.good', { hasText: 'fits tilted' })).toHaveAttribute('title', /^turned by \d+\.\d° about /)
})
