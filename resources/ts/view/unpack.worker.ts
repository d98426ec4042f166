import { unpack } from './geometry'

// Large meshes are unpacked beside the page, so that it stays usable meanwhile.
self.onmessage = ({ data }: MessageEvent<ArrayBuffer>) => {
    const made = unpack(data)
    self.postMessage(made, { transfer: [made.position.buffer, made.normal.buffer, made.inside.buffer, made.rims.buffer] })
}
