import { expect } from '@playwright/test'
import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, readlinkSync, realpathSync, rmSync } from 'node:fs'
import { connect, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

export const pause = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms))

export interface Answer<T = Record<string, unknown>> {
    status: number
    body: T
}

export interface Run {
    id: string
    status: string
    over: boolean
    message: string | null
}

export interface Project {
    id: number
    pieces: { id: number; name: string; mesh: string; spent: boolean }[]
    steps: { id: number; number: number }[]
    run: Run | null
}

const started = new Set<Isotome>()

/** After a test that failed half way, too, nothing is left running. */
export async function endAll(): Promise<void> {
    for (const isotome of started) {
        await isotome.stop('SIGKILL').catch(() => undefined)
        isotome.remove()
    }
    started.clear()
}

/** A running Isotome, started with bin/up as a person starts it, on a data folder and a port of its own. */
export class Isotome {
    private up: ChildProcess | null = null

    readonly said: string[] = []

    constructor(
        readonly port: number,
        readonly data = realpathSync(mkdtempSync(join(tmpdir(), 'isotome-standing-'))),
    ) {}

    get root(): string {
        return `http://127.0.0.1:${this.port}`
    }

    async start(env: Record<string, string> = {}): Promise<void> {
        const up = spawn('bin/up', ['--port', String(this.port), '--data', this.data], {
            stdio: ['ignore', 'pipe', 'pipe'], detached: true, env: { ...process.env, ISOTOME_DEMO: '0', ...env },
        })
        this.up = up
        started.add(this)
        await new Promise<void>((resolve, reject) => {
            const hear = (text: Buffer) => {
                this.said.push(text.toString())
                if (text.toString().includes('Isotome is at')) resolve()
            }
            up.stdout.on('data', hear)
            up.stderr.on('data', hear)
            up.on('exit', (code) => reject(new Error(`bin/up ended with ${code}: ${this.said.join('')}`)))
        })
    }

    /** Ends bin/up and waits until all that it started has ended. */
    async stop(signal: NodeJS.Signals = 'SIGTERM', seconds = 60): Promise<void> {
        const up = this.up
        if (up?.pid !== undefined && up.exitCode === null && up.signalCode === null) {
            const ended = new Promise((resolve) => up.on('exit', resolve))
            process.kill(up.pid, signal)
            await ended
        }
        this.up = null
        await expect.poll(() => this.processes(), { timeout: seconds * 1000, intervals: [100] }).toEqual([])
    }

    remove(): void {
        rmSync(this.data, { recursive: true, force: true })
    }

    get upProcess(): number {
        return this.up?.pid ?? 0
    }

    /** What is running on the data folder, but for bin/up: whoever has a file of it open or names it. */
    processes(): { id: number; name: string }[] {
        const found = []
        for (const id of readdirSync('/proc').filter((name) => /^\d+$/.test(name)).map(Number)) {
            if (id === this.upProcess || id === process.pid) continue
            try {
                const files = readdirSync(`/proc/${id}/fd`).map((file) => {
                    try {
                        return readlinkSync(`/proc/${id}/fd/${file}`)
                    } catch {
                        return ''
                    }
                })
                const name = readFileSync(`/proc/${id}/cmdline`, 'utf8').replaceAll('\0', ' ').trim()
                if (files.some((file) => file.startsWith(this.data)) || (name.includes(this.data) && !name.startsWith('find'))) found.push({ id, name })
            } catch {
                // It ended meanwhile.
            }
        }
        return found
    }

