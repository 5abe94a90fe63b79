import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { course, courseMap, decision, item, meeting, row, section } from '../../../../tests/builders'
import { decideBeside, decideRun } from '.'
import { groupsOf } from './groups'

const CODES = ['AAA 100', 'BBB 100', 'CCC 100', 'DDD 100']
/** Three rows and one more: hours, seats, corequisites and prerequisites at random. */
const anyCase = fc.record({
  hours: fc.array(fc.integer({ min: 0, max: 2 }), { minLength: 4, maxLength: 4 }),
  full: fc.array(fc.boolean(), { minLength: 4, maxLength: 4 }),
  rules: fc.array(fc.constantFrom('', '', 'AAA 100', 'DDD 100', 'BBB 100 or DDD 100'), { minLength: 4, maxLength: 4 }),
  before: fc.array(fc.constantFrom('', '', '', 'ZZZ 900'), { minLength: 4, maxLength: 4 }),
  cap: fc.constantFrom(600, 900, 1800),
})

describe('decideBeside', () => {
  it('says of one more row what a run says in which it comes last', () => {
    fc.assert(fc.property(anyCase, ({ hours, full, rules, before, cap }) => {
      const courses = courseMap(...CODES.map((code, i) => course(code, { corequisite: rules[i]!.includes(code) ? '' : rules[i]!,
        prerequisite: before[i]! })))
      const sections = CODES.map((code, i) => section(i + 1, code, { meetings: [meeting(480 + hours[i]! * 90, { days: ['M'] })],
        pools: [{ id: i + 1, forGroup: null, capacity: 2, taken: full[i] ? 2 : 0, held: 0 }] }))
      sections.push(section(5, 'DDD 100', { link: 'b', meetings: [meeting(570, { days: ['M'] })] }))
      const context = decision(courses, sections, { loadCap: cap })
      const rows = CODES.slice(0, 3).map((code, i) => row(i + 1, code, [i + 1]))
      const decide = decideBeside(rows, context)
      const more = row(9, 'DDD 100', [4])
      expect(decide(more)).toEqual(decideRun([...rows, more], context).at(-1))
      // Asked about another bundle, and again, nothing is left of the question before.
      const other = row(9, 'DDD 100', [5])
      expect(decide(other)).toEqual(decideRun([...rows, other], context).at(-1))
      expect(decide(more)).toEqual(decideRun([...rows, more], context).at(-1))
    }), { numRuns: 300 })
  })
})

describe('for whom sections and seats are kept', () => {
  const rules = decision(courseMap(course('AAA 100'), course('BBB 100')), [])
  it('is told by programs, cohorts and class standing', () => {
    expect(groupsOf({ programs: ['P'], cohorts: ['EAST'] }, [item('AAA 100')], rules)).toEqual(['P', 'EAST', 'freshman'])
  })
  it.each([
    ['a cohort', { onlyCohorts: ['EAST'] }, ['EAST']], ['a class standing', { onlyStandings: ['junior' as const] }, ['junior']],
    ['a program', { onlyPrograms: ['P'] }, ['P']],
  ])('%s it is not for is refused and told', (_, only, groups) => {
    const context = decision(courseMap(course('AAA 100')), [section(1, 'AAA 100', only)])
    expect(decideRun([row(1, 'AAA 100', [1])], context)[0]!.findings.filter(one => !one.ok))
      .toEqual([{ code: 'restriction', ok: false, course: 'AAA 100', label: '01', groups }])
  })
  it('takes seats kept for the standing before open ones', () => {
    const pools = [{ id: 1, forGroup: null, capacity: 5, taken: 0, held: 0 }, { id: 2, forGroup: 'freshman', capacity: 5, taken: 0,
      held: 0 }]
    const context = decision(courseMap(course('AAA 100')), [section(1, 'AAA 100', { pools })])
    expect(decideRun([row(1, 'AAA 100', [1])], context)[0]!.claims).toEqual([{ sectionId: 1, poolId: 2 }])
  })
})
