import { expect, test, type Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { cut, dragArrow, folder, look, pieces, project, sentence, still, stl, type, viewBox } from './helpers'

// Requests that are under way when interception begins may be lost: so it is on from the beginning.
test.beforeEach(({ page }) => page.route(/never-asked/, (route) => route.abort()))
test.afterEach(({ page }) => page.unrouteAll({ behavior: 'ignoreErrors' }))

const hint = (page: Page) => page.locator('[data-part=hint]')
const choose = (page: Page, name: string) => page.getByRole('radiogroup', { name: 'What to do' }).getByRole('radio', { name, exact: true }).click()

/** Draws by hand through places of the view, counted from its middle. */
async function drawn(page: Page, places: [number, number][], letsGo = true): Promise<void> {
    const view = await penBox(page, places[0])
    await page.mouse.down()
    for (const [x, y] of places.slice(1)) await page.mouse.move(view.cx + x, view.cy + y, { steps: 12 })
    if (letsGo) await page.mouse.up()
}

/** Presses corner by corner; each is known to have counted before the next one. */
async function pressed(page: Page, places: [number, number][]): Promise<void> {
    const view = await penBox(page, places[0])
    const before = Number(await hint(page).getAttribute('data-corners'))
    for (const [k, [x, y]] of places.entries()) {
        await page.mouse.click(view.cx + x, view.cy + y)
        await expect(hint(page)).toHaveAttribute('data-corners', String(before + k + 1))
    }
}

/** The view, once it keeps its size and the pen follows the pointer to this place. */
async function penBox(page: Page, [x, y]: [number, number]) {
    let view = await viewBox(page)
    await expect.poll(async () => {
        const before = view
        view = await viewBox(page)
        return view.cx === before.cx && view.cy === before.cy
    }, { intervals: [150] }).toBe(true)
    await page.mouse.move(view.cx + x, view.cy + y)
    await expect(hint(page)).toBeVisible()
    return view
}

/** The files that are taken out here are, byte for byte, those of the same recipe run by the command line; the pieces' volumes, the smallest first. */
async function sameOnCommandLine(page: Page, kind: string, name: string): Promise<number[]> {
    const out = folder()
    const id = /project\/(\d+)/.exec(page.url())?.[1]
    writeFileSync(join(out, 'recipe.json'), await (await page.request.get(`/api/v1/projects/${id}/recipe.json`)).body())
    writeFileSync(join(out, `${name}.stl`), stl(kind))
    execFileSync('bin/isotome', ['run', join(out, 'recipe.json'), join(out, `${name}.stl`), '--out', join(out, 'there')])
    // Files of larger pieces are made by a run.
    await expect.poll(async () => (await page.request.post(`/api/v1/projects/${id}/exports`, { data: { as: 'stl' } })).status()).toBe(200)
    writeFileSync(join(out, 'here.zip'), await (await page.request.get(`/api/v1/projects/${id}/pieces.zip`)).body())
    execFileSync('php', ['-r', '$zip = new ZipArchive; $zip->open($argv[1]); $zip->extractTo($argv[2]);', join(out, 'here.zip'), join(out, 'here')])
    const [here, there] = ['here', 'there'].map((side) => readdirSync(join(out, side)).filter((file) => file.endsWith('.stl')).sort())
    expect(here.length).toBeGreaterThan(0)
    expect(there).toEqual(here)
    for (const file of here) expect(readFileSync(join(out, 'there', file)).equals(readFileSync(join(out, 'here', file))), file).toBe(true)
    const project = (await (await page.request.get(`/api/v1/projects/${id}`)).json()) as { pieces: { volume: number; spent: boolean }[] }
    return project.pieces.filter((piece) => !piece.spent).map((piece) => piece.volume).sort((a, b) => a - b)
}

test('a line is drawn by hand, its corners are dragged, it is cut, edited and replayed', async ({ page }) => {
    await project(page, 'post', 'stroked post')
    await look(page, 'front')
    await choose(page, 'Drawn')
    await expect(sentence(page)).toHaveText('Draw a line across the pieces, by hand or corner by corner.')
    await expect(page.getByText('Draw by hand, or press corner by corner')).toBeVisible()
    // Over the piece it says where to begin; beside it, that one may.
    const view = await viewBox(page)
    await page.mouse.move(view.cx, view.cy)
    await expect(hint(page)).toHaveText('begin beside the piece, or go round and close')
    await drawn(page, [[-300, 10], [-100, -20]], false)
    await expect(hint(page)).toHaveText('lead it out, or back to its beginning')
    await page.mouse.move(view.cx + 300, view.cy + 10, { steps: 12 })
    await expect(hint(page)).toHaveText('let go: the line ends here')
    await page.mouse.up()
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece along the line into 2 pieces.')
    await expect(page.locator('[data-number=pieces]')).toHaveText('2')
    const ahead = page.locator('[data-side=ahead] dd')
    const before = await ahead.textContent()
    // A corner within the piece is dragged up: less is ahead.
    await dragArrow(page, 'corner-2', { x: 0, y: 0 }, 0, -25)
    await expect(ahead).not.toHaveText(before ?? '')
    await cut(page, '2 pieces')
    await expect(pieces(page)).toHaveCount(2)
    const [one] = await sameOnCommandLine(page, 'post', 'stroked-post')

    await page.getByRole('radio', { name: 'Lineage' }).click()
    await expect(page.locator('[data-step="1"]')).toContainText('Cut along a line')
    await page.getByRole('button', { name: 'Edit step 1' }).click()
    await page.getByText('smooth', { exact: true }).click()
    await type(page, 'Kerf, mm', '2')
    await expect(sentence(page)).toContainText('removes 2.0 mm along it. Runs step 1 and what follows it again.')
    await page.getByRole('button', { name: 'Run again' }).click()
    await expect(page.locator('[data-step="1"]')).toContainText('kerf 2')
    const [less] = await sameOnCommandLine(page, 'post', 'stroked-post')
    expect(less).toBeLessThan(one)
})

test('a line that ends within is told so, and completed corner by corner', async ({ page }) => {
    await project(page, 'post', 'short post')
    await look(page, 'front')
    await choose(page, 'Drawn')
    await pressed(page, [[-300, 0], [0, 20]])
    await page.keyboard.press('Enter')
    await expect(sentence(page)).toHaveText('The line ends within the pieces, which hang together beside the end: lead it out, or back to where it began.')
    await expect(page.getByRole('button', { name: 'Cut', exact: true })).toBeDisabled()
    await page.getByRole('button', { name: 'draw anew' }).click()
    await pressed(page, [[-300, 0], [0, 20], [40, 90]])
    // One corner too many goes.
    await page.keyboard.press('Backspace')
    await pressed(page, [[300, -10]])
    await page.keyboard.press('Enter')
    await expect(page.getByRole('button', { name: '3 corners' })).toBeVisible()
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece along the line into 2 pieces.')
    // The same by numbers alone.
    await page.getByRole('button', { name: '3 corners' }).click()
    await type(page, 'Corner 2 up, mm', '4')
    await page.getByRole('button', { name: 'Add a corner after 2' }).click()
    await expect(page.getByRole('button', { name: '4 corners' })).toBeVisible()
    await cut(page, '2 pieces')
    await sameOnCommandLine(page, 'post', 'short-post')
})

test('corners stay where they are, and the beginning is found again, when the view is laid out anew', async ({ page }) => {
    await project(page, 'post', 'shifted post')
    await look(page, 'top')
    await choose(page, 'Drawn')
    const { cx } = await viewBox(page)
    await pressed(page, [[-60, -50], [60, -50], [60, 50], [-60, 50]])
    await page.getByRole('button', { name: 'pieces', exact: true }).click()
    const view = await viewBox(page)
    expect(Math.abs(view.cx - cx)).toBeGreaterThan(50)
    await page.mouse.move(view.cx - 57, view.cy - 48)
    await expect(hint(page)).toHaveText('closes here')
    await page.mouse.down()
    await page.mouse.up()
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece along the outline into 2 pieces.')
})

test('an outline closes near its beginning, is cut out down to a depth, and kept alone', async ({ page }) => {
    await project(page, 'post', 'pocket post')
    await look(page, 'top')
    await choose(page, 'Drawn')
    await pressed(page, [[-60, -50], [60, -50], [60, 50], [-60, 50]])
    const view = await viewBox(page)
    await page.mouse.move(view.cx - 57, view.cy - 48)
    await expect(hint(page)).toHaveText('closes here')
    await page.mouse.down()
    await page.mouse.up()
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece along the outline into 2 pieces.')
    await page.getByRole('radiogroup', { name: 'Keep' }).getByRole('radio', { name: 'Within' }).click()
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece along the outline into 1 piece, keeps what is within.')
    await page.getByRole('radiogroup', { name: 'Keep' }).getByRole('radio', { name: 'Both' }).click()
    await cut(page, '2 pieces')
    const [small, large] = await sameOnCommandLine(page, 'post', 'pocket-post')
    expect(small + large).toBeCloseTo(24000, 2)

    // Drawn by hand, round and back.
    await page.keyboard.press('Control+z')
    await expect(pieces(page)).toHaveCount(1)
    await page.getByRole('button', { name: 'draw in the view' }).click()
    await drawn(page, [[-60, 0], [0, -50], [60, 0], [0, 50], [-58, 3]])
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece along the outline into 2 pieces.')
})

test('a grid, and letters of an SVG file', async ({ page }) => {
    await project(page, 'post', 'lettered post')
    await look(page, 'top')
    await choose(page, 'Drawn')
    await page.getByRole('radio', { name: 'Grid', exact: true }).click()
    await type(page, 'Columns', '3')
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece along the lines into 6 pieces.')
    await cut(page, '6 pieces')
    const grid = await sameOnCommandLine(page, 'post', 'lettered-post')
    grid.forEach((volume) => expect(volume).toBeCloseTo(4000, 1))
    await page.keyboard.press('Control+z')
    await expect(pieces(page)).toHaveCount(1)

    await page.getByRole('radio', { name: 'From a file' }).click()
    await expect(sentence(page)).toHaveText('Choose an SVG file with outlines or letters.')
    const svg = join(folder(), 'letters.svg')
    // An L and an O, millimetres.
    writeFileSync(svg, '<svg xmlns="http://www.w3.org/2000/svg" width="24mm" height="12mm" viewBox="0 0 24 12"><path d="M0 0h3v9h5v3H0z"/><path d="M12 0h10v12H12z M15 3h4v6h-4z"/></svg>')
    await page.getByLabel('SVG file').setInputFiles(svg)
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece along the outline into 4 pieces.')
    await expect(page.getByText('letters.svg · 3 outlines')).toBeVisible()
    await page.getByRole('radiogroup', { name: 'Keep' }).getByRole('radio', { name: 'Within' }).click()
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece along the outline into 2 pieces, keeps what is within.')
    await cut(page, '2 pieces')
    const letters = await sameOnCommandLine(page, 'post', 'lettered-post')
    expect(letters[0]).toBeCloseTo(20 * (27 + 24), 1)
    expect(letters[1]).toBeCloseTo(20 * (120 - 24), 1)
    // What is no drawing is refused in a sentence.
    writeFileSync(svg, 'a heron')
    await page.getByLabel('SVG file').setInputFiles(svg)
    await expect(page.getByText('The file is no SVG drawing; save it as plain SVG.')).toBeVisible()
})

test('a blade is bent by numbers and by hand, told when it crosses itself, and edited', async ({ page }) => {
    await project(page, 'post', 'bent post')
    await page.keyboard.press('e')
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece into 2 pieces, keeps both sides. Drag a corner to bend it.')
    await look(page, 'front')
    await page.getByRole('button', { name: '3 corners' }).click()
    await type(page, 'Corner 2 high, mm', '6')
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece into 2 pieces, keeps both sides.')
    // From (−10, 3) by (0, 6) to (10, 0) and straight on.
    await type(page, 'Corner 1 high, mm', '3')
    await expect(page.locator('[data-side=behind] dd')).not.toHaveText('12.0 cm³')
    await type(page, 'Corner 3 across, mm', '-20')
    await expect(sentence(page)).toContainText('crosses itself')
    await expect(page.getByRole('button', { name: 'Cut', exact: true })).toBeDisabled()
    await type(page, 'Corner 3 across, mm', '10')
    await still(page)
    // The middle of an edge becomes a corner.
    await dragArrow(page, 'corner-4', { x: 0, y: 0 }, 0, 30)
    await expect(page.getByRole('button', { name: '4 corners' })).toBeVisible()
    await expect(page.getByRole('button', { name: 'Cut', exact: true })).toBeEnabled()
    await cut(page, '2 pieces')
    const volumes = await sameOnCommandLine(page, 'post', 'bent-post')
    expect(volumes[0] + volumes[1]).toBeCloseTo(24000, 2)

    await page.getByRole('radio', { name: 'Lineage' }).click()
    await expect(page.locator('[data-step="1"]')).toContainText('Cut bent, 4 corners')
    await page.getByRole('button', { name: 'Edit step 1' }).click()
    await page.getByText('smooth', { exact: true }).click()
    await page.getByRole('radiogroup', { name: 'Keep' }).getByRole('radio', { name: 'Behind' }).click()
    await expect(sentence(page)).toContainText('keeps what is behind. Runs step 1 and what follows it again.')
    await page.getByRole('button', { name: 'Run again' }).click()
    await expect(page.locator('[data-step="1"]')).toContainText('behind')
    const [kept] = await sameOnCommandLine(page, 'post', 'bent-post')
    expect(kept).toBeLessThan(24000)
})

test('a bent blade goes round one leg of a heron and parts the other', async ({ page }) => {
    await project(page, 'heron', 'wading bird')
    await page.keyboard.press('e')
    await page.getByRole('radiogroup', { name: 'Runs straight along' }).getByRole('radio', { name: 'X' }).click()
    await type(page, 'Height, mm', '80')
    await page.getByRole('button', { name: '3 corners' }).click()
    // Flat, it parts both legs. Beside the second one it goes down, past all there is.
    for (const [corner, across, high] of [[1, -50, 0], [2, 0, 0], [3, 4, -100]]) {
        await type(page, `Corner ${corner} across, mm`, String(across))
        await type(page, `Corner ${corner} high, mm`, String(high))
    }
    await page.getByRole('button', { name: 'Add a corner after 3' }).click()
    await type(page, 'Corner 4 across, mm', '90')
    await type(page, 'Corner 4 high, mm', '-100')
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece into 2 pieces, keeps both sides.')
    await cut(page, '2 pieces')
    // The leg that is parted ends at the blade; the heron stands on the other one.
    const made = (await (await page.request.get(`/api/v1/projects/${/project\/(\d+)/.exec(page.url())?.[1]}`)).json()) as { pieces: { spent: boolean; min: number[]; max: number[] }[] }
    const [foot, rest] = made.pieces.filter((piece) => !piece.spent).sort((a, b) => a.max[2] - b.max[2])
    expect(foot.max[2]).toBeCloseTo(80, 3)
    expect(foot.min[2]).toBeCloseTo(0, 3)
    expect(rest.min[2]).toBeCloseTo(0, 3)
    expect(rest.max[2]).toBeGreaterThan(400)
    await sameOnCommandLine(page, 'heron', 'wading-bird')
})

test('a kind is one key away', async ({ page }) => {
    await project(page, 'post', 'keyed post')
    const chosen = page.getByRole('radiogroup', { name: 'What to do' }).locator('[aria-checked=true]')
    for (const [key, name] of [['d', 'Drawn'], ['x', 'Cells'], ['m', 'Mirror'], ['u', 'Combine'], ['p', 'Place'], ['e', 'Bent'], ['s', 'Series'], ['s', 'Flat'], ['d', 'Drawn'], ['o', 'Flat']]) {
        await page.keyboard.press(key)
        await expect(chosen).toHaveText(name)
    }
})

test('a flat cut is made rough, with a kerf, edited and replayed', async ({ page }) => {
    await project(page, 'post', 'rough post')
    await page.getByLabel('Rough', { exact: true }).check()
    await type(page, 'Grain height, mm', '2')
    await type(page, 'Grain size, mm', '6')
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece, keeps both sides, rough by up to 2.0 mm.')
    await expect(page.getByText('its own surface')).toBeVisible()
    await cut(page, '2 pieces')
    const volumes = await sameOnCommandLine(page, 'post', 'rough-post')
    expect(volumes[0] + volumes[1]).toBeCloseTo(24000, 2)
    await page.getByRole('radio', { name: 'Lineage' }).click()
    await expect(page.locator('[data-step="1"]')).toContainText('rough 2')
    await page.getByRole('button', { name: 'Edit step 1' }).click()
    await type(page, 'Grain seed', '9')
    await type(page, 'Kerf, mm', '1')
    await expect(sentence(page)).toContainText('removes 1 mm between, rough by up to 2.0 mm. Runs step 1 and what follows it again.')
    await page.getByRole('button', { name: 'Run again' }).click()
    await expect(page.locator('[data-step="1"]')).toContainText('kerf 1')
    const apart = await sameOnCommandLine(page, 'post', 'rough-post')
    // As much as a flat blade of that width removes from 40 by 30.
    expect(apart[0] + apart[1]).toBeCloseTo(24000 - 1200, 1)
})

test('a line is scored where it is seen: nothing is cut', async ({ page }) => {
    await project(page, 'post', 'scored post')
    await look(page, 'front')
    await choose(page, 'Drawn')
    await drawn(page, [[-300, 30], [0, -20], [300, 10]])
    await page.getByText('Score only, where the line is seen').click()
    await expect(sentence(page)).toHaveText('Scores 1 of 1 piece along the line, where it is seen: lays its edges into the mesh, separates nothing.')
    await page.getByRole('button', { name: 'Score', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText('the line\'s edges are in its mesh now')
    await expect(pieces(page)).toHaveCount(1)
    const [volume] = await sameOnCommandLine(page, 'post', 'scored-post')
    expect(volume).toBeCloseTo(24000, 2)
    await page.getByRole('radio', { name: 'Lineage' }).click()
    await expect(page.locator('[data-step="1"]')).toContainText('Score a line, where it is seen')
})

test('a series is made rough, and blades that would cross are refused with the height that does not', async ({ page }) => {
    await project(page, 'post', 'rough series post')
    await page.keyboard.press('1')
    await choose(page, 'Series')
    await page.getByRole('radio', { name: 'Equal parts' }).click()
    await page.getByLabel('Rough', { exact: true }).check()
    await type(page, 'Grain height, mm', '1')
    await type(page, 'Grain size, mm', '5')
    await expect(sentence(page)).toContainText('rough by up to 1.0 mm')
    await cut(page, /pieces/)
    const volumes = await sameOnCommandLine(page, 'post', 'rough-series-post')
    expect(volumes.reduce((sum, one) => sum + one, 0)).toBeCloseTo(24000, 1)
})

test('of a rough line one side is kept, which is seen beforehand; a grain that is too high is told with the height that is not', async ({ page }) => {
    await project(page, 'post', 'broken post')
    await look(page, 'front')
    await choose(page, 'Drawn')
    await pressed(page, [[-300, 20], [300, 10]])
    await page.keyboard.press('Enter')
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece along the line into 2 pieces.')
    await still(page)
    /** The colour of the view so far above its middle. */
    const colour = (up: number) => page.locator('canvas').evaluate((canvas: HTMLCanvasElement, up) => {
        const pen = Object.assign(document.createElement('canvas'), { width: canvas.width, height: canvas.height }).getContext('2d') as CanvasRenderingContext2D
        pen.drawImage(canvas, 0, 0)
        return [...pen.getImageData(canvas.width / 2, canvas.height / 2 - up, 1, 1).data]
    }, up)
    const away = (a: number[], b: number[]) => Math.hypot(...a.map((c, k) => c - b[k]))
    const [above, below] = [await colour(50), await colour(-50)]
    await page.getByRole('radiogroup', { name: 'Keep' }).getByRole('radio', { name: 'Ahead' }).click()
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece along the line into 1 piece, keeps what is ahead.')
    await still(page)
    await expect.poll(async () => away(await colour(-50), below)).toBeGreaterThan(40)
    expect(away(await colour(50), above)).toBeLessThan(10)
    await page.getByLabel('Rough', { exact: true }).check()
    await type(page, 'Grain size, mm', '5')
    await type(page, 'Grain height, mm', '30')
    await expect(sentence(page)).toContainText('With this grain the blade crosses itself; with a height of at most')
    await expect(page.getByRole('button', { name: 'Cut', exact: true })).toBeDisabled()
    const most = /at most ([\d.]+) mm/.exec((await sentence(page).textContent()) ?? '')?.[1] ?? ''
    await type(page, 'Grain height, mm', most)
    await expect(page.getByRole('button', { name: 'Cut', exact: true })).toBeEnabled()
    await type(page, 'Grain height, mm', '1')
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece along the line into 1 piece, rough by up to 1.0 mm, keeps what is ahead.')
    await cut(page, '1 piece')
    await sameOnCommandLine(page, 'post', 'broken-post')
    await page.getByRole('radio', { name: 'Lineage' }).click()
    await expect(page.locator('[data-step="1"]')).toContainText('rough 1')
    await page.getByRole('button', { name: 'Edit step 1' }).click()
    await page.getByRole('radiogroup', { name: 'Keep' }).getByRole('radio', { name: 'Both' }).click()
    await type(page, 'Kerf, mm', '0.5')
    await expect(sentence(page)).toContainText('Runs step 1 and what follows it again.')
    await page.getByRole('button', { name: 'Run again' }).click()
    await expect(page.locator('[data-step="1"]')).toContainText('kerf 0.5, rough 1')
    const [one, two] = await sameOnCommandLine(page, 'post', 'broken-post')
    // As much is removed as by a straight line of that width, which leans by a sixtieth.
    expect(one + two).toBeLessThan(24000 - 595)
    expect(one + two).toBeGreaterThan(24000 - 605)
})

test('shards with rough walls are foreseen, edited and replayed', async ({ page }) => {
    await project(page, 'post', 'shattered post')
    await choose(page, 'Cells')
    await page.getByRole('radio', { name: 'Even', exact: true }).first().click()
    await type(page, 'Count', '6')
    await page.getByLabel('Rough', { exact: true }).check()
    await type(page, 'Grain height, mm', '0.8')
    await expect(sentence(page)).toHaveText('Shatters 1 of 1 piece into 6 pieces, rough by up to 0.8 mm.')
    await page.getByRole('button', { name: 'Shatter', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText('6 pieces, all watertight')
    const sum = (await sameOnCommandLine(page, 'post', 'shattered-post')).reduce((all, one) => all + one, 0)
    expect(sum).toBeCloseTo(24000, 2)
    await page.getByRole('radio', { name: 'Lineage' }).click()
    await page.getByRole('button', { name: 'Edit step 1' }).click()
    await type(page, 'Grain seed', '4')
    await type(page, 'Kerf, mm', '0.4')
    await expect(sentence(page)).toContainText('removes 0.4 mm between, rough by up to 0.8 mm. Runs step 1')
    await page.getByRole('button', { name: 'Run again' }).click()
    await expect(page.locator('[data-step="1"]')).toContainText('kerf 0.4, rough 0.8')
    const less = (await sameOnCommandLine(page, 'post', 'shattered-post')).reduce((all, one) => all + one, 0)
    expect(less).toBeLessThan(24000 - 100)
})
