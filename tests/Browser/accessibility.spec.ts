import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { cut, pieces, project, settled } from './helpers'

// axe-core (Deque Systems, MPL-2.0): rules of WCAG 2.1 A and AA. Nothing serious or critical may be found, by day or by night.
// What is seen while something still fades is looked at again: a fault stays. One look can take half a minute on a busy machine.
async function sound(page: Page, where: string): Promise<void> {
    let places: string[] = []
    for (let looks = 0; looks === 0 || (places.length > 0 && looks < 4); looks++) {
        await settled(page)
        const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']).analyze()
        const grave = violations.filter((one) => one.impact === 'serious' || one.impact === 'critical')
        places = grave.flatMap(({ id, nodes }) => nodes.map((node) => `${id}: ${node.html.slice(0, 120)} ${node.any.map((one) => one.message).join(' ')}`))
    }
    expect(places, where).toEqual([])
}

test('every main view passes an accessibility run, by day and by night', async ({ page }) => {
    test.setTimeout(2_400_000)
    await project(page, 'post', 'plain post')
    await cut(page, '2 pieces')
    for (const theme of ['Day', 'Night']) {
        await page.getByRole('button', { name: theme, exact: true }).click()
        await page.getByRole('radio', { name: 'Pieces', exact: true }).click()
        await pieces(page).first().locator('button.body').click()
        await sound(page, `${theme}, Cut`)
        await page.getByRole('radio', { name: 'Series' }).click()
        await page.getByLabel('Wander').setChecked(true)
        await page.getByRole('radio', { name: 'Lineage', exact: true }).click()
        await expect(page.getByRole('slider', { name: 'Stop 1' })).toBeVisible()
        await settled(page)
        await sound(page, `${theme}, series and lineage`)
        await page.getByRole('radio', { name: 'Flat', exact: true }).click()
        await page.getByRole('tab', { name: 'Check' }).click()
        await expect(page.locator('[data-part=soundness]')).toHaveText(/^Sound/)
        await sound(page, `${theme}, Check`)
        await page.getByRole('tab', { name: 'Motion' }).click()
        if (theme === 'Day') for (const layer of ['spread', 'wave', 'keys']) await page.locator('.add').getByRole('button', { name: layer, exact: true }).click()
        await expect(page.locator('[data-part=sentence]')).toHaveText(/^2 pieces in 100 frames/)
        await page.getByRole('button', { name: theme === 'Day' ? 'wave' : 'keys', exact: true }).first().click()
        await sound(page, `${theme}, Motion`)
        await page.getByRole('tab', { name: 'Cut' }).click()
        for (const kind of ['Bent', 'Drawn', 'Cells', 'Mirror', 'Flat']) {
            await page.getByRole('radio', { name: kind, exact: true }).click()
            await settled(page)
            await sound(page, `${theme}, ${kind}`)
        }
        await page.getByRole('button', { name: 'Take out…' }).click()
        await expect(page.getByRole('dialog')).toBeVisible()
        await settled(page)
        await sound(page, `${theme}, taking out`)
        await page.keyboard.press('Escape')
        await page.getByRole('button', { name: 'Inside…' }).click()
        await page.getByRole('radio', { name: theme === 'Day' ? 'Oak' : 'Colour', exact: true }).click()
        await settled(page)
        await sound(page, `${theme}, inside`)
        await page.keyboard.press('Escape')
        await page.getByRole('button', { name: 'Keys' }).click()
        await settled(page)
        await sound(page, `${theme}, keys`)
        await page.keyboard.press('Escape')
    }
    await page.goto('/')
    await expect(page.locator('.project').first()).toBeVisible()
    for (const theme of ['Day', 'Night']) {
        await page.getByRole('button', { name: theme, exact: true }).click()
        await sound(page, `${theme}, shelf`)
    }
})
