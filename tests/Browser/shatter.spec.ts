import { expect, test, type Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { inflateSync } from 'node:zlib'
import { card, field, folder, pieces, project, sentence, stl, type, viewBox, still } from './helpers'

const kind = (page: Page, name: string) => page.getByRole('radiogroup', { name: 'What to do' }).getByRole('radio', { name }).click()
const count = async (page: Page) => Number((await page.locator('[data-number=pieces]').innerText()).replace(/\D/g, ''))

async function shatter(page: Page, button: string | RegExp = 'Shatter'): Promise<void> {
    await page.getByRole('button', { name: button, exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText(/pieces|run again/)
}

/** The recipe and the pieces as the project takes them out, and the same recipe run by the command line. */
async function replayed(page: Page, mesh: Buffer, name: string) {
    const out = folder()
    const id = /project\/(\d+)/.exec(page.url())?.[1]
    writeFileSync(join(out, 'recipe.json'), await (await page.request.get(`/api/v1/projects/${id}/recipe.json`)).body())
    writeFileSync(join(out, `${name}.stl`), mesh)
    execFileSync('bin/isotome', ['run', join(out, 'recipe.json'), join(out, `${name}.stl`), '--out', join(out, 'pieces'), '--density', '1.9'])
    const here = (await (await page.request.get(`/api/v1/projects/${id}`)).json()) as { pieces: { name: string; volume: number; colour: string; spent: boolean }[] }
    const there = JSON.parse(readFileSync(join(out, 'pieces', 'manifest.json'), 'utf8')) as { pieces: { name: string; volume_mm3: number; colour: string; mass_g: number; neighbours: { name: string; area_mm2: number }[] }[] }
    return { here: here.pieces.filter((piece) => !piece.spent), there: there.pieces }
}

test('a jar is shattered around a picked place, with another seed, small ones joined, and taken out for animation', async ({ page }) => {
    await project(page, 'clay', 'jar')
    await kind(page, 'Cells')
    // Before anything is chosen it is foreseen.
    await expect(sentence(page)).toHaveText(/^Shatters 1 of 1 piece into (about )?[12]\d pieces, sealed\.$/)
    // At rest it is tried out, and the numbers are those that will come.
    await expect(sentence(page)).toHaveText(/^Shatters 1 of 1 piece into [12]\d pieces, sealed\.$/)
    await page.getByRole('radio', { name: 'Gathered' }).click()
    await expect(sentence(page)).toHaveText('Click on the skin where the pieces are to gather.')
    await expect(page.getByRole('button', { name: 'Shatter', exact: true })).toBeDisabled()
    const view = await viewBox(page)
    await page.mouse.click(view.cx, view.cy + 40)
    await expect(page.getByRole('button', { name: '1 picked' })).toBeVisible()
    await type(page, 'Count', '24')
    await expect.poll(() => count(page)).toBeGreaterThan(20)
    await page.getByRole('button', { name: 'done' }).click()
    await shatter(page)
    await expect(page.getByRole('status').first()).toContainText(/all watertight, 0\.000 % volume lost/)
    await expect.poll(() => pieces(page).count()).toBeGreaterThan(20)
    const before = await pieces(page).count()

    // The step stays editable: another seed, and the small ones join their neighbours.
    await page.getByRole('radio', { name: 'Lineage' }).click()
    await page.getByRole('button', { name: 'Edit step 1' }).click()
    await expect(field(page, 'Seed')).toHaveValue('1')
    await type(page, 'Seed', '7')
    await type(page, 'Smallest piece, %', '1')
    await expect(sentence(page)).toContainText('small ones joined')
    await expect.poll(() => count(page)).toBeLessThan(before)
    await shatter(page, 'Run again')
    await page.getByRole('radio', { name: 'Pieces', exact: true }).click()
    await expect.poll(() => pieces(page).count()).toBeLessThan(before)
    const after = await pieces(page).count()

    // The same by the command line: names, volumes and colours; every mass; a neighbour for every shard.
    const { here, there } = await replayed(page, stl('clay'), 'jar')
    expect(there.map((piece) => piece.name).sort()).toEqual(here.map((piece) => piece.name).sort())
    const whole = here.reduce((sum, piece) => sum + piece.volume, 0)
    for (const piece of there) {
        const own = here.find((one) => one.name === piece.name)
        expect(Math.abs(piece.volume_mm3 - (own?.volume ?? 0)) / whole).toBeLessThan(1e-6)
        expect(piece.volume_mm3).toBeGreaterThan(0.0099 * whole)
        expect(piece.colour).toBe(own?.colour)
        expect(piece.mass_g).toBeCloseTo((1.9 * piece.volume_mm3) / 1000, 1)
        expect(piece.neighbours.length).toBeGreaterThan(0)
        for (const { name, area_mm2: area } of piece.neighbours) expect(there.find((one) => one.name === name)?.neighbours.find((one) => one.name === piece.name)?.area_mm2).toBeCloseTo(area, 6)
    }
    expect(new Set(there.map((piece) => piece.colour)).size).toBe(there.length)

    // One GLB with a node for every piece, each with its pivot at its centre of mass.
    await page.getByRole('button', { name: 'Take out…' }).click()
    await page.getByRole('radio', { name: 'GLB' }).click()
    await page.getByRole('radio', { name: 'one for all' }).click()
    const waiting = page.waitForEvent('download')
    await page.getByRole('button', { name: /^Download/ }).click()
    const out = folder()
    writeFileSync(join(out, 'out.zip'), readFileSync(await (await waiting).path()))
    execFileSync('php', ['-r', `$z = new ZipArchive; $z->open('${join(out, 'out.zip')}'); $z->extractTo('${out}');`])
    const file = readdirSync(out).find((name) => name.endsWith('.glb')) ?? ''
    const [glb] = JSON.parse(execFileSync('node', ['tests/Support/validate-glb.mjs', join(out, file)], { encoding: 'utf8' })) as { errors: number; nodes: { name: string; translation?: number[]; children?: number[] }[]; materials: string[] }[]
    expect(glb.errors).toBe(0)
    const manifest = JSON.parse(readFileSync(join(out, 'manifest.json'), 'utf8')) as { pieces: { name: string; id: string; centroid_mm: number[] }[] }
    expect(new Set(manifest.pieces.map((piece) => piece.id)).size).toBe(after)
    let pivots = 0
    for (const { name, centroid_mm: [x, y, z] } of manifest.pieces) {
        const node = glb.nodes.find((one) => one.name.replaceAll(' ', '-').toLowerCase() === name.toLowerCase() || one.name === name)
        const [a, b, c] = node?.translation ?? [NaN, NaN, NaN]
        // Metres, Y up, or millimetres under a node that turns and scales.
        const near = [[x / 1000, z / 1000, -y / 1000], [x, y, z]].some((place) => Math.hypot(place[0] - a, place[1] - b, place[2] - c) < 0.02)
        if (near) pivots++
    }
    expect(pivots).toBe(after)
})

test('the identity picture has exactly the colours of the pieces', async ({ page }) => {
    await project(page, 'post', 'told post')
    await kind(page, 'Cells')
    await page.getByRole('radio', { name: 'Blocks' }).click()
    await type(page, 'Blocks along X, X', '3')
    await type(page, 'Blocks along Z, Z', '2')
    await expect(sentence(page)).toHaveText('Shatters 1 of 1 piece into 12 pieces, sealed.')
    await shatter(page)
    await expect(pieces(page)).toHaveCount(12)
    await still(page)
    const waiting = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Identity' }).click()
    const seen = colours(readFileSync(await (await waiting).path()))
    const id = /project\/(\d+)/.exec(page.url())?.[1]
    const told = ((await (await page.request.get(`/api/v1/projects/${id}`)).json()) as { pieces: { colour: string; spent: boolean }[] }).pieces.filter((piece) => !piece.spent).map((piece) => piece.colour)
    expect(new Set(told).size).toBe(12)
    // From a corner nine of twelve blocks are seen; and nothing between two colours.
    expect([...seen].every((colour) => told.includes(colour))).toBe(true)
    expect(seen.size).toBeGreaterThan(7)
})

/** Colours of the pixels that are not clear, of a PNG with 8 bits a channel. */
function colours(png: Buffer): Set<string> {
    const data: Buffer[] = []
    let width = 0
    for (let at = 8; at < png.length; ) {
        const length = png.readUInt32BE(at)
        const name = png.toString('latin1', at + 4, at + 8)
        if (name === 'IHDR') width = png.readUInt32BE(at + 8)
        if (name === 'IDAT') data.push(png.subarray(at + 8, at + 8 + length))
        at += 12 + length
    }
    const rows = inflateSync(Buffer.concat(data))
    const stride = 4 * width
    const found = new Set<string>()
    let above = Buffer.alloc(stride)
    for (let at = 0; at < rows.length; at += stride + 1) {
        const row = Buffer.from(rows.subarray(at + 1, at + 1 + stride))
        for (let i = 0; i < stride; i++) {
            const left = i < 4 ? 0 : row[i - 4]
            const corner = i < 4 ? 0 : above[i - 4]
            const guess = left + above[i] - corner
            const [a, b, c] = [Math.abs(guess - left), Math.abs(guess - above[i]), Math.abs(guess - corner)]
            const paeth = a <= b && a <= c ? left : b <= c ? above[i] : corner
            row[i] = (row[i] + [0, left, above[i], (left + above[i]) >> 1, paeth][rows[at]]) & 255
        }
        for (let i = 0; i < stride; i += 4) if (row[i + 3] === 255) found.add(`#${row.toString('hex', i, i + 3)}`)
        above = row
    }
    return found
}

test('blocks, rings, a chop and hollow shards say beforehand what they make', async ({ page }) => {
    await project(page, 'post', 'divided post')
    await kind(page, 'Cells')
    await page.getByRole('radio', { name: 'Rings' }).click()
    await type(page, 'Sectors', '6')
    // Three rings of six, eight before; in two sectors of the outermost ring lie two corners of the post, which are pieces of their own: told at rest.
    await expect(sentence(page)).toHaveText('Shatters 1 of 1 piece into 20 pieces, sealed.')
    // A number that is about right may be there before it, again and again.
    const rings = 20
    await expect.poll(() => count(page)).toBe(rings)
    // Round a place on the skin, and back round the middle.
    await page.getByRole('button', { name: 'the middle: pick a place…' }).click()
    const view = await viewBox(page)
    await page.mouse.click(view.cx, view.cy)
    await expect(page.getByRole('button', { name: 'a picked place' })).toBeVisible()
    await expect.poll(() => count(page)).not.toBe(rings)
    await page.getByRole('button', { name: 'the middle', exact: true }).click()
    await expect.poll(() => count(page)).toBe(rings)
    await page.getByRole('radio', { name: 'Chop' }).click()
    await type(page, 'Rounds', '2')
    await expect(sentence(page)).toHaveText('Halves each of 1 of 1 piece 2 times over, into 4 pieces, sealed.')
    expect(await count(page)).toBe(4)
    await page.getByRole('radio', { name: 'the view' }).click()
    await expect(page.getByRole('radio', { name: 'the view' })).toHaveAttribute('aria-checked', 'true')
    await shatter(page, 'Chop')
    await expect(pieces(page)).toHaveCount(4)
    // One of them in cells with a kerf between.
    await card(page, 'divided-post-A').locator('button.body').click()
    await page.getByRole('radio', { name: 'Even', exact: true }).first().click()
    await type(page, 'Count', '5')
    await type(page, 'Kerf, mm', '0.5')
    await expect(sentence(page)).toHaveText('Shatters 1 of 4 pieces into 5 pieces, removes 0.5 mm between, sealed.')
    await shatter(page)
    await expect(pieces(page)).toHaveCount(8)
    await expect(page.getByRole('status').first()).toContainText('removed by the kerf')
})

test('1,000 shards stay workable in the list and in the view', async ({ page }) => {
    await project(page, 'clay', 'dust')
    await kind(page, 'Cells')
    await type(page, 'Count', '1000')
    await expect.poll(() => count(page)).toBeGreaterThan(900)
    await page.getByRole('button', { name: 'Shatter', exact: true }).click()
    await expect(page.getByRole('status').first()).toContainText(/1[0-9]{3} pieces, all watertight/, { timeout: 300_000 })
    await expect.poll(() => pieces(page).count()).toBeGreaterThan(999)
    await expect(page.locator('.loading')).toHaveCount(0)
    await card(page, 'dust-C').locator('button.body').click()
    await expect(card(page, 'dust-C').locator('button.body')).toHaveAttribute('aria-pressed', 'true')
})
