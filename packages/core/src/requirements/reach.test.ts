import { describe, expect, it } from 'vitest'
import type { Course, CourseItem, Term } from '../catalog/types'
import { LETTER_SCALE } from '../grades/scale'
import { earliestFinish, findUnreachable, Reach, type ReachInput } from './reach'
import { readProgram } from './together'
import { tryProgram } from './trial'
import type { Area, CourseLine, Program } from './types'

const course = (code: string, values: Partial<Course> = {}): Course => ({
  code,
  subject: code.slice(0, 3),
  number: Number(code.slice(4)),
  title: code,
  credits: 300,
  creditsMax: 300,
  description: '',
  attributes: [],
  prerequisite: '',
  corequisite: '',
  exclusions: [],
  equivalents: [],
  repeatLimit: 1,
  offered: { seasons: ['fall', 'spring'] },
  parts: ['lecture'],
  fee: 0,
  ...values,
})
const courses = new Map([
  course('AAA 100'),
  course('AAA 200', { prerequisite: 'AAA 100 with C' }),
  course('AAA 300', { prerequisite: 'AAA 200', offered: { seasons: ['spring'], years: 'odd' } }),
  course('AAA 400', { prerequisite: 'AAA 300 or alongside' }),
  course('GON 100', { offered: { seasons: ['fall'], until: '2026FA' } }),
  course('BBB 100', { exclusions: ['BBB 105'] }),
  course('BBB 105', { exclusions: ['BBB 100'] }),
  course('CCC 300', { prerequisite: 'standing junior' }),
  course('DDD 100', { prerequisite: 'GON 100' }),
  course('REP 100', { repeatLimit: 8 }),
  course('DDD 200', { prerequisite: 'GON 100 or AAA 100' }),
].map(c => [c.code, c]))
const term = (code: string, start: string, end: string): Term => ({
  code,
  name: code,
  season: code.endsWith('FA') ? 'fall' : code.endsWith('SP') ? 'spring' : 'summer',
  year: Number(code.slice(0, 4)),
  start,
  end,
  sessions: [],
  noClass: [],
  movedDays: [],
  loadCap: code.endsWith('SU') ? 600 : 1200,
  fullTime: 1200,
  addBy: start,
  dropBy: start,
  withdrawBy: start,
  feesDue: start,
  scheduled: false,
})
const terms = [term('2026FA', '2026-08-24', '2026-12-11'), term('2027SP', '2027-01-11', '2027-04-30'),
  term('2027SU', '2027-06-01', '2027-07-23'), term('2027FA', '2027-08-23', '2027-12-10')]
const input = (items: CourseItem[] = []): ReachInput => ({ items, programs: [], placements: {}, permissions: [], courses, terms,
  scale: LETTER_SCALE, repeatPolicy: 'best', today: '2026-11-09' })
const passed = (code: string, grade = 'B'): CourseItem => ({ id: code, course: code, term: '2026SP', credits: 300, grade,
  state: 'completed', source: 'here' })
const at = (reach: Reach, code: string) => {
  const found = reach.of(code).at
  return found === null ? null : reach.terms[found]!.code
}
const program = (lines: Partial<CourseLine>[], totalCredits = 0): Program => ({
  code: 'P',
  kind: 'minor',
  title: 'P',
  catalogYear: 2025,
  totalCredits,
  rules: [],
  overlays: [],
  sharing: [],
  suggested: [],
  areas: [
    { kind: 'all', id: 'area', title: 'Area', hue: 'moss', children: lines.map((line, i) =>
      ({ kind: 'courses', id: `l${i}`, title: `L${i}`, filter: {}, ...line }) as CourseLine,
    ) } satisfies Area,
  ],
})
const read = (p: Program, items: CourseItem[]) => readProgram({ program: p, items, courses, scale: LETTER_SCALE, repeatPolicy: 'best' })

