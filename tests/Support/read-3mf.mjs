// What lib3mf reads of 3MF files: warnings, objects with their names, counts and whether each is manifold and oriented; colours, textures and base materials.
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
    const count = (list) => {
        let n = 0
        while (list.MoveNext()) n++
        return n
    }
    answers.push({
        warnings: reader.GetWarningCount(), objects, colour_groups: count(model.GetColorGroups()), texture_groups: count(model.GetTexture2DGroups()), textures: count(model.GetTexture2Ds()),
        base_materials: count(model.GetBaseMaterialGroups()),
    })
}
console.log(JSON.stringify(answers))
