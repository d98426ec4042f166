import { expect, test } from '@playwright/test'
import { spawnSync } from 'node:child_process'
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { Isotome, pause, stl } from './isotome'

const isotome = new Isotome(8501)

test.beforeAll(async () => {
    await isotome.start()
})

test.afterAll(async () => {
    await isotome.stop()
    isotome.remove()
})

/** Megabytes of all its processes together. */
function memory(): number {
    let pages = 0
    for (const { id } of isotome.processes()) {
        try {
            pages += Number(readFileSync(`/proc/${id}/statm`, 'utf8').split(' ')[1])
        } catch {
            // It ended.
        }
    }
    return (pages * 4096) / 1e6
}

test('a thousand requests that announce a hundred terabytes end alone', async () => {
    const before = memory()
    const processes = isotome.processes().length
    for (let round = 0; round < 20; round++) {
        const said = await Promise.all(Array.from({ length: 50 }, () => isotome.raw('POST / HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 99999999999999\r\n\r\n', 5, 0, /\r\n\r\n/)))
        for (const answer of said) expect(answer).toMatch(/^HTTP\/1\.1 413 /)
    }
    expect((await isotome.call('GET', '/projects')).status).toBe(200)
    expect(isotome.processes().length).toBeGreaterThanOrEqual(processes - 2)
    expect(memory() - before).toBeLessThan(300)
})

test('bodies of every wrong size are refused or end alone', async () => {
    const post = (path: string, headers: string, body = '') => isotome.raw(`POST ${path} HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n${headers}\r\n\r\n${body}`, 1.5)
    for (const path of ['/', '/api/v1/projects', '/api/v1/uploads?file=a.stl', '/api/v1/projects/1/steps']) {
        expect(await post(path, 'Content-Length: -5')).toMatch(/^HTTP\/1\.1 400 /)
        expect(await post(path, 'Content-Length: 5, 7')).toMatch(/^HTTP\/1\.1 400 /)
        expect(await post(path, 'Content-Length: 99999999999999999999999')).toMatch(/^HTTP\/1\.1 4(00|13) /)
        expect(await post(path, 'Content-Length: 300000000')).toMatch(/^HTTP\/1\.1 413 /)
        expect(await post(path, 'Transfer-Encoding: chunked', 'zzzz\r\n')).toMatch(/^HTTP\/1\.1 400 /)
        // Shorter than announced: it is waited for, and nobody is kept from anything meanwhile.
        expect(await post(path, 'Content-Type: application/json\r\nContent-Length: 1000', '{"name":')).toBe('')
        // Longer than announced, and none at all.
        expect(await post(path, 'Content-Type: application/json\r\nContent-Length: 2', '{}{}{}')).toMatch(/^HTTP\/1\.1 (4|5(?!00))/)
        expect(await post(path, 'Content-Type: application/json')).toMatch(/^HTTP\/1\.1 4/)
    }
    const large = await isotome.call('POST', '/projects', 'x'.repeat(3_000_000))
    expect(large.status).toBe(413)
    expect(String(large.body.message)).toContain('larger than the limit')
})

test('three hundred slow senders keep nobody waiting, and are sent away', async () => {
    test.slow()
    const project = await isotome.project('post', 'Slow post')
    const start = Date.now()
    const slow = [
        ...Array.from({ length: 150 }, () => isotome.raw('GET / HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Drip: '.padEnd(4000, 'a'), 40, 400)),
        ...Array.from({ length: 150 }, (_, n) => isotome.raw(`POST ${n % 2 ? '/api/v1/projects' : '/api/v1/uploads?file=a.stl'} HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 100000\r\n\r\n{`, 40)),
    ]
    await pause(1500)
    for (let n = 0; n < 20; n++) {
        const answer = await isotome.call('POST', `/projects/${project}/section`, { through: [0, 0, 0], facing: [0, 0, 1] })
        expect(answer.status).toBe(200)
    }
    expect(Date.now() - start, 'questions were answered meanwhile').toBeLessThan(15_000)
    await Promise.all(slow)
    expect(Date.now() - start, 'all were sent away before their own time was up').toBeLessThan(35_000)
    expect(readdirSync(join(isotome.data, 'storage/spool'))).toEqual([])
})

test('every answer carries the headers, and files are kept by their content', async () => {
    const page = await fetch(`${isotome.root}/`)
    const html = await page.text()
    const script = /\/build\/assets\/[\w.-]+\.js/.exec(html)?.[0] ?? ''
    expect(script).not.toBe('')
    for (const path of ['/', '/project/1', script, '/mark.svg', '/build/none.js', '/api/v1/projects', '/api/v1/none', '/robots.txt', '/.env', '/index.php']) {
        const answer = await fetch(isotome.root + path)
        expect(answer.status, path).toBeLessThan(500)
        const policy = answer.headers.get('content-security-policy') ?? ''
        expect(policy, path).toContain("default-src 'none'")
        expect(policy, path).not.toContain('unsafe')
        expect(answer.headers.get('x-content-type-options'), path).toBe('nosniff')
        expect(answer.headers.get('referrer-policy'), path).toBe('no-referrer')
        expect(answer.headers.get('server'), path).not.toContain('/')
    }
    const packed = await fetch(isotome.root + script, { headers: { 'Accept-Encoding': 'gzip' } })
    expect(packed.headers.get('content-encoding')).toBe('gzip')
    expect(packed.headers.get('cache-control')).toContain('immutable')
    for (const path of ['/build/..%2f..%2fcomposer.json', '/build/../../composer.json', '/%2e%2e/isotome.sqlite', '/sent/x.zip', '/answered/x.zip', '/build/manifest.json%00.js']) {
        const answer = await isotome.raw(`GET ${path} HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n`)
        expect(answer, path).not.toContain('laravel/framework')
        expect(answer, path).toMatch(/^HTTP\/1\.1 (4|200 OK\r\n[^]*<div id="app">)/)
    }
})

