import { expect, test, type Page } from '@playwright/test'
import { card, dragArrow, drop, handleAt, look, project, sentence, stl, still, type, viewBox } from './helpers'

// Requests that are under way when interception begins may be lost: so it is on from the beginning.
test.beforeEach(({ page }) => page.route(/never-asked/, (route) => route.abort()))
// What is still asked when a test ends is of no interest any more.
test.afterEach(({ page }) => page.unrouteAll({ behavior: 'ignoreErrors' }))

const size = (page: Page, name: string) => card(page, name).locator('.numbers').first()

test('a post is turned about an axis, told before, exact, and its turn is edited', async ({ page }) => {
    await project(page, 'post', 'turned post')
    await page.getByRole('radio', { name: 'Place', exact: true }).click()
    await expect(page.locator('[data-images]')).toHaveAttribute('data-images', '1')
    await expect(page.locator('[data-part=sentence]')).toHaveText('Turns 1 of 1 piece by 90° about X, through its middle. Exact: coordinates only change places and signs.')
    await expect(page.locator('[data-number=size-after]')).toHaveText('40.0 × 20.0 × 30.0 mm')
    await page.getByRole('button', { name: 'Turn', exact: true }).click()
    await expect(page.getByRole('status')).toContainText('Turned: 1 piece, watertight')
    await expect(size(page, 'turned-post')).toContainText('40.0 × 20.0 × 30.0 mm')
    await expect(page.locator('[data-images]')).toHaveAttribute('data-images', '0')
    await expect(page.getByRole('button', { name: 'Turn', exact: true })).toBeDisabled()

    await page.getByRole('radio', { name: 'Lineage' }).click()
    await expect(page.locator('[data-step="1"]')).toContainText('Turn 90° about X')
    await page.getByRole('button', { name: 'Edit step 1' }).click()
    await page.getByRole('radio', { name: 'Z', exact: true }).click()
    await page.getByRole('button', { name: '180°' }).click()
    await page.getByRole('radio', { name: 'origin' }).click()
    await expect(page.locator('[data-part=sentence]')).toContainText('by 180° about Z, through the origin. Exact: coordinates only change places and signs. Runs step 1 and what follows it again.')
    await page.getByRole('button', { name: 'Run again' }).click()
    await expect(page.locator('[data-step="1"]')).toContainText('Turn 180° about Z')
    await page.getByRole('radio', { name: 'Pieces' }).click()
    await expect(size(page, 'turned-post')).toContainText('40.0 × 30.0 × 20.0 mm')
})

test('a post is stood on a face that is clicked; typed degrees are free', async ({ page }) => {
    await project(page, 'post', 'stood post')
    await page.getByRole('radio', { name: 'Place', exact: true }).click()
    await page.getByLabel('Degrees, °').fill('12.5')
    await page.getByLabel('Degrees, °').press('Enter')
    await expect(page.locator('[data-part=sentence]')).toHaveText('Turns 1 of 1 piece by 12.50° about X, through its middle.')

    await page.getByRole('radio', { name: 'Stand', exact: true }).click()
    await expect(page.getByText('Click a face: the pieces will stand on it.')).toBeVisible()
    await expect(page.getByRole('button', { name: 'Stand', exact: true })).toBeDisabled()
    // From the left: the face of 30 × 20 mm at the low end of X is in the middle.
    await page.getByRole('button', { name: 'left', exact: true }).click()
    await still(page)
    const view = await viewBox(page)
    await page.mouse.click(view.cx, view.cy)
    await expect(page.locator('[data-part=sentence]')).toContainText('Stands 1 of 1 piece on the clicked face')
    await expect(page.locator('[data-number=size-after]')).toHaveText('20.0 × 30.0 × 40.0 mm')
    await page.getByRole('button', { name: 'Stand', exact: true }).click()
    await expect(size(page, 'stood-post')).toContainText('20.0 × 30.0 × 40.0 mm')
    await page.keyboard.press('Control+z')
    await expect(size(page, 'stood-post')).toContainText('40.0 × 30.0 × 20.0 mm')
})

