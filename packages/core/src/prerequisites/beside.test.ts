import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { course, courseMap, item } from '../../../../tests/builders'
import type { CourseItem } from '../catalog/types'
import { LETTER_SCALE } from '../grades/scale'
import { coursesNamed, readCourseRules } from './evaluate'

const CODES = ['AAA 100', 'BBB 100', 'CCC 100', 'DDD 100', 'EEE 100', 'FFF 200']
const TERM = '2027SP'

type Held = [state: CourseItem['state'], term: string, grade: string | null]

/** Catalogs in which courses exclude each other, stand for each other and repeat, under a rule of each kind that counts credits. */
const catalogs = fc.record({
  exclusions: fc.constantFrom<string[]>([], ['BBB 100'], ['BBB 100', 'CCC 100']),
  equivalents: fc.constantFrom<string[]>([], ['DDD 100'], ['EEE 100']),
  repeatLimit: fc.constantFrom(1, 2),
  prerequisite: fc.constantFrom('6 credits or standing sophomore', 'AAA 100 with C and 3 credits', '2 of (BBB 100, 9 credits, DDD 100)',
    'standing junior', '3 credits in AAA or CCC 100'),
}).map(({ prerequisite, ...first }) =>
  courseMap(course('AAA 100', first), course('BBB 100', { repeatLimit: first.repeatLimit }), ...CODES.slice(2).map(code => course(code)),
    course('ZZZ 300', { prerequisite })))

/** What a record holds on the day of registering: passed, under way, registered in earlier, the same and later terms. */
const records = fc.array(fc.record({
  code: fc.constantFrom(...CODES),
  held: fc.constantFrom<Held>(['completed', '2026SP', 'B'], ['completed', '2026FA', 'F'], ['completed', '2025FA', 'D'],
    ['under way', '2026FA', null], ['registered', '2026SU', null], ['registered', TERM, null], ['registered', '2027FA', null]),
}), { maxLength: 7 }).map(list => list.map(({ code, held: [state, term, grade] }, i) =>
  item(code, { id: `${i}`, state, term, grade })))

describe('a registration beside a rule', () => {
  it('makes no difference to a rule that does not name it, whatever credits the rule counts', () => {
    fc.assert(fc.property(catalogs, records, fc.constantFrom(...CODES), (courses, items, code) => {
      const asking = courses.get('ZZZ 300')!
      const named = coursesNamed(asking).flatMap(one => [one, ...courses.get(one)?.equivalents ?? [],
        ...CODES.filter(other => courses.get(other)?.equivalents.includes(one))])
      fc.pre(!named.includes(code))
      const rules = { courses, scale: LETTER_SCALE, repeatPolicy: 'best' as const }
      const read = (list: CourseItem[]) =>
        readCourseRules(asking, TERM, { items: list, programs: [], placements: {}, permissions: [] }, rules)
      const beside = item(code, { id: 'beside', state: 'registered', term: TERM, grade: null })
      expect(read([...items, beside])).toEqual(read(items))
    }), { numRuns: 400 })
  })
})