test('other pages and other names get nothing, neither to change nor to make work', async () => {
    const id = await isotome.project('post', 'Guarded post')
    for (const site of ['cross-site', 'same-site']) {
        for (const path of [`/projects/${id}/pieces.zip`, `/answers/${'0'.repeat(64)}`, `/projects/${id}/section.svg?through[]=0&through[]=0&through[]=0&facing[]=0&facing[]=0&facing[]=1`, '/projects']) {
            const refused = await isotome.raw(`GET /api/v1${path} HTTP/1.1\r\nHost: 127.0.0.1:${isotome.port}\r\nSec-Fetch-Site: ${site}\r\nConnection: close\r\n\r\n`)
            expect(refused).toMatch(/^HTTP\/1\.1 403 /)
            expect(refused).toContain('came from another page')
        }
    }
    for (const host of ['evil.example', '192.168.1.20', '10.0.0.7:8501', '']) {
        expect(await isotome.raw(`GET /api/v1/projects HTTP/1.1\r\nHost: ${host}\r\nConnection: close\r\n\r\n`)).toMatch(/^HTTP\/1\.1 40[03] /)
    }
    // A link from anywhere to the page itself is fine.
    expect(await isotome.raw('GET / HTTP/1.1\r\nHost: 127.0.0.1\r\nSec-Fetch-Site: cross-site\r\nSec-Fetch-Mode: navigate\r\nConnection: close\r\n\r\n')).toMatch(/^HTTP\/1\.1 200 /)
    // It listens to this machine alone (local addresses are in hexadecimal, the last byte first).
    const listening = readFileSync('/proc/net/tcp', 'utf8').split('\n').map((line) => line.trim().split(/\s+/)).filter((words) => words[1]?.endsWith(`:${isotome.port.toString(16).toUpperCase()}`) && words[3] === '0A')
    expect(listening.map((words) => words[1].split(':')[0])).toEqual(['0100007F'])
    const open = spawnSync('bin/up', ['--host', '0.0.0.0', '--port', '8599', '--data', join(isotome.data, 'other')])
    expect([open.status, open.stderr.toString()]).toEqual([2, expect.stringContaining('needs the team mode')])
})

test('strange values are refused in a sentence: numbers, bytes and lists', async () => {
    const id = await isotome.project('post', 'Strange post')
    const large = '99999999999999999999'
    for (const [method, path, body] of [
        ['GET', `/projects/${large}`, undefined], ['DELETE', `/projects/${large}`, undefined], ['POST', `/projects/${large}/restore`, undefined], ['GET', `/meshes/${'0'.repeat(64)}/faces/${large}`, undefined], ['DELETE', `/printers/${large}`, undefined],
        ['GET', '/runs/x', undefined], ['GET', `/projects/${id}/pieces.zip?pieces=${large}`, undefined], ['GET', `/projects/${id}/pieces.zip?density=1e999`, undefined], ['GET', '/projects?removed=%ff', undefined],
        ['POST', '/uploads?file=%ff%fe.stl', stl('post')], ['POST', `/projects/${id}/section`, '{"through":[0,0,1e999],"facing":[0,0,1]}'], ['POST', `/projects/${id}/steps`, '{"step":{"do":"cut","blade":{"kind":"cells","by":"uniform","count":1e999}}}'],
        ['POST', `/projects/${id}/checks`, `{"pieces":[${'1,'.repeat(1_000_000)}1]}`], ['POST', `/projects/${id}/section`, `{"through":[${'1,'.repeat(1_000_000)}1],"facing":[0,0,1]}`], ['POST', '/meshes/geometry', `{"meshes":[${'"a",'.repeat(500_000)}"a"]}`],
        ['PATCH', `/projects/${id}`, Buffer.from('{"note":"a\xffb"}', 'latin1')], ['PATCH', `/projects/${id}`, '{"note":"a\\u0000b"}'], ['PATCH', `/projects/${id}`, Buffer.from('note=a%ffb')],
    ] as const) {
        const start = Date.now()
        const form = body instanceof Buffer && body.toString().startsWith('note=')
        const answer = await isotome.call(method, path, body as never, body === undefined || path.startsWith('/uploads') ? {} : { 'Content-Type': form ? 'application/x-www-form-urlencoded' : 'application/json' })
        const shown = `${method} ${path} ${String(body).slice(0, 60)}`
        expect(answer.status, shown).toBeGreaterThanOrEqual(400)
        expect(answer.status, shown).toBeLessThan(500)
        expect(String(answer.body.message), shown).toMatch(/^[A-Z][^\n]{15,}\.$/)
        expect(Date.now() - start, shown).toBeLessThan(15_000)
    }
    expect((await isotome.call('GET', '/projects')).status).toBe(200)
})

