import { expect, test, type Page } from '@playwright/test'
import { execFileSync, spawnSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { card, cut, drop, folder, pieces, project, sentence, stl } from './helpers'

async function fiveParts(page: Page, name: string): Promise<void> {
    await project(page, 'post', name)
    await page.keyboard.press('1')
    await page.keyboard.press('s')
    await page.getByRole('radio', { name: 'Equal parts' }).click()
    await page.getByLabel('Equal parts, parts').fill('5')
    await page.getByLabel('Equal parts, parts').press('Enter')
    await expect(sentence(page)).toHaveText('Cuts 1 piece into 5 equal parts each, keeps all, sealed.')
    await cut(page, '5 pieces, all watertight')
    await page.getByRole('radio', { name: 'Flat', exact: true }).click()
    await page.keyboard.press('3')
}

test('nothing picked cuts all five; two picked cuts two of five', async ({ page }) => {
    await fiveParts(page, 'five posts')
    await expect(sentence(page)).toHaveText('Cuts 5 of 5 pieces, keeps both sides, sealed.')
    await card(page, 'five-posts-B').locator('button.body').click()
    await card(page, 'five-posts-D').locator('button.body').click({ modifiers: ['Control'] })
    await expect(sentence(page)).toHaveText('Cuts 2 of 5 pieces, keeps both sides, sealed.')
    await cut(page, '4 pieces, all watertight')
    await expect(pieces(page)).toHaveCount(7)
    await expect(card(page, 'five-posts-A')).toBeVisible()
    await expect(card(page, 'five-posts-B')).toHaveCount(0)
    await page.keyboard.press('Control+z')
    await expect(pieces(page)).toHaveCount(5)
    await cut(page, '10 pieces, all watertight')
})

test('names, colours, finding, sorting, picking a range, hiding and stepping through', async ({ page }) => {
    await fiveParts(page, 'told posts')
    await card(page, 'told-posts-C').locator('button.body').dblclick()
    await page.getByLabel('New name of Told posts C').fill('Middle of the post')
    await page.keyboard.press('Enter')
    await expect(card(page, 'told-posts-C')).toContainText('Middle of the post')
    await page.getByLabel('Colour of Middle of the post').fill('#3355aa')
    await expect(page.getByLabel('Colour of Middle of the post')).toHaveValue('#3355aa')
    await page.getByLabel('Find pieces').fill('middle')
    await expect(pieces(page)).toHaveCount(1)
    await page.getByLabel('Find pieces').fill('open')
    await expect(page.getByText('No piece is like that.')).toBeVisible()
    await page.getByLabel('Find pieces').fill('')
    await page.getByLabel('Sort pieces').selectOption('name')
    await expect(pieces(page).first()).toContainText('Middle of the post')
    await page.getByLabel('Sort pieces').selectOption('lineage')
    await page.getByRole('button', { name: 'none' }).click()
    await expect(page.locator('li.picked')).toHaveCount(0)
    await card(page, 'told-posts-A').locator('button.body').click()
    await card(page, 'told-posts-D').locator('button.body').click({ modifiers: ['Shift'] })
    await expect(page.getByText('4 picked')).toBeVisible()
    await page.locator('.picked-tools').getByRole('button', { name: 'hide' }).click()
    await expect(page.locator('li.away')).toHaveCount(4)
    await expect(sentence(page)).toHaveText('Cuts 1 of 5 pieces, keeps both sides, sealed.')
    await page.getByRole('button', { name: 'Show all' }).click()
    await expect(page.locator('li.away')).toHaveCount(0)
    // What a person named is undone by keys as well.
    await page.locator('main canvas').hover()
    await page.keyboard.press('Control+z')
    await page.keyboard.press('Control+z')
    await expect(card(page, 'told-posts-C')).toContainText('Told posts C')
})

test('picked pieces go out in one file that other programs read, sections as SVG and DXF', async ({ page }) => {
    await fiveParts(page, 'sent posts')
    await card(page, 'sent-posts-A').locator('button.body').click()
    await card(page, 'sent-posts-B').locator('button.body').click({ modifiers: ['Control'] })
    for (const [format, words] of [['SVG', '<svg'], ['DXF', 'POLYLINE']]) {
        const waiting = page.waitForEvent('download')
        await page.getByRole('link', { name: format, exact: true }).click()
        expect(readFileSync(await (await waiting).path(), 'utf8')).toContain(words)
    }
    await page.getByRole('button', { name: 'Take out…' }).click()
    await page.getByRole('radio', { name: '3MF' }).click()
    await page.getByRole('radio', { name: 'one for all' }).click()
    const waiting = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Download 2 pieces' }).click()
    const out = folder()
    const zip = join(out, 'out.zip')
    writeFileSync(zip, readFileSync(await (await waiting).path()))
    execFileSync('php', ['-r', `$z = new ZipArchive; $z->open('${zip}'); $z->extractTo('${out}');`])
    // Neighbours lie on each other, which the check of one file with both counts as a fault: it ends with 1.
    const report = JSON.parse(spawnSync('bin/isotome', ['check', join(out, 'Sent-posts.3mf'), '--json'], { encoding: 'utf8' }).stdout)
    expect([report.shells, report.watertight, Math.round(report.volume_mm3)]).toEqual([2, true, 9600])
    // The open library Assimp reads the same two bodies.
    expect(execFileSync('assimp', ['info', join(out, 'Sent-posts.3mf')], { encoding: 'utf8' })).toMatch(/Meshes:\s+2/)
})

test('several files of several formats become one project; the shelf renames, copies, removes and takes back', async ({ page }) => {
    const obj = Buffer.from('v 0 0 0\nv 10 0 0\nv 0 10 0\nv 0 0 10\nf 1 3 2\nf 1 2 4\nf 2 3 4\nf 3 1 4\n')
    await page.goto('/')
    await page.locator('#mesh-file').setInputFiles([
        { name: 'gate post.stl', mimeType: 'model/stl', buffer: stl('post') }, { name: 'wedge.obj', mimeType: 'text/plain', buffer: obj },
    ])
    await expect(page.locator('[data-part=dimensions]')).toHaveText(['40.00 × 30.00 × 20.00 mm', '10.00 × 10.00 × 10.00 mm'])
    await page.getByRole('button', { name: 'Make the project' }).click()
    await expect(pieces(page)).toHaveCount(2)
    await expect(card(page, 'wedge')).toContainText('166.7 mm³')

    await page.goto('/')
    await page.getByRole('button', { name: 'Rename Gate post' }).click()
    await page.getByLabel('New name of Gate post').fill('Sluice gate')
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: 'Copy Sluice gate', exact: true }).click()
    await expect(page.getByRole('heading', { name: 'Sluice gate 2' })).toBeVisible()
    await page.getByRole('button', { name: 'Remove Sluice gate', exact: true }).click()
    await expect(page.getByRole('status')).toHaveText(/Sluice gate is off the shelf\./)
    await expect(page.getByRole('heading', { name: 'Sluice gate', exact: true })).toHaveCount(0)
    await page.getByRole('button', { name: 'Take it back' }).click()
    await expect(page.getByRole('heading', { name: 'Sluice gate', exact: true })).toBeVisible()
    await page.getByRole('button', { name: 'Remove Sluice gate 2' }).click()
    await page.getByRole('button', { name: /removed project/ }).click()
    await page.getByRole('button', { name: 'Remove Sluice gate 2 for good' }).click()
    await expect(page.getByRole('button', { name: /removed project/ })).toHaveCount(0)
    // A refused file among several leaves none of them.
    await drop(page, 'jar.doc', Buffer.from('x'))
    await expect(page.getByRole('alert')).toContainText('convert or rename it')
})

