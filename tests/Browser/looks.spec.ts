import { expect, test } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { card, cut, drop } from './helpers'

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
    await page.getByRole('button', { name: 'Colours', exact: true }).click()
    await expect.poll(redness).toBeLessThan(500)

    await page.getByRole('button', { name: 'Take out pieces…' }).click()
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