test('every name that is taken can be taken out in every format', async () => {
    const id = await isotome.project('post', 'Named post')
    for (const name of ['水'.repeat(120), '🦆'.repeat(100) + 'a', 'é'.repeat(120), 'CON', '...a...', 'a/b\\c:d*e?f"g<h>i|j', "it's 100 % \"quoted\""]) {
        const piece = (await isotome.show(id)).pieces[0].id
        expect((await isotome.call('PATCH', `/projects/${id}`, { name })).status, name).toBe(200)
        expect((await isotome.call('PATCH', `/projects/${id}/pieces`, { pieces: [piece], title: name })).status, name).toBe(200)
        for (const as of ['stl', 'obj', 'ply', 'off', '3mf', 'glb']) {
            const answer = await fetch(`${isotome.root}/api/v1/projects/${id}/pieces.zip?as=${as}`)
            expect(answer.status, `${name} as ${as}`).toBe(200)
            expect(Buffer.from(await answer.arrayBuffer()).subarray(0, 2).toString()).toBe('PK')
        }
    }
})

test('large files are sent by the web server, whole and with the right headers', async () => {
    const id = await isotome.project('large', 'Large ring')
    const mesh = (await isotome.show(id)).pieces[0].mesh
    // A run makes the files, after which they are there at once.
    const run = await isotome.call<{ id: string }>('POST', `/projects/${id}/exports`, {})
    expect([run.status, (await isotome.over(run.body.id)).status]).toEqual([202, 'done'])
    const { url } = (await isotome.call<{ url: string }>('POST', `/projects/${id}/exports`, {})).body
    for (const [path, start, caching] of [[`meshes/${mesh}/geometry`, 'ISO1', 'immutable'], [`meshes/${mesh}/geometry?rough=1`, 'ISO1', 'immutable'], [`projects/${id}/pieces.zip`, 'PK', 'no-cache'], [url.replace('/api/v1/', ''), 'PK', 'no-cache']]) {
        const answer = await fetch(`${isotome.root}/api/v1/${path}`)
        const bytes = Buffer.from(await answer.arrayBuffer())
        expect([answer.status, bytes.subarray(0, start.length).toString(), bytes.length > 100_000]).toEqual([200, start, true])
        expect(answer.headers.get('cache-control')?.match(/immutable|no-cache/g), path).toEqual([caching])
        expect(answer.headers.get('content-security-policy')).toContain("default-src 'none'")
        if (start === 'PK') expect(answer.headers.get('content-disposition')).toBe('attachment; filename=Large-ring.zip')
    }
    expect((await isotome.call('DELETE', `/projects/${id}`)).status).toBe(204)
})

test('the data folder is for its owner alone', () => {
    const look = (path: string): void => {
        const stat = statSync(path)
        expect(stat.mode & 0o077, path).toBe(0)
        if (stat.isDirectory()) for (const name of readdirSync(path)) look(join(path, name))
    }
    look(isotome.data)
})

test('a second start on the same data, or the same port, is refused in a sentence', async () => {
    const same = spawnSync('bin/up', ['--port', '8502', '--data', isotome.data])
    expect([same.status, same.stderr.toString()]).toEqual([1, expect.stringMatching(/^bin\/up: Isotome runs on this data already \(at http:\/\/127\.0\.0\.1:8501\); .*\.\n$/)])
    const port = spawnSync('bin/up', ['--port', '8501', '--data', join(isotome.data, '../', `isotome-standing-other-${process.pid}`)])
    expect([port.status, port.stderr.toString()]).toEqual([1, expect.stringMatching(/something answers on 127\.0\.0\.1:8501 already/)])
    expect((await isotome.call('GET', '/projects')).status).toBe(200)
})

test('idle, it takes less than two parts in a hundred of a processor', async () => {
    /** Hundredths of a second that each process has worked. */
    const ticks = () => new Map(isotome.processes().flatMap(({ id, name }) => {
        try {
            const words = readFileSync(`/proc/${id}/stat`, 'utf8').split(') ')[1].split(' ')
            return [[`${id} ${name}`, Number(words[11]) + Number(words[12])] as const]
        } catch {
            return []
        }
    }))
    await pause(3000)
    const before = ticks()
    // As long as it takes the keeper to look round once.
    await pause(60_000)
    const spent = [...ticks()].map(([name, now]) => [name, now - (before.get(name) ?? 0)] as const).filter(([, more]) => more > 0)
    const share = spent.reduce((sum, [, more]) => sum + more, 0) / 100 / 60
    console.log(`idle: ${(100 * share).toFixed(2)} % of a processor`)
    expect(share, JSON.stringify(spent)).toBeLessThan(0.02)
})
