import { expect, test, type Page } from '@playwright/test'
import { card, cut, look, pieces, project, sentence, type } from './helpers'

// Requests that are under way when interception begins may be lost: so it is on from the beginning.
test.beforeEach(({ page }) => page.route(/never-asked/, (route) => route.abort()))
test.afterEach(({ page }) => page.unrouteAll({ behavior: 'ignoreErrors' }))

const faces = (page: Page) => page.getByRole('list', { name: 'Common faces' }).getByRole('listitem')

/** A post in two halves, at the pegs. */
async function halved(page: Page, name: string): Promise<void> {
    await project(page, 'post', name)
    await cut(page, '2 pieces')
    await page.getByRole('tab', { name: 'Plate' }).click()
    await page.getByRole('radio', { name: 'Pegs', exact: true }).click()
}

test('pegs find their places, are made, changed into dowels, and taken back', async ({ page }) => {
    await halved(page, 'pegged post')
    await expect(sentence(page)).toHaveText('Makes 2 pins across 1 face.')
    await expect(faces(page)).toHaveCount(1)
    await expect(faces(page)).toContainText('one way')
    await expect(page.locator('.view')).toHaveAttribute('data-images', /[1-9]/)
    // Alike they go in the wrong way round as well, and that is said.
    await page.getByText('goes one way', { exact: true }).click()
    await expect(sentence(page)).toContainText('1 face goes together in more than one way.')
    await page.getByText('goes one way', { exact: true }).click()
    // Magnets are chosen by what is sold.
    await page.getByRole('radiogroup', { name: 'What holds the pieces' }).getByRole('radio', { name: 'Magnets' }).click()
    await page.getByLabel('Magnet', { exact: true }).selectOption('6 × 2 mm')
    await expect(faces(page)).toContainText('2 of 6.0 × 2.0')
    await expect(sentence(page)).toContainText('Makes 2 pairs of pockets across 1 face.')
    await page.getByRole('radiogroup', { name: 'What holds the pieces' }).getByRole('radio', { name: 'Pins' }).click()
    // Too wide for the face: one sentence, and the button is off.
    await page.getByRole('radiogroup', { name: 'Size of the pegs' }).getByRole('radio', { name: 'own' }).click()
    await type(page, 'Diameter, mm', '60')
    await expect(sentence(page)).toContainText('there is no room for a peg')
    await expect(page.getByRole('button', { name: 'Make pegs' })).toBeDisabled()
    await type(page, 'Diameter, mm', '5')
    await type(page, 'Length, mm', '4')
    await expect(faces(page)).toContainText('2 of 5.0 × 4.0, 3.5 × 4.0')
    await page.getByRole('button', { name: 'Make 2 pegs' }).click()
    await expect(page.getByRole('status')).toContainText('Pegged: 2 pieces, both watertight, 2 pegs across 1 face.')
    await expect(sentence(page)).toHaveText('The pegs are there. Change a setting for the next ones.')

    await page.getByRole('radio', { name: 'Lineage' }).click()
    await expect(page.locator('[data-step="2"]').first()).toContainText('Pegs 5 × 4')
    await page.getByRole('button', { name: 'Edit step 2' }).first().click()
    await page.getByRole('radiogroup', { name: 'What holds the pieces' }).getByRole('radio', { name: 'Dowels' }).click()
    await expect(sentence(page)).toContainText('Makes 2 dowels across 1 face. Runs step 2 and what follows it again.')
    await page.getByRole('button', { name: 'Run again' }).click()
    await page.getByRole('radio', { name: 'Pieces' }).click()
    await expect(pieces(page)).toHaveCount(4)
    await expect(card(page, 'dowel-2-1')).toContainText('watertight')
    await page.keyboard.press('Control+z')
    await expect(pieces(page)).toHaveCount(2)
})

