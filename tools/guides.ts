import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { guideFiles, withRefusals } from './build/guides'

/**
 * `tsx tools/guides.ts`: writes the guides from the help that the screens show, and the table of refusals into the rules. Tests check
 * that they are up to date.
 */
const folder = resolve(import.meta.dirname, '../docs/guide')
mkdirSync(folder, { recursive: true })
for (const [name, text] of guideFiles()) writeFileSync(resolve(folder, name), text)
const rules = resolve(import.meta.dirname, '../docs/rules.md')
writeFileSync(rules, withRefusals(readFileSync(rules, 'utf8')))
