import { describe, expect, it } from 'vitest'
import { course, courseMap, item, planned, program, line, rulesOf, term } from '../../../../tests/builders'
import { readPrograms } from '../planning'
import { findCourses } from './courses'
import { searchLines } from './lines'
import { makeTextIndex } from './text'

const courses = courseMap(
  course('HYD 110', { title: 'Water and Landscape' }), course('HYD 230', { title: 'Groundwater', prerequisite: 'HYD 110',
    offered: { seasons: ['spring'] } }),
  course('HYD 420', { title: 'Advanced Groundwater', prerequisite: 'HYD 230' }), course('ECL 210', { title: 'Ecology' }))
const terms = [term('2027SP', { name: 'Spring 2027' }), term('2027FA', { name: 'Fall 2027' })]
const rules = rulesOf(courses)
const look = (text: string, values: Partial<Parameters<typeof findCourses>[0]['search']> = {}, items = [item('HYD 110')]) => findCourses({
  search: { text, ...values }, courses, terms, rules, index: makeTextIndex(courses.values()), lines: linesOf(items),
  facts: { items, programs: ['P'], placements: {}, permissions: [] } })
const linesOf = (items: ReturnType<typeof item>[]) => searchLines(readPrograms([program([
  line('water', { title: 'Water', credits: 600, filter: { subjects: ['HYD'] } }), line('life', { title: 'Life', credits: 300,
    filter: { subjects: ['ECL'] } })])],
items, { entries: [], usePins: [], exceptions: [], milestones: [] }, rules).reports, courses)

describe('findCourses', () => {
  it('says when a course is offered, when it can first be taken, what it needs and what it opens', () => {
    const [ground, advanced] = look('groundwater')
    expect([ground!.course.code, ground!.offered.map(one => one.code), ground!.firstTerm?.code, ground!.opens]).toEqual(['HYD 230',
      ['2027SP'], '2027SP',
      ['HYD 420']])
    expect([advanced!.course.code, advanced!.firstTerm, advanced!.needs.length]).toEqual(['HYD 420', null, 1])
  })
  it('leaves out what is passed or planned where only what can be taken is asked for', () => {
    expect(look('', { canTake: true }).map(one => one.course.code).sort()).toEqual(['ECL 210', 'HYD 230'])
    expect(look('', { canTake: true }, [item('HYD 110'), planned('ECL 210', '2027SP')]).map(one => one.course.code)).toEqual(['HYD 230'])
  })
  it('keeps to the lines, subjects and levels that are asked for', () => {
    expect(look('', { lines: ['P/life'] }).map(one => one.course.code)).toEqual(['ECL 210'])
    expect(look('', { subjects: ['HYD'], levels: [2] }).map(one => one.course.code)).toEqual(['HYD 230'])
  })
})

describe('searchLines', () => {
  it('has the open lines first, and knows which courses fill each', () => {
    const lines = linesOf([item('ECL 210')])
    expect(lines.map(one => [one.title, one.open, [...one.uses]])).toEqual([['Water', true, []], ['Life', false, ['ECL 210']]])
    expect(lines[0]!.takes(courses.get('HYD 230')!)).toBe(true)
  })
})
