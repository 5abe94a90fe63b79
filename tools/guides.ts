import { mkdirSync, writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { guideFiles } from './build/guides'

/** `tsx tools/guides.ts`: writes the guides from the help that the screens show. A test sees to it that they are up to date. */
const folder = resolve(import.meta.dirname, '../docs/guide')
mkdirSync(folder, { recursive: true })
for (const [name, text] of guideFiles()) writeFileSync(resolve(folder, name), text)
