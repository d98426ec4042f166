import { execFileSync, spawnSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync, statfsSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Isotome } from './isotome'

/** A small disk of a test's own, with the data folder of an Isotome on it. */
export class SmallDisk {
    readonly isotome: Isotome

    private constructor(private readonly place: string, port: number) {
        this.isotome = new Isotome(port, join(place, 'data'))
        mkdirSync(this.isotome.data, { mode: 0o700 })
    }

    /** Null where nobody is allowed to mount one. */
    static mount(port: number, megabytes: number): SmallDisk | null {
        const place = mkdtempSync(join(tmpdir(), 'isotome-disk-'))
        if (spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${megabytes}m,mode=700`, 'tmpfs', place]).status === 0) return new SmallDisk(place, port)
        rmSync(place, { recursive: true })
        return null
    }

    /** In bytes. */
    free(): number {
        const { bavail, bsize } = statfsSync(this.place)
        return bavail * bsize
    }

    /** Fills the disk until so many bytes are left; none: until the system refuses. */
    fill(left = 0): void {
        this.clear()
        execFileSync('sh', ['-c', `head -c ${Math.max(0, this.free() - left)} /dev/zero > '${join(this.place, 'stuffing')}' || true`])
    }

    /** Takes away again what it was filled with. */
    clear(): void {
        rmSync(join(this.place, 'stuffing'), { force: true })
    }

    async remove(): Promise<void> {
        await this.isotome.stop().catch(() => undefined)
        spawnSync('umount', ['-l', this.place])
        rmSync(this.place, { recursive: true, force: true })
    }
}
