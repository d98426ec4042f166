// Writes tests/Support/answers.schema.json from resources/ts/api/answers.ts; with --check it only says whether it is fresh.
import { createGenerator } from 'ts-json-schema-generator'
import { readFileSync, writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'

const path = (name) => fileURLToPath(new URL(`../${name}`, import.meta.url))
const schema = createGenerator({ path: path('resources/ts/api/answers.ts'), tsconfig: path('tsconfig.json'), type: 'Answers', skipTypeCheck: true, additionalProperties: true, topRef: true }).createSchema('Answers')
const fresh = `${JSON.stringify(schema, null, 1)}\n`
const file = path('tests/Support/answers.schema.json')
if (process.argv.includes('--check')) {
    if (readFileSync(file, 'utf8') !== fresh) {
        console.error('tests/Support/answers.schema.json is stale; run bin/generate.')
        process.exit(1)
    }
} else writeFileSync(file, fresh)
