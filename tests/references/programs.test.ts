import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { allocate, keepsLimits, openByTier, type ProgramsPolicy } from '@ridgeway/core/requirements'
import type { Case } from './generate'
import { generatePrograms, type ProgramsShape, treeOfProgram } from './generate-programs'
import { loadHighs, programGroups, solveReference, tiersCompared } from './ilp'

/** Our own result in the reference's terms: the criteria of every program, or of all in sum, counted from the uses alone. */
function criteriaOf(problem: Case, uses: number[], policy: ProgramsPolicy): number[] {
  const { items, lines } = problem
  return [
    ...programGroups(problem, policy).flatMap((mine, p) => {
      const tree = policy === 'in sum' ? problem.tree : treeOfProgram(problem, p)
      const open = openByTier(items, lines, tree, uses)
      return [...tiersCompared(tree).map(tier => open[tier]!),
        -items.filter((item, i) => item.pinned !== undefined && mine.includes(item.pinned) && uses[i] === item.pinned).length]
    }),
    uses.filter(use => use >= 0).length,
    uses.reduce((sum, use) => sum + (use < 0 ? 0 : lines[use]!.rank), 0),
  ].map(value => value + 0)
}

const SHAPES: [string, number, ProgramsShape][] = [
  ['a major and a minor', 60, { lines: [5, 3], courses: 9, fits: 3 }],
  ['a major, a minor and a certificate', 50, { lines: [4, 3, 2], courses: 8, fits: 2 }],
  ['two programs with choices and pins', 50, { lines: [5, 4], courses: 9, fits: 3, choices: true, pins: true }],
]

describe.each<ProgramsPolicy>(['in order', 'in sum'])('several programs as one, %s, against an integer programme over all of them',
  (policy) => {
    it.each(SHAPES)('%s: every criterion equals the optimum in %i cases', async (_, count, shape) => {
      const highs = await loadHighs()
      let tied = 0
      for (let seed = 1; seed <= count; seed++) {
        const problem = generatePrograms(seed, shape)
        const own = allocate(problem.items, problem.lines, problem.tree, { limits: problem.limits, policy, nodeLimit: 250 })
        expect(own.proved, `case ${seed}`).toBe(true)
        expect(keepsLimits(problem.limits, own.uses), `case ${seed}`).toBe(true)
        const claimed = own.settled ? Infinity : -2
        const value = criteriaOf(problem, own.uses, policy)
        expect(value.slice(0, claimed), `case ${seed}`).toEqual(solveReference(highs, problem, Infinity, policy).slice(0, claimed))
        if (!keepsLimits(problem.limits, allocate(problem.items, problem.lines, problem.tree).uses)) tied++
      }
      // Most of them are cases in which the limits decide something.
      expect(tied).toBeGreaterThan(count * 0.4)
    }, 120_000)
  })

describe('laws of several programs', () => {
  const shape: ProgramsShape = { lines: [5, 3, 2], courses: 9, fits: 3 }
  it('the first program is filled as well as if it were the only one', () => {
    fc.assert(fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
      const problem = generatePrograms(seed, shape)
      const { items, lines, limits } = problem
      const together = allocate(items, lines, problem.tree, { limits, nodeLimit: 250 })
      const alone = allocate(items.map(item => ({ ...item, fits: item.fits.filter(l => !lines[l]!.program) })), lines,
        treeOfProgram(problem, 0))
      fc.pre(together.proved && alone.proved)
      expect(openByTier(items, lines, treeOfProgram(problem, 0), together.uses)).toEqual(alone.open)
    }), { numRuns: 120 })
  })
  it('in sum never leaves more open than in order', () => {
    fc.assert(fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
      const { items, lines, tree, limits } = generatePrograms(seed, shape)
      const inOrder = allocate(items, lines, tree, { limits, nodeLimit: 250 })
      const inSum = allocate(items, lines, tree, { limits, policy: 'in sum', nodeLimit: 250 })
      fc.pre(inSum.proved)
      expect(inSum.open[0]).toBeLessThanOrEqual(inOrder.open[0])
    }), { numRuns: 80 })
  })
  it('with equal programs their order changes nothing', () => {
    fc.assert(fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
      const one = generatePrograms(seed, { lines: [4], courses: 8, fits: 3 })
      const count = one.lines.length
      const twice = (flip: boolean): Case => {
        const copy = (program: number) => one.items.map(item => ({ ...item, fits: item.fits.map(l => l + program * count) }))
        const order = flip ? [1, 0] : [0, 1]
        return { items: [...copy(0), ...copy(1)], lines: order.flatMap(program => one.lines.map(line => ({ ...line, program }))),
          limits: [{ room: 2, terms: one.items.map((_, i) => ({ of: [i, i + one.items.length] as const, size: 1 })) }],
          tree: { n: 2, of: [0, 1].map(program => ({ n: count, of: one.lines.map((_, l) => ({ line: l + program * count })) })) } }
      }
      const opens = (flip: boolean) => {
        const { items, lines, tree, limits } = twice(flip)
        const { uses, proved } = allocate(items, lines, tree, { limits, nodeLimit: 250 })
        fc.pre(proved)
        const both = [0, 1].map(program => openByTier(items, lines, (tree as { of: typeof tree[] }).of[program]!, uses))
        return flip ? both.reverse() : both
      }
      expect(opens(true)).toEqual(opens(false))
    }), { numRuns: 60 })
  })
})
