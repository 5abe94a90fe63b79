import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { matchesFilter } from '../catalog/filter'
import { familyOf } from '../catalog/linked'
import type { Course, CourseItem } from '../catalog/types'
import { LETTER_SCALE } from '../grades/scale'
import { explainUse } from './explain'
import type { ProgramReport } from './report'
import { readProgram, readTogether } from './together'
import type { Area, CourseLine, Program, RequirementNode } from './types'

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
  offered: { seasons: ['fall'] },
  parts: ['lecture'],
  fee: 0,
  ...values,
})
const courses = new Map([
  course('AAA 100'),
  course('AAA 200'),
  course('AAA 300', { credits: 400 }),
  course('BBB 100', { attributes: ['Places'] }),
  course('BBB 200', { attributes: ['Places', 'Field-based'] }),
  course('CCC 100', { equivalents: ['AAA 100'] }),
  course('DDD 450', { repeatLimit: 2 }),
  course('EEE 100', { exclusions: ['EEE 105'] }),
  course('EEE 105', { exclusions: ['EEE 100'] }),
].map(c => [c.code, c]))
const item = (code: string, values: Partial<CourseItem> = {}): CourseItem => ({
  id: `${code}-${values.state ?? 'done'}-${values.grade ?? 'B'}`,
  course: code,
  term: '2025FA',
  credits: courses.get(code)!.credits,
  grade: 'B',
  state: 'completed',
  source: 'here',
  ...values,
})
const line = (id: string, values: Partial<CourseLine>): CourseLine => ({ kind: 'courses', id, title: id, filter: {}, ...values })
const program = (children: RequirementNode[], overlays: CourseLine[] = []): Program => ({
  code: 'P',
  kind: 'major',
  title: 'P',
  catalogYear: 2025,
  totalCredits: 1200,
  rules: [],
  sharing: [],
  overlays,
  suggested: [],
  areas: [{ kind: 'all', id: 'area', title: 'Area', hue: 'moss', children } satisfies Area],
})
const read = (p: Program, items: CourseItem[], pins: Record<string, string> = {}) =>
  readProgram({ program: p, items, courses, scale: LETTER_SCALE, repeatPolicy: 'best', pins })
const lines = (p: Program, items: CourseItem[], pins = {}) =>
  Object.fromEntries(
    read(p, items, pins).areas[0]!.lines.map(l => [l.id, { state: l.state, open: l.open, lacking: l.lacking, uses: l.uses.map(use =>
      use.item.course,
    ) }]),
  )