test('five hundred pieces: opened, picked and found without delay', async ({ page }) => {
    await project(page, 'rod', 'long rod')
    await page.keyboard.press('s')
    await page.getByRole('radio', { name: 'Equal parts' }).click()
    await page.getByLabel('Equal parts, parts').fill('500')
    await page.getByLabel('Equal parts, parts').press('Enter')
    await cut(page, '500 pieces, all watertight')
    await expect(pieces(page)).toHaveCount(500)
    const start = Date.now()
    await page.reload()
    await expect(pieces(page)).toHaveCount(500)
    console.log(`500 pieces listed after ${Date.now() - start} ms`)
    await expect(page.locator('.loading')).toHaveCount(0)
    console.log(`500 pieces drawn after ${Date.now() - start} ms`)
    const lag = await page.evaluate(async () => {
        const rows = document.querySelectorAll<HTMLElement>('[data-piece] button.body')
        const began = performance.now()
        rows[300].click()
        await new Promise((resolve) => setTimeout(resolve))
        return { lag: performance.now() - began, picked: rows[300].getAttribute('aria-pressed') }
    })
    expect(lag.picked).toBe('true')
    console.log(`a pick takes ${lag.lag.toFixed(0)} ms`)
    await page.getByLabel('Find pieces').fill('rod QT')
    await expect(pieces(page)).toHaveCount(1)
})
