import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { RunResult } from '#shared/contract/acts/student'
import { Refusal } from '../college/refusal'
import { Busy, OutcomeUnknown, Unavailable } from '../db/failures'
import type { Batches } from './batches'
import { Lanes } from './lanes'
import type { Press } from './register'

/** What becomes of a press, as the database would have it. */
const FATES = ['registered', 'registered', 'registered', 'refused', 'locked', 'broken', 'busy', 'away', 'unknown'] as const
type Fate = typeof FATES[number]
const TROUBLE = { busy: Busy, away: Unavailable, unknown: OutcomeUnknown }
const isTrouble = (problem: unknown) => Object.values(TROUBLE).some(Kind => problem instanceof Kind)

const anyPress = fc.record({ student: fc.integer({ min: 1, max: 6 }), came: fc.nat(40), fate: fc.constantFrom(...FATES) })
const anySize = fc.record({ lanes: fc.integer({ min: 1, max: 3 }), most: fc.integer({ min: 1, max: 5 }), ahead: fc.nat(2) })
const pressOf = (student: number, n: number): Press =>
  ({ student, actor: student, term: '2027SP', key: `k${n}`, rowIds: [n], at: '2026-11-10T16:00:00.000Z' })
const resultOf = (press: Press): RunResult => ({ reference: press.key, at: press.at, repeated: false, rows: [] })

describe('the line, whoever presses when and whatever becomes of it', () => {
  it('answers every press once with its own answer, takes first who came first, and no student twice at a time', async () => {
    await fc.assert(fc.asyncProperty(fc.scheduler(), fc.array(anyPress, { minLength: 1, maxLength: 40 }), anySize,
      async (scheduler, wanted, size) => {
        const fates = new Map<string, Fate>(wanted.map((one, n) => [`k${n}`, one.fate]))
        const came = new Map(wanted.map((one, n) => [`k${n}`, one.came]))
        const inLine = new Set<Press>()
        const underWay = new Set<number>()
        let batchesUnderWay = 0
        // What goes wrong in here would only become somebody's answer.
        const wrong: string[] = []
        const must = (holds: boolean, what: string) => holds || wrong.push(what)
        const taken = (presses: readonly Press[]) => {
          must(++batchesUnderWay <= size.lanes, 'more batches than lanes')
          must(presses.length <= size.most && new Set(presses.map(one => one.student)).size === presses.length, 'a batch too large')
          for (const one of presses) {
            must(!underWay.has(one.student), 'a student twice at a time')
            inLine.delete(one)
          }
          for (const one of presses) underWay.add(one.student)
          // Whoever stands there still and came before is a student whose other press is under way.
          const latest = Math.max(...presses.map(one => came.get(one.key)!))
          for (const one of inLine) must(came.get(one.key)! >= latest || underWay.has(one.student), 'who came before is passed')
        }
        const batches: Batches = async (presses, skip) => {
          if (skip) taken(presses)
          else must(presses.length === 1, 'not alone')
          await scheduler.schedule(Promise.resolve())
          if (skip) batchesUnderWay--
          const known = presses.map(one => fates.get(one.key)!)
          const trouble = known.find(fate => fate in TROUBLE)
          const goAlone = (i: number) => skip && !trouble && (known.includes('broken') ? presses.length > 1 : known[i] === 'locked')
          for (const [i, one] of presses.entries()) if (!goAlone(i)) underWay.delete(one.student)
          if (trouble) throw new TROUBLE[trouble as keyof typeof TROUBLE]('trouble')
          if (known.includes('broken')) throw new Error('broken')
          return { milliseconds: 1, answers: presses.map((one, i) => goAlone(i)
            ? null
            : known[i] === 'refused' ? new Refusal(422, 'nothing-chosen', one.key) : resultOf(one)) }
        }
        const line = new Lanes(batches, size)
        const presses = wanted.map((one, n) => pressOf(one.student, n))
        const answers = presses.map((one, n) => scheduler.schedule(Promise.resolve(), `press ${n}`).then(async () => {
          inLine.add(one)
          return line.register(one, came.get(one.key)).then(result => result.reference, (problem: Error) => problem)
        }))
        await scheduler.waitFor(Promise.all(answers))
        for (const [n, answer] of (await Promise.all(answers)).entries()) {
          const { fate } = wanted[n]!
          // Who was in a batch with somebody's trouble of the database has that answer, and comes again.
          if (isTrouble(answer)) continue
          if (fate === 'refused') expect(answer).toMatchObject({ code: 'nothing-chosen', message: `k${n}` })
          else if (fate === 'broken') expect(answer).toMatchObject({ message: 'broken' })
          else expect(answer).toBe(`k${n}`)
          expect(fate in TROUBLE).toBe(false)
        }
        expect(wrong).toEqual([])
        for (const one of presses)
          expect(line.placeOf(one.student, one.key)).toEqual({ before: null, seconds: null, served: false, again: 600 })
        expect(line.calmIn()).toBe(0)
      }), { numRuns: 300 })
  })

  it('gives batches ahead only where many stand there, and never more than there are lanes', async () => {
    let underWay = 0
    const seen: number[] = []
    const ends: (() => void)[] = []
    const batches: Batches = async (presses) => {
      seen.push(++underWay)
      await new Promise<void>(done => ends.push(done))
      underWay--
      return { milliseconds: 1, answers: presses.map(one => resultOf(one)) }
    }
    const line = new Lanes(batches, { lanes: 2, most: 8, ahead: 2 })
    const all = Array.from({ length: 200 }, (_, n) => line.register(pressOf(n + 1, n)))
    expect(Math.max(...seen)).toBe(4)
    // The first two went when nobody else was there; what was given ahead came when sixty-four stood in line.
    expect(ends).toHaveLength(4)
    let most = 0
    while (ends.length > 0) {
      ends.shift()!()
      await new Promise(resolve => setImmediate(resolve))
      most = Math.max(most, underWay)
    }
    expect(most).toBe(4)
    expect((await Promise.all(all)).map(result => result.reference)).toEqual(all.map((_, n) => `k${n}`))
  })
})
