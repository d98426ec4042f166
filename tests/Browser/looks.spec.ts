import { expect, test, type Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { card, cut, drop, folder, held, hold, letGo, look } from './helpers'

const painted = () => execFileSync('php', ['-r', 'require "vendor/autoload.php"; echo Tests\\Support\\PaintedGlb::box(["animations" => [[]]]);'])

test('a painted file: what it carries is said, kept by its pieces and taken out', async ({ page }) => {
    await page.goto('/')
    await drop(page, 'painted box.glb', painted())
    const dialog = page.getByRole('dialog')
    await expect(dialog).toContainText('It carries materials, pictures, normals, texture coordinates and colours: pieces keep them.')
    await expect(dialog).toContainText('Left out: movement.')
    await page.getByRole('button', { name: 'Make the project' }).click()
    await expect(page.getByRole('button', { name: 'Cut', exact: true })).toBeEnabled()
    await cut(page, '2 pieces, both watertight')
    await expect(card(page, 'painted-box-A')).toBeVisible()

    // Drawn in its own colours, red with more or less green; or in those of the pieces, which are no such red.
    const redness = () => page.locator('canvas[aria-label="3-D view of the pieces"]').evaluate((canvas: HTMLCanvasElement) => {
        const copy = document.createElement('canvas')
        copy.width = canvas.width
        copy.height = canvas.height
        const page = copy.getContext('2d')
        page?.drawImage(canvas, 0, 0)
        const bytes = page?.getImageData(0, 0, copy.width, copy.height).data ?? []
        let red = 0
        for (let i = 0; i < bytes.length; i += 4) red += bytes[i] > 120 && bytes[i + 2] < 40 ? 1 : 0
        return red
    })
    await expect.poll(redness).toBeGreaterThan(5000)
    await page.getByRole('button', { name: 'As it came', exact: true }).click()
    await expect.poll(redness).toBeLessThan(500)

    await page.getByRole('button', { name: 'Take out…' }).click()
    const carried = page.locator('[data-part=carried]')
    await expect(carried).toHaveText('STL files do not keep materials, pictures, normals, texture coordinates and colours; GLB does.')
    await page.getByRole('radio', { name: 'PLY' }).click()
    await expect(carried).toHaveText('Keeps normals and colours. PLY files do not keep materials, pictures and texture coordinates; GLB does.')
    await page.getByRole('radio', { name: 'GLB' }).click()
    await expect(carried).toHaveText('Keeps materials, pictures, normals, texture coordinates and colours.')
    await page.getByRole('radio', { name: 'one for all' }).click()
    const download = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Download 2 pieces' }).click()
    const zip = readFileSync(await (await download).path())
    // Names of files stand in a zip as they are.
    expect(zip.includes('.glb')).toBe(true)
})

const jar = () => {
    const file = join(folder(), 'jar.glb')
    execFileSync('php', ['-r', 'require "vendor/autoload.php"; Isotome\\Format\\MeshFile::write(Demo\\ClayJar::painted(), $argv[1]);', file])
    return readFileSync(file)
}

/** What the view shows now, its pixels row by row from the top. */
async function pixels(page: Page): Promise<{ width: number; height: number; bytes: Uint8Array }> {
    const { width, height, base64 } = await page.locator('canvas[aria-label="3-D view of the pieces"]').evaluate((canvas: HTMLCanvasElement) => {
        const copy = document.createElement('canvas')
        copy.width = canvas.width
        copy.height = canvas.height
        const on = copy.getContext('2d')
        on?.drawImage(canvas, 0, 0)
        const bytes = on?.getImageData(0, 0, copy.width, copy.height).data ?? new Uint8ClampedArray()
        let text = ''
        for (let i = 0; i < bytes.length; i += 32768) text += String.fromCharCode(...bytes.subarray(i, i + 32768))
        return { width: copy.width, height: copy.height, base64: btoa(text) }
    })
    return { width, height, bytes: new Uint8Array(Buffer.from(base64, 'base64')) }
}

/** Pixels in the iron red of the pattern; without the picture there are none. */
const red = ({ bytes }: { bytes: Uint8Array }) => bytes.filter((part, i) => i % 4 === 0 && part > 60 && part < 130 && bytes[i + 1] < 0.55 * part && bytes[i + 2] < 0.5 * part).length

/** The same, once it does not change any more. */
async function atRest(page: Page): Promise<Awaited<ReturnType<typeof pixels>>> {
    let now = await pixels(page)
    await expect.poll(async () => {
        const before = now
        now = await pixels(page)
        return Buffer.compare(before.bytes, now.bytes)
    }, { intervals: [300] }).toBe(0)
    return now
}

test('a painted body looks the same before it is cut and after, but along the rim', async ({ page }) => {
    await page.goto('/')
    await drop(page, 'jar.glb', jar())
    await page.getByRole('button', { name: 'Make the project' }).click()
    await page.getByRole('tab', { name: 'Check' }).click()
    await look(page, 'front')
    await expect.poll(async () => red(await pixels(page))).toBeGreaterThan(3000)
    const before = await atRest(page)

    await page.getByRole('tab', { name: 'Cut' }).click()
    await cut(page, '2 pieces, both watertight')
    await page.getByRole('tab', { name: 'Check' }).click()
    await page.getByLabel('Spread, mm').press('Home')
    await look(page, 'front')
    // Each piece gets its picture by itself: all of the pattern must be there.
    await expect.poll(async () => red(await pixels(page))).toBeGreaterThan(0.98 * red(before))
    const after = await atRest(page)

    expect([after.width, after.height]).toEqual([before.width, before.height])
    const rows = new Map<number, number>()
    for (let i = 0; i < before.bytes.length; i += 4) {
        const change = Math.max(...[0, 1, 2].map((k) => Math.abs(before.bytes[i + k] - after.bytes[i + k])))
        const row = Math.floor(i / 4 / before.width)
        if (change > 12) rows.set(row, (rows.get(row) ?? 0) + 1)
    }
    const changed = [...rows.keys()].sort((a, b) => a - b)
    // The rim is drawn, so something did change; and nothing did far from it.
    expect(changed.length).toBeGreaterThan(0)
    expect(changed[changed.length - 1] - changed[0]).toBeLessThan(14)
})

test('where it is looked at from is kept when the pieces arrive only afterwards', async ({ page }) => {
    await page.goto('/')
    await drop(page, 'jar.glb', jar())
    hold('measuring')
    await page.getByRole('button', { name: 'Make the project' }).click()
    await held('measuring')
    await look(page, 'front')
    letGo()
    await expect.poll(async () => red(await pixels(page))).toBeGreaterThan(3000)
    const arrived = await atRest(page)
    await look(page, 'corner')
    expect(Buffer.compare((await atRest(page)).bytes, arrived.bytes)).not.toBe(0)
    await look(page, 'front')
    expect(Buffer.compare((await atRest(page)).bytes, arrived.bytes)).toBe(0)
})

test('an OBJ dropped together with its materials and its picture is one painted piece', async ({ page }) => {
    const made = (of: string) => execFileSync('php', ['-r', `require "vendor/autoload.php"; echo Tests\\Support\\${of};`])
    const files = { 'painted box.obj': made('PaintedObj::box()'), 'paint.mtl': made('PaintedObj::library()'), 'pattern.png': made('PaintedGlb::png()') }
    await page.goto('/')
    const transfer = await page.evaluateHandle((files) => {
        const data = new DataTransfer()
        for (const [name, base64] of files) data.items.add(new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], name))
        return data
    }, Object.entries(files).map(([name, bytes]) => [name, bytes.toString('base64')]))
    await page.dispatchEvent('[data-part=drop]', 'drop', { dataTransfer: transfer })
    const dialog = page.getByRole('dialog')
    await expect(dialog).toContainText('painted box.zip, OBJ: 12 triangles')
    await expect(dialog).toContainText('It carries materials, pictures, texture coordinates and normals: pieces keep them.')
    await expect(dialog).not.toContainText('Left out')
    await page.getByRole('button', { name: 'Make the project' }).click()
    // Its materials are listed, and a cut can be limited to one of them.
    await expect(page.getByRole('list', { name: 'Materials' })).toContainText('painted')
    await page.getByRole('button', { name: 'Cut only within green glaze' }).click()
    await expect(page.getByRole('button', { name: 'within 2 faces' })).toBeVisible()
    await page.getByRole('button', { name: 'all faces' }).click()
    await cut(page, '2 pieces, both watertight')
    await page.getByRole('button', { name: 'Take out…' }).click()
    await page.getByRole('radio', { name: 'OBJ' }).click()
    await expect(page.locator('[data-part=carried]')).toHaveText('Keeps materials, pictures, texture coordinates and normals.')
    await page.getByRole('radio', { name: 'one for all' }).click()
    const download = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Download 2 pieces' }).click()
    const zip = readFileSync(await (await download).path())
    for (const name of ['Painted-box.obj', 'Painted-box.mtl', 'pattern-']) expect(zip.includes(name)).toBe(true)
    // The picture alone is no mesh.
    await page.goto('/')
    await drop(page, 'pattern.png', files['pattern.png'])
    await expect(page.getByRole('alert')).toContainText('The file pattern.png is not named as one of the formats')
})

