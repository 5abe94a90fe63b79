import { describe, expect, it } from 'vitest'
import { describeLine, LETTER_SCALE, matchesFilter, readProgram, type Area, type Course, type CourseItem, type CourseLine, type Program, type RequirementNode } from '../index'

const course = (code: string, values: Partial<Course> = {}): Course => ({
  code, subject: code.slice(0, 3), number: Number(code.slice(4)), title: code, credits: 300, creditsMax: 300, description: '', attributes: [], prerequisite: '', corequisite: '',
  exclusions: [], equivalents: [], repeatLimit: 1, offered: { seasons: ['fall'] }, parts: ['lecture'], fee: 0, ...values,
})
const courses = new Map([
  course('AAA 100'), course('AAA 200'), course('AAA 300', { credits: 400 }), course('BBB 100', { attributes: ['Places'] }), course('BBB 200', { attributes: ['Places', 'Field-based'] }),
  course('CCC 100', { equivalents: ['AAA 100'] }), course('DDD 450', { repeatLimit: 2 }), course('EEE 100', { exclusions: ['EEE 105'] }), course('EEE 105', { exclusions: ['EEE 100'] }),
].map(c => [c.code, c]))
const item = (code: string, values: Partial<CourseItem> = {}): CourseItem => ({ id: `${code}-${values.state ?? 'done'}-${values.grade ?? 'B'}`, course: code, term: '2025FA', credits: courses.get(code)!.credits, grade: 'B', state: 'completed', source: 'here', ...values })
const line = (id: string, values: Partial<CourseLine>): CourseLine => ({ kind: 'courses', id, title: id, filter: {}, ...values })
const program = (children: RequirementNode[], overlays: CourseLine[] = []): Program => ({
  code: 'P', kind: 'major', title: 'P', catalogYear: 2025, totalCredits: 1200, rules: [], sharing: [], overlays, suggested: [],
  areas: [{ kind: 'all', id: 'area', title: 'Area', hue: 'moss', children } satisfies Area],
})
const read = (p: Program, items: CourseItem[], pins: Record<string, string> = {}) => readProgram({ program: p, items, courses, scale: LETTER_SCALE, repeatPolicy: 'best', pins })
const lines = (p: Program, items: CourseItem[], pins = {}) => Object.fromEntries(read(p, items, pins).areas[0]!.lines.map(l => [l.id, { state: l.state, open: l.open, missing: l.missing, uses: l.uses.map(use => use.item.course) }]))

