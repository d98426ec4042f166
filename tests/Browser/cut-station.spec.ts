import { expect, test } from '@playwright/test'
import { dragGrip, drop, field, held, hold, letGo, pieces, project, sentence, still, stl, type } from './helpers'

test.afterEach(letGo)
// Requests that are under way when interception begins may be lost: so it is on from the beginning.
test.beforeEach(({ page }) => page.route(/never-asked/, (route) => route.abort()))
// What is still asked when a test ends is of no interest any more.
test.afterEach(({ page }) => page.unrouteAll({ behavior: 'ignoreErrors' }))

test('the rim tilts the blade in steps of 5 degrees', async ({ page }) => {
    await project(page, 'post', 'rim post')
    await page.getByRole('button', { name: 'front', exact: true }).click()
    await still(page)
    // From the front the rim is a circle; the grip stands straight up at 27 % of the size, the rim at 36 %.
    const grip = await page.locator('[data-part=grip]').boundingBox()
    const host = await page.locator('canvas').boundingBox()
    if (!grip || !host) throw new Error('no view')
    const centre = { x: host.x + host.width / 2, y: host.y + host.height / 2 }
    const radius = ((centre.y - grip.y) / 0.27) * 0.36 * 1.04
    const at = (degrees: number) => [centre.x + radius * Math.sin((degrees * Math.PI) / 180), centre.y - radius * Math.cos((degrees * Math.PI) / 180)] as const
    await page.mouse.move(...at(40))
    await page.mouse.down()
    await page.mouse.move(...at(30), { steps: 4 })
    await page.mouse.move(...at(21), { steps: 4 })
    await page.mouse.up()
    await expect(field(page, 'Tilt, °')).toHaveValue('20.0')
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece, keeps both sides, sealed.')
})

test('a cut takes the picked pieces only, and says so', async ({ page }) => {
    await project(page, 'post', 'three posts')
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await expect(pieces(page)).toHaveCount(2)
    await pieces(page).nth(1).locator('button.body').click()
    await page.getByRole('radio', { name: 'X', exact: true }).click()
    await expect(sentence(page)).toHaveText('Cuts 1 of 2 pieces, keeps both sides, sealed.')
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await expect(pieces(page)).toHaveCount(3)
    await expect(pieces(page).nth(0)).toContainText('Three posts A')
    await expect(pieces(page).nth(2)).toContainText('Three posts B-B')
})

test('a click in the view picks the piece there', async ({ page }) => {
    await project(page, 'post', 'picked post')
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await expect(pieces(page)).toHaveCount(2)
    await page.getByRole('button', { name: 'front', exact: true }).click()
    await still(page)
    const host = await page.locator('canvas').boundingBox()
    if (!host) throw new Error('no view')
    await page.mouse.click(host.x + host.width / 2, host.y + host.height / 2 - 130)
    await expect(pieces(page).nth(1)).toHaveClass(/picked/)
    await expect(pieces(page).nth(0)).not.toHaveClass(/picked/)
})

test('a whole cut without a mouse', async ({ page }) => {
    await project(page, 'post', 'keyed post')
    await page.keyboard.press('1')
    await expect(field(page, 'Place, mm')).toHaveValue('20.00')
    await page.keyboard.press('ArrowUp')
    await page.keyboard.press('Shift+ArrowDown')
    await expect(field(page, 'Place, mm')).toHaveValue('11.00')
    await page.keyboard.press('ArrowLeft')
    await expect(field(page, 'Tilt, °')).toHaveValue('85.0')
    await page.keyboard.press('Control+Enter')
    await expect(page.getByRole('status')).toContainText('2 pieces, both watertight')
    await page.keyboard.press('n')
    await expect(pieces(page).nth(1)).toHaveClass(/away/)
    await page.keyboard.press('n')
    await expect(pieces(page).nth(0)).toHaveClass(/away/)
    await page.keyboard.press('a')
    await expect(pieces(page).nth(0)).not.toHaveClass(/away/)
    await page.keyboard.press('Control+z')
    await expect(pieces(page)).toHaveCount(1)
    await page.keyboard.press('?')
    await expect(page.getByRole('dialog')).toContainText('lay it through a line across the view')
})

test('an open mesh is cut, and where it stays open is said before and after', async ({ page }) => {
    await page.goto('/')
    await drop(page, 'open post.stl', stl('open'))
    await expect(page.getByRole('dialog')).toContainText('not watertight: 3 open edges')
    await page.getByRole('button', { name: 'Make the project' }).click()
    await expect(pieces(page)).toContainText('not watertight: 3 open edges')
    await expect(sentence(page)).toContainText('1 outline cannot be closed: the mesh has open edges there.')
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await expect(page.getByRole('status')).toContainText('1 outline could not be closed')
})