describe('readProgram', () => {
  it('says met, under way, covered and open, with what is missing', () => {
    const p = program([line('one', { filter: { list: ['AAA 100'] }, courses: 1 }),
      line('two', { filter: { list: ['AAA 200'] }, courses: 1 }), line('three', { filter: { list: ['AAA 300'] }, courses: 1 }),
      line('four', { filter: { attributes: ['Places'] }, courses: 2, credits: 600 })])
    expect(
      lines(p, [item('AAA 100'), item('AAA 200', { state: 'under way', grade: null }), item('AAA 300', { state: 'planned', grade: null }),
        item('BBB 100')]),
    ).toEqual({
      one: { state: 'met', open: 0, lacking: null, uses: ['AAA 100'] },
      two: { state: 'under way', open: 0, lacking: null, uses: ['AAA 200'] },
      three: { state: 'covered', open: 0, lacking: null, uses: ['AAA 300'] },
      four: { state: 'open', open: 300, lacking: { code: 'amount', courses: 1, credits: 300, more: true, another: null },
        uses: ['BBB 100'] },
    })
  })

  // A course that fits two lines, taken first-come by the general one, would leave the specific one open for ever.
  it('does not spend on electives what only one line can use', () => {
    const p = program([line('free', { credits: 300 }), line('asked', { filter: { list: ['BBB 200'] }, courses: 1 })])
    expect(lines(p, [item('BBB 200'), item('AAA 100', { state: 'planned', grade: null })])).toMatchObject({ asked: { uses: ['BBB 200'] },
      free: { uses: ['AAA 100'] } })
  })

  // Three lines and three courses in a ring: only one assignment fills all of them.
  it('finds the one assignment that fills a ring of lines', () => {
    const p = program([line('x', { filter: { list: ['AAA 100', 'BBB 100'] }, courses: 1 }),
      line('y', { filter: { list: ['BBB 100', 'AAA 200'] }, courses: 1 }),
      line('z', { filter: { list: ['AAA 100'] }, courses: 1, minGrade: 'C' })])
    expect(lines(p, [item('AAA 100'), item('BBB 100'), item('AAA 200')])).toMatchObject({ x: { uses: ['BBB 100'] },
      y: { uses: ['AAA 200'] }, z: { uses: ['AAA 100'] } })
  })

  it('never splits a course: four credits fill a three-credit line and no more', () => {
    const p = program([line('small', { filter: { subjects: ['AAA'] }, credits: 300 }),
      line('other', { filter: { subjects: ['AAA'] }, credits: 300 })])
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
    expect(lines(program([line('one', { filter: { list: ['AAA 100'] }, courses: 1 })]), [item('CCC 100')])).toMatchObject({
      one: { state: 'met', uses: ['CCC 100'] },
    })
  })

  it('gives credit once to courses that exclude each other, twice to a repeatable one', () => {
    const p = program([line('all', { credits: 1200 })])
    expect(lines(p, [item('EEE 100'), item('EEE 105', { grade: 'C' })]).all!.uses).toEqual(['EEE 100'])
    expect(
      lines(p, [item('DDD 450', { id: 'a' }), item('DDD 450', { id: 'b', term: '2026SP' }),
        item('DDD 450', { id: 'c', term: '2026FA', state: 'under way', grade: null })]).all!.uses,
    ).toEqual(['DDD 450', 'DDD 450'])
  })

  it('leaves out failed, withdrawn and incomplete attempts', () => {
    for (const grade of ['F', 'W', 'I', 'NP'])
      expect(lines(program([line('one', { credits: 300 })]), [item('AAA 100', { grade })]).one!.state).toBe('open')
  })

  it('keeps the branch of a choice that leaves least open, and sets the other aside', () => {
    const choice: RequirementNode = { kind: 'some', id: 'choice', title: 'One branch', n: 1,
      children: [line('long', { filter: { subjects: ['AAA'] }, credits: 1200 }),
        line('short', { filter: { subjects: ['BBB'] }, credits: 300 })] }
    const report = read(program([choice]), [item('AAA 100'), item('AAA 200'), item('BBB 100')])
    expect(report.areas[0]!.lines.map(l => [l.id, l.setAside, l.state])).toEqual([['long', true, 'open'], ['short', false, 'met']])
    expect(report.areas[0]).toMatchObject({ state: 'met', open: 0, needed: 300 })
  })

  it('counts an overlay on top of the base tree, firmest courses first', () => {
    const report = read(
      program([line('places', { filter: { attributes: ['Places'] }, courses: 2 })], [
        line('field', { filter: { attributes: ['Field-based'] }, courses: 1 }),
      ]),
      [item('BBB 100'), item('BBB 200')],
    )
    expect(report.areas[0]!.state).toBe('met')
    expect(report.overlays[0]).toMatchObject({ state: 'met', overlay: true })
    expect(report.couldCount['BBB 200-done-B']).toEqual(['places', 'field'])
  })

  it('honours a pin where it costs nothing, and breaks it where it would leave more open', () => {
    const p = program([line('x', { filter: { subjects: ['AAA', 'BBB'] }, courses: 1 }),
      line('y', { filter: { subjects: ['AAA'] }, courses: 1 })])
    const both = [item('AAA 100', { id: 'a' }), item('AAA 200', { id: 'b' })]
    expect(lines(p, both, { a: 'x' })).toMatchObject({ x: { uses: ['AAA 100'] }, y: { uses: ['AAA 200'] } })
    expect(lines(p, both, { a: 'y' })).toMatchObject({ x: { uses: ['AAA 200'] }, y: { uses: ['AAA 100'] } })
    expect(lines(p, [item('AAA 100', { id: 'a' }), item('BBB 100', { id: 'b' })], { a: 'x' })).toMatchObject({ x: { uses: ['BBB 100'] },
      y: { uses: ['AAA 100'] } })
  })
})

