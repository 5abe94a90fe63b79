import { writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { programJsonSchema } from '@ridgeway/core'

/** `tsx tools/program-schema.ts`: writes the JSON Schema of program files into the documentation. A test sees to it that it is up to date. */
writeFileSync(resolve(import.meta.dirname, '../docs/formats/program.schema.json'), `${JSON.stringify(programJsonSchema(), null, 2)}\n`)