test('a peg goes where it is clicked, and there is nothing to join of one piece', async ({ page }) => {
    await project(page, 'post', 'clicked post')
    await page.getByRole('tab', { name: 'Plate' }).click()
    await page.getByRole('radio', { name: 'Pegs', exact: true }).click()
    await expect(sentence(page)).toHaveText('There are no pieces that share a face: cut first.')
    await page.getByRole('tab', { name: 'Cut' }).click()
    await cut(page, '2 pieces')
    await page.getByRole('tab', { name: 'Plate' }).click()
    await expect(sentence(page)).toHaveText('Makes 2 pins across 1 face.')
    await look(page, 'top')
    await page.getByRole('button', { name: 'click places…' }).click()
    const view = await page.locator('canvas').boundingBox()
    if (!view) throw new Error('there is no view')
    await page.mouse.click(view.x + view.width / 2, view.y + view.height / 2)
    // The skin above is no common face: it is said how far off that is.
    await expect(sentence(page)).toContainText('lies on no common face')
    await page.getByRole('button', { name: 'done' }).first().click()
    await type(page, 'Peg 1, Z', '10')
    await expect(sentence(page)).toHaveText('Makes 1 pin across 1 face. 1 face goes together in more than one way.')
    await page.getByRole('button', { name: 'Make 1 peg' }).click()
    await expect(page.getByRole('status')).toContainText('1 peg across 1 face, 1 face goes together in more than one way.')
})

test('pegs are moved, added and taken away on the drawing of their face', async ({ page }) => {
    await halved(page, 'drawn pegs')
    await expect(sentence(page)).toHaveText('Makes 2 pins across 1 face.')
    const face = page.getByRole('group', { name: /^The common face, 1.200 mm²$/ })
    const peg = (n: number) => face.getByRole('button', { name: new RegExp(`^Peg ${n}:`) })
    await expect(peg(2)).toBeVisible()
    const middle = async (n: number) => {
        const box = await peg(n).boundingBox()
        if (!box) throw new Error('the peg is not drawn')
        return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
    }
    // By keys: a millimetre; the others stay where they were found.
    const first = await middle(1)
    const second = await middle(2)
    await peg(1).press('ArrowUp')
    const list = page.getByRole('list', { name: 'Places by hand' }).getByRole('listitem')
    await expect(list).toHaveCount(2)
    await expect.poll(async () => (await middle(1)).y).toBeLessThan(first.y - 1)
    expect((await middle(2)).x).toBeCloseTo(second.x, 0)
    // By the mouse, out of the face: it is said that there is no room, and brought back.
    const from = await middle(1)
    await page.mouse.move(from.x, from.y)
    await page.mouse.down()
    await page.mouse.move(from.x + 4, from.y + 10, { steps: 4 })
    await page.mouse.up()
    await expect.poll(async () => (await middle(1)).y).toBeGreaterThan(from.y + 4)
    await expect(sentence(page)).toContainText('across 1 face.')
    await peg(2).press('Delete')
    await expect(list).toHaveCount(1)
    await expect(sentence(page)).toHaveText('Makes 1 pin across 1 face. 1 face goes together in more than one way.')
})

test('faces are marked on both sides, beside the pegs', async ({ page }) => {
    await halved(page, 'marked post')
    await page.getByRole('button', { name: 'Make 2 pegs' }).click()
    await expect(page.getByRole('status')).toContainText('2 pegs across 1 face.')
    await page.getByRole('radio', { name: 'Marks', exact: true }).click()
    await expect(sentence(page)).toHaveText('Engraves a number on 1 face, the same on both pieces.')
    await type(page, 'First number', '12')
    await expect(faces(page)).toContainText('12 ↑')
    await page.getByRole('radiogroup', { name: 'How marks are made' }).getByRole('radio', { name: 'Raised' }).click()
    await expect(sentence(page)).toHaveText('Raises a number on 1 face, the same on both pieces.')
    await page.getByRole('button', { name: 'Make 1 mark' }).click()
    await expect(page.getByRole('status')).toContainText('Marked: 2 pieces, both watertight, 1 face.')
    await page.getByRole('radio', { name: 'Lineage' }).click()
    await expect(page.locator('[data-step="3"]').first()).toContainText('Raised marks from 12, with arrows')
    await page.getByRole('button', { name: 'Edit step 3' }).first().click()
    await page.getByText('with an arrow', { exact: true }).click()
    await expect(sentence(page)).toContainText('Runs step 3 and what follows it again.')
    await page.getByRole('button', { name: 'Run again' }).click()
    await expect(page.locator('[data-step="3"]').first()).toHaveText(/Raised marks from 12( ·|$)/)
})
