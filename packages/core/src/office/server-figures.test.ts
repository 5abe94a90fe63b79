import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { timeOf, type Timed } from './server-figures'

const BOUNDS = [0.01, 0.05, 0.1, 0.5, 1]
const timed = (times: readonly number[]): Timed => ({ bounds: BOUNDS, count: times.length,
  upTo: BOUNDS.map(bound => times.filter(time => time <= bound).length) })

describe('how long answers took, from a histogram', () => {
  it('is nothing where nothing was counted, and the last bound where answers took longer', () => {
    expect(timeOf(timed([]), 0.5)).toBeNull()
    expect(timeOf(timed([3, 4]), 0.5)).toBe(1)
  })
  it('is at most the bound of its bucket, also where that is not a number that can be written exactly', () => {
    expect(timeOf(timed(Array.from({ length: 57 }, () => 0.001)), 1)).toBe(0.01)
    expect(timeOf(timed(Array.from({ length: 57 }, () => 0.02)), 1)).toBe(0.05)
  })
  it('lies in the same bucket as the true quantile, and never falls with the share', () => {
    fc.assert(fc.property(fc.array(fc.double({ min: 0.0001, max: 1, noNaN: true }), { minLength: 1, maxLength: 60 }),
      fc.double({ min: 0.01, max: 1, noNaN: true }), fc.double({ min: 0.01, max: 1, noNaN: true }), (times, a, b) => {
        const sorted = [...times].sort((x, y) => x - y)
        const truth = sorted[Math.max(0, Math.ceil(a * sorted.length) - 1)]!
        const at = BOUNDS.findIndex(bound => truth <= bound)
        const said = timeOf(timed(times), a)!
        expect(said).toBeLessThanOrEqual(BOUNDS[at]!)
        expect(said).toBeGreaterThanOrEqual(at === 0 ? 0 : BOUNDS[at - 1]!)
        const [low, high] = [Math.min(a, b), Math.max(a, b)]
        expect(timeOf(timed(times), low)!).toBeLessThanOrEqual(timeOf(timed(times), high)! + 1e-12)
      }), { numRuns: 300 })
  })
})