test('a post is laid down on a face that is chosen by its numbers, and on the best one when that is edited', async ({ page }) => {
    await project(page, 'post', 'laid post')
    await page.getByRole('radio', { name: 'Place', exact: true }).click()
    await page.getByRole('radio', { name: 'Lay', exact: true }).click()
    const faces = page.getByRole('table', { name: 'Faces to stand on' }).locator('tbody tr')
    await expect(faces).toHaveCount(6)
    await expect(page.locator('[data-part=sentence]')).toHaveText('Lays 1 of 1 piece on the face on which it stands best, at the height 0.')
    // 40 × 30 mm below, 20 mm high: it falls beyond the angle whose tangent is 15 / 10.
    await expect(page.locator('[data-number=margin]')).toHaveText('until it is tilted by 56.3°')
    await expect(page.locator('[data-number=lying]')).toHaveText('fits')
    await expect(page.locator('[data-number=overhang]')).toHaveText('0.0 cm², below it 0.0 mm³')
    await faces.filter({ hasText: '6.0 cm²' }).first().getByRole('button').click()
    await expect(page.locator('[data-number=margin]')).toHaveText('until it is tilted by 26.6°')
    await expect(page.locator('[data-images]')).toHaveAttribute('data-images', '1')
    await expect(page.locator('[data-part=sentence]')).toHaveText('Lays 1 of 1 piece on the chosen face, at the height 0.')
    await page.getByRole('button', { name: 'Lay', exact: true }).click()
    await expect(page.getByRole('status')).toContainText('Laid down: 1 piece, watertight')
    await expect(size(page, 'laid-post')).toContainText('20.0 × 30.0 × 40.0 mm')

    await page.getByRole('radio', { name: 'Lineage' }).click()
    await expect(page.locator('[data-step="1"]')).toContainText('Lay down on')
    await page.getByRole('button', { name: 'Edit step 1' }).click()
    await page.getByRole('button', { name: 'the best again' }).click()
    await expect(page.locator('[data-part=sentence]')).toContainText('on the face on which it stands best, at the height 0. Runs step 1 and what follows it again.')
    await page.getByRole('button', { name: 'Run again' }).click()
    await page.getByRole('radio', { name: 'Pieces' }).click()
    await expect(size(page, 'laid-post')).toContainText('40.0 × 30.0 × 20.0 mm')
})

test('a plank that is too long for the printer as it lies is turned so that it fits', async ({ page }) => {
    await project(page, 'plank', 'long plank')
    await page.getByRole('radio', { name: 'Place', exact: true }).click()
    await page.getByRole('radio', { name: 'Lay', exact: true }).click()
    await expect(page.locator('[data-number=lying]')).toHaveText('60.0 mm too large')
    await expect(page.locator('[data-number=tilted]')).toContainText('fits')
    await page.getByRole('button', { name: 'turn it so' }).click()
    await expect(page.locator('[data-part=sentence]')).toContainText('about an axis, through its middle.')
    await page.getByRole('button', { name: 'Turn', exact: true }).click()
    await expect(page.getByRole('status')).toContainText('Turned: 1 piece, watertight')
    await expect(card(page, 'long-plank')).toContainText('watertight · fits')
})

