import { expect, test } from '@playwright/test'
import { drop, held, hold, killWorker, letGo, pieces, sentence, stl } from './helpers'

test.afterEach(letGo)

test('a worker that is killed in the middle of a long cut: the cut is taken up again, once, and a second one is cancelled', async ({ page }) => {
    await page.goto('/')
    await drop(page, 'mill ring.stl', stl('large'))
    await page.getByRole('button', { name: 'Make the project' }).click()
    await expect(pieces(page)).toHaveCount(1)
    hold('measuring')
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await held('measuring')
    await expect(page.locator('.phase')).toContainText('measuring')
    expect(killWorker()).toBe(1)
    hold('starting')
    // The page goes away in the middle and comes back to the same work, which another worker has begun again.
    await page.reload()
    await held('starting')
    await expect(sentence(page)).toHaveText('A step is at work.')
    letGo()
    await expect(page.getByRole('status')).toContainText('2 pieces, both watertight', { timeout: 300_000 })
    await expect(pieces(page)).toHaveCount(2)

    await page.keyboard.press('1')
    hold('cutting')
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await held('cutting')
    await expect(page.locator('.phase')).toContainText('cutting')
    await page.getByRole('button', { name: 'stop', exact: true }).click()
    await expect(page.getByRole('alert')).toHaveText(/Stopped; nothing was changed\./)
    await expect(pieces(page)).toHaveCount(2)
})
