import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Meeting, Section, Weekday } from '../catalog/types'
import { bundlesOf, clashBetween } from './bundles'
import { Offer } from './offer'
import { expandMeeting, expandSection, findClash, fromInstant, toInstant, weekdayOf } from './meetings'

const calendar = { noClass: [{ date: '2027-01-18', name: 'Winter holiday' }], movedDays: [{ date: '2027-01-20', follows: 'M' as Weekday }] }
const meeting = (values: Partial<Meeting> = {}): Meeting => ({ days: ['M', 'W'], start: 570, end: 645, first: '2027-01-11',
  last: '2027-01-29', site: 'larkmoor', room: '1', ...values })
const section = (values: Partial<Section>): Section => ({
  id: 1,
  term: '2027SP',
  session: 'full',
  course: 'HYD 230',
  number: '20001',
  label: '01',
  part: 'lecture',
  link: '01',
  meetings: [meeting()],
  exam: null,
  instructors: [],
  pools: [],
  waitlistCapacity: 0,
  waiting: 0,
  delivery: 'on site',
  topic: '',
  notes: '',
  fee: 0,
  gradingModes: ['letter'],
  group: '',
  seatsWith: null,
  onlyPrograms: [],
  onlyStandings: [],
  onlyCohorts: [],
  cancelled: false,
  ...values,
})
const travel = [{ from: 'larkmoor', to: 'stonegate', minutes: 25 }]

describe('expandMeeting', () => {
  it('leaves out days without classes and follows moved days', () => {
    expect(expandMeeting(meeting({ days: ['M'] }), calendar).map(o => o.date)).toEqual(['2027-01-11', '2027-01-20', '2027-01-25'])
    expect(expandMeeting(meeting({ days: ['W'] }), calendar).map(o => o.date)).toEqual(['2027-01-13', '2027-01-27'])
  })
  it('knows the weekdays', () => {
    expect([weekdayOf('1970-01-01'), weekdayOf('2026-11-09'), weekdayOf('2028-02-29')]).toEqual(['R', 'M', 'T'])
  })
})

describe('toInstant', () => {
  it('keeps the local hour through daylight saving', () => {
    // US daylight saving begins on the second Sunday of March (15 U.S.C. 260a): 14 March 2027.
    expect(toInstant('2027-03-12', 480, 'America/Denver')).toBe('2027-03-12T15:00:00.000Z')
    expect(toInstant('2027-03-15', 480, 'America/Denver')).toBe('2027-03-15T14:00:00.000Z')
  })
  it('comes back from every instant', () => {
    fc.assert(fc.property(fc.integer({ min: 0, max: 364 }), fc.integer({ min: 240, max: 1439 }), (day, minutes) => {
      const date = new Date(Date.UTC(2027, 0, 1 + day)).toISOString().slice(0, 10)
      expect(fromInstant(toInstant(date, minutes, 'America/Denver'), 'America/Denver')).toEqual({ date, minutes })
    }))
  })
})

describe('findClash', () => {
  const at = (start: number, end: number, site = 'larkmoor', date = '2027-01-11') => [{ date, start, end, site }]
  it('lets classes touch at one site, not overlap', () => {
    expect(findClash(at(480, 555), at(555, 630), travel)).toBeNull()
    expect(findClash(at(480, 556), at(555, 630), travel)).toMatchObject({ kind: 'overlap' })
  })
  it('asks for the way between two sites', () => {
    expect(findClash(at(480, 555), at(570, 645, 'stonegate'), travel)).toEqual({ date: '2027-01-11', kind: 'travel', shortBy: 10 })
    expect(findClash(at(480, 555), at(580, 645, 'stonegate'), travel)).toBeNull()
  })
  it('lets halves of a term share hours', () => {
    const first = section({ meetings: [meeting({ last: '2027-03-05' })] })
    const second = section({ id: 2, meetings: [meeting({ first: '2027-03-08', last: '2027-04-30' })] })
    expect(clashBetween([first], [second], calendar, travel)).toBeNull()
    expect(clashBetween([first], [section({ id: 3 })], calendar, travel)).not.toBeNull()
  })
  it('is the same both ways', () => {
    const occurrence = fc.record({ date: fc.constantFrom('2027-01-11', '2027-01-12'), start: fc.integer({ min: 480, max: 900 }),
      site: fc.constantFrom('larkmoor', 'stonegate', 'online') })
      .chain(o => fc.integer({ min: 10, max: 170 }).map(length => ({ ...o, end: o.start + length })))
    fc.assert(fc.property(fc.array(occurrence, { maxLength: 6 }), fc.array(occurrence, { maxLength: 6 }), (a, b) => {
      expect(findClash(a, b, travel) === null).toBe(findClash(b, a, travel) === null)
    }))
  })
})