test('a mesh with Y up is stood upright when it is brought in', async ({ page }) => {
    await page.goto('/')
    await drop(page, 'lying jar.stl', stl('jar'))
    const before = await page.locator('[data-part=dimensions]').innerText()
    const pictures = page.getByRole('radiogroup', { name: 'This way is up' }).locator('canvas')
    const drawn = (n: number) => pictures.nth(n).evaluate((canvas: HTMLCanvasElement) => [...(canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height).data ?? [])].reduce<number>((sum, value, i) => sum + (i % 4 === 3 && value ? 1 : 0), 0))
    // Both are drawn, and are not the same.
    expect(await drawn(0)).toBeGreaterThan(1000)
    expect(await drawn(1)).toBeGreaterThan(1000)
    expect(await drawn(0)).not.toBe(await drawn(1))
    await page.getByRole('radio', { name: 'Y is up' }).click()
    const sides = (text: string) => text.replace(' mm', '').split(' × ')
    const [x, y, z] = sides(before)
    await expect(page.locator('[data-part=dimensions]')).toHaveText(`${x} × ${z} × ${y} mm`)
    await page.getByRole('button', { name: 'Make the project' }).click()
    await expect(page.getByRole('status')).toContainText('Brought in and stood upright, watertight.')
    await page.getByRole('radio', { name: 'Lineage' }).click()
    await expect(page.locator('[data-step="1"]')).toContainText('Turn 90° about X')
})

test('what became of bringing in is told, though it was over before the page asked for the project', async ({ page, request }) => {
    await page.goto('/')
    await drop(page, 'quick post.stl', stl('post'))
    let run = ''
    page.on('response', async (response) => {
        if (response.request().method() === 'POST' && response.url().endsWith('/projects')) run = ((await response.json()) as { run: { id: string } }).run.id
    })
    await page.route(/\/projects\/\d+$/, async (route) => {
        await expect.poll(async () => (run ? ((await (await request.get(`/api/v1/runs/${run}`)).json()) as { over: boolean }).over : false)).toBe(true)
        await route.continue()
    })
    await page.getByRole('button', { name: 'Make the project' }).click()
    await expect(page.getByRole('status')).toContainText('Brought in, watertight.')
    // Who comes back later is not told again.
    await page.reload()
    await expect(page.getByRole('button', { name: 'Cut', exact: true })).toBeEnabled()
    await expect(page.getByRole('status')).toHaveCount(0)
})

test('a piece is checked by itself, though bringing it in was not known to be over when the Check station was opened', async ({ page, request }) => {
    await page.goto('/')
    // No other test has had this very mesh checked.
    await drop(page, 'quick crock.stl', stl('small-crock'))
    let run = ''
    let isSeen = false
    await page.route(/\/projects$/, async (route) => {
        if (route.request().method() !== 'POST') return route.continue()
        const response = await route.fetch()
        const made = (await response.json()) as { run: { id: string; over: boolean } }
        run = made.run.id
        // However quick it was: when this was answered, it was not over.
        await route.fulfill({ response, json: { ...made, run: { ...made.run, over: false } } })
    })
    await page.route(/\/projects\/\d+$/, async (route) => {
        await expect.poll(async () => (run ? ((await (await request.get(`/api/v1/runs/${run}`)).json()) as { over: boolean }).over : false)).toBe(true)
        await route.continue()
    })
    await page.route(/\/runs\/\w+$/, async (route) => {
        await expect.poll(() => isSeen).toBe(true)
        await route.continue()
    })
    await page.getByRole('button', { name: 'Make the project' }).click()
    await page.getByRole('tab', { name: 'Check' }).click()
    await expect(page.getByText('not checked in full yet')).toBeVisible()
    isSeen = true
    await expect(page.getByRole('button', { name: 'Mend all…' })).toBeVisible()
})

