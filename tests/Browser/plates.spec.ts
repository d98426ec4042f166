import { expect, test, type Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { cut, field, folder, look, project, sentence, still, type, viewBox } from './helpers'

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
    // Other settings: the plates stay, it says so, and what is too near then is told.
    await type(page, 'Spacing of pieces, mm', '8')
    await expect(sentence(page)).toHaveText('Not as it should be on plate 1: 1 too near.')
    await page.getByRole('button', { name: 'Pack 2 pieces' }).click()
    await expect(sentence(page)).toHaveText('2 pieces on 1 plate, all stand by themselves.')
})

test('a piece is dragged, turned and put on another plate; overlaps are said at once; it is kept', async ({ page }) => {
    await project(page, 'post', 'moved post')
    await cut(page, '2 pieces')
    await page.getByRole('tab', { name: 'Plate' }).click()
    await page.getByRole('radio', { name: 'Plates', exact: true }).click()
    await page.getByRole('button', { name: 'Pack 2 pieces' }).click()
    await expect(sentence(page)).toHaveText('2 pieces on 1 plate, all stand by themselves.')
    const list = page.getByRole('list', { name: 'Plates' })
    const held = page.getByRole('region', { name: 'The piece that is picked' })
    await list.getByRole('button', { name: 'Moved post A' }).click()
    await expect(held).toContainText('Moved post A')
    const left = field(page, 'From the left of the bed, mm')
    const first = Number(await left.inputValue())

    // By the mouse, seen from above: a tenth of the bed to the right.
    await page.getByRole('button', { name: 'send the hints away' }).click()
    await look(page, 'top')
    const view = await viewBox(page)
    // The bed of 200 mm is in the middle of the view; where the piece lies on it is told.
    const at = async () => ({ x: Number(await left.inputValue()), y: Number(await field(page, 'From the front of the bed, mm').inputValue()) })
    const place = await at()
    const pixels = await bedScale(page, view)
    const from = { x: view.cx + (place.x + 8 - 100) * pixels, y: view.cy - (place.y + 8 - 100) * pixels }
    await page.mouse.move(from.x, from.y)
    await page.mouse.down()
    for (let n = 1; n <= 5; n++) await page.mouse.move(from.x + n * 4 * pixels * 5, from.y)
    await page.mouse.up()
    await expect.poll(async () => (await at()).x).toBeGreaterThan(first + 60)
    expect((await at()).y).toBeCloseTo(place.y, 0)
    await expect(sentence(page)).toHaveText('2 pieces on 1 plate, all stand by themselves.')
    await page.getByRole('button', { name: 'put back' }).click()
    await expect.poll(async () => (await at()).x).toBeCloseTo(first, 3)

    // Onto the other one, by keys and numbers.
    await list.getByRole('button', { name: 'Moved post A' }).press('Enter')
    await list.getByRole('button', { name: 'Moved post B' }).click()
    const other = await at()
    await list.getByRole('button', { name: 'Moved post A' }).click()
    await type(page, 'From the left of the bed, mm', String(other.x + 1))
    await type(page, 'From the front of the bed, mm', String(other.y + 1))
    await expect(sentence(page)).toHaveText('Not as it should be on plate 1: 1 overlap.')
    await expect(list).toContainText('1 overlap')
    await page.getByRole('button', { name: 'Turn left by 15°' }).click()
    await page.getByLabel('On plate', { exact: true }).selectOption('new')
    await expect(list.getByRole('listitem')).toHaveCount(2)
    await type(page, 'From the left of the bed, mm', '-10')
    await expect(sentence(page)).toContainText('plate 2: 1 beyond the bed')
    await page.keyboard.press('Tab')
    await page.getByRole('button', { name: 'Turn right by 15°' }).focus()
    for (let n = 0; n < 3; n++) await page.keyboard.press('Shift+ArrowRight')
    await page.keyboard.press('Shift+ArrowUp')
    await expect(sentence(page)).toHaveText('2 pieces on 2 plates, all stand by themselves.')
    const last = await at()

    // It is there again after the window was closed, and a locked plate stays while the rest is packed anew.
    await page.getByRole('button', { name: 'Lock plate 2' }).click()
    await page.reload()
    await page.getByRole('tab', { name: 'Plate' }).click()
    await page.getByRole('radio', { name: 'Plates', exact: true }).click()
    await expect(sentence(page)).toHaveText('2 pieces on 2 plates, all stand by themselves.')
    await list.getByRole('button', { name: 'Moved post A' }).click()
    await expect(held).toContainText('Its plate is locked.')
    await page.getByRole('button', { name: 'pack anew' }).click()
    await expect(list.getByRole('listitem').first()).toContainText('Moved post A')
    await page.getByRole('button', { name: 'Unlock plate 1' }).click()
    await expect.poll(at).toEqual(last)
    // Three copies of each.
    await held.getByRole('button', { name: 'leave it' }).click()
    await type(page, 'Copies of each', '3')
    await expect(sentence(page)).toHaveText('4 pieces are not on a plate; pack again.')
    await page.getByRole('button', { name: 'Pack 6 pieces' }).click()
    await expect(sentence(page)).toContainText('6 pieces on 1 plate')
    await expect(list).toContainText('Moved post B, copy 3')
    // What changed is not there any more.
    await page.getByRole('tab', { name: 'Cut' }).click()
    await type(page, 'Height, mm', '4')
    await cut(page, /pieces/)
    await page.getByRole('tab', { name: 'Plate' }).click()
    await expect(sentence(page)).toContainText('changed since they were packed; pack again.')
})

/** Pixels a millimetre of the bed, seen from above. */
async function bedScale(page: Page, view: { width: number; height: number }): Promise<number> {
    // The bed and a little room around it fill the height or the width, whichever is smaller: see View3d.look.
    const radius = Math.hypot(200, 200, 200 / 3) / 2
    const distance = (radius / Math.sin((32 * Math.PI) / 360)) * 1.02
    const half = distance * Math.tan((32 * Math.PI) / 360)
    await still(page)
    return view.height / 2 / half
}
