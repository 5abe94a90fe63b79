import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { course, courseMap, decision, item, meeting, row, section } from '../../../../tests/builders'
import type { Course } from '../catalog/types'
import { chosenCredits, decideRun, type DecisionContext, type LineUpRow } from '.'

const CODES = ['AAA 100', 'BBB 100', 'CCC 100', 'DDD 100', 'EEE 100']
const registers = (rows: readonly LineUpRow[], context: DecisionContext) =>
  decideRun(rows, context).filter(one => one.outcome === 'register').map(one => one.rowId)

/**
 * Small line-ups with corequisites, clashes, a cap and full sections, each against the enumeration of all sets of rows:
 * a set holds together when every row of it is fine beside the others, which only `decideRun` on that set alone is asked.
 */
interface Case {
  rows: LineUpRow[]
  courses: Course[]
  hours: number[]
  full: boolean[]
  cap: number
}

const anyCase: fc.Arbitrary<Case> = fc.record({
  beside: fc.array(
    fc.constantFrom<string[]>([], [], [], ['AAA 100'], ['BBB 100'], ['CCC 100'], ['BBB 100 or CCC 100'], ['DDD 100'], [
      'DDD 100 and EEE 100',
    ]),
    { minLength: 5, maxLength: 5 },
  ),
  hours: fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 5, maxLength: 5 }),
  fullness: fc.array(fc.integer({ min: 0, max: 4 }), { minLength: 5, maxLength: 5 }),
  cap: fc.constantFrom(600, 900, 1800),
}).map(({ beside, hours, fullness, cap }) => ({
  rows: CODES.map((code, i) => row(i + 1, code, [i + 1])),
  hours,
  full: fullness.map(one => one === 0),
  cap,
  courses: CODES.map((code, i) => course(code, { corequisite: (beside[i] ?? []).filter(text => !text.includes(code)).join('') })),
}))

const contextOf = ({ courses, hours, full, cap }: Case, ids: readonly number[]): DecisionContext =>
  decision(courseMap(...courses), CODES.flatMap((code, i) =>
    ids.includes(i + 1)
      ? [
          section(i + 1, code, { meetings: [meeting(480 + hours[i]! * 60, { days: ['M'] })],
            pools: [{ id: i + 1, forGroup: null, capacity: 5, taken: full[i] ? 5 : 0, held: 0 }] }),
        ]
      : [],
  ), { loadCap: cap })

/** Whether exactly these rows can register together. */
function holds(one: Case, ids: readonly number[]): boolean {
  const rows = one.rows.filter(candidate => ids.includes(candidate.id))
  return registers(rows, contextOf(one, ids)).length === ids.length
}

function* subsets(list: readonly number[]): Generator<number[]> {
  for (let mask = 0; mask < 2 ** list.length; mask++) yield list.filter((_, i) => mask & (1 << i))
}

describe('the rows that register', () => {
  it('hold together, and no set that holds together has more rows of the student\'s order first', () => {
    fc.assert(fc.property(anyCase, (one) => {
      const all = one.rows.map(candidate => candidate.id)
      const found = registers(one.rows, contextOf(one, all))
      expect(holds(one, found)).toBe(true)
      // No row that was left out could join them, alone or with others that were left out.
      const left = all.filter(id => !found.includes(id))
      for (const more of subsets(left)) if (more.length > 0) expect(holds(one, [...found, ...more].sort())).toBe(false)
      // The first row registers whenever some set with it holds together.
      const first = [...subsets(all.slice(1))].some(others => holds(one, [1, ...others]))
      expect(found.includes(1)).toBe(first)
    }), { numRuns: 150 })
  })
  it('every refused row has a reason, and every registered one a seat in each section', () => {
    fc.assert(fc.property(anyCase, (one) => {
      for (const { outcome, findings, claims } of decideRun(one.rows, contextOf(one, one.rows.map(candidate => candidate.id)))) {
        expect(findings.some(finding => !finding.ok)).toBe(outcome === 'refused')
        expect(claims).toHaveLength(outcome === 'register' ? 1 : 0)
      }
    }), { numRuns: 150 })
  })
})

describe('chosenCredits', () => {
  const varies = { credits: 100, creditsMax: 600 }
  it('takes what was chosen within the range, and the least otherwise', () => {
    expect([chosenCredits(400, varies), chosenCredits(null, varies), chosenCredits(900, varies), chosenCredits(50, varies)]).toEqual([400,
      100, 600, 100])
    expect(chosenCredits(null, undefined)).toBe(0)
  })
})

describe('what is refused beside what is registered', () => {
  it('names the load with all the partners it needs', () => {
    const courses = courseMap(course('AAA 200', { corequisite: 'AAA 201' }), course('AAA 201', { corequisite: 'AAA 200' }))
    const sections = [section(1, 'AAA 200'), section(2, 'AAA 201')]
    const [first] = decideRun([row(1, 'AAA 200', [1]), row(2, 'AAA 201', [2])], decision(courses, sections, { loadCap: 500 }))
    expect(first!.findings.find(finding => finding.code === 'load-cap')).toEqual({ code: 'load-cap', ok: false, credits: 600, cap: 500,
      partners: ['AAA 201'] })
  })
  it('counts what is registered in the load once', () => {
    const courses = courseMap(course('AAA 100'), course('BBB 100'))
    const context = decision(courses, [section(1, 'AAA 100')], { loadCap: 600,
      items: [item('BBB 100', { state: 'registered', grade: null, term: '2027SP' })] })
    expect(decideRun([row(1, 'AAA 100', [1])], context)[0]).toMatchObject({ outcome: 'register' })
  })
})
