import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { course, courseMap, decision, row, section, term } from '../../../../tests/builders'
import { chanceOf, decideRun, openingFor, readGates, withSeatsNow } from '.'

/** Nothing else is lifted. */
const OTHERS = { clash: new Set<string>(), seat: new Set<number>() }

const seats = fc.record({ capacity: fc.integer({ min: 0, max: 4 }), taken: fc.nat(4), held: fc.nat(2) })
  .map(({ capacity, taken, held }) => ({ capacity: Math.max(capacity, taken + held), taken, held }))

describe('a decision with the seats as they are now', () => {
  it('is the decision that would be made with them, whatever they were', () => {
    fc.assert(fc.property(seats, seats, fc.boolean(), fc.integer({ min: 0, max: 3 }), (before, now, passed, waiting) => {
      const courses = courseMap(course('AAA 100'), course('BBB 100', { prerequisite: 'AAA 100 with C' }))
      const at = (pool: typeof before) => section(1, 'BBB 100', { waiting, pools: [{ id: 10, forGroup: null, ...pool }] })
      const items = passed
        ? [{ id: 'a', course: 'AAA 100', term: '2025FA', credits: 300, grade: 'B', state: 'completed' as const, source: 'here' as const }]
        : []
      const decide = (pool: typeof before) => decideRun([row(1, 'BBB 100', [1])], decision(courses, [at(pool)], { items }))[0]!
      const told = withSeatsNow(decide(before), [at(now)], [], courses.get('BBB 100')!, [at(now)])
      expect(told).toEqual(decide(now))
    }))
  })

  it('names the other section that a fresh decision names, after any news of the seats of all of them', () => {
    const lecture = course('AAA 100', { parts: ['lecture', 'lab'] })
    const courses = courseMap(lecture)
    const seatsOfAll = fc.array(seats, { minLength: 6, maxLength: 6 })
    fc.assert(fc.property(seatsOfAll, seatsOfAll, fc.nat(2), (before, now, chosen) => {
      const at = (pools: typeof before) => pools.map((pool, i) => section(i + 1, 'AAA 100', { part: i % 2 ? 'lab' : 'lecture',
        link: String(i >> 1), label: `0${(i >> 1) + 1}${i % 2 ? 'L' : ''}`, pools: [{ id: i + 10, forGroup: null, ...pool }] }))
      const ids = [chosen * 2 + 1, chosen * 2 + 2]
      const decide = (pools: typeof before) => decideRun([row(1, 'AAA 100', ids)], decision(courses, at(pools)))[0]!
      const fresh = at(now)
      const mine = ids.map(id => fresh[id - 1]!)
      expect(withSeatsNow(decide(before), mine, [], lecture, fresh)).toEqual(decide(now))
    }), { numRuns: 400 })
  })
})

describe('a decision', () => {
  it('says the same in the same order, however what is registered was read', () => {
    const courses = courseMap(course('AAA 100'), course('BBB 100'), course('CCC 100'))
    const at = [{ ...section(1, 'AAA 100').meetings[0]!, start: 500, end: 600 }]
    const sections = [section(1, 'AAA 100', { meetings: at }), section(2, 'BBB 100', { meetings: at }), section(3, 'CCC 100',
      { meetings: at })]
    const decide = (registered: typeof sections) => decideRun([row(1, 'CCC 100', [3])], decision(courses, sections, { registered }))
    expect(decide([sections[1]!, sections[0]!])).toEqual(decide([sections[0]!, sections[1]!]))
    expect(decide([sections[1]!, sections[0]!])[0]!.findings.filter(one => one.code === 'clash')).toHaveLength(2)
  })
})

