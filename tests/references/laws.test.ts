import { describe, it } from 'vitest'
import { LAWS } from './laws/laws'

/**
 * What different parts of the core say must agree, or must agree with a search through everything. Random small colleges, always the same
 * ones; `./ridgeway bench laws` tries twenty times as many.
 */
describe('laws between the parts of the core', () => {
  it.each(LAWS.map(law => [law.name, law] as const))('%s', (_, { check, runs }) => check(runs))
})
