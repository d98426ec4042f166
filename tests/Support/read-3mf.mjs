// What lib3mf reads of 3MF files: warnings, objects with their names, counts and whether each is manifold and oriented.
import { readFileSync } from 'node:fs'
import lib3mf from '@3mfconsortium/lib3mf'

const library = await lib3mf()
const answers = []
for (const [n, file] of process.argv.slice(2).entries()) {
    const wrapper = new library.CWrapper()
    const model = wrapper.CreateModel()
    const reader = model.QueryReader('3mf')
    library.FS.writeFile(`/${n}.3mf`, readFileSync(file))
    reader.ReadFromFile(`/${n}.3mf`)
    const objects = []
    const found = model.GetMeshObjects()
    while (found.MoveNext()) {
        const mesh = found.GetCurrentMeshObject()
        objects.push({ name: mesh.GetName(), triangles: mesh.GetTriangleCount(), vertices: mesh.GetVertexCount(), closed: mesh.IsManifoldAndOriented() })
    }
    answers.push({ warnings: reader.GetWarningCount(), objects })
}
console.log(JSON.stringify(answers))
