import { writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { casesJsonSchema, collegeJsonSchema, describeTables, planJsonSchema, plansJsonSchema, programJsonSchema,
  recordsJsonSchema } from '@ridgeway/formats'

/**
 * `tsx tools/file-schemas.ts`: writes the JSON Schemas of program, plan and case files, and a college's tables, into the documentation.
 * Tests see to it that they
 * are up to date.
 */
for (const [name, schema] of [['program', programJsonSchema()], ['plan', planJsonSchema()], ['cases', casesJsonSchema()],
  ['college', collegeJsonSchema()], ['records', recordsJsonSchema()], ['plans', plansJsonSchema()]] as const) {
  writeFileSync(resolve(import.meta.dirname, `../docs/formats/${name}.schema.json`), `${JSON.stringify(schema, null, 2)}\n`)
}
writeFileSync(resolve(import.meta.dirname, '../docs/formats/college.md'), describeTables())
