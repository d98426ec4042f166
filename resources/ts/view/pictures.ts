import { Zip, ZipPassThrough } from 'fflate'

/** Pictures gathered into one zip. They are compressed already, so they are stored as they are, and nothing is copied a second time. */
export class Pictures {
    private readonly parts: Uint8Array<ArrayBuffer>[] = []
    private readonly zip = new Zip((error, bytes) => {
        if (error) throw error
        this.parts.push(bytes as Uint8Array<ArrayBuffer>)
    })

    add(name: string, bytes: Uint8Array): void {
        const file = new ZipPassThrough(name)
        this.zip.add(file)
        file.push(bytes, true)
    }

    end(): Blob {
        this.zip.end()
        return new Blob(this.parts, { type: 'application/zip' })
    }
}