describe('Offer', () => {
  const pieces = fc.array(fc.record({ course: fc.constantFrom('HYD 110', 'HYD 230', 'ECL 210'), link: fc.constantFrom('1', '2'),
    part: fc.constantFrom('lecture' as const, 'lab' as const), cancelled: fc.boolean(), label: fc.constantFrom('01', '02', '03') }),
  { maxLength: 14 })

  it('has the bundles that the sections make, each course with its own, made once', () => {
    fc.assert(fc.property(pieces, (values) => {
      const sections = values.map((one, i) => section({ ...one, id: i + 1 }))
      const offer = new Offer(sections)
      expect(offer.courses().sort()).toEqual([...new Set(sections.map(one => one.course))].sort())
      for (const code of ['HYD 110', 'HYD 230', 'ECL 210']) {
        const course = { code, parts: ['lecture' as const, 'lab' as const] }
        expect(offer.bundles(course)).toEqual(bundlesOf(course, sections))
        expect(offer.bundles(course)).toBe(offer.bundles(course))
        // A course whose parts are others has other bundles.
        const other = { code, parts: ['lecture' as const] }
        expect(offer.bundles(other)).toEqual(bundlesOf(other, sections))
      }
    }))
  })
})

describe('clashBetween', () => {
  const date = fc.integer({ min: 0, max: 40 }).map(day => new Date(Date.UTC(2027, 0, 4 + day)).toISOString().slice(0, 10))
  const weekday = fc.constantFrom<Weekday>('M', 'T', 'W', 'R', 'F', 'S', 'U')
  const time = fc.record({ start: fc.integer({ min: 0, max: 1439 }), minutes: fc.integer({ min: 10, max: 300 }), overnight: fc.boolean() })
    // Past midnight it is written either way: 1380 to 1500, or 1380 to 60.
    .map(({ start, minutes, overnight }) => ({ start, end: overnight ? (start + minutes) % 1440 : start + minutes }))
  const site = fc.constantFrom('larkmoor', 'stonegate', 'online')
  const slot = fc.record({ days: fc.uniqueArray(weekday, { minLength: 1, maxLength: 3 }), time, dates: fc.tuple(date, date), site })
    .map(({ days, time: { start, end }, dates, site: at }) =>
      meeting({ days, start, end, first: dates.toSorted()[0]!, last: dates.toSorted()[1]!, site: at }))
  const exam = fc.option(fc.record({ date, time }).map(({ date: on, time: { start, end } }) => ({ date: on, start, end })))
  const sections = fc.array(fc.record({ meetings: fc.array(slot, { minLength: 1, maxLength: 2 }), exam }).map(values => section(values)),
    { minLength: 1, maxLength: 2 })
  const days = fc.record({ noClass: fc.array(fc.record({ date, name: fc.constant('free') }), { maxLength: 4 }),
    movedDays: fc.array(fc.record({ date, follows: weekday }), { maxLength: 4 }) })

  it('finds on remembered dates what dates worked out afresh show, first clash and all', () => {
    const afresh = (list: readonly Section[], of: typeof calendar) =>
      list.flatMap(one => [...expandSection(one, structuredClone(of)),
        ...one.exam ? [{ ...one.exam, site: one.meetings[0]!.site }] : []])
    fc.assert(fc.property(sections, sections, days, days, (a, b, first, second) => {
      // The same sections under two calendars, and twice under each: what is remembered is never another calendar's.
      for (const term of [first, second, first])
        expect(clashBetween(a, b, term, travel)).toEqual(findClash(afresh(a, term), afresh(b, term), travel))
    }), { numRuns: 400 })
  })
})

describe('bundlesOf', () => {
  const course = { code: 'HYD 230', parts: ['lecture', 'lab'] as const satisfies readonly string[] }
  it('joins every lecture with every lab of its link, and nothing else', () => {
    const sections = [section({}), section({ id: 2, part: 'lab', label: '01L' }), section({ id: 3, part: 'lab', label: '01M' }),
      section({ id: 4, link: '02' }), section({ id: 5, link: '03' }), section({ id: 6, link: '03', part: 'lab', cancelled: true })]
    expect(bundlesOf({ ...course, parts: [...course.parts] }, sections).map(bundle => bundle.id)).toEqual(['1+2', '1+3'])
  })
})