describe('filters', () => {
  it('match by every part that is given', () => {
    expect(matchesFilter(courses.get('AAA 300')!, { subjects: ['AAA'], levelMin: 200, levelMax: 300 })).toBe(true)
    expect(matchesFilter(courses.get('AAA 100')!, { subjects: ['AAA'], levelMin: 200 })).toBe(false)
    expect(matchesFilter(courses.get('BBB 100')!, { attributes: ['Places'], except: ['BBB 100'] })).toBe(false)
  })
})

describe('the whole language', () => {
  it('keeps caps: what is over a cap stays out of the line', () => {
    const p = program([line('tech', { credits: 900, caps: [{ filter: { subjects: ['BBB'] }, courses: 1 }] })])
    const report = read(p, [item('BBB 100'), item('BBB 200'), item('AAA 100')])
    expect(report.areas[0]!.lines[0]).toMatchObject({ open: 300,
      lacking: { code: 'amount', courses: 0, credits: 300, more: true, another: null } })
    expect(report.unused.map(unused => unused.course)).toHaveLength(1)
  })
  it('asks for another subject where a spread is not reached', () => {
    const p = program([line('wide', { courses: 2, subjects: 2 })])
    expect(lines(p, [item('AAA 100'), item('AAA 200')]).wide).toMatchObject({ state: 'open', open: 300,
      lacking: { code: 'amount', courses: 1, credits: null, more: true, another: 'subject' } })
    expect(lines(p, [item('AAA 100'), item('AAA 200'), item('BBB 100')]).wide!.state).toBe('met')
  })
  it('lets a choice inside a choice keep what is nearest', () => {
    const nested: RequirementNode = { kind: 'some', id: 'outer', title: 'Outer', n: 1, children: [
      { kind: 'all', id: 'both', title: 'Both',
        children: [line('a', { filter: { list: ['AAA 100'] }, courses: 1 }), { kind: 'some', id: 'inner', title: 'Inner', n: 1,
          children: [line('b', { filter: { list: ['BBB 100'] }, courses: 1 }),
            line('c', { filter: { list: ['BBB 200'] }, courses: 1 })] }] },
      line('d', { filter: { list: ['DDD 450'] }, courses: 1, credits: 900 }),
    ] }
    const report = read(program([nested]), [item('AAA 100'), item('BBB 200')])
    expect(report.areas[0]!.lines.map(l => [l.id, l.setAside, l.state])).toEqual([['a', false, 'met'], ['b', true, 'open'], ['c', false,
      'met'], ['d', true, 'open']])
    expect(report.areas[0]!.nodes[0]).toMatchObject({ kind: 'group', n: 1, open: 0,
      branches: [{ kept: true, open: 0 }, { kept: false, open: 900 }] })
  })
  it('takes a substitution in the place of a listed course, and asks nothing of what is waived', () => {
    const p = program([line('all', { filter: { list: ['AAA 100', 'AAA 200'] }, courses: 2 }),
      line('gone', { filter: { list: ['AAA 300'] }, courses: 1 })])
    const exceptions = [
      { id: 1, program: 'P', line: 'all', kind: 'substitution' as const, course: 'BBB 100', instead: 'AAA 200', reason: 'r', by: 'b' },
      { id: 2, program: 'P', line: 'gone', kind: 'waiver' as const, course: null, reason: 'r', by: 'b' },
    ]
    const report = readProgram({ program: p, items: [item('AAA 100'), item('BBB 100')], courses, scale: LETTER_SCALE, repeatPolicy: 'best',
      exceptions })
    expect(report.areas[0]!.lines.map(l => [l.id, l.state, l.needed])).toEqual([['all', 'met', 600], ['gone', 'met', 0]])
    expect(report.areas[0]!.lines[0]!.uses.map(use => [use.item.course, use.substituted])).toEqual([['AAA 100', false], ['BBB 100', true]])
    expect(
      readProgram({ program: p, items: [item('BBB 100')], courses, scale: LETTER_SCALE, repeatPolicy: 'best', exceptions }).areas[0]!
        .lines[0]!.unfilled,
    ).toEqual(['AAA 100'])
  })
  it('lets no more than the sharing rule count twice, and says so', () => {
    const other = { ...program([line('these', { filter: { subjects: ['AAA'] }, courses: 2 })]), code: 'O', title: 'Other' }
    const p = program([line('any', { courses: 3 })])
    const items = [item('AAA 100'), item('AAA 200'), item('BBB 100')]
    const common = { items, courses, scale: LETTER_SCALE, repeatPolicy: 'best' as const }
    const [, report] = readTogether({ programs: [{ ...common, program: other }, { ...common, program: p }],
      sharing: [{ between: [0, 1], courses: 1 }] }) as [ProgramReport, ProgramReport]
    expect(report.areas[0]!.lines[0]!.uses).toHaveLength(2)
    expect(report.notShared).toMatchObject({ rules: [{ courses: 1, credits: null, programs: ['Other', 'P'] }],
      itemIds: [expect.stringContaining('AAA')] })
  })
  it('lets a repeat take the place of a grade that is too low, and never counts both', () => {
    const p = program([line('asked', { filter: { list: ['AAA 100'] }, courses: 1, minGrade: 'C' }), line('free', { credits: 300 })])
    const weak = item('AAA 100', { grade: 'D' })
    const again = item('AAA 100', { id: 'again', state: 'planned', grade: null, term: '2027SP' })
    expect(lines(p, [weak])).toMatchObject({ asked: { state: 'open' }, free: { state: 'met' } })
    expect(lines(p, [weak, again])).toMatchObject({ asked: { state: 'covered' }, free: { state: 'open' } })
    // Without a line that asks for it, a repeat counts for nothing.
    expect(read(program([line('free', { credits: 300 })]), [weak, again]).unused.map(unused => unused.id)).toEqual(['again'])
  })
  it('reports a pin that could not be kept, with the reason', () => {
    const p = program([line('x', { filter: { subjects: ['AAA', 'BBB'] }, courses: 1 }),
      line('y', { filter: { subjects: ['AAA'] }, courses: 1 })])
    const report = read(p, [item('AAA 100', { id: 'a' }), item('BBB 100', { id: 'b' })], { a: 'x', b: 'y' })
    expect(report.brokenPins.map(pin => [pin.itemId, pin.because])).toEqual([['a', 'less filled'], ['b', 'does not fit']])
  })
  it('weighs a transfer course of odd size for the line it was taken for, not for electives', () => {
    const p = program([line('free', { credits: 900 }), line('asked', { filter: { list: ['AAA 300'] }, courses: 1 })])
    expect(lines(p, [item('AAA 300', { credits: 450, grade: 'TR', source: 'transfer', term: null })])).toMatchObject({
      asked: { uses: ['AAA 300'], state: 'met' },
      free: { uses: [] },
    })
  })
  it('reads rules about the whole program, and sees when an average is out of reach', () => {
    const p: Program = { ...program([line('free', { credits: 300 })]), totalCredits: 1200, rules: [
      { kind: 'gpa', id: 'gpa', title: 'GPA', minimum: 300, scope: 'overall' },
      { kind: 'credits', id: 'upper', title: 'Upper', credits: 400, filter: { levelMin: 300 } },
      { kind: 'credits', id: 'here', title: 'Here', credits: 600, here: true },
      { kind: 'milestone', id: 'm', title: 'M', words: 'w' },
      { kind: 'gpa', id: 'bbb', title: 'BBB', minimum: 200, scope: { subjects: ['BBB'] } },
    ] }
    const rules = (items: CourseItem[], milestones: string[] = []) =>
      Object.fromEntries(
        readProgram({ program: p, items, courses, scale: LETTER_SCALE, repeatPolicy: 'best', milestones }).rules.map(
          rule => [rule.id, rule],
        ),
      )
    const some = rules([item('AAA 300'), item('AAA 200', { grade: 'TR', source: 'transfer' }),
      item('BBB 100', { state: 'planned', grade: null })], ['m'])
    expect(Object.values(some).map(rule => [rule.id, rule.state])).toEqual([['total', 'open'], ['gpa', 'met'], ['upper', 'met'], ['here',
      'covered'], ['m', 'met'], ['bbb', 'open']])
    // 9 of 12 credits at 1.00: even 4.00 in the last three gives (9 × 1 + 3 × 4) / 12 = 1.75.
    expect(rules([item('AAA 100', { grade: 'D' }), item('AAA 200', { grade: 'D' }), item('BBB 100', { grade: 'D' })]).gpa!.reading)
      .toMatchObject({ outlook: { code: 'out of reach', top: 400, credits: 300 } })
    // 3 of 12 credits at 1.00: (3 × 1 + 9 × x) / 12 ≥ 3 needs x ≥ 3.67.
    expect(rules([item('AAA 100', { grade: 'D' })]).gpa!.reading).toEqual({ kind: 'gpa', now: 100, asked: 300,
      outlook: { code: 'needs average', average: 367, credits: 900 } })
  })
})