test('a post is moved by numbers and by its arrow, then scaled to a height; both are edited', async ({ page }) => {
    await project(page, 'post', 'moved post')
    await page.getByRole('radio', { name: 'Place', exact: true }).click()
    await page.getByRole('radio', { name: 'Move', exact: true }).click()
    const sentence = page.locator('[data-part=sentence]')
    await expect(sentence).toHaveText('Set how far the pieces are to move.')
    await expect(page.getByRole('button', { name: 'Move', exact: true })).toBeDisabled()
    await page.getByLabel('Along X, mm').fill('12.5')
    await page.getByLabel('Along X, mm').press('Enter')
    await expect(sentence).toHaveText('Moves 1 of 1 piece by 12.50, 0.00, 0.00 mm along X, Y, Z.')
    // Up along the arrow, by the mouse.
    await page.getByRole('button', { name: 'front', exact: true }).click()
    await still(page)
    await dragArrow(page, 'Z', { x: 0, y: 20 }, 0, -40)
    await expect(sentence).toContainText('Moves 1 of 1 piece by 12.50, 0.00, ')
    const up = Number(await page.getByLabel('Along Z, mm').inputValue())
    expect(up).toBeGreaterThan(1)
    await page.getByRole('button', { name: 'Move', exact: true }).click()
    await expect(page.getByRole('status')).toContainText('Moved: 1 piece, watertight')
    await expect(sentence).toHaveText('The move is made. Set the next one.')

    await page.getByRole('radio', { name: 'Scale', exact: true }).click()
    await page.getByLabel('Size along Z, mm').fill('60')
    await page.getByLabel('Size along Z, mm').press('Enter')
    await expect(sentence).toHaveText('Makes 1 of 1 piece 3.0000 times as large; its middle stays.')
    await expect(page.locator('[data-number=size-after]')).toHaveText('120.0 × 90.0 × 60.0 mm')
    await page.getByRole('button', { name: 'Scale', exact: true }).click()
    await expect(size(page, 'moved-post')).toContainText('120.0 × 90.0 × 60.0 mm')

    await page.getByRole('radio', { name: 'Lineage' }).click()
    await expect(page.locator('[data-step="1"]')).toContainText('Move by 12.50, 0.00, ')
    await expect(page.locator('[data-step="2"]')).toContainText('Scale 3.0000 times')
    await page.getByRole('button', { name: 'Edit step 2' }).click()
    await page.getByText('alike along all three').click()
    await page.getByLabel('Times along Y, ×').fill('1')
    await page.getByLabel('Times along Y, ×').press('Enter')
    await page.getByRole('button', { name: 'Run again' }).click()
    await expect(page.locator('[data-step="2"]')).toContainText('Scale 3.0000, 1.0000, 3.0000 times')
    await page.getByRole('radio', { name: 'Pieces' }).click()
    await expect(size(page, 'moved-post')).toContainText('120.0 × 30.0 × 60.0 mm')
})

test('a post is turned by the knob on its ring and scaled by an arrow', async ({ page }) => {
    await project(page, 'post', 'ringed post')
    await page.getByRole('radio', { name: 'Place', exact: true }).click()
    await page.getByRole('radio', { name: 'Z', exact: true }).click()
    await type(page, 'Degrees, °', '0')
    await expect(page.locator('[data-arrow=turn]')).toHaveText('0°')
    await look(page, 'top')
    const view = await viewBox(page)
    const tip = await handleAt(page, 'turn')
    // What is written stands a little further out than the knob, which begins along X.
    const radius = (tip.x - view.cx) / 1.14
    await page.mouse.move(view.cx + radius, view.cy)
    await page.mouse.down()
    await page.mouse.move(view.cx + radius, view.cy - radius * (Math.PI / 4), { steps: 6 })
    await page.mouse.up()
    const degrees = Number(await page.getByLabel('Degrees, °').inputValue())
    expect(degrees % 5).toBe(0)
    expect(Math.abs(degrees - 45)).toBeLessThanOrEqual(5)
    await expect(sentence(page)).toContainText(`by ${degrees}° about Z`)

    await page.getByRole('radio', { name: 'Scale', exact: true }).click()
    await look(page, 'front')
    await dragArrow(page, 'X', { x: -20, y: 0 }, 60, 0)
    const times = Number(await page.getByLabel('Times along X, ×').inputValue())
    expect(times).toBeGreaterThan(1.05)
    // Alike along all three.
    expect(Number(await page.getByLabel('Times along Z, ×').inputValue())).toBe(times)
    await page.getByRole('button', { name: 'Scale', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText('Scaled: 1 piece, watertight')
})