test('outline keeps a sheet; a kerf is removed; the recipe tells both', async ({ page }) => {
    await project(page, 'post', 'sheet post')
    await type(page, 'Kerf, mm', '0.5')
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece, keeps both sides, removes 0.5 mm between, sealed.')
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await expect(page.getByRole('status')).toContainText('2.500 % volume removed by the kerf')
    await page.getByRole('radio', { name: 'X', exact: true }).click()
    await page.getByRole('radio', { name: 'Outline' }).click()
    await expect(sentence(page)).toHaveText('Cuts 2 of 2 pieces, keeps only the section face, as a flat sheet.')
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await expect(page.getByRole('status')).toContainText('2 pieces, none watertight')
    await expect(pieces(page).first()).toContainText(/A-A\s*0\.0 × 30\.0 × 9\.8 mm/)
    const href = await page.getByRole('link', { name: 'download', exact: true }).getAttribute('href')
    const recipe = await (await page.request.get(href ?? '')).json()
    expect(recipe.steps.map((step: { keep: string; kerf: number }) => [step.keep, step.kerf])).toEqual([['both', 0.5], ['outline', 0.5]])
})

test('damaged files are refused with one sentence and the shelf stays as it is', async ({ page }) => {
    await page.goto('/')
    await expect(page.locator('.project').first()).toBeVisible()
    const before = await page.locator('.project').count()
    const whole = stl('post')
    const nan = Buffer.from(whole)
    nan.writeUInt32LE(0x7fc00000, 84 + 12)
    for (const [name, bytes, says] of [
        ['cut.stl', whole.subarray(0, 300), 'The STL file cut.stl is cut short: its header promises 12 triangles and it holds 4; copy or export it again.'],
        ['nothing.stl', Buffer.alloc(0), 'The file nothing.stl is empty; export the mesh again.'],
        ['numbers.stl', nan, 'The STL file numbers.stl has a coordinate that is not a finite number in triangle 1; mend or export it again.'],
        ['jar.doc', Buffer.from('x'), 'The file jar.doc is not named as one of the formats that are read and written (stl, obj, ply, off, 3mf, glb); convert or rename it.'],
    ] as const) {
        await drop(page, name, bytes)
        await expect(page.getByRole('alert')).toHaveText(says)
        await expect(page.getByRole('dialog')).toHaveCount(0)
    }
    await page.reload()
    await expect(page.locator('.project')).toHaveCount(before)
})

test('a cut shows its progress, is followed after a reload, and is there once', async ({ page }) => {
    await project(page, 'post', 'followed post')
    hold('starting')
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await held('starting')
    await expect(page.getByRole('progressbar')).toBeVisible()
    await expect(sentence(page)).toHaveText('A step is at work.')
    await page.reload()
    await expect(page.getByRole('progressbar')).toBeVisible()
    letGo()
    await expect(page.getByText('2 pieces, all watertight')).toBeVisible()
    await expect(pieces(page)).toHaveCount(2)
})

test('a cut can be stopped and leaves nothing', async ({ page }) => {
    await project(page, 'post', 'stopped post')
    hold('starting')
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await held('starting')
    await page.getByRole('button', { name: 'stop', exact: true }).click()
    await expect(page.getByRole('alert')).toHaveText(/Stopped; nothing was changed\./)
    await expect(pieces(page)).toHaveCount(1)
    await expect(page.getByRole('button', { name: 'Cut', exact: true })).toBeEnabled()
})

test('the heron: dragged, seen in glass, cut, spread', async ({ page }) => {
    await page.goto('/')
    await page.getByRole('link', { name: 'Open Heron' }).click()
    await expect(pieces(page)).toContainText('346.6 × 129.2 × 420.0 mm')
    await still(page)
    await dragGrip(page, 0, 40)
    await page.getByRole('radio', { name: 'Glass' }).click()
    await page.getByRole('button', { name: 'Mesh', exact: true }).click()
    await expect.poll(async () => Number(await field(page, 'Height, mm').inputValue())).toBeLessThan(205)
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await expect(page.getByRole('status')).toContainText(/(both|all) watertight, 0\.000 % volume lost/)
    await page.getByRole('button', { name: 'Undo: the cut' }).click()
    await expect(pieces(page)).toHaveCount(1)
})

test('an answer about the blade as it was before does not swallow a press of the button', async ({ page }) => {
    await project(page, 'post', 'pressed post')
    const button = page.getByRole('button', { name: 'Cut', exact: true })
    await button.click()
    await expect(pieces(page)).toHaveCount(2)
    await page.keyboard.press('1')
    await expect(sentence(page)).toContainText('Cuts 2 of 2 pieces')
    // At the height of the cut there is nothing to cut; but the blade is back before that is answered.
    let letThrough = 0
    let asked = 0
    await page.route(/\/section$/, async (route) => {
        const mine = ++asked
        await expect.poll(() => letThrough).toBeGreaterThanOrEqual(mine)
        await route.continue()
    })
    await page.keyboard.press('3')
    await expect.poll(() => asked).toBe(1)
    await page.keyboard.press('1')
    await expect(button).toBeEnabled()
    const box = await button.boundingBox()
    if (!box) throw new Error('the button is not on the page')
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
    await page.mouse.down()
    letThrough = 1
    // The old answer is there, the new question has gone out and waits.
    await expect.poll(() => asked).toBe(2)
    await page.mouse.up()
    letThrough = Infinity
    await expect(pieces(page)).toHaveCount(4)
})
