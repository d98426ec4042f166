import { expect, test, type Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { card, field, folder, pieces, project, sentence, stl, type } from './helpers'

const kind = (page: Page, name: string) => page.getByRole('radiogroup', { name: 'What to do' }).getByRole('radio', { name }).click()
const choose = (page: Page, group: string, name: string) => page.getByRole('radiogroup', { name: group, exact: true }).getByRole('radio', { name, exact: true }).click()

async function mirror(page: Page, says: string | RegExp): Promise<void> {
    await page.getByRole('button', { name: 'Mirror', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText(says)
}

test('half a bracket with a rim that is off becomes a whole, and its recipe gives the same by the command line', async ({ page }) => {
    await project(page, 'bracket', 'bracket')
    await kind(page, 'Mirror')
    await expect(page.locator('[data-part=gap]')).toContainText('Rim up to 0.40 mm off the plane')
    await expect(sentence(page)).toHaveText('Keeps what is ahead of 1 of 1 piece and mirrors it, joined into one body. The rim is up to 0.40 mm off the plane: catch 0.40 mm to join it.')
    await expect(page.locator('[data-part=unjoined]')).toContainText('stay open')
    // What it will add is drawn beside what is there.
    await expect(page.locator('[data-images]')).toHaveAttribute('data-images', '1')
    await page.getByRole('button', { name: 'catch 0.40 mm' }).click()
    await expect(page.locator('[data-part=gap]')).toContainText('caught')
    await expect(page.locator('[data-part=unjoined]')).toHaveCount(0)
    await expect(page.locator('[data-part=kink]')).toContainText('Kink along the seam up to 11.2°')
    await expect(sentence(page)).toHaveText('Keeps what is ahead of 1 of 1 piece and mirrors it, joined into one body.')
    await mirror(page, /^1 piece, watertight, joined at 33 edges, kink at most 11\.2°/)
    await expect(card(page, 'bracket-A')).toContainText('140.0 × 36.0 × 126.0 mm')
    await expect(card(page, 'bracket-A')).toContainText('watertight')

    const out = folder()
    const id = /project\/(\d+)/.exec(page.url())?.[1]
    writeFileSync(join(out, 'recipe.json'), await (await page.request.get(`/api/v1/projects/${id}/recipe.json`)).body())
    writeFileSync(join(out, 'bracket.stl'), stl('bracket'))
    execFileSync('bin/isotome', ['run', join(out, 'recipe.json'), join(out, 'bracket.stl'), '--out', join(out, 'pieces')])
    const manifest = JSON.parse(readFileSync(join(out, 'pieces', 'manifest.json'), 'utf8')) as { pieces: { name: string; watertight: boolean; volume_mm3: number }[] }
    const here = ((await (await page.request.get(`/api/v1/projects/${id}`)).json()) as { pieces: { name: string; volume: number; spent: boolean }[] }).pieces.filter((piece) => !piece.spent)
    expect(manifest.pieces.map((piece) => [piece.name, piece.watertight])).toEqual([['bracket-A', true]])
    expect(manifest.pieces[0].volume_mm3).toBeCloseTo(here[0].volume, 1)

    // It is its own reflection now, and says so.
    await page.getByRole('button', { name: 'over this plane' }).click()
    await expect(page.locator('[data-number=deviation]')).toHaveText('0.00 mm')

    // A smaller catch leaves gaps, and they are told.
    await page.getByRole('radio', { name: 'Lineage' }).click()
    await page.getByRole('button', { name: 'Edit step 1' }).click()
    await expect(field(page, 'Catch, mm')).toHaveValue('0.40')
    await type(page, 'Catch, mm', '0.1')
    await expect(sentence(page)).toContainText('catch 0.40 mm to join it')
    await page.getByRole('button', { name: 'Run again' }).click()
    await expect(page.getByRole('status').first()).toContainText('run again')
    await page.getByRole('radio', { name: 'Pieces', exact: true }).click()
    await expect(pieces(page).first()).toContainText('not watertight')
})

test('an empty mirror is refused before it happens, with the reason', async ({ page }) => {
    await project(page, 'post', 'lone post')
    await kind(page, 'Mirror')
    await choose(page, 'Keep', 'Behind')
    await expect(sentence(page)).toHaveText('Nothing of Lone post is on the kept side: it lies from 0.0 to 40.0 mm ahead of the plane. Keep the other side, or move the plane.')
    await expect(page.getByRole('button', { name: 'Mirror', exact: true })).toBeDisabled()
    await choose(page, 'Through', 'high')
    await expect(sentence(page)).toContainText('Keeps what is behind')
    await expect(page.getByRole('button', { name: 'Mirror', exact: true })).toBeEnabled()
    await mirror(page, /^1 piece, watertight/)
    await expect(card(page, 'lone-post-A')).toContainText('80.0 × 30.0 × 20.0 mm')
})

test('a quarter becomes a whole; halves as pieces of their own; copies about an axis', async ({ page }) => {
    await project(page, 'quarter', 'quarter')
    await expect(card(page, 'quarter')).toContainText('not watertight')
    await kind(page, 'Mirror')
    await page.getByLabel('Also over Y').check()
    await expect(sentence(page)).toContainText('over 2 planes, joined into one body')
    await expect(page.locator('[data-images]')).toHaveAttribute('data-images', '3')
    await mirror(page, /^1 piece, watertight/)
    await expect(card(page, 'quarter-A')).toContainText('80.0 × 60.0 × 20.0 mm')

    await choose(page, 'Through', 'centre')
    await choose(page, 'Gives', 'Two')
    await page.getByLabel('Also over Y').uncheck()
    await expect(sentence(page)).toContainText('as two pieces')
    await mirror(page, /^2 pieces, both watertight/)
    await expect(card(page, 'quarter-A-A')).toContainText('40.0 × 60.0 × 20.0 mm')
    await expect(card(page, 'quarter-A-B')).toContainText('40.0 × 60.0 × 20.0 mm')
    await page.keyboard.press('Control+z')
    await expect(pieces(page)).toHaveCount(1)

    await choose(page, 'Make', 'Copies')
    await type(page, 'Copies, ×', '2')
    // It stands around the axis.
    await expect(sentence(page)).toHaveText('Makes 2 copies of 1 of 1 piece about Z, joined where they meet. It takes 360° of the turn, more than the 180.0° of each copy: they overlap or interlock.')
    await page.getByRole('button', { name: 'Copy', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText('2 pieces')
    await expect(page.getByRole('status').first()).toContainText('what was added overlaps what was there')
})

test('the colours of a symmetry have a legend, and the best plane is taken', async ({ page }) => {
    await project(page, 'jar', 'even ring')
    await kind(page, 'Mirror')
    await type(page, 'Distance from the origin, mm', '3')
    await page.getByRole('button', { name: 'over this plane' }).click()
    await expect(page.getByRole('img', { name: /Colours from 0 to/ })).toBeVisible({ timeout: 90_000 })
    await expect.poll(async () => Number((await page.locator('[data-number=deviation]').innerText()).replace(' mm', ''))).toBeGreaterThan(3)
    await page.getByRole('button', { name: 'find the best plane' }).click()
    await expect(page.locator('[data-number=deviation]')).toHaveText(/^0\.\d\d mm$/)
})
