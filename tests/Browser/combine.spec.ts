import { expect, test, type Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { card, dragArrow, pieces, project, sentence, still, type } from './helpers'

/** Lets go of several files at once. */
async function dropAll(page: Page, files: Record<string, Buffer>, where = '[data-part=drop]'): Promise<void> {
    const transfer = await page.evaluateHandle((files) => {
        const data = new DataTransfer()
        for (const [name, base64] of files) data.items.add(new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], name))
        return data
    }, Object.entries(files).map(([name, bytes]) => [name, bytes.toString('base64')]))
    await page.dispatchEvent(where, 'drop', { dataTransfer: transfer })
}

const made = (of: string) => execFileSync('php', ['-r', `require "vendor/autoload.php"; use Tests\\Support\\Solids; $file = tempnam(sys_get_temp_dir(), "combine"); Isotome\\Format\\StlWriter::write(${of}, $file); readfile($file); unlink($file);`])

/** A miller of overlapping parts, and one that stands apart. */
const figure = () => ({
    'miller.stl': made('Solids::box(20, 20, 30)'), 'head.stl': made('Solids::sphere(9, 3, 10.0, 10.0, 36.0)'), 'sack.stl': made('Solids::box(14, 14, 14, [15.0, 3.0, 20.0])'), 'post.stl': made('Solids::box(4, 4, 40, [60.0, 0.0, 0.0])'),
})

async function bringIn(page: Page): Promise<void> {
    await page.goto('/')
    await dropAll(page, figure())
    await expect(page.getByRole('dialog')).toBeVisible()
    await page.getByRole('button', { name: 'Make the project' }).click()
    await expect(pieces(page)).toHaveCount(4)
}

async function pick(page: Page, names: string[]): Promise<void> {
    for (const name of names) await card(page, name).getByRole('button').first().click({ modifiers: ['Control'] })
}

/** The card of the Cut station, with what is picked. */
async function combine(page: Page, names: string[]) {
    await pick(page, names)
    await page.getByRole('button', { name: 'combine…' }).click()
    return page.getByRole('tabpanel')
}

