// An open mesh that a registry package carries (npm bunny), as OFF.
import { writeFileSync } from 'node:fs'
import bunny from 'bunny'

writeFileSync(process.argv[2], `OFF\n${bunny.positions.length} ${bunny.cells.length} 0\n${bunny.positions.map((p) => p.join(' ')).join('\n')}\n${bunny.cells.map((c) => `3 ${c.join(' ')}`).join('\n')}\n`)