test('the inside is given a picture, which is drawn and goes out with the pieces', async ({ page }) => {
    await page.goto('/')
    await drop(page, 'stuffed jar.glb', jar())
    await page.getByRole('button', { name: 'Make the project' }).click()
    await page.getByRole('radio', { name: 'Cells' }).click()
    await page.getByRole('button', { name: 'Shatter', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText('all watertight')
    await look(page, 'top')
    // Hatched in ink on paper: nothing there is as green as the picture will be.
    const green = ({ bytes }: { bytes: Uint8Array }) => bytes.filter((part, i) => i % 4 === 1 && part > 60 && bytes[i - 1] < 0.5 * part && bytes[i + 1] < 0.5 * part).length
    expect(green(await pixels(page))).toBeLessThan(50)

    await page.getByRole('button', { name: 'Inside…' }).click()
    const moss = execFileSync('php', ['-r', 'require "vendor/autoload.php"; echo Isotome\\Format\\PngWriter::of(8, 8, str_repeat("\\x10\\xa0\\x20", 64));'])
    await page.locator('input[aria-label="Picture for the inside"]').setInputFiles({ name: 'moss.png', mimeType: 'image/png', buffer: moss })
    await expect(page.getByRole('radio', { name: 'Own picture' })).toHaveAttribute('aria-checked', 'true')
    await page.getByLabel('Width of the picture, mm').fill('12')
    await page.getByLabel('Width of the picture, mm').press('Enter')
    await expect(page.getByText('It begins again every 12.0 × 12.0 mm.')).toBeVisible()
    await page.getByRole('button', { name: 'Done' }).click()
    await expect.poll(async () => green(await pixels(page))).toBeGreaterThan(500)

    await page.getByRole('button', { name: 'Take out…' }).click()
    await page.getByRole('radio', { name: 'GLB' }).click()
    await page.getByRole('radio', { name: 'one for all' }).click()
    const download = page.waitForEvent('download')
    await page.getByRole('button', { name: /^Download/ }).click()
    const file = join(folder(), 'pieces.zip')
    await (await download).saveAs(file)
    // Read back: all shards, the jar's own picture and that of the inside.
    const said = execFileSync('php', ['-r', `require "vendor/autoload.php"; $zip = new ZipArchive; $zip->open($argv[1]); $glb = $zip->getFromName("Stuffed-jar.glb");
        $json = json_decode(substr($glb, 20, unpack("V", $glb, 12)[1]), true); echo count($json["nodes"]), " ", implode(",", array_column($json["images"], "name"));`, file]).toString()
    expect(said).toMatch(/^\d\d wheels and water,moss$/)
})

test('a material is given another colour, then a picture of one\'s own, and can be had back', async ({ page }) => {
    await page.goto('/')
    await drop(page, 'plain jar.glb', jar())
    await page.getByRole('button', { name: 'Make the project' }).click()
    await expect(page.getByRole('button', { name: 'Cut', exact: true })).toBeEnabled()
    await page.getByRole('tab', { name: 'Check' }).click()
    await look(page, 'front')
    await expect.poll(async () => red(await pixels(page))).toBeGreaterThan(3000)
    const green = ({ bytes }: { bytes: Uint8Array }) => bytes.filter((part, i) => i % 4 === 1 && part > 60 && bytes[i - 1] < 0.5 * part && bytes[i + 1] < 0.5 * part).length

    const materials = page.getByRole('list', { name: 'Materials' })
    const name = (await materials.locator('.name').first().innerText()).trim()
    await page.getByRole('button', { name: `Paint ${name}` }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel('Colour of the material').fill('#10a020')
    await dialog.getByRole('button', { name: 'Paint', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText(`Painted ${name} on 1 piece.`)
    await expect.poll(async () => green(await pixels(page))).toBeGreaterThan(3000)
    expect(red(await pixels(page))).toBeLessThan(50)

    // The step is edited: a picture instead, which is far too large and so is made smaller; all blue, but for noise that cannot be packed.
    await page.getByRole('radio', { name: 'Lineage' }).click()
    await expect(page.getByText(`Paint ${name}: #10a020`)).toBeVisible()
    await page.getByRole('button', { name: 'Edit step 1' }).click()
    await expect(dialog).toContainText(`Step 1: paint “${name}”`)
    const noise = execFileSync('php', ['-d', 'memory_limit=1G', '-r', `require "vendor/autoload.php"; mt_srand(5); $pixels = ""; for ($i = 0; $i < 1200 * 1200; $i++) { $pixels .= chr(mt_rand(0, 60)).chr(mt_rand(0, 60)).chr(mt_rand(150, 255)); }
        echo Isotome\\Format\\PngWriter::of(1200, 1200, $pixels);`], { maxBuffer: 2 ** 26 })
    expect(noise.length).toBeGreaterThan(1_000_000)
    await dialog.locator('input[aria-label="Picture for the material"]').setInputFiles({ name: 'water.png', mimeType: 'image/png', buffer: noise })
    await expect(dialog).toContainText(/water\.png, made smaller: \d+ × \d+, \d+ KB as JPEG/)
    await dialog.getByRole('button', { name: 'Run again' }).click()
    await expect(page.getByText(`Paint ${name}: own picture`)).toBeVisible()
    const blue = ({ bytes }: { bytes: Uint8Array }) => bytes.filter((part, i) => i % 4 === 2 && part > 60 && bytes[i - 1] < 0.5 * part && bytes[i - 2] < 0.5 * part).length
    await expect.poll(async () => blue(await pixels(page))).toBeGreaterThan(3000)

    // Taken back, it is as it came.
    await page.keyboard.press('Control+z')
    await page.keyboard.press('Control+z')
    await expect.poll(async () => red(await pixels(page))).toBeGreaterThan(3000)
    expect(blue(await pixels(page))).toBeLessThan(50)
})
