import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { arrivalsAt, fitService, simulateMorning } from './morning'

const service = fc.record({ lanes: fc.integer({ min: 1, max: 4 }), most: fc.integer({ min: 1, max: 8 }),
  base: fc.integer({ min: 1, max: 50 }), each: fc.integer({ min: 0, max: 10 }) })
const arrivals = fc.array(fc.nat(5000), { minLength: 1, maxLength: 200 }).map(list => list.sort((a, b) => a - b))

describe('simulateMorning', () => {
  it('is the textbook\'s queue of one server where nothing goes together: each begins when it came or the one before ended', () => {
    // D. V. Lindley, The theory of queues with a single server, 1952: the wait of the next is max(0, wait + service − gap).
    fc.assert(fc.property(arrivals, fc.integer({ min: 1, max: 60 }), (list, ms) => {
      const served = simulateMorning(list, 1, { lanes: 1, most: 1, base: ms, each: 0 })
      let waits = 0
      served.forEach(({ came, answered }, i) => {
        if (i > 0) waits = Math.max(0, waits + ms - (came - list[i - 1]!))
        expect(answered).toBe(came + waits + ms)
      })
    }))
  })

  it('answers everybody after they came, in order on one lane, never later with another server or lane', () => {
    fc.assert(fc.property(arrivals, service, (list, how) => {
      const served = simulateMorning(list, 1, how)
      served.forEach(({ came, answered }) => expect(answered).toBeGreaterThanOrEqual(came + how.base + how.each))
      const sum = (all: readonly { answered: number }[]) => Math.max(...all.map(one => one.answered))
      if (how.lanes === 1) expect(served.map(one => one.answered)).toEqual(served.map(one => one.answered).sort((a, b) => a - b))
      if (how.most === 1) expect(sum(simulateMorning(list, 1, { ...how, lanes: how.lanes + 1 }))).toBeLessThanOrEqual(sum(served))
    }))
  })

  it('works of an overloaded morning take as long as all transactions together', () => {
    const served = simulateMorning(Array.from({ length: 1600 }, () => 0), 2, { lanes: 2, most: 8, base: 12, each: 1 })
    // 1,600 presses in batches of 8 over four lanes: fifty transactions a lane of 20 ms each.
    expect(Math.max(...served.map(one => one.answered))).toBe(50 * 20)
  })
})

describe('fitService', () => {
  it('finds the line that was measured', () => {
    fc.assert(fc.property(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 9 }), (base, each) => {
      const found = fitService([1, 2, 5, 8, 8].map(presses => ({ presses, ms: base + each * presses })))
      expect(found.base).toBeCloseTo(base, 6)
      expect(found.each).toBeCloseTo(each, 6)
    }))
    expect(fitService([])).toEqual({ base: 0, each: 0 })
  })
})

describe('arrivalsAt', () => {
  it('gives everybody a moment after the opening, in order, with the share at once that was asked', () => {
    let state = 7
    const random = () => (state = state * 16_807 % 2_147_483_647) / 2_147_483_647
    const list = arrivalsAt(1000, 20_000, random, { atOnce: 0.6, within: 10_000, mean: 20_000 })
    expect(list).toEqual([...list].sort((a, b) => a - b))
    expect(list[0]).toBeGreaterThanOrEqual(1000)
    expect(list.filter(at => at < 11_000).length / 20_000).toBeCloseTo(0.6, 1)
  })
})
