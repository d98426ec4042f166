/** Sides in pixels that are tried, one after the other. */
const SIDES = [4096, 2896, 2048, 1448, 1024, 724, 512, 256]

/**
 * A picture file as a data: address of at most so many bytes: as it is when it fits, else drawn smaller and written as JPEG.
 * It throws, in a sentence, when the file is no picture.
 */
export async function fitting(file: File, most: number): Promise<{ uri: string; words: string }> {
    const kilobytes = (bytes: number) => `${Math.ceil(bytes / 1000)} KB`
    let picture: ImageBitmap
    try {
        picture = await createImageBitmap(file)
    } catch {
        throw new Error(`${file.name} is no picture that can be read; choose a PNG, JPEG or WebP.`)
    }
    const { width, height } = picture
    if (file.size <= most && ['image/png', 'image/jpeg', 'image/webp'].includes(file.type)) return { uri: await address(file), words: `${file.name}, ${width} × ${height}, ${kilobytes(file.size)}` }
    for (const side of SIDES.filter((one, n) => one <= Math.max(width, height) || n === SIDES.length - 1)) {
        const scale = Math.min(1, side / Math.max(width, height))
        const canvas = new OffscreenCanvas(Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale)))
        canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height)
        const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.88 })
        if (blob.size <= most) return { uri: await address(blob), words: `${file.name}, made smaller: ${canvas.width} × ${canvas.height}, ${kilobytes(blob.size)} as JPEG` }
    }
    throw new Error(`${file.name} cannot be made small enough; save it with fewer pixels.`)
}

function address(blob: Blob): Promise<string> {
    return new Promise((resolve, reject) => {
        const reader = new FileReader()
        reader.onload = () => resolve(String(reader.result))
        reader.onerror = () => reject(new Error('The picture could not be read; choose it again.'))
        reader.readAsDataURL(blob)
    })
}
