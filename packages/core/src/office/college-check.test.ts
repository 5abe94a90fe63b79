import { describe, expect, it } from 'vitest'
import { catalog, course, courseMap, line, meeting, program, section, term } from '../../../../tests/builders'
import type { Program } from '../requirements/types'
import { checkCollege } from './college-check'

const TERMS = ['2027SP', '2027SU', '2027FA', '2028SP', '2028SU', '2028FA'].map(code => term(code))
const COURSES = courseMap(course('AAA 100'), course('AAA 200', { prerequisite: 'AAA 100' }),
  course('AAA 300', { prerequisite: 'AAA 200', offered: { seasons: ['spring'] } }),
  course('BBB 100', { offered: { seasons: ['fall'], until: '2026SP' } }), course('BBB 200', { prerequisite: 'BBB 100' }),
  course('CCC 100', { prerequisite: 'placement MTH at least 60' }), course('DDD 400', { prerequisite: 'ZZZ 100' }), course('ZZZ 100'))
const check = (one: Program, sections: Parameters<typeof checkCollege>[0]['sections'] = []) =>
  checkCollege({ catalog: catalog(COURSES, { programs: [one], terms: TERMS }), today: '2026-11-09', sections })
const steps = (...courses: string[][]) => courses.map((list, i) => ({ name: `Step ${i + 1}`, courses: list }))

describe('a catalog is checked', () => {
  it('and nothing is found where all is right, placements included', () => {
    const right = program([line('core', { filter: { list: ['AAA 100', 'AAA 200', 'CCC 100'] }, courses: 3 })],
      { suggested: steps(['AAA 100', 'CCC 100'], ['AAA 200'], [], ['AAA 300']) })
    expect(check(right)).toEqual([])
  })
  it('for courses that are given no more, and the lines that rest on them', () => {
    const codes = check(program([line('gone', { filter: { list: ['BBB 100'] }, courses: 1 }),
      line('behind', { filter: { list: ['BBB 200'] }, courses: 1 }),
      line('open', { filter: { list: ['BBB 100', 'AAA 100'] }, courses: 1 })]))
    expect(codes.map(one => [one.code, 'line' in one ? one.line : 'course' in one ? one.course : ''])).toEqual([
      ['given no more', 'BBB 100'], ['line cannot be filled', 'gone'], ['line cannot be filled', 'behind']])
  })
  it('for a sequence that breaks its own rules: too early, out of season, over the cap', () => {
    const wrong = program([line('all', { filter: {}, credits: 300 })], { kind: 'major',
      suggested: steps(['AAA 200'], ['AAA 100'], ['AAA 300'],
        ['AAA 100', 'AAA 200', 'CCC 100', 'ZZZ 100', 'DDD 400', 'BBB 200', 'AAA 300']) })
    const found = check(wrong)
    expect(found).toContainEqual({ code: 'sequence too early', program: 'P-2025', step: 'Step 1', course: 'AAA 200' })
    expect(found).toContainEqual({ code: 'sequence not given', program: 'P-2025', step: 'Step 3', course: 'AAA 300', season: 'fall' })
    expect(found).toContainEqual({ code: 'sequence over the cap', program: 'P-2025', step: 'Step 4', credits: 2100, cap: 1800 })
  })
  it('for a minor only where its own order is at fault', () => {
    const minor = (...courses: string[][]) => check(program([line('all', { filter: {}, credits: 300 })], { kind: 'minor',
      suggested: steps(...courses) })).filter(one => one.code === 'sequence too early')
    expect(minor(['DDD 400'])).toEqual([])
    expect(minor(['DDD 400'], ['ZZZ 100'])).toHaveLength(1)
  })
  it('for sections whose hours do not fit the credits: 15 weeks of 50 minutes a credit, a fifth less, two fifths more', () => {
    const none = program([line('all', { filter: {}, credits: 300 })])
    const weekly = (id: number, minutes: number) => section(id, 'AAA 100', { link: String(id), meetings: [meeting(540, { days: ['M', 'W'],
      start: 540, end: 540 + minutes, first: '2027-01-11', last: '2027-05-07' })] })
    const found = check(none, [weekly(1, 75), weekly(2, 40), weekly(3, 120), section(4, 'AAA 100', { link: '4', meetings: [] }),
      { ...weekly(5, 30), link: '5', cancelled: true }])
    expect(found.map(one => one.code === 'minutes' && one.label)).toEqual(['02', '03'])
    expect(found[0]).toMatchObject({ least: 1800, most: 3150 })
  })
})
