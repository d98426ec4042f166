import { zipSync, type Zippable } from 'fflate'
import { FORMATS, READ_ONLY } from './formats'

/** What can come with a mesh: materials, data, pictures. */
export const COMPANIONS = ['mtl', 'bin', 'png', 'jpg', 'jpeg', 'webp']
/** Meshes that name other files. */
const NAMES_OTHERS = ['obj', 'gltf', 'glb']

const ending = (file: File) => file.name.replace(/^.*\./, '').toLowerCase()

/**
 * Files as they are to be sent: materials, data and pictures that were given together with meshes that may name them go into one zip with these. Without such a
 * mesh they are sent as they are, and refused by their names.
 */
export async function bundled(files: File[]): Promise<File[]> {
    const companions = files.filter((file) => COMPANIONS.includes(ending(file)))
    const naming = files.filter((file) => NAMES_OTHERS.includes(ending(file)))
    if (!companions.length || !naming.length) return files
    const parts: Zippable = {}
    // As they are: pictures are packed already, and text is read once.
    for (const file of [...naming, ...companions]) parts[file.name] = [new Uint8Array(await file.arrayBuffer()), { level: 0 }]
    const one = new File([zipSync(parts)], naming[0].name.replace(/\.[^.]*$/, '.zip'))
    return [one, ...files.filter((file) => !naming.includes(file) && !companions.includes(file))]
}

/** What may be chosen for a project. */
export const ACCEPTED = [...FORMATS, ...READ_ONLY, ...COMPANIONS]
