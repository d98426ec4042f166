import { expect, test, type Page } from '@playwright/test'
import { card, drop, project, stl } from './helpers'

async function open(page: Page, kind: string, name: string): Promise<void> {
    await page.goto('/')
    await drop(page, `${name}.stl`, stl(kind))
    await page.getByRole('button', { name: 'Make the project' }).click()
    await expect(page.locator('[data-piece]')).toHaveCount(1)
    await page.getByRole('tab', { name: 'Check' }).click()
}

const fault = (page: Page, key: string) => page.locator(`[data-fault=${key}]`)

test('a faulty scan: faults worst first, flown to, and all mended to watertight after a preview', async ({ page }) => {
    await open(page, 'crock', 'scanned crock')
    await expect(page.locator('[data-part=soundness]')).toHaveText('Not watertight.')
    await expect.poll(() => page.locator('[data-fault]').evaluateAll((all) => all.map((one) => one.getAttribute('data-fault')))).toEqual(
        ['rims', 'nonmanifold_edges', 'flipped_edges', 'inner_faces', 'crossing_faces', 'doubled_faces'])
    await expect(fault(page, 'rims')).toContainText('3')
    await page.getByRole('button', { name: 'Show the next of Holes' }).click()
    await expect(page.getByRole('button', { name: 'Show the next of Holes' })).toHaveText('1 of 3')
    await expect(fault(page, 'rims')).toContainText('A slicer has to guess what is inside')
    await page.getByRole('button', { name: 'Show the next of Holes' }).click()
    await expect(page.getByRole('button', { name: 'Show the next of Holes' })).toHaveText('2 of 3')

    await page.getByRole('button', { name: 'Mend all…' }).click()
    const preview = page.locator('[data-part=preview]')
    await expect(preview).toContainText('watertight after')
    await expect(preview.getByRole('row', { name: /open edges/ })).toHaveText(/open edges\s*62\s*0/)
    await expect(card(page, 'scanned-crock')).toContainText('not watertight')
    await preview.getByRole('button', { name: 'Do it' }).click()
    await expect(page.getByRole('status')).toContainText('3 rims closed, 110 faces added; watertight now.')
    await expect(card(page, 'scanned-crock')).toContainText('watertight · fits')
    await expect(page.locator('[data-part=soundness]')).toHaveText('Watertight, but with faults.')
    await expect(page.getByText('Only bodies that overlap are left')).toBeVisible()
})

test('panels that do not touch get a new surface around them, which is said before it is done', async ({ page }) => {
    await open(page, 'panels', 'float in panels')
    await page.getByRole('button', { name: 'Mend all…' }).click()
    const preview = page.locator('[data-part=preview]')
    await expect(preview.locator('[data-part=redrawn]')).toContainText('The gaps are too wide to join across.')
    await expect(preview).toContainText('watertight after')
    await preview.getByRole('button', { name: 'Do it' }).click()
    await expect(page.getByRole('status')).toContainText('1280 loose faces replaced by a new surface around what they enclose; watertight now.')
    await expect(card(page, 'float-in-panels')).toContainText('watertight · fits')
    // The check that begins by itself does not hold it up.
    await expect(page.getByRole('button', { name: 'Undo: the mend' })).toBeEnabled()
    await page.keyboard.press('Control+z')
    await expect(card(page, 'float-in-panels')).toContainText('not watertight')
})

test('one rim is picked and closed, the rest stays; it is undone by keys', async ({ page }) => {
    await open(page, 'crock', 'rimmed crock')
    await page.getByRole('button', { name: 'Holes', exact: true }).click()
    await page.getByLabel('26 edges').check()
    await page.getByRole('button', { name: 'Close 1 picked…' }).click()
    const preview = page.locator('[data-part=preview]')
    await expect(preview).toContainText('still not watertight')
    await preview.getByRole('button', { name: 'Do it' }).click()
    await expect(page.getByRole('status')).toContainText('Mended: 1 rim closed; still not watertight.')
    await expect(fault(page, 'rims').locator('.count')).toHaveText('2')
    await page.keyboard.press('Control+z')
    await expect(fault(page, 'rims').locator('.count')).toHaveText('3')
})

test('a sheet gets a thickness and is sound', async ({ page }) => {
    await open(page, 'sign', 'thick sign')
    await page.getByLabel('Thickness, mm').fill('3')
    await page.getByLabel('Thickness, mm').press('Enter')
    await page.getByRole('button', { name: 'thicken…' }).click()
    await expect(page.locator('[data-part=preview]')).toContainText('watertight after')
    await page.getByRole('button', { name: 'Do it' }).click()
    await expect(page.getByRole('status')).toContainText('Thickened, watertight now.')
    await expect(page.locator('[data-part=soundness]')).toHaveText(/^Sound/)
    await expect(card(page, 'thick-sign')).toContainText('179.9 × 3.0 × 179.9 mm')
})

test('a sound piece is said to be sound, and the size stands against the printer that is chosen', async ({ page }) => {
    await project(page, 'post', 'sound post')
    await page.getByRole('tab', { name: 'Check' }).click()
    await expect(page.locator('[data-part=soundness]')).toHaveText('Sound: watertight, nothing crosses, nothing lies inside.')
    await page.getByRole('button', { name: /^Standard bed/ }).click()
    await page.getByRole('button', { name: 'add your own…' }).click()
    await page.getByLabel('Name of the printer').fill('Tiny one')
    for (const axis of ['x', 'y', 'z']) {
        await page.getByLabel(`Working space, ${axis}`).fill('35')
        await page.getByLabel(`Working space, ${axis}`).press('Tab')
    }
    await page.getByRole('button', { name: 'Add', exact: true }).click()
    await expect(card(page, 'sound-post')).toContainText('5.0 mm too large')
})

test('a mend is edited from the lineage', async ({ page }) => {
    await open(page, 'crock', 'edited crock')
    await page.getByRole('button', { name: 'Holes', exact: true }).click()
    await page.getByLabel('26 edges').check()
    await page.getByRole('button', { name: 'Close 1 picked…' }).click()
    await page.getByRole('button', { name: 'Do it' }).click()
    await expect(page.getByRole('status')).toContainText('Mended: 1 rim closed; still not watertight.')
    // The card shows the piece as the mend found it.
    await page.getByRole('radio', { name: 'Lineage', exact: true }).click()
    await page.getByRole('button', { name: 'Edit step 1' }).click()
    await expect(page.getByRole('heading', { name: 'Step 1' })).toBeVisible()
    await expect(fault(page, 'rims').locator('.count')).toHaveText('3')
    await expect(page.getByText('Choose what step 1 is to do instead')).toBeVisible()
    await page.getByRole('button', { name: 'Mend all…' }).click()
    await expect(page.locator('[data-part=preview]')).toContainText('watertight after')
    await page.getByRole('button', { name: 'Run again' }).click()
    await expect(page.getByRole('status')).toContainText('Step 1 run again.')
    await expect(page.getByRole('heading', { name: 'Check' })).toBeVisible()
    await expect(page.locator('[data-part=soundness]')).toHaveText('Watertight, but with faults.')
    await expect(page.locator('[data-step="1"]')).toHaveText(/Mend all/)
})