test('overlapping parts: what meets what is told and shown before they are united, undone and done again', async ({ page }) => {
    await bringIn(page)
    const at = await combine(page, ['miller', 'head', 'sack', 'post'])
    await expect(sentence(page)).toHaveText('Makes one piece of 3. Post meets no other and stays as it is.')
    // 5 × 14 × 10 of the sack are within the miller.
    await expect(at.getByRole('list', { name: 'Pairs that meet' }).locator('li', { hasText: 'Miller · Sack' })).toContainText('700.0 mm³')
    await expect(page.locator('.view')).toHaveAttribute('data-images', '1')
    await at.getByRole('button', { name: 'Unite', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText('United 3 pieces: 1 piece, watertight.')
    await expect(sentence(page)).toHaveText('They are united. Set the next one.')
    await expect(pieces(page)).toHaveCount(2)
    await expect(card(page, 'miller-U')).toBeVisible()
    await expect(card(page, 'post')).toBeVisible()
    await page.getByRole('button', { name: 'Undo: the uniting' }).click()
    await expect(pieces(page)).toHaveCount(4)
})

test('a piece is taken out of another, and kept when the step is edited; what cannot be done is said', async ({ page }) => {
    await bringIn(page)
    const at = await combine(page, ['miller', 'post'])
    await expect(sentence(page)).toHaveText('None of the 2 pieces meets another: move them until they overlap or touch face to face.')
    await expect(at.getByRole('button', { name: 'Unite', exact: true })).toBeDisabled()

    await combine(page, ['post', 'sack'])
    await at.getByRole('radio', { name: 'Subtract' }).click()
    await expect(sentence(page)).toHaveText('Mark what is to be taken out of the others.')
    await expect(at.getByRole('button', { name: 'Subtract', exact: true })).toBeDisabled()
    await at.locator('li', { hasText: 'Sack' }).getByText('take out').click()
    await expect(sentence(page)).toHaveText('Takes 700.0 mm³ out of 1 piece.')
    await at.getByRole('button', { name: 'Subtract', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText('Subtracted: 1 piece, watertight.')
    await expect(pieces(page)).toHaveCount(3)
    // 20 × 20 × 30 without the 5 × 14 × 10 of the sack.
    await expect(card(page, 'miller-A')).toContainText('11.3 cm³')

    await page.getByRole('radio', { name: 'Lineage' }).click()
    await expect(page.getByText('Take out sack').first()).toBeVisible()
    await page.getByRole('button', { name: 'Edit step 1' }).first().click()
    await expect(at).toContainText('Step 1')
    await at.getByText('Keep what is taken out, as pieces').click()
    await at.getByLabel('Gap all round, mm').fill('0.5')
    await at.getByLabel('Gap all round, mm').press('Enter')
    // 5.5 × 15 × 10.5 now.
    await expect(sentence(page)).toHaveText('Takes 866.3 mm³ out of 1 piece. Runs step 1 and what follows it again.')
    await at.getByRole('button', { name: 'Run again' }).click()
    await page.getByRole('radio', { name: 'Pieces' }).click()
    await expect(pieces(page)).toHaveCount(4)
    await expect(card(page, 'sack')).toBeVisible()
    await expect(card(page, 'miller-A')).toContainText('11.1 cm³')
})

test('a figure of twelve parts, one of them open: it is named, mended, and all are united', async ({ page }) => {
    const parts = JSON.parse(execFileSync('php', ['-r', 'require "vendor/autoload.php"; $all = []; foreach (Demo\\MillFigure::parts() as $name => $part) { $file = tempnam(sys_get_temp_dir(), "figure"); Isotome\\Format\\StlWriter::write($part, $file); $all["$name.stl"] = base64_encode(file_get_contents($file)); unlink($file); } echo json_encode($all);'], { maxBuffer: 1 << 26 }).toString()) as Record<string, string>
    await page.goto('/')
    await dropAll(page, Object.fromEntries(Object.entries(parts).map(([name, base64]) => [name, Buffer.from(base64, 'base64')])))
    await expect(page.getByRole('dialog')).toBeVisible()
    await page.getByRole('button', { name: 'Make the project' }).click()
    await expect(pieces(page)).toHaveCount(12)

    await page.getByRole('tab', { name: 'Cut' }).click()
    await page.getByRole('radio', { name: 'Combine' }).click()
    const at = page.getByRole('tabpanel')
    await expect(sentence(page)).toHaveText('Sack is not watertight: mend it first, or hide it.')
    await expect(at.getByRole('button', { name: 'Unite', exact: true })).toBeDisabled()
    await at.getByRole('button', { name: 'Mend Sack' }).click()
    await page.getByRole('button', { name: 'Mend all…' }).click()
    await page.getByRole('button', { name: 'Do it' }).click()
    await expect(card(page, 'sack')).toContainText('watertight')
    await expect(card(page, 'sack')).not.toContainText('not watertight')

    await page.getByRole('tab', { name: 'Cut' }).click()
    await expect(sentence(page)).toHaveText('Makes one piece of 12.')
    await at.getByRole('button', { name: 'Unite', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText('United 12 pieces: 1 piece, watertight.')
    await expect(pieces(page)).toHaveCount(1)
})

test('a cutter is dropped on an open project, placed by numbers and by its arrow, taken out with a gap, and all of it is edited', async ({ page }) => {
    await project(page, 'post', 'bored post')
    await dropAll(page, { 'cutter.stl': made('Solids::box(10, 10, 80, [60.0, 10.0, -30.0])') }, 'main')
    const dialog = page.getByRole('dialog')
    await expect(dialog).toContainText('10.00 × 10.00 × 80.00 mm')
    await dialog.getByRole('button', { name: 'Bring in', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText('Brought in, watertight.')
    await expect(pieces(page)).toHaveCount(2)

    await card(page, 'cutter').getByRole('button').first().click()
    await page.getByRole('radio', { name: 'Place', exact: true }).click()
    await page.getByRole('radio', { name: 'Move', exact: true }).click()
    await type(page, 'Along X, mm', '-45')
    await page.getByRole('button', { name: 'front', exact: true }).click()
    await still(page)
    await dragArrow(page, 'Z', { x: 0, y: 20 }, 0, -15)
    await expect(sentence(page)).toContainText('Moves 1 of 2 pieces by −45.00, 0.00, ')
    expect(Number(await page.getByLabel('Along Z, mm').inputValue())).toBeGreaterThan(0.5)
    await page.getByRole('button', { name: 'Move', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText('Moved: 1 piece, watertight')

    // It stays picked, to be moved on.
    await expect(page.getByText('1 picked')).toBeVisible()
    await page.getByRole('button', { name: 'none', exact: true }).click()
    await page.getByRole('radio', { name: 'Combine', exact: true }).click()
    await page.getByRole('radio', { name: 'Subtract', exact: true }).click()
    const at = page.getByRole('tabpanel')
    await at.locator('li', { hasText: 'Cutter' }).getByText('take out').click()
    // 10 × 10 through the 20 of the post; with the gap 11 × 11.
    await expect(at.locator('[data-number=outcome]')).toHaveText('2.0 cm³')
    await type(page, 'Gap all round, mm', '0.5')
    await expect(at.locator('[data-number=outcome]')).toHaveText('2.4 cm³')
    await at.getByRole('button', { name: 'Subtract', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText('Subtracted: 1 piece, watertight.')
    await expect(card(page, 'bored-post-A')).toContainText('21.6 cm³')

    // The cutter is moved elsewhere, half out of the post; what follows is done again.
    await page.getByRole('radio', { name: 'Lineage' }).click()
    await page.getByRole('button', { name: 'Edit step 1' }).first().click()
    await type(page, 'Along X, mm', '-65')
    await page.getByRole('button', { name: 'Run again' }).click()
    await page.getByRole('radio', { name: 'Pieces' }).click()
    // 5.5 × 11 × 20 of it are within.
    await expect(card(page, 'bored-post-A')).toContainText('22.8 cm³')
    await page.getByRole('radio', { name: 'Lineage' }).click()
    await page.getByRole('button', { name: 'Edit step 2' }).first().click()
    await expect(at.locator('[data-number=outcome]')).toHaveText('1.2 cm³')
    await type(page, 'Gap all round, mm', '0')
    await page.getByRole('button', { name: 'Run again' }).click()
    await page.getByRole('radio', { name: 'Pieces' }).click()
    await expect(card(page, 'bored-post-A')).toContainText('23.0 cm³')
})

test('a piece cuts another along its skin, and what is within alone is kept when the step is edited', async ({ page }) => {
    await bringIn(page)
    const at = await combine(page, ['miller', 'sack'])
    await at.getByRole('radio', { name: 'Divide' }).click()
    await expect(sentence(page)).toHaveText('Mark what is to cut the others.')
    await at.locator('li', { hasText: 'Sack' }).getByText('cuts').click()
    await expect(sentence(page)).toHaveText('Cuts 1 piece along the skin of what is marked: 700.0 mm³ of it within.')
    await at.getByRole('button', { name: 'Divide', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText('2 pieces, both watertight')
    await expect(card(page, 'miller-A')).toContainText('700.0 mm³')
    await expect(card(page, 'miller-B')).toContainText('11.3 cm³')
    await expect(card(page, 'sack')).toBeVisible()

    await page.getByRole('radio', { name: 'Lineage' }).click()
    await expect(page.getByText('Cut with sack').first()).toBeVisible()
    await page.getByRole('button', { name: 'Edit step 1' }).first().click()
    await at.getByRole('radio', { name: 'Within' }).click()
    await at.getByRole('button', { name: 'Run again' }).click()
    await expect(page.getByText('Cut with sack, within').first()).toBeVisible()
    await page.getByRole('radio', { name: 'Pieces' }).click()
    await expect(card(page, 'miller-B')).toHaveCount(0)
    await expect(card(page, 'miller-A')).toContainText('700.0 mm³')
})

test('one piece cuts two others at once', async ({ page }) => {
    await bringIn(page)
    const at = await combine(page, ['miller', 'head', 'sack'])
    await at.getByRole('radio', { name: 'Divide' }).click()
    await at.locator('li', { hasText: 'Sack' }).getByText('cuts').click()
    await expect(sentence(page)).toContainText('Cuts 2 pieces along the skin of what is marked')
    await at.getByRole('button', { name: 'Divide', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText('4 pieces, all watertight')
    for (const name of ['miller-A', 'miller-B', 'head-A', 'head-B', 'sack']) await expect(card(page, name)).toBeVisible()
    await expect(card(page, 'miller-A')).toContainText('700.0 mm³')
})
