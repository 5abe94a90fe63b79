import { writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { describeContract } from '../shared/contract/openapi'

/** `tsx tools/api-description.ts`: writes the API as OpenAPI into the documentation. A test sees to it that it is up to date. */
writeFileSync(resolve(import.meta.dirname, '../docs/api/openapi.json'), `${JSON.stringify(describeContract(), null, 2)}\n`)
