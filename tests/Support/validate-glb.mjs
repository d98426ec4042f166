// What the Khronos validator says of GLB files: errors, warnings, triangles, nodes with names and translations.
import { readFileSync } from 'node:fs'
import validator from 'gltf-validator'

const answers = []
for (const file of process.argv.slice(2)) {
    const bytes = new Uint8Array(readFileSync(file))
    const report = await validator.validateBytes(bytes)
    const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + new DataView(bytes.buffer).getUint32(12, true))))
    answers.push({
        errors: report.issues.numErrors, warnings: report.issues.numWarnings, messages: report.issues.messages.slice(0, 3),
        triangles: report.info.totalTriangleCount, nodes: json.nodes, materials: json.materials.map((material) => material.name),
    })
}
console.log(JSON.stringify(answers))
