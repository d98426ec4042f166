import { expect, test, type Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { card, pieces } from './helpers'

/** Lets go of several files at once. */
async function dropAll(page: Page, files: Record<string, Buffer>): Promise<void> {
    const transfer = await page.evaluateHandle((files) => {
        const data = new DataTransfer()
        for (const [name, base64] of files) data.items.add(new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], name))
        return data
    }, Object.entries(files).map(([name, bytes]) => [name, bytes.toString('base64')]))
    await page.dispatchEvent('[data-part=drop]', 'drop', { dataTransfer: transfer })
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

const sentence = (page: Page) => page.locator('[data-part=sentence]')

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
    await page.getByRole('button', { name: 'none', exact: true }).click({ timeout: 3000 }).catch(() => undefined)
    await expect(sentence(page)).toHaveText('Makes one piece of 12.')
    await at.getByRole('button', { name: 'Unite', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText('United 12 pieces: 1 piece, watertight.')
    await expect(pieces(page)).toHaveCount(1)
})
