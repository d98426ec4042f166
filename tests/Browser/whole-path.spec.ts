import { expect, test } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { area, dragGrip, drop, field, folder, pieces, sentence, stl, type, still } from './helpers'

test('from a dropped file to watertight pieces in a zip', async ({ page }) => {
    const problems: string[] = []
    page.on('pageerror', (error) => problems.push(error.message))

    await page.goto('/')
    await expect(page.getByRole('heading', { name: 'Heron', exact: true })).toBeVisible()
    await expect(page.getByRole('heading', { name: 'Millstone', exact: true })).toBeVisible()

    // The dimensions are shown before the file is accepted, and follow the unit.
    await drop(page, 'oil_jar.stl', stl('jar'))
    const dimensions = page.locator('[data-part=dimensions]')
    await expect(dimensions).toHaveText('58.00 × 58.00 × 18.00 mm')
    await page.getByRole('radio', { name: 'cm' }).click()
    await expect(dimensions).toHaveText('580.00 × 580.00 × 180.00 mm')
    await page.getByRole('radio', { name: 'mm', exact: true }).click()
    await expect(page.getByRole('dialog').getByLabel('Name', { exact: true })).toHaveValue('Oil jar')
    await page.getByRole('button', { name: 'Make the project' }).click()

    // One piece, the blade in its middle, its section worked out.
    await expect(pieces(page)).toHaveCount(1)
    await expect(pieces(page)).toContainText('58.0 × 58.0 × 18.0 mm')
    await expect(pieces(page)).toContainText('watertight')
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece, keeps both sides, sealed.')
    const middle = await area(page)
    expect(middle).toBeGreaterThan(2200)

    // The grip slides the blade: place and section follow, computed while it moves.
    await expect(field(page, 'Height, mm')).toHaveValue('9.00')
    await still(page)
    await dragGrip(page, 0, -30)
    const place = async () => Number(await field(page, 'Height, mm').inputValue())
    await expect.poll(place).toBeGreaterThan(9.5)
    expect(await place()).toBeLessThan(18)
    await expect.poll(() => area(page)).toBeLessThan(middle - 1)
    await expect(page.locator('[data-part=section] path.outline')).toHaveCount(1)

    // What will be discarded is chosen, said and undone; a blade that misses turns the button off and says why.
    await page.getByRole('radio', { name: 'Ahead' }).click()
    await expect(sentence(page)).toHaveText('Cuts 1 of 1 piece, keeps what is ahead, sealed.')
    await page.getByRole('radio', { name: 'Both' }).click()
    await type(page, 'Height, mm', '25')
    await expect(sentence(page)).toHaveText('The blade misses the piece by 7.0 mm: move it back.')
    await expect(page.getByRole('button', { name: 'Cut', exact: true })).toBeDisabled()
    await type(page, 'Height, mm', '7')
    await type(page, 'Tilt, °', '15')
    await expect(page.getByRole('button', { name: 'Cut', exact: true })).toBeEnabled()

    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await expect(page.getByRole('status')).toContainText('2 pieces, both watertight, 0.000 % volume lost.')
    await expect(pieces(page)).toHaveCount(2)
    await expect(pieces(page).nth(0)).toContainText('Oil jar A')
    await expect(page.getByLabel('Spread, mm')).toBeVisible()

    // Isolate one piece, and come back.
    await page.getByRole('button', { name: /^Isolate .* B$/ }).click()
    await expect(pieces(page).nth(0)).toHaveClass(/away/)
    await expect(pieces(page).nth(1)).not.toHaveClass(/away/)
    await page.getByRole('button', { name: 'Show all' }).click()
    await expect(pieces(page).nth(0)).not.toHaveClass(/away/)

    // Change of mind: the piece is whole again, and is cut elsewhere.
    await page.keyboard.press('Control+z')
    await expect(pieces(page)).toHaveCount(1)
    await page.getByRole('radio', { name: 'X', exact: true }).click()
    await expect(field(page, 'Place, mm')).toBeVisible()
    await page.getByRole('button', { name: 'centre' }).click()
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await expect(page.getByRole('status')).toContainText('2 pieces, both watertight')

    // What is downloaded is watertight when it is read back by the command line.
    await page.getByRole('button', { name: 'Take out…' }).click()
    const waiting = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Download 2 pieces' }).click()
    const download = await waiting
    expect(download.suggestedFilename()).toBe('Oil-jar.zip')
    const out = folder()
    await download.saveAs(join(out, 'pieces.zip'))
    execFileSync('php', ['-r', '$z = new ZipArchive; exit($z->open($argv[1]) === true && $z->extractTo($argv[2]) ? 0 : 1);', join(out, 'pieces.zip'), out])
    const manifest = JSON.parse(readFileSync(join(out, 'manifest.json'), 'utf8'))
    expect(manifest.pieces.map((piece: { name: string }) => piece.name)).toEqual(['oil-jar-A', 'oil-jar-B'])
    expect(readdirSync(out).filter((name) => name.endsWith('.stl'))).toHaveLength(2)
    let volume = 0
    for (const piece of manifest.pieces) {
        const report = JSON.parse(execFileSync('bin/isotome', ['check', join(out, piece.file), '--json'], { encoding: 'utf8' }))
        expect(report.watertight).toBe(true)
        expect(piece.watertight).toBe(true)
        expect(report.triangles).toBe(piece.triangles)
        volume += report.volume_mm3
    }
    expect(Math.abs(volume / (2 * Math.PI ** 2 * 20 * 81) - 1)).toBeLessThan(0.005)

    // All of it is there after the page is loaded again.
    await page.reload()
    await expect(pieces(page)).toHaveCount(2)
    await page.goto('/')
    await expect(page.locator('.project', { hasText: 'Oil jar' })).toContainText('2 pieces')
    expect(problems).toEqual([])
})
