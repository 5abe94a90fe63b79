import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Finding } from '../registration/findings'
import { fromInstant, weekdayOf } from '../weeks/meetings'
import { differencesOf, isSame } from './differences'
import { type ExceptionAsked, exceptionFor, exceptionKey } from './exceptions'
import { type Need, NEEDS, type NeedsInput, needsOf, urgencyOf } from './needs'
import { mayGrant, type AdvisingPolicy, EXCEPTION_KINDS } from './policy'
import { freeSlots, type OfficeHours } from './slots'

const COURSES = ['AAA 100', 'BBB 200', 'CCC 300', 'DDD 400']
const agreed = fc.uniqueArray(fc.record({ course: fc.constantFrom(...COURSES), credits: fc.constantFrom(100, 300, 400) }),
  { selector: one => one.course })

describe('differences between what was agreed and what stands', () => {
  it('are none exactly where both hold the same courses with the same credits', () => {
    fc.assert(fc.property(agreed, agreed, (before, now) => {
      const sorted = (list: typeof before) => JSON.stringify([...list].sort((a, b) => a.course < b.course ? -1 : 1))
      expect(isSame(differencesOf(before, now))).toBe(sorted(before) === sorted(now))
    }))
  })

  it('make the one of the other', () => {
    fc.assert(fc.property(agreed, agreed, (before, now) => {
      const { added, gone, resized } = differencesOf(before, now)
      const made = before.filter(one => !gone.includes(one.course))
        .map(one => ({ ...one, credits: resized.find(other => other.course === one.course)?.now ?? one.credits }))
      const all = [...made, ...now.filter(one => added.includes(one.course))].map(one => `${one.course} ${one.credits}`).sort()
      expect(all).toEqual(now.map(one => `${one.course} ${one.credits}`).sort())
    }))
  })
})

const QUIET: NeedsInput = { now: '2026-11-09T15:00:00.000Z', signOffAsked: null, signedOff: true, added: [], gone: [], exceptionsAsked: 0,
  programAsked: false, blockers: 0, opensAt: null, registered: true, finish: '2028FA', finishSeen: '2028FA', comments: 0, holds: [],
  gpa: null, confirmed: true, offPath: 0, planned: 1500, lastSign: '2026-11-08T15:00:00.000Z', silentDays: 21 }
const later = (one: string, other: string) => one > other
const codes = (change: Partial<NeedsInput>) => needsOf({ ...QUIET, ...change }, later).map(need => need.code)

describe('what an advisee needs the advisor for', () => {
  it('is nothing where all is well', () => expect(codes({})).toEqual([]))

  it.each<[string, Partial<NeedsInput>, string[]]>([
    ['sign-off is asked for', { signOffAsked: '2026-11-06T17:20:00.000Z', signedOff: false }, ['sign-off asked']],
    ['an opening within two days without sign-off', { opensAt: '2026-11-10T15:00:00.000Z', signedOff: false, registered: false },
      ['opens unsigned']],
    ['an opening that is farther away', { opensAt: '2026-11-12T15:00:00.000Z', signedOff: false, registered: false }, []],
    ['an opening that passed', { opensAt: '2026-11-08T15:00:00.000Z', signedOff: false, registered: false }, ['opens unsigned']],
    ['a later finish than the one last seen', { finish: '2029SP' }, ['finish slipped']],
    ['a finish that is not there any more', { finish: null }, ['finish slipped']],
    ['an earlier finish', { finish: '2028AA' }, []],
    ['a finish never seen before', { finish: '2029SP', finishSeen: undefined }, []],
    ['a change after sign-off', { added: ['AAA 100'] }, ['changed after sign-off']],
    ['the same before sign-off', { added: ['AAA 100'], signedOff: false }, []],
    ['three silent weeks', { lastSign: '2026-10-19T14:00:00.000Z', signedOff: false, registered: false }, ['silent']],
    ['a day less', { lastSign: '2026-10-20T14:00:00.000Z', signedOff: false, registered: false }, []],
    ['nothing planned and nothing registered', { planned: 0, registered: false }, ['no plan']],
  ])('%s', (_, change, expected) => expect(codes(change)).toEqual(expected))

  it('comes most pressing first, and one more pressing thing outweighs all that are less so', () => {
    const need = (code: string) => ({ code }) as Need
    expect(NEEDS.every((code, i) => urgencyOf([need(code)]) > urgencyOf(NEEDS.slice(i + 1).map(need)))).toBe(true)
    fc.assert(fc.property(fc.record({ blockers: fc.nat(2), comments: fc.nat(2), planned: fc.constantFrom(0, 300),
      exceptionsAsked: fc.nat(1), confirmed: fc.boolean(), registered: fc.boolean() }), (change) => {
      const order = codes(change).map(code => NEEDS.indexOf(code))
      expect(order).toEqual([...order].sort((a, b) => a - b))
    }))
  })
})