    async call<T = Record<string, unknown>>(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Answer<T>> {
        const raw = body instanceof Buffer || typeof body === 'string'
        const response = await fetch(`${this.root}/api/v1${path}`, {
            method,
            headers: { Accept: 'application/json', ...(body === undefined ? {} : { 'Content-Type': raw ? 'application/octet-stream' : 'application/json' }), ...headers },
            body: body === undefined ? undefined : raw ? (body as never) : JSON.stringify(body),
            signal: AbortSignal.timeout(120_000),
        })
        const text = await response.text()
        let answer: unknown = text
        try {
            answer = text === '' ? null : JSON.parse(text)
        } catch {
            // Not JSON: told as it is.
        }
        return { status: response.status, body: answer as T }
    }

    /** Brings in a mesh of a kind that make-stl.php makes, and waits for its project. */
    async project(kind: string, name: string): Promise<number> {
        const upload = await this.call<{ id: string }>('POST', `/uploads?file=${encodeURIComponent(name)}.stl`, stl(kind))
        expect(upload.status, JSON.stringify(upload.body)).toBe(201)
        const made = await this.call<{ id: number; run: Run }>('POST', '/projects', { uploads: [upload.body.id], name, units: 'mm' })
        expect(made.status, JSON.stringify(made.body)).toBe(202)
        expect((await this.over(made.body.run.id)).status).toBe('done')
        return made.body.id
    }

    async show(project: number): Promise<Project> {
        return (await this.call<Project>('GET', `/projects/${project}`)).body
    }

    cut(project: number, height: number): Promise<Answer<Run>> {
        return this.call<Run>('POST', `/projects/${project}/steps`, { step: { do: 'cut', blade: { kind: 'flat', through: [0, 0, height], facing: [0.1, 0.2, 1] } } })
    }

    /** Waits for the end of a run, through any number of restarts. */
    async over(id: string, seconds = 180): Promise<Run> {
        const end = Date.now() + seconds * 1000
        while (Date.now() < end) {
            const run = await this.call<Run>('GET', `/runs/${id}`).catch(() => null)
            if (run?.status === 200 && run.body.over) return run.body
            await pause(100)
        }
        throw new Error(`the run ${id} does not end`)
    }

    async answersWithin(seconds: number): Promise<void> {
        await expect.poll(() => this.call('GET', '/projects').then((answer) => answer.status, () => 0), { timeout: seconds * 1000, intervals: [100] }).toBe(200)
    }

    /** Sends bytes as they are; resolves with what came back when the other side closes or has said what is looked for, or after so long. */
    raw(bytes: string | Buffer, seconds = 10, drip = 0, until?: RegExp): Promise<string> {
        return new Promise((resolve) => {
            let back = ''
            const socket: Socket = connect(this.port, '127.0.0.1')
            const done = () => {
                socket.destroy()
                resolve(back)
            }
            const limit = setTimeout(done, seconds * 1000)
            socket.on('data', (text) => {
                back += text.toString()
                if (until?.test(back)) done()
            })
            socket.on('error', () => undefined)
            socket.on('close', () => {
                clearTimeout(limit)
                done()
            })
            socket.on('connect', () => {
                if (drip === 0) {
                    socket.write(bytes)
                    return
                }
                let at = 0
                const timer = setInterval(() => {
                    if (socket.destroyed || at >= bytes.length) clearInterval(timer)
                    else socket.write(bytes.slice(at, ++at))
                }, drip)
            })
        })
    }

    /** What the database says of itself, with everything stopped or not. */
    soundness(): string[] {
        const code = `$db = new PDO('sqlite:'.$argv[1]); $db->exec('pragma busy_timeout = 20000'); $wrong = [];
            foreach ($db->query('pragma integrity_check') as $row) { if ($row[0] !== 'ok') { $wrong[] = 'integrity: '.$row[0]; } }
            foreach ($db->query('pragma foreign_key_check') as $row) { $wrong[] = 'foreign key: '.json_encode($row); }
            foreach (["twice the same step" => "select project_id, number, count(*) from steps group by 1, 2 having count(*) > 1", "a piece alive under one name twice" => "select project_id, name, count(*) from pieces where spent_by is null group by 1, 2 having count(*) > 1",
                "a piece without all of its mesh" => "select p.id from pieces p join meshes m on m.hash = p.mesh_hash where m.storer is not null", "a mesh without its blocks" => "select hash from meshes where storer is null and bytes <> coalesce((select sum(length(payload)) from mesh_blocks where mesh_hash = hash), 0)",
                "a run without an end" => "select id, status from runs where status in ('waiting', 'running')", "a mesh held for nothing" => "select mesh_hash from mesh_holds"] as $what => $sql) {
                foreach ($db->query($sql) as $row) { $wrong[] = $what.': '.json_encode($row); } }
            echo json_encode($wrong);`
        return JSON.parse(execFileSync('php', ['-r', code, join(this.data, 'isotome.sqlite')]).toString()) as string[]
    }
}

const made = new Map<string, Buffer>()

export function stl(kind: string): Buffer {
    const known = made.get(kind)
    if (known) return known
    const folder = mkdtempSync(join(tmpdir(), 'isotome-stl-'))
    execFileSync('php', ['-d', 'memory_limit=2G', 'tests/Support/make-stl.php', kind, join(folder, 'mesh.stl')])
    const bytes = readFileSync(join(folder, 'mesh.stl'))
    rmSync(folder, { recursive: true })
    made.set(kind, bytes)
    return bytes
}

/** Numbers that are the same in every run. */
export function chance(seed: number): () => number {
    let state = seed
    return () => {
        // A linear congruential generator: Numerical Recipes (Press et al.), ranqd1.
        state = (Math.imul(state, 1664525) + 1013904223) >>> 0
        return state / 2 ** 32
    }
}

export function quantile(values: number[], share: number): number {
    const sorted = [...values].sort((a, b) => a - b)
    return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0
}