describe('explainUse', () => {
  const p = program([line('x', { filter: { subjects: ['AAA', 'BBB'] }, courses: 1 }),
    line('y', { filter: { subjects: ['AAA'] }, courses: 1 })])
  it('says what would be lost if the course counted elsewhere', () => {
    const input = { program: p, items: [item('AAA 100', { id: 'a' }), item('BBB 100', { id: 'b' })], courses, scale: LETTER_SCALE,
      repeatPolicy: 'best' as const }
    const [change] = explainUse({ programs: [input], sharing: [] }, [readProgram(input)], 0, 'a')
    expect(change).toMatchObject({ lineId: 'x', cost: 300, moved: [{ course: 'BBB 100', from: 'x', to: null }] })
  })
  it('says what a course without a use would push out', () => {
    const one = program([line('x', { filter: { list: ['AAA 100', 'BBB 100'] }, courses: 1 })])
    const input = { program: one, items: [item('AAA 100', { id: 'a' }), item('BBB 100', { id: 'b', state: 'planned', grade: null })],
      courses, scale: LETTER_SCALE, repeatPolicy: 'best' as const }
    const report = readProgram(input)
    expect(report.unused.map(unused => unused.id)).toEqual(['b'])
    expect(explainUse({ programs: [input], sharing: [] }, [report], 0, 'b')[0]).toMatchObject({ title: 'x', instead: false, lessMet: true,
      moved: [{ course: 'AAA 100', from: 'x', to: null }] })
  })
  it('says when another course would take its place', () => {
    const input = { program: p, items: [item('AAA 100', { id: 'a' }), item('AAA 200', { id: 'b' })], courses, scale: LETTER_SCALE,
      repeatPolicy: 'best' as const }
    const report = readProgram(input)
    const inY = report.areas[0]!.lines[1]!.uses[0]!.item.id
    expect(explainUse({ programs: [input], sharing: [] }, [report], 0, inY)[0]).toMatchObject({ lineId: 'x', cost: 0, lessMet: false })
  })
})

