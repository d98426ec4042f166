import { expect, test } from '@playwright/test'
import { drop, held, hold, letGo, stl } from './helpers'

test.afterEach(letGo)

test('a mend is tried out with progress, stopped, and asked again for nothing', async ({ page }) => {
    await page.goto('/')
    await drop(page, 'tried crock.stl', stl('crock'))
    await page.getByRole('button', { name: 'Make the project' }).click()
    await page.getByRole('tab', { name: 'Check' }).click()
    const mend = page.getByRole('button', { name: 'Mend all…' })
    await expect(mend).toBeVisible()

    hold('trying it out')
    await mend.click()
    await held('trying it out')
    await expect(page.getByRole('progressbar', { name: 'Progress of the try' })).toBeVisible()
    await expect(page.getByText('The mend is tried out on a copy; nothing happens to the piece.')).toBeVisible()
    // A question changes nothing, so it holds no step up.
    await page.getByRole('tab', { name: 'Cut' }).click()
    await expect(page.getByRole('button', { name: 'Cut', exact: true })).toBeEnabled()
    await page.getByRole('tab', { name: 'Check' }).click()
    await page.getByRole('button', { name: 'stop', exact: true }).click()
    await expect(page.getByRole('progressbar', { name: 'Progress of the try' })).toHaveCount(0)
    await expect(page.locator('[data-part=preview]')).toHaveCount(0)
    letGo()

    await mend.click()
    await expect(page.locator('[data-part=preview]')).toContainText('watertight after')
    await page.getByRole('button', { name: 'Leave it' }).click()
    // What was worked out is kept: with the worker held there is no waiting for it.
    hold('trying it out')
    await mend.click()
    await expect(page.locator('[data-part=preview]')).toContainText('watertight after')
})

test('files are made with progress, stopped, and taken out', async ({ page }) => {
    await page.goto('/')
    await drop(page, 'packed crock.stl', stl('crock'))
    await page.getByRole('button', { name: 'Make the project' }).click()
    await expect(page.locator('[data-piece]')).toHaveCount(1)
    await page.getByRole('button', { name: 'Take out…' }).click()
    const download = page.getByRole('button', { name: 'Download 1 piece' })

    hold('writing files')
    await download.click()
    await held('writing files')
    await expect(page.getByRole('progressbar', { name: 'Progress of the files' })).toBeVisible()
    await page.getByRole('dialog').getByRole('button', { name: 'stop', exact: true }).click()
    await expect(download).toBeEnabled()
    letGo()

    const waiting = page.waitForEvent('download')
    await download.click()
    expect((await waiting).suggestedFilename()).toBe('Packed-crock.zip')
    await expect(page.getByRole('dialog')).toHaveCount(0)
})

test('how symmetric a large piece is: measured with progress, which can be stopped', async ({ page }) => {
    await page.goto('/')
    await drop(page, 'measured crock.stl', stl('crock'))
    await page.getByRole('button', { name: 'Make the project' }).click()
    await expect(page.locator('[data-piece]')).toHaveCount(1)
    await page.getByRole('radio', { name: 'Mirror' }).click()
    hold('measuring its symmetry')
    await page.getByRole('button', { name: 'over this plane' }).click()
    await held('measuring its symmetry')
    await expect(page.getByRole('progressbar', { name: 'Progress of the measuring' })).toBeVisible()
    await page.getByRole('button', { name: 'stop', exact: true }).click()
    await expect(page.getByRole('button', { name: 'over this plane' })).toBeEnabled()
    letGo()
    await page.getByRole('button', { name: 'over this plane' }).click()
    await expect(page.locator('[data-number=deviation]')).toHaveText(/mm/)
})