describe('the exception that lifts a refusal', () => {
  const row = { course: 'AAA 100', term: '2027SP', sections: new Map([['01', 7]]) }
  const seats = (kept: number): Finding => ({ code: 'seats-full', ok: false, course: 'AAA 100', label: '01',
    seats: { capacity: 30, taken: 25, held: 0, waiting: 0, kept: { seats: kept, for: ['WSC-BS'] } }, other: null })
  it.each<[string, Finding, ExceptionAsked | null]>([
    ['a prerequisite', { code: 'prerequisite', ok: false, needs: [], first: null }, { kind: 'prerequisite', course: 'AAA 100',
      term: '2027SP' }],
    ['one that is met', { code: 'prerequisite', ok: true, reason: null }, null],
    ['too many credits', { code: 'load-cap', ok: false, credits: 2100, cap: 1800, partners: [] }, { kind: 'load', term: '2027SP',
      credits: 2100 }],
    ['seats that are kept for others', seats(5), { kind: 'seat', course: 'AAA 100', term: '2027SP', section: 7 }],
    ['seats that are taken, which nobody can lift', seats(0), null],
    ['a course that is passed, which nobody can lift', { code: 'already-passed', ok: false, course: 'AAA 100', by: 'AAA 100', grade: 'B',
      times: 1 }, null],
  ])('%s', (_, finding, expected) => expect(exceptionFor(finding, row)).toEqual(expected))

  it('two that are about different things have different keys', () => {
    const some: ExceptionAsked[] = [{ kind: 'prerequisite', course: 'AAA 100', term: '2027SP' },
      { kind: 'late add', course: 'AAA 100', term: '2027SP' }, { kind: 'prerequisite', course: 'AAA 100', term: '2027FA' },
      { kind: 'clash', course: 'AAA 100', instead: 'BBB 200', term: '2027SP' },
      { kind: 'clash', course: 'AAA 100', instead: 'CCC 300', term: '2027SP' }, { kind: 'load', term: '2027SP', credits: 1900 },
      { kind: 'seat', course: 'AAA 100', term: '2027SP', section: 7 }, { kind: 'seat', course: 'AAA 100', term: '2027SP', section: 8 },
      { kind: 'waiver', program: 'P', line: 'l', course: null },
      { kind: 'substitution', program: 'P', line: 'l', course: 'AAA 100', instead: null }]
    expect(new Set(some.map(exceptionKey)).size).toBe(some.length)
  })

  it('is granted by whom the institution entitles', () => {
    const who = ['advisor', 'office', 'either'] as const
    const policy = { entitled: Object.fromEntries(EXCEPTION_KINDS.map((kind, i) => [kind, who[i % 3]])) }
    for (const [kind, who] of Object.entries(policy.entitled)) {
      for (const role of ['student', 'advisor', 'office'])
        expect(mayGrant(kind as 'load', role, policy as AdvisingPolicy)).toBe(role !== 'student' && (who === 'either' || who === role))
    }
  })
})

describe('free slots of office hours', () => {
  const zone = 'America/Denver'
  const hours = fc.uniqueArray(fc.record({ day: fc.constantFrom('M', 'W', 'F', 'U' as const), start: fc.integer({ min: 360, max: 1080 }),
    span: fc.integer({ min: 5, max: 240 }), length: fc.constantFrom(10, 15, 30, 45), place: fc.constant('Fell Hall 4') }), { maxLength: 4,
    selector: one => one.day })
  const given = { from: '2026-10-26', until: '2026-11-15', zone, now: '2026-10-28T16:00:00.000Z', closed: new Set(['2026-11-04']) }

  it('lie in the hours of their weekday by the college\'s clock, also where the clocks change, after now and on no closed day', () => {
    fc.assert(fc.property(hours, (list) => {
      const own: OfficeHours[] = list.map(({ span, ...one }) => ({ ...one, end: one.start + span }))
      for (const { start, minutes } of freeSlots(own, { ...given, taken: [] })) {
        const at = fromInstant(start, zone)
        expect(start > given.now && !given.closed.has(at.date)).toBe(true)
        expect(own.some(one => one.day === weekdayOf(at.date) && at.minutes >= one.start && at.minutes + minutes <= one.end
          && (at.minutes - one.start) % one.length === 0)).toBe(true)
      }
    }))
  })

  it('are those that overlap with no meeting that is booked, also one of other hours', () => {
    fc.assert(fc.property(hours, fc.array(fc.record({ slot: fc.nat(60), shift: fc.integer({ min: -40, max: 40 }),
      minutes: fc.constantFrom(10, 15, 45) }), { maxLength: 4 }), (list, booked) => {
      const own: OfficeHours[] = list.map(({ span, ...one }) => ({ ...one, end: one.start + span }))
      const all = freeSlots(own, { ...given, taken: [] })
      const taken = booked.flatMap(({ slot, shift, minutes }) => all[slot]
        ? [{ start: new Date(Date.parse(all[slot].start) + shift * 60_000).toISOString(), minutes }]
        : [])
      const minutesOf = (one: { start: string, minutes: number }) =>
        Array.from({ length: one.minutes }, (_, i) => Date.parse(one.start) / 60_000 + i)
      const busy = new Set(taken.flatMap(minutesOf))
      expect(freeSlots(own, { ...given, taken })).toEqual(all.filter(one => !minutesOf(one).some(minute => busy.has(minute))))
    }))
  })
})
