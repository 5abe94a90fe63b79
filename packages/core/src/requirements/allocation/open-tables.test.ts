import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { generateCase } from '../../../../../tests/references/generate'
import { findComponents } from './components'
import { costsOf, Domain, Layout } from './layout'
import { foldTogether } from './objective'
import { OpenTables } from './open-tables'
import { Polish } from './polish'
import { Relaxation } from './relaxation'

/** The parts of a generated case, each with some of its uses struck out and some prices. */
function relaxations(seed: number, keep: number, draw: () => number): Relaxation[] {
  const { items, lines, tree, limits } = generateCase(seed, { lines: 6, items: 12, fits: 3, nested: true, pins: true, caps: true,
    spread: true, limits: true })
  return findComponents(items, lines, tree, limits ?? []).map((part) => {
    const weights = foldTogether(part)
    const layout = new Layout(part, weights.quantum)
    const domain = new Domain(layout)
    for (let e = 0; e < layout.edges; e++) domain.edges[e] = draw() < keep ? 1 : 0
    for (let i = 0; i < layout.n; i++) if (!domain.isOut(i) && draw() < 0.2) domain.rest[i] = 0
    const relaxation = new Relaxation(layout, costsOf(layout, weights), domain)
    for (let i = 0; i < layout.n; i++) relaxation.prices[i] = Math.floor(draw() * 200)
    return relaxation
  })
}

const cases = fc.record({ seed: fc.integer({ min: 1, max: 1e6 }), keep: fc.double({ min: 0.3, max: 1, noNaN: true }),
  draws: fc.infiniteStream(fc.double({ min: 0, max: 1, maxExcluded: true, noNaN: true })) })

describe('tables over the edges that are left', () => {
  it('give every line the cost that its whole table gives', () => {
    fc.assert(fc.property(cases, ({ seed, keep, draws }) => {
      for (const relaxation of relaxations(seed, keep, () => draws.next().value as number)) {
        relaxation.rebuild()
        const tables = new OpenTables(relaxation)
        tables.read()
        for (let l = 0; l < relaxation.layout.m; l++) expect(tables.build(l)).toBe(relaxation.cost[l])
      }
    }), { numRuns: 200 })
  })

  it('leave a bound after polishing that all its parts add up to, and never a lower one than before', () => {
    fc.assert(fc.property(cases, ({ seed, draws }) => {
      for (const relaxation of relaxations(seed, 1, () => draws.next().value as number)) {
        relaxation.rebuild()
        const before = relaxation.bound
        new Polish(relaxation).run(Infinity, 30, 5)
        const after = relaxation.bound
        expect(after).toBeGreaterThanOrEqual(before)
        relaxation.rebuild()
        expect(relaxation.bound).toBe(after)
      }
    }), { numRuns: 200 })
  })
})
