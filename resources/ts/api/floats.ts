/** 32-bit floats, little-endian, from base64. */
export function floats(base64: string): Float32Array {
    const text = atob(base64)
    const bytes = new Uint8Array(text.length)
    for (let i = 0; i < text.length; i++) bytes[i] = text.charCodeAt(i)
    return new Float32Array(bytes.buffer)
}
