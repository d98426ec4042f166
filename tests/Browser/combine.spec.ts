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

test('overlapping parts are united, which is said, undone and done again', async ({ page }) => {
    await bringIn(page)
    await pick(page, ['miller', 'head', 'sack', 'post'])
    await page.getByRole('button', { name: 'combine…' }).click()
    const dialog = page.getByRole('dialog')
    await expect(dialog).toContainText('Combine 4 pieces')
    await dialog.getByRole('button', { name: 'Unite', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText('United 3 pieces: 1 piece, watertight.')
    await expect(pieces(page)).toHaveCount(2)
    await expect(card(page, 'miller-U')).toBeVisible()
    await expect(card(page, 'post')).toBeVisible()
    await page.getByRole('button', { name: 'Undo: the uniting' }).click()
    await expect(pieces(page)).toHaveCount(4)
})

test('a piece is taken out of another, and kept when the step is edited; what cannot be done is said in the dialog', async ({ page }) => {
    await bringIn(page)
    await pick(page, ['miller', 'post'])
    await page.getByRole('button', { name: 'combine…' }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByRole('button', { name: 'Unite', exact: true }).click()
    await expect(dialog.getByRole('alert')).toContainText('none of the 2 pieces meets another; move them until they overlap or touch face to face.')
    await dialog.getByRole('button', { name: 'Leave it' }).click()

    await pick(page, ['post', 'sack'])
    await page.getByRole('button', { name: 'combine…' }).click()
    await dialog.getByRole('radio', { name: 'Subtract' }).click()
    await expect(dialog.getByRole('button', { name: 'Subtract', exact: true })).toBeDisabled()
    await dialog.locator('li', { hasText: 'Sack' }).getByText('take out').click()
    await dialog.getByRole('button', { name: 'Subtract', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText('Subtracted: 1 piece, watertight.')
    await expect(pieces(page)).toHaveCount(3)
    // 20 × 20 × 30 without the 5 × 14 × 10 of the sack.
    await expect(card(page, 'miller-A')).toContainText('11.3 cm³')

    await page.getByRole('radio', { name: 'Lineage' }).click()
    await expect(page.getByText('Take out sack').first()).toBeVisible()
    await page.getByRole('button', { name: 'Edit step 1' }).first().click()
    await expect(dialog).toContainText('Step 1: combine')
    await dialog.getByText('Keep what is taken out, as pieces of their own').click()
    await dialog.getByLabel('Gap all round, mm').fill('0.5')
    await dialog.getByLabel('Gap all round, mm').press('Enter')
    await expect(dialog).toContainText('What is marked is widened by 0.5 mm all round and taken out of the others')
    await dialog.getByRole('button', { name: 'Run again' }).click()
    await page.getByRole('radio', { name: 'Pieces' }).click()
    await expect(pieces(page)).toHaveCount(4)
    await expect(card(page, 'sack')).toBeVisible()
    // Without 5.5 × 15 × 11 now.
    await expect(card(page, 'miller-A')).toContainText('11.1 cm³')
})
