import { computed, ref } from 'vue'
import { bundled } from '../api/bundles'
import { api, bringIn } from '../api/client'
import { said } from '../api/latest'
import type { Units, Upload } from '../api/types'

const FACTORS: Record<Units, number> = { mm: 1, cm: 10, m: 1000, in: 25.4 }
const largest = Number(document.querySelector<HTMLMetaElement>('meta[name=isotome-largest-upload]')?.content ?? Infinity)

/** Mesh files on their way: sent, read and described by the server, to be accepted or let go of. All of them, or none. */
export function useArriving() {
    const sent = ref<{ name: string; share: number; n: number; of: number } | null>(null)
    const uploads = ref<Upload[]>([])
    const units = ref<Units>('mm')
    const up = ref<'z' | 'y'>('z')
    const problem = ref('')

    /** A format that states its unit is read in it, whatever is chosen. */
    const sizeOf = (upload: Upload) => {
        const [x, y, z] = upload.report.size_mm.map((side) => side * (upload.report.states_unit ? 1 : FACTORS[units.value]))
        return up.value === 'y' ? [x, z, y] : [x, y, z]
    }
    const doubt = computed(() => {
        const side = Math.max(0, ...uploads.value.flatMap(sizeOf))
        if (side > 0 && side < 5) return 'That is smaller than a pea: is the unit right?'
        return side > 5000 ? 'That is larger than a room: is the unit right?' : ''
    })

    async function take(list: FileList | null | undefined): Promise<boolean> {
        const given = [...(list ?? [])]
        if (!given.length || sent.value !== null) return false
        problem.value = ''
        sent.value = { name: given[0].name, share: 0, n: 1, of: 1 }
        const files = await bundled(given).catch(() => [])
        sent.value = null
        if (!files.length) {
            problem.value = 'These files could not be put together; bring them in as a zip.'
            return false
        }
        const large = files.find((file) => file.size > largest)
        if (large) {
            problem.value = `The file ${large.name} is larger than the limit of ${Math.floor(largest / 1048576)} MB; reduce the mesh, or raise ISOTOME_LARGEST_UPLOAD and start Isotome again.`
            return false
        }
        const arrived: Upload[] = []
        try {
            for (const [n, file] of files.entries()) {
                sent.value = { name: file.name, share: 0, n: n + 1, of: files.length }
                arrived.push(await bringIn(file, (share) => { if (sent.value) sent.value.share = share }))
            }
            uploads.value = arrived
            up.value = 'z'
            return true
        } catch (error) {
            for (const upload of arrived) void api.forget(upload.id).catch(() => undefined)
            problem.value = said(error)
            return false
        } finally {
            sent.value = null
        }
    }

    function decline() {
        for (const upload of uploads.value) void api.forget(upload.id).catch(() => undefined)
        uploads.value = []
        problem.value = ''
    }

    return { sent, uploads, units, up, problem, doubt, sizeOf, take, decline }
}
