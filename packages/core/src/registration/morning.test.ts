import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { arrivalsAt, fitShares, simulateMorning } from './morning'

const service = fc.record({ lanes: fc.integer({ min: 1, max: 4 }), most: fc.integer({ min: 1, max: 8 }),
  base: fc.integer({ min: 1, max: 50 }), each: fc.integer({ min: 0, max: 10 }), admit: fc.integer({ min: 0, max: 6 }) })
const arrivals = fc.array(fc.nat(5000), { minLength: 1, maxLength: 200 }).map(list => list.sort((a, b) => a - b))

describe('simulateMorning', () => {
  it('is the textbook\'s queue of one server where nothing goes together: each begins when it came or the one before ended', () => {
    // D. V. Lindley, The theory of queues with a single server, 1952: the wait of the next is max(0, wait + service − gap).
    fc.assert(fc.property(arrivals, fc.integer({ min: 1, max: 60 }), (list, ms) => {
      const served = simulateMorning(list, 1, { lanes: 1, most: 1, base: ms, each: 0, admit: 0 })
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
      served.forEach(({ came, answered }) => expect(answered).toBeGreaterThanOrEqual(came + how.admit + how.base + how.each))
      const sum = (all: readonly { answered: number }[]) => Math.max(...all.map(one => one.answered))
      if (how.lanes === 1) expect(served.map(one => one.answered)).toEqual(served.map(one => one.answered).sort((a, b) => a - b))
      if (how.most === 1) expect(sum(simulateMorning(list, 1, { ...how, lanes: how.lanes + 1 }))).toBeLessThanOrEqual(sum(served))
    }))
  })

  it('works of an overloaded morning take as long as all transactions together', () => {
    const served = simulateMorning(Array.from({ length: 1600 }, () => 0), 2, { lanes: 2, most: 8, base: 12, each: 1, admit: 0 })
    // 1,600 presses in batches of 8 over four lanes: fifty transactions a lane of 20 ms each.
    expect(Math.max(...served.map(one => one.answered))).toBe(50 * 20)
  })

  it('is the textbook\'s queue in which one kind of work goes before another: what is let in first holds up what is served', () => {
    // One server that breaks off serving to let in (preemptive resume; L. Kleinrock, Queueing systems II, 1976), step by step.
    fc.assert(fc.property(arrivals, fc.integer({ min: 1, max: 20 }), fc.integer({ min: 1, max: 9 }), (list, ms, admit) => {
      const served = simulateMorning(list, 1, { lanes: 1, most: 1, base: ms, each: 0, admit })
      const toLetIn: number[] = []
      const toServe: number[] = []
      const left = list.map(() => [admit, ms])
      const ends: number[] = []
      for (let now = 0, next = 0; ends.filter(end => end !== undefined).length < list.length; now++) {
        while (next < list.length && list[next]! <= now) toLetIn.push(next++)
        const [queue, kind] = toLetIn.length > 0 ? [toLetIn, 0] : [toServe, 1]
        const one = queue[0]
        if (one === undefined || --left[one]![kind]! > 0) continue
        queue.shift()
        if (kind === 0) toServe.push(one)
        else ends[one] = now + 1
      }
      expect(served.map(one => one.answered)).toEqual(ends)
    }))
  })
})

describe('fitShares', () => {
  it('finds what each press takes that is answered and that comes, whatever the stretches', () => {
    const stretch = fc.record({ came: fc.nat(400), answered: fc.integer({ min: 1, max: 300 }) })
    fc.assert(fc.property(fc.array(stretch, { minLength: 2, maxLength: 30 }), fc.integer({ min: 1, max: 9 }), fc.nat(5),
      (list, serve, admit) => {
        const all = list.map(one => ({ ...one, ms: one.answered * serve + one.came * admit }))
        const [first] = all
        fc.pre(all.some(one => one.came * first!.answered !== one.answered * first!.came))
        const found = fitShares(all)!
        expect(found.serve).toBeCloseTo(serve, 3)
        expect(found.admit).toBeCloseTo(admit, 3)
      }))
    expect(fitShares([])).toBe(null)
    // Nothing comes: all of the time goes to what is answered. What does not fit any two shares above zero is given to one of them.
    expect(fitShares([{ ms: 1000, came: 0, answered: 200 }])).toEqual({ serve: 5, admit: 0 })
    expect(fitShares([{ ms: 1000, came: 400, answered: 200 }, { ms: 1000, came: 0, answered: 100 }])!.admit).toBe(0)
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