// General patterns of published catalogs (common practice, no source), in the demo college's own terms.
describe('laws of the reading', () => {
  const codes = [...courses.keys()]
  const taken = fc.uniqueArray(
    fc.record({ code: fc.constantFrom(...codes), grade: fc.constantFrom('A', 'C', 'D', 'F', 'W'), planned: fc.boolean() }),
    { maxLength: 7, selector: one => one.code },
  )
    .map(list => list.map(({ code, grade, planned }) => item(code, planned ? { state: 'planned', grade: null } : { grade })))
  const wide = program([
    line('one', { filter: { list: ['AAA 100', 'BBB 100'] }, courses: 1, minGrade: 'C' }),
    line('two', { filter: { subjects: ['AAA', 'EEE'] }, courses: 2, credits: 600, subjects: 2 }),
    { kind: 'some', id: 'c', title: 'C', n: 1,
      children: [line('three', { filter: { attributes: ['Places'] }, courses: 2 }),
        line('four', { filter: { list: ['DDD 450'] }, courses: 1 })] },
    line('free', { credits: 600, caps: [{ filter: { subjects: ['BBB'] }, courses: 1 }] }),
  ])
  it('one more passed course never lowers what is met', () => {
    fc.assert(fc.property(taken, fc.constantFrom(...codes), (items, code) => {
      // An equivalent or excluded course is no addition: it may replace what stands.
      fc.pre(items.every(other => other.course === code || familyOf(other.course, courses) !== familyOf(code, courses)))
      const before = read(wide, items)
      const after = read(wide, [...items.filter(other => other.course !== code || other.state === 'completed'),
        item(code, { id: 'new', grade: 'A', term: '2026SP' })])
      // What is planned may end with more open: what is passed is put to its best use first.
      const lacksWithPassed = ({ areas: [area] }: typeof after) => area!.needed - area!.met
      expect(lacksWithPassed(after)).toBeLessThanOrEqual(lacksWithPassed(before))
      const open = (report: typeof after) => report.areas[0]!.lines.reduce((sum, one) => one.setAside ? sum : sum + one.open, 0)
      if (items.every(one => one.state === 'completed')) expect(open(after)).toBeLessThanOrEqual(open(before))
    }), { numRuns: 120 })
  })
  it('one more passed course never lowers what is met, also under maxima over the whole program', () => {
    const limited = { ...wide, rules: [
      { kind: 'maximum' as const, id: 'm1', title: 'm1', courses: 2, of: { filter: { subjects: ['AAA'] } } },
      { kind: 'maximum' as const, id: 'm2', title: 'm2', credits: 300, of: { gradeAtMost: 'C' } },
    ] }
    fc.assert(fc.property(taken, fc.constantFrom(...codes), fc.constantFrom('A', 'C'), (items, code, grade) => {
      fc.pre(items.every(other => other.course === code || familyOf(other.course, courses) !== familyOf(code, courses)))
      fc.pre(items.every(other => other.course !== code))
      const lacks = (list: CourseItem[]) => {
        const { areas: [area] } = read(limited, list)
        return area!.needed - area!.met
      }
      expect(lacks([...items, item(code, { id: 'new', grade, term: '2026SP' })])).toBeLessThanOrEqual(lacks(items))
    }), { numRuns: 120 })
  })
  it('a maximum is never passed by what counts', () => {
    fc.assert(fc.property(taken, fc.nat(3), (items, courseCount) => {
      const limited = { ...wide, rules: [{ kind: 'maximum' as const, id: 'm', title: 'm', courses: courseCount,
        of: { filter: { subjects: ['AAA', 'BBB'] } } }] }
      const used = new Set(read(limited, items).areas[0]!.lines.flatMap(one => one.uses.map(use => use.item)))
      expect([...used].filter(one => ['AAA', 'BBB'].includes(one.course.slice(0, 3))).length).toBeLessThanOrEqual(courseCount)
    }), { numRuns: 80 })
  })
  it('the order of input never matters', () => {
    fc.assert(fc.property(taken, fc.nat(), (items, seed) => {
      const shuffled = [...items].sort((a, b) =>
        (a.id.length * 7 + a.id.charCodeAt(0) * seed) % 13 - (b.id.length * 7 + b.id.charCodeAt(0) * seed) % 13,
      )
      expect(read(wide, shuffled)).toEqual(read(wide, items))
    }), { numRuns: 80 })
  })
  it('a pin is kept or reported', () => {
    fc.assert(fc.property(taken, fc.nat(6), fc.constantFrom('one', 'two', 'three', 'free'), (items, which, target) => {
      const pinned = items[which % Math.max(1, items.length)]
      if (!pinned) return
      const report = read(wide, items, { [pinned.id]: target })
      const kept = report.areas[0]!.lines.find(l => l.id === target)!.uses.some(use => use.item.id === pinned.id)
      const counts = pinned.id in report.couldCount
      expect(kept || !counts || report.brokenPins.some(pin => pin.itemId === pinned.id)).toBe(true)
    }), { numRuns: 120 })
  })
})