describe('Reach', () => {
  it('follows a chain through prerequisites and offering patterns, past the end of the calendar', () => {
    const reach = new Reach(input())
    expect([at(reach, 'AAA 100'), at(reach, 'AAA 200'), at(reach, 'AAA 300'), at(reach, 'AAA 400')]).toEqual(['2027SP', '2027FA', '2029SP',
      '2029SP'])
    expect(reach.chain('AAA 400')).toEqual(['AAA 100', 'AAA 200', 'AAA 300', 'AAA 400'])
  })
  it('starts from what is passed with its grade, and from what is under way', () => {
    expect(at(new Reach(input([passed('AAA 100')])), 'AAA 200')).toBe('2027SP')
    expect(at(new Reach(input([passed('AAA 100', 'D')])), 'AAA 200')).toBe('2027FA')
    expect(at(new Reach(input([{ ...passed('AAA 100'), state: 'under way', term: '2026FA', grade: null }])), 'AAA 200')).toBe('2027SP')
  })
  it('says why a course cannot be taken any more', () => {
    expect(new Reach(input()).of('GON 100')).toMatchObject({ at: null, why: { code: 'last offered', course: 'GON 100', until: '2026FA' } })
    expect(new Reach(input([passed('BBB 105')])).of('BBB 100')).toMatchObject({ at: null,
      why: { code: 'excluded', course: 'BBB 100', by: 'BBB 105', state: 'completed' } })
    expect(new Reach(input()).of('DDD 100').why).toMatchObject({ code: 'needs what cannot be had',
      why: { code: 'last offered', course: 'GON 100' } })
    expect(at(new Reach(input()), 'DDD 200')).toBe('2027FA')
  })
  it('waits for class standing as long as the caps make it', () => {
    // 60 credits from nothing: 12 + 6 + 12 in the known terms, then 12 + 6 + 12 in the year after.
    expect(at(new Reach(input()), 'CCC 300')).toBe('2029SP')
  })
})

describe('findUnreachable', () => {
  it('names a listed course that is given up, and one that an exclusion closed', () => {
    const p = program([{ filter: { list: ['GON 100', 'AAA 100'] }, courses: 2 }, { filter: { list: ['BBB 100'] }, courses: 1 }])
    const items = [passed('BBB 105')]
    expect(findUnreachable(read(p, items), items, new Reach(input(items)), input(items))).toEqual({
      l0: { reasons: [{ code: 'last offered', course: 'GON 100', until: '2026FA' }] },
      l1: { reasons: [{ code: 'excluded', course: 'BBB 100', by: 'BBB 105', state: 'completed' }] },
    })
  })
  it('does not call lost what a repeat can mend, nor a branch that is set aside', () => {
    const repeat = program([{ filter: { list: ['AAA 100'] }, courses: 1, minGrade: 'C' }])
    const items = [passed('AAA 100', 'D')]
    expect(findUnreachable(read(repeat, items), items, new Reach(input(items)), input(items))).toEqual({})
    const choice: Program = { ...repeat,
      areas: [{ kind: 'all', id: 'a', title: 'A', hue: 'moss', children: [{ kind: 'some', id: 'c', title: 'C', n: 1, children: [
        { kind: 'courses', id: 'gone', title: 'Gone', filter: { list: ['GON 100'] }, courses: 1 },
        { kind: 'courses', id: 'there', title: 'There', filter: { list: ['AAA 100'] }, courses: 1 },
      ] }] }] }
    const done = [passed('AAA 100')]
    expect(findUnreachable(read(choice, done), done, new Reach(input(done)), input(done))).toEqual({})
  })
})

describe('earliestFinish and tryProgram', () => {
  it('takes the later of chain and load, and says which', () => {
    const chain = program([{ filter: { list: ['AAA 400'] }, courses: 1 }])
    expect(earliestFinish(read(chain, []), new Reach(input()), input())).toMatchObject({ term: { code: '2029SP' }, decidedBy: 'chain',
      chain: ['AAA 100', 'AAA 200', 'AAA 300', 'AAA 400'] })
    const load = program([{ filter: { subjects: ['REP'] }, credits: 2400 }])
    expect(earliestFinish(read(load, []), new Reach(input()), input())).toMatchObject({ decidedBy: 'load', term: { code: '2027FA' },
      creditsLeft: 2400 })
  })
  it('tells what carries over and what is lost, and leaves the plan out', () => {
    const p = program([{ filter: { subjects: ['AAA'] }, courses: 1 }])
    const items = [passed('AAA 100'), passed('BBB 100'), { ...passed('AAA 200'), id: 'plan', state: 'planned' as const, grade: null }]
    const trial = tryProgram({ program: p, items, courses, scale: LETTER_SCALE, repeatPolicy: 'best' }, new Reach(input(items.slice(0, 2))),
      input())
    expect(trial.carriesOver.items.map(item => item.id)).toEqual(['AAA 100'])
    expect(trial.lost).toMatchObject({ credits: 300, items: [{ id: 'BBB 100' }] })
    expect(trial).toMatchObject({ open: 0, finish: { decidedBy: 'nothing left' } })
  })
})
