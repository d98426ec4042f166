import { expect, test } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { cut, folder, project, sentence, type } from './helpers'

// Requests that are under way when interception begins may be lost: so it is on from the beginning.
test.beforeEach(({ page }) => page.route(/never-asked/, (route) => route.abort()))
test.afterEach(({ page }) => page.unrouteAll({ behavior: 'ignoreErrors' }))

test('pieces are packed on plates, seen there, and taken out', async ({ page }) => {
    await project(page, 'post', 'plated post')
    await cut(page, '2 pieces')
    await page.getByRole('tab', { name: 'Plate' }).click()
    await page.getByRole('radio', { name: 'Plates', exact: true }).click()
    await expect(sentence(page)).toContainText('Lays 2 pieces down and packs them on as few plates of Standard bed as it finds.')
    // What is told is told of the printer's bed: a margin that leaves nothing is refused.
    await type(page, 'Margin of the bed, mm', '100')
    await page.getByRole('button', { name: 'Pack 2 pieces' }).click()
    await expect(sentence(page)).toHaveText('A margin of 100 mm leaves nothing of the bed; give less than half its width.')
    await type(page, 'Margin of the bed, mm', '5')
    await page.getByRole('button', { name: 'Pack 2 pieces' }).click()
    await expect(sentence(page)).toHaveText('2 pieces on 1 plate, all stand by themselves.')
    await expect(page.getByRole('list', { name: 'Plates' }).getByRole('listitem')).toHaveText(/Plate 1.*2 pieces.*Plated post A/s)
    await expect(page.locator('.view')).toHaveAttribute('data-images', /[1-9]/)
    // They lie on the bed only while the plates are looked at.
    await expect(page.getByText('Spread')).toHaveCount(0)
    const waiting = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Take out as 3MF' }).click()
    const download = await waiting
    expect(download.suggestedFilename()).toBe('Plated-post-plates.zip')
    const out = folder()
    await download.saveAs(join(out, 'plates.zip'))
    execFileSync('php', ['-r', '$zip = new ZipArchive; $zip->open($argv[1]); $zip->extractTo($argv[2]);', join(out, 'plates.zip'), out])
    const told = JSON.parse(readFileSync(join(out, 'plates.json'), 'utf8')) as { plates: { file: string; pieces: { name: string; watertight: boolean; min_mm: number[]; max_mm: number[] }[] }[] }
    expect(told.plates.map(({ file }) => file)).toEqual(['plate-1.3mf'])
    const [one, two] = told.plates[0].pieces
    for (const piece of [one, two]) {
        expect(piece.watertight).toBe(true)
        expect(Math.min(piece.min_mm[0], piece.min_mm[1])).toBeGreaterThanOrEqual(5 - 1e-6)
        expect(Math.max(piece.max_mm[0], piece.max_mm[1])).toBeLessThanOrEqual(195 + 1e-6)
    }
    expect([0, 1].some((k) => one.max_mm[k] + 2 <= two.min_mm[k] + 1e-6 || two.max_mm[k] + 2 <= one.min_mm[k] + 1e-6)).toBe(true)
    // Other settings, and it says that the plates are old.
    await type(page, 'Spacing of pieces, mm', '8')
    await expect(sentence(page)).toHaveText('The plates are for other settings or pieces; pack again.')
    await expect(page.getByText('Spread')).toBeVisible()
    await page.getByRole('button', { name: 'Pack 2 pieces' }).click()
    await expect(sentence(page)).toHaveText('2 pieces on 1 plate, all stand by themselves.')
})