describe('readProgram', () => {
  it('says met, under way, covered and open, with what is missing', () => {
    const p = program([line('one', { filter: { list: ['AAA 100'] }, courses: 1 }), line('two', { filter: { list: ['AAA 200'] }, courses: 1 }), line('three', { filter: { list: ['AAA 300'] }, courses: 1 }), line('four', { filter: { attributes: ['Places'] }, courses: 2, credits: 600 })])
    expect(lines(p, [item('AAA 100'), item('AAA 200', { state: 'under way', grade: null }), item('AAA 300', { state: 'planned', grade: null }), item('BBB 100')])).toEqual({
      one: { state: 'met', open: 0, missing: '', uses: ['AAA 100'] }, two: { state: 'under way', open: 0, missing: '', uses: ['AAA 200'] },
      three: { state: 'covered', open: 0, missing: '', uses: ['AAA 300'] }, four: { state: 'open', open: 300, missing: 'choose 1 more, 3 cr open', uses: ['BBB 100'] },
    })
  })

  // A course that fits two lines, taken first-come by the general one, would leave the specific one open for ever.
  it('does not spend on electives what only one line can use', () => {
    const p = program([line('free', { credits: 300 }), line('asked', { filter: { list: ['BBB 200'] }, courses: 1 })])
    expect(lines(p, [item('BBB 200'), item('AAA 100', { state: 'planned', grade: null })])).toMatchObject({ asked: { uses: ['BBB 200'] }, free: { uses: ['AAA 100'] } })
  })

  // Three lines and three courses in a ring: only one assignment fills all of them.
  it('finds the one assignment that fills a ring of lines', () => {
    const p = program([line('x', { filter: { list: ['AAA 100', 'BBB 100'] }, courses: 1 }), line('y', { filter: { list: ['BBB 100', 'AAA 200'] }, courses: 1 }), line('z', { filter: { list: ['AAA 100'] }, courses: 1, minGrade: 'C' })])
    expect(lines(p, [item('AAA 100'), item('BBB 100'), item('AAA 200')])).toMatchObject({ x: { uses: ['BBB 100'] }, y: { uses: ['AAA 200'] }, z: { uses: ['AAA 100'] } })
  })

  it('never splits a course: four credits fill a three-credit line and no more', () => {
    const p = program([line('small', { filter: { subjects: ['AAA'] }, credits: 300 }), line('other', { filter: { subjects: ['AAA'] }, credits: 300 })])
    const report = read(p, [item('AAA 300')])
    expect(report).toMatchObject({ met: 300, open: 300 })
  })

  it('prefers a completed course over a planned one, and leaves the planned one free', () => {
    const p = program([line('one', { filter: { subjects: ['AAA'] }, courses: 1 })])
    const report = read(p, [item('AAA 200', { state: 'planned', grade: null }), item('AAA 100')])
    expect(report.areas[0]!.lines[0]!.uses.map(use => use.item.course)).toEqual(['AAA 100'])
    expect(report.unused.map(unused => unused.course)).toEqual(['AAA 200'])
  })

  it('accepts an equivalent where the course itself is listed', () => {
    expect(lines(program([line('one', { filter: { list: ['AAA 100'] }, courses: 1 })]), [item('CCC 100')])).toMatchObject({ one: { state: 'met', uses: ['CCC 100'] } })
  })

  it('gives credit once to courses that exclude each other, twice to a repeatable one', () => {
    const p = program([line('all', { credits: 1200 })])
    expect(lines(p, [item('EEE 100'), item('EEE 105', { grade: 'C' })]).all!.uses).toEqual(['EEE 100'])
    expect(lines(p, [item('DDD 450', { id: 'a' }), item('DDD 450', { id: 'b', term: '2026SP' }), item('DDD 450', { id: 'c', term: '2026FA', state: 'under way', grade: null })]).all!.uses).toEqual(['DDD 450', 'DDD 450'])
  })

  it('leaves out failed, withdrawn and incomplete attempts', () => {
    for (const grade of ['F', 'W', 'I', 'NP']) expect(lines(program([line('one', { credits: 300 })]), [item('AAA 100', { grade })]).one!.state).toBe('open')
  })

  it('keeps the branch of a choice that leaves least open, and sets the other aside', () => {
    const choice: RequirementNode = { kind: 'some', id: 'choice', title: 'One branch', n: 1, children: [line('long', { filter: { subjects: ['AAA'] }, credits: 1200 }), line('short', { filter: { subjects: ['BBB'] }, credits: 300 })] }
    const report = read(program([choice]), [item('AAA 100'), item('AAA 200'), item('BBB 100')])
    expect(report.areas[0]!.lines.map(l => [l.id, l.setAside, l.state])).toEqual([['long', true, 'open'], ['short', false, 'met']])
    expect(report.areas[0]).toMatchObject({ state: 'met', open: 0, needed: 300 })
  })

  it('counts an overlay on top of the base tree, firmest courses first', () => {
    const report = read(program([line('places', { filter: { attributes: ['Places'] }, courses: 2 })], [line('field', { filter: { attributes: ['Field-based'] }, courses: 1 })]), [item('BBB 100'), item('BBB 200')])
    expect(report.areas[0]!.state).toBe('met')
    expect(report.overlays[0]).toMatchObject({ state: 'met', overlay: true })
    expect(report.couldCount['BBB 200-done-B']).toEqual(['places', 'field'])
  })

  it('honours a pin where it costs nothing, and breaks it where it would leave more open', () => {
    const p = program([line('x', { filter: { subjects: ['AAA', 'BBB'] }, courses: 1 }), line('y', { filter: { subjects: ['AAA'] }, courses: 1 })])
    const both = [item('AAA 100', { id: 'a' }), item('AAA 200', { id: 'b' })]
    expect(lines(p, both, { a: 'x' })).toMatchObject({ x: { uses: ['AAA 100'] }, y: { uses: ['AAA 200'] } })
    expect(lines(p, both, { a: 'y' })).toMatchObject({ x: { uses: ['AAA 200'] }, y: { uses: ['AAA 100'] } })
    expect(lines(p, [item('AAA 100', { id: 'a' }), item('BBB 100', { id: 'b' })], { a: 'x' })).toMatchObject({ x: { uses: ['BBB 100'] }, y: { uses: ['AAA 100'] } })
  })
})

describe('filters and their words', () => {
  it('match by every part that is given', () => {
    expect(matchesFilter(courses.get('AAA 300')!, { subjects: ['AAA'], levelMin: 200, levelMax: 300 })).toBe(true)
    expect(matchesFilter(courses.get('AAA 100')!, { subjects: ['AAA'], levelMin: 200 })).toBe(false)
    expect(matchesFilter(courses.get('BBB 100')!, { attributes: ['Places'], except: ['BBB 100'] })).toBe(false)
  })
  it.each<[Partial<CourseLine>, string]>([
    [{ filter: { list: ['AAA 100', 'AAA 200'] }, courses: 2, minGrade: 'C' }, 'All of AAA 100, AAA 200, each with C or better.'],
    [{ filter: { list: ['AAA 100', 'AAA 200', 'BBB 100'] }, courses: 1 }, '1 course from AAA 100, AAA 200 or BBB 100.'],
    [{ filter: { subjects: ['AAA'], levelMin: 300 }, credits: 900 }, '9 credits from AAA courses at 300 or above.'],
    [{ filter: { attributes: ['Voices'] }, courses: 2, credits: 600 }, '2 courses with at least 6 credits from any courses in Voices.'],
    [{ filter: { except: ['AAA 100'] }, credits: 1500 }, '15 credits from any courses except AAA 100.'],
  ])('%j reads "%s"', (values, words) => expect(describeLine(line('x', values))).toBe(words))
})
