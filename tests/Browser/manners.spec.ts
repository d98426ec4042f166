import { expect, test } from '@playwright/test'
import { field, held, hold, letGo, pieces, project, sentence } from './helpers'

// Requests that are under way when interception begins may be lost: so it is on from the beginning.
test.beforeEach(({ page }) => page.route(/never-asked/, (route) => route.abort()))
// What is still asked when a test ends is of no interest any more.
test.afterEach(({ page }) => page.unrouteAll({ behavior: 'ignoreErrors' }))

// What a person is told when something goes wrong, and how the page is used by keys.

test('a number that cannot be taken is put back with a word', async ({ page }) => {
    await project(page, 'post', 'worded post')
    await page.getByRole('radio', { name: 'X', exact: true }).click()
    await field(page, 'Place, mm').fill('12x')
    await field(page, 'Place, mm').press('Enter')
    await expect(page.getByRole('alert')).toHaveText('“12x” is no number: 20.00 stays.')
    await expect(field(page, 'Place, mm')).toHaveValue('20.00')
    await field(page, 'Kerf, mm').fill('-1')
    await field(page, 'Kerf, mm').press('Enter')
    await expect(page.getByRole('alert').last()).toHaveText('At least 0: 0.0 stays.')
    await field(page, 'Place, mm').fill('12')
    await field(page, 'Place, mm').press('Enter')
    await expect(page.getByRole('alert').filter({ hasText: '12x' })).toHaveCount(0)
    await expect(field(page, 'Place, mm')).toHaveValue('12.00')
})

test('a removal that failed is not told as done', async ({ page }) => {
    await project(page, 'post', 'staying post')
    await page.goto('/')
    const entry = page.locator('.project').filter({ hasText: 'Staying post' })
    await page.route('**/api/v1/projects/*', (route) => (route.request().method() === 'DELETE' ? route.fulfill({ status: 507, json: { message: 'The disk is full; free some of it.' } }) : route.continue()))
    await entry.getByRole('button', { name: 'remove' }).click()
    await expect(page.getByRole('alert')).toHaveText('The disk is full; free some of it.')
    await expect(page.getByText('off the shelf')).toHaveCount(0)
    await expect(entry).toHaveCount(1)
    await page.unroute('**/api/v1/projects/*')
    await entry.getByRole('button', { name: 'remove' }).click()
    await expect(page.getByText('off the shelf')).toBeVisible()
    await expect(entry).toHaveCount(0)
    // Other tests count what is removed.
    await page.getByRole('button', { name: 'Take it back' }).click()
    await expect(entry).toHaveCount(1)
    await expect(page.getByText('off the shelf')).toHaveCount(0)
})

test('a lost connection does not end what is watched', async ({ page }) => {
    await project(page, 'post', 'watched post')
    hold('starting')
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await held('starting')
    await page.route('**/api/v1/runs/*', (route) => route.abort())
    await expect(page.getByText('The connection to Isotome is lost; the work goes on there')).toBeVisible()
    // As it was when it was last heard of.
    await expect(sentence(page)).toHaveText(/^A step (is at work|waits for its turn)\.$/)
    await expect(page.getByRole('button', { name: 'Cut', exact: true })).toHaveCount(0)
    letGo()
    await page.unroute('**/api/v1/runs/*')
    await expect(page.getByRole('status').first()).toContainText('2 pieces, both watertight')
    await expect(page.getByText('The connection to Isotome is lost')).toHaveCount(0)
    await expect(pieces(page)).toHaveCount(2)
    // Forward is told like back.
    await page.getByRole('button', { name: 'Undo: the cut' }).click()
    await page.getByRole('button', { name: 'Do again: the cut' }).click()
    await expect(pieces(page)).toHaveCount(2)
})

// WAI-ARIA Authoring Practices (W3C): radio group, tabs with automatic activation.
test('radios and tabs are gone through by arrows, and one of each is reached by Tab', async ({ page }) => {
    await project(page, 'post', 'roved post')
    const blades = page.getByRole('radiogroup', { name: 'What to do' })
    await blades.getByRole('radio', { name: 'Flat' }).focus()
    await page.keyboard.press('ArrowRight')
    await expect(blades.getByRole('radio', { name: 'Series' })).toBeFocused()
    await expect(blades.getByRole('radio', { name: 'Series' })).toHaveAttribute('aria-checked', 'true')
    await page.keyboard.press('Home')
    await expect(blades.getByRole('radio', { name: 'Flat' })).toHaveAttribute('aria-checked', 'true')
    await page.keyboard.press('ArrowLeft')
    await expect(blades.getByRole('radio', { name: 'Place' })).toHaveAttribute('aria-checked', 'true')
    await expect(blades.locator('[tabindex="0"]')).toHaveText(['Place'])
    await page.getByRole('tab', { name: 'Cut' }).focus()
    await page.keyboard.press('ArrowRight')
    await expect(page.getByRole('tab', { name: 'Plate' })).toHaveAttribute('aria-selected', 'true')
    await expect(page.getByRole('tabpanel', { name: 'Plate' })).toBeVisible()
    await page.keyboard.press('ArrowRight')
    await expect(page.getByRole('tab', { name: 'Motion' })).toHaveAttribute('aria-selected', 'true')
    // After the last comes the first.
    await page.keyboard.press('ArrowRight')
    await expect(page.getByRole('tab', { name: 'Check' })).toHaveAttribute('aria-selected', 'true')
    await expect(page.getByRole('tabpanel', { name: 'Check' })).toBeVisible()
    await expect(page.getByRole('tablist').locator('[tabindex="0"]')).toHaveText(['Check'])
    // Chosen with the mouse: the arrows move the blade, as before.
    await page.getByRole('tab', { name: 'Cut' }).click()
    await blades.getByRole('radio', { name: 'Flat' }).click()
    await page.getByRole('radio', { name: 'Z', exact: true }).click()
    const height = await field(page, 'Height, mm').inputValue()
    await page.keyboard.press('ArrowUp')
    await expect(field(page, 'Height, mm')).not.toHaveValue(height)
})