describe('deadlines of a session', () => {
  const halves = term('2027SP', { addBy: '2027-01-18', sessions: [
    { code: 'full', name: '', start: '2027-01-11', end: '2027-05-07' },
    { code: 'second', name: '', start: '2027-03-08', end: '2027-05-07',
      deadlines: { addBy: '2027-03-12', dropBy: '2027-03-16', withdrawBy: '2027-04-10' } }] })
  const courses = courseMap(course('AAA 100'), course('BBB 100'))
  const sections = [section(1, 'AAA 100'), section(2, 'BBB 100', { session: 'second' })]
  const decide = (today: string, lateAdd: string[] = []) => decideRun([row(1, 'AAA 100', [1]), row(2, 'BBB 100', [2])],
    decision(courses, sections, { term: halves, today, lifted: { lateAdd: new Set(lateAdd), restriction: new Set(), ...OTHERS } }))
  it('let the second half be added when the whole term can be no more, and each no later than its own last day', () => {
    expect(decide('2027-01-18').map(one => one.outcome)).toEqual(['register', 'register'])
    const [whole, second] = decide('2027-01-19')
    expect(whole!.findings.filter(one => !one.ok)).toMatchObject([{ code: 'session-closed', label: '01', by: '2027-01-18' }])
    expect(second!.outcome).toBe('register')
    expect(decide('2027-03-13').map(one => one.outcome)).toEqual(['refused', 'refused'])
  })
  it('are lifted by a late add, for that course alone, and so is the gate that closes the term', () => {
    expect(decide('2027-03-13', ['AAA 100']).map(one => one.outcome)).toEqual(['register', 'refused'])
    const gates = readGates({ term: halves, now: '2027-03-20T12:00:00Z', today: '2027-03-20', addBy: '2027-03-12', zone: 'UTC',
      openings: [{ from: '2026-11-01T00:00:00Z', program: null, earnedMin: 0, words: '' }], programs: [], earned: 0,
      signedOff: { by: '', on: '2026-11-01' }, signOffAsked: false, advisor: null, holds: [], programConfirmed: true, programTitle: '',
      termsAccepted: '2026-11-01' })
    const late = decideRun([row(1, 'AAA 100', [1]), row(2, 'BBB 100', [2])], decision(courses, sections, { term: halves, gates,
      today: '2027-03-20', lifted: { lateAdd: new Set(['AAA 100']), restriction: new Set(), ...OTHERS } }))
    expect(late.map(one => one.outcome)).toEqual(['register', 'refused'])
  })
  it('leave a section that is kept for some to somebody for whom that was lifted', () => {
    const kept = [section(1, 'AAA 100', { onlyPrograms: ['X'] })]
    const ask = (restriction: string[]) => decideRun([row(1, 'AAA 100', [1])], decision(courses, kept,
      { lifted: { lateAdd: new Set(), restriction: new Set(restriction), ...OTHERS } }))[0]!.outcome
    expect([ask([]), ask(['AAA 100'])]).toEqual(['refused', 'register'])
  })
})

describe('gates', () => {
  const input = { term: { code: '2027SP', name: '' }, now: '2026-11-10T00:00:00Z', today: '2026-11-10', addBy: '2027-01-18', zone: 'UTC',
    openings: [{ from: '2026-11-01T00:00:00Z', program: null, earnedMin: 0, words: '' }], programs: [], earned: 0, signedOff: null,
    signOffAsked: false, advisor: null, holds: [], programConfirmed: true, programTitle: '', termsAccepted: '2026-11-01' }
  const closed = (values: object) => readGates({ ...input, ...values }).filter(gate => !gate.open).map(gate => gate.kind)
  it('are closed by the office with a reason, and opened by a release code in place of a sign-off', () => {
    expect(closed({})).toEqual(['sign-off'])
    expect(closed({ released: '2026-11-09' })).toEqual([])
    expect(closed({ released: '2026-11-09', closedBecause: 'Rooms are being moved' })).toEqual(['office'])
  })
  it('open by the earliest rule that fits, and by none where none does', () => {
    const rules = [{ from: '2026-11-09T00:00:00Z', program: null, earnedMin: 6000, words: 'late' },
      { from: '2026-11-08T00:00:00Z', program: 'X', earnedMin: 0, words: 'early' }]
    expect(openingFor(rules, ['X'], 7000)?.words).toBe('early')
    expect(openingFor(rules, [], 100)).toBeNull()
  })
})

describe('the chance of moving up', () => {
  const before = [1, 2, 3, 4, 5, 6].map(place => ({ place, offered: place <= 3 }))
  it('is how it went for those who stood there or further back, and nothing where they were too few', () => {
    expect(chanceOf(2, before)).toEqual({ of: 5, offered: 2 })
    expect(chanceOf(4, before)).toBeNull()
  })
})
