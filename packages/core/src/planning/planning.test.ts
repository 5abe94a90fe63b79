import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { TERMS } from '../../../../demo/calendar'
import { COURSES } from '../../../../demo/courses'
import { PROGRAMS } from '../../../../demo/programs'
import type { CourseItem } from '../catalog/types'
import { LETTER_SCALE } from '../grades/scale'
import { findCandidates } from '../requirements/candidates'
import { applyAll, EMPTY_PLAN, mergeItems, NO_WISHES, type Placeholder, type PlanEntry } from './plan'
import { movesFor, readStanding } from './standing'
import { type Catalog, EMPTY_FILE, type StudentFile } from './student-file'

const catalog: Catalog = { courses: new Map(COURSES.map(course => [course.code, course])), programs: PROGRAMS, terms: TERMS,
  scale: LETTER_SCALE, repeatPolicy: 'best' }
const TODAY = '2026-11-09'
const FUTURE = TERMS.filter(term => term.start > TODAY)
const entry = (course: string, term: string, values: Partial<PlanEntry> = {}): PlanEntry => ({ id: `${course}-${term}`, course, term,
  credits: catalog.courses.get(course)?.credits ?? 300, pinned: false, pinnedUse: null, note: '', ...values })
const passed = (course: string, grade = 'B', values: Partial<CourseItem> = {}): CourseItem => ({ id: `r-${course}-${values.term ?? ''}`,
  course, term: '2025FA', credits: catalog.courses.get(course)!.credits, grade, state: 'completed', source: 'here', ...values })
const file = (entries: PlanEntry[], record: CourseItem[] = []): StudentFile => ({ ...EMPTY_FILE, record, entries,
  programs: ['WSC-BS', 'TSS-CERT'], placements: { MTH: 70 } })
const checks = (entries: PlanEntry[], record: CourseItem[] = []) => readStanding(file(entries, record), catalog, TODAY).checks

const anyEntry = fc.tuple(fc.constantFrom(...COURSES.map(course => course.code)), fc.constantFrom(...FUTURE.map(term => term.code))).map((
  [course, term],
) => entry(course, term))
const anyPlan = fc.uniqueArray(anyEntry, { maxLength: 14, selector: e => e.course })
const REPEATABLE = COURSES.find(course => course.repeatLimit > 1)!

describe('checks', () => {
  it.each<[string, PlanEntry[], CourseItem[], string]>([
    ['a missing prerequisite', [entry('HYD 330', '2028SP')], [], 'prerequisite'],
    ['a prerequisite placed later', [entry('HYD 310', '2027FA'), entry('STT 201', '2028SP')], [passed('HYD 210'), passed('MTH 140')],
      'prerequisite'],
    ['a course not offered that term', [entry('HYD 230', '2027FA')], [passed('HYD 110'), passed('CHY 110')], 'not offered'],
    ['an odd-year course in an even year', [entry('HYD 420', '2028FA')], [passed('HYD 230'), passed('MTH 150')], 'not offered'],
    ['a missing corequisite', [entry('CHY 310', '2028SP')], [passed('CHY 220')], 'corequisite'],
    ['a passed course', [entry('WRT 110', '2027SP')], [passed('WRT 110')], 'already passed'],
    ['an excluded course', [entry('STT 205', '2027FA')], [passed('STT 201'), passed('MTH 110')], 'excluded'],
    ['a term that has begun', [entry('WRT 110', '2026FA')], [], 'term over'],
  ])('finds %s', (_, entries, record, kind) => expect(checks(entries, record).map(check => check.kind)).toContain(kind))

  it('finds a term over its cap', () => {
    const many = ['WRT 110', 'HYD 110', 'GSP 110', 'HRT 110', 'VAL 110', 'STT 110'].map(code => entry(code, '2027SP'))
    expect(checks(many).find(check => check.kind === 'over the cap')).toMatchObject({ term: '2027SP', severity: 'blocker' })
    expect(
      readStanding({ ...file(many), capRaised: { '2027SP': 2100 } }, catalog, TODAY).checks.some(check => check.kind === 'over the cap'),
    ).toBe(false)
  })

  it('says nothing about a plan in order', () => {
    expect(
      checks([entry('WRT 210', '2027SP'), entry('HYD 230', '2027SP')], [passed('WRT 110'), passed('HYD 110'), passed('CHY 110')]).filter(
        check => check.kind !== 'not reached',
      ),
    ).toEqual([])
  })

  it('every move that is offered mends its problem and makes no new blocker', () => {
    const record = [passed('WRT 110'), passed('HYD 110', 'B'), passed('CHY 110'), passed('MTH 140', 'D')]
    const kinds = new Map<string, number>()
    const wished = fc.record({ target: fc.constantFrom(null, 900, 1200), termsOff: fc.subarray(FUTURE.slice(0, 4).map(term => term.code)),
      latestFinish: fc.constantFrom(null, FUTURE[4]!.code) })
    const signed = anyPlan.map(
      entries => [{ term: FUTURE[0]!.code, copy: entries.slice(0, 2).map(one => ({ ...one, term: FUTURE[0]!.code })) }],
    )
    // Whatever chance brings, these show every kind of check below.
    const examples = fc.sample(fc.tuple(anyPlan, wished, signed), { seed: 1, numRuns: 12 })
    fc.assert(fc.property(anyPlan, wished, signed, (plan, wishes, signedOff) => {
      const mine: StudentFile = { ...file(plan, record), wishes, signedOff }
      const before = readStanding(mine, catalog, TODAY).checks
      const known = new Set(before.map(check => check.id))
      for (const check of before) {
        for (const move of movesFor(check, mine, catalog, TODAY)) {
          kinds.set(check.kind, (kinds.get(check.kind) ?? 0) + 1)
          const after = applyAll({ ...EMPTY_PLAN, entries: plan, wishes }, move.operations)
          if (typeof after === 'string') throw new Error(after)
          const left = readStanding({ ...mine, entries: after.entries }, catalog, TODAY).checks
          expect(left.map(c => c.id)).not.toContain(check.id)
          expect(left.filter(c => c.severity === 'blocker' && !known.has(c.id))).toEqual([])
        }
      }
    }), { numRuns: 25, examples })
    expect([...kinds.keys()]).toEqual(
      expect.arrayContaining(['prerequisite', 'not offered', 'counts for nothing', 'term off', 'past the wished finish',
        'differs from sign-off']),
    )
  })

  it.each<[string, Partial<StudentFile>, PlanEntry[], CourseItem[]]>([
    ['under the wish', { wishes: { ...NO_WISHES, target: 1200 } }, [entry('WRT 110', '2027SP'), entry('VAL 110', '2027FA')], []],
    ['term off', { wishes: { ...NO_WISHES, termsOff: ['2027SP'] } }, [entry('WRT 110', '2027SP')], []],
    ['past the wished finish', { wishes: { ...NO_WISHES, latestFinish: '2027SP' } }, [entry('VAL 110', '2027FA')], []],
    ['differs from sign-off', { signedOff: [{ term: '2027SP', copy: [entry('WRT 110', '2027SP')] }] }, [entry('VAL 110', '2027SP')], []],
    ['differs from registration', {}, [entry('VAL 110', '2027SP')], [{ id: 'g1', course: 'WRT 110', term: '2027SP', credits: 300,
      grade: null, state: 'registered', source: 'here' }]],
    ['repeat limit', {}, ['2027SP', '2027FA', '2028SP', '2028FA', '2029SP', '2029FA'].map(term => entry(REPEATABLE.code, term)), []],
    ['to choose', { placeholders: [{ id: 'h1', line: 'WSC-BS/voices', term: '2027SP', credits: 300, note: '' }] }, [], []],
    ['not reached', {}, [], []],
    ['gpa', {}, [], [passed('WRT 110', 'D'), passed('VAL 110', 'D')]],
  ])('finds what is %s', (kind, more, entries, record) => {
    const found = readStanding({ ...file(entries, record), ...more }, catalog, TODAY).checks
    expect(found.map(check => check.kind)).toContain(kind)
  })

  it('says that a placeholder holds what is open, and no more than that', () => {
    const bare = readStanding(file([]), catalog, TODAY)
    const place: Placeholder = { id: 'h1', line: 'WSC-BS/voices', term: '2027FA', credits: 2000, note: '' }
    const held = readStanding({ ...file([]), placeholders: [place] }, catalog, TODAY)
    const line = bare.reports[0]!.areas.flatMap(area => area.lines).find(one => one.id === 'voices')!
    expect([held.open, held.held, bare.held]).toEqual([bare.open, line.open, 0])
    expect(held.loads.find(load => load.term === '2027FA')).toMatchObject({ credits: 2000, overCap: true })
  })
})

describe('readStanding', () => {
  it('reads what is registered as under way from the first day of its term on, and not before', () => {
    const held: CourseItem = { ...passed('WRT 110'), term: '2027SP', state: 'registered', grade: null }
    const state = (today: string) => readStanding(file([], [held]), catalog, today).items[0]!.state
    expect([state('2027-01-10'), state('2027-01-11'), state('2027-03-01')]).toEqual(['registered', 'under way', 'under way'])
  })
  it('merges a registration with its plan entry and marks picked ones', () => {
    const registered: CourseItem = { id: 'g1', course: 'HYD 230', term: '2027SP', credits: 400, grade: null, state: 'registered',
      source: 'here' }
    const items = mergeItems([registered], [entry('HYD 230', '2027SP'), entry('GSP 140', '2027SP')], new Set(['GSP 140 2027SP']))
    expect(items.map(item => `${item.course} ${item.state}`)).toEqual(['HYD 230 registered', 'GSP 140 picked'])
  })

  it('counts a course in the degree and again in the certificate, and says what counts for nothing', () => {
    const standing = readStanding(file([], [passed('FLD 120', 'B'), passed('MTH 095', 'B')]), catalog, TODAY)
    const uses = standing.reports.flatMap(report =>
      report.areas.flatMap(area =>
        area.lines.filter(line => line.uses.some(use => use.item.course === 'FLD 120')).map(line => `${report.code} ${line.id}`),
      ),
    )
    expect(uses).toEqual(['WSC-BS making', 'TSS-CERT safety-all'])
    expect(standing.offPath).toEqual(['r-MTH 095-'])
  })

  it('keeps a pinned use where it fits', () => {
    const free = readStanding(file([entry('VAL 220', '2027SP')]), catalog, TODAY)
    const pinned = readStanding(file([entry('VAL 220', '2027SP', { pinnedUse: 'WSC-BS/places' })]), catalog, TODAY)
    const lineOf = (standing: typeof free) => standing.reports[0]!.areas.flatMap(area => area.lines).find(line => line.uses.length > 0)!.id
    expect([lineOf(free), lineOf(pinned)]).toEqual(['voices', 'places'])
  })

  it('a course completed below a line\'s grade is not used by it, a planned repeat is', () => {
    const lines = (standing: ReturnType<typeof readStanding>) => standing.reports[0]!.areas.flatMap(area => area.lines)
    const low = readStanding(file([], [passed('HYD 110', 'D')]), catalog, TODAY)
    expect(lines(low).find(line => line.id === 'watershed-all')!.unfilled).toContain('HYD 110')
    const repeat = readStanding(file([entry('HYD 110', '2027SP')], [passed('HYD 110', 'D')]), catalog, TODAY)
    expect(lines(repeat).find(line => line.id === 'watershed-all')!.uses.map(use => use.item.state)).toEqual(['planned'])
    expect(repeat.checks.filter(check => check.itemId !== null)).toEqual([])
  })

  it('the order of entries and record never changes the reading', () => {
    fc.assert(fc.property(anyPlan, (plan) => {
      const record = [passed('WRT 110'), passed('HYD 110'), passed('VAL 110'), passed('STT 110')]
      const shape = (s: ReturnType<typeof readStanding>) =>
        s.reports.map(r =>
          r.areas.map(a => a.lines.map(line => [line.id, line.state, line.open, line.uses.map(use => use.item.id).sort()])),
        )
      expect(shape(readStanding(file([...plan].reverse(), [...record].reverse()), catalog, TODAY))).toEqual(
        shape(readStanding(file(plan, record), catalog, TODAY)),
      )
    }), { numRuns: 40 })
  })

  it('one more completed course never leaves more open', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.constantFrom(...COURSES), { maxLength: 20, selector: c => c.code }), fc.constantFrom(...COURSES),
        (had, more) => {
          const openWith = (list: typeof had) => readStanding(file([], list.map(course => passed(course.code))), catalog, TODAY).open
          if (had.some(course => course.code === more.code || course.exclusions.includes(more.code))) return
          expect(openWith([...had, more])).toBeLessThanOrEqual(openWith(had))
        }),
      { numRuns: 60 },
    )
  })
})

describe('findCandidates', () => {
  const working = TERMS.find(term => term.code === '2027SP')!
  const candidates = (line: string, record: CourseItem[]) => {
    const standing = readStanding(file([], record), catalog, TODAY)
    return findCandidates({ line: standing.reports[0]!.areas.flatMap(area => area.lines).find(l => l.id === line)!, workingTerm: working,
      terms: FUTURE, rules: catalog, facts: { items: standing.items, programs: ['WSC-BS'], placements: { MTH: 70 }, permissions: [] } })
  }
  it('splits into now, later and something first', () => {
    const found = candidates('watershed-all', [passed('HYD 110'), passed('CHY 110'), passed('MTH 140')])
    expect(found.now.map(c => c.course.code)).toEqual(['HYD 230'])
    expect(found.later.map(c => `${c.course.code} ${c.term!.code}`)).toEqual(['HYD 210 2027FA'])
    expect(found.blocked.map(c => c.course.code)).toEqual(['HYD 310', 'HYD 330', 'HYD 410', 'HYD 490'])
    for (const candidate of found.blocked) expect(candidate.note.code).toBe('needs')
  })
  it('leaves out what is passed or excluded by what is passed', () => {
    const codes = candidates('numbers', [passed('STT 201'), passed('MTH 110')]).now.map(c => c.course.code)
    expect(codes).not.toContain('STT 205')
    expect(codes).not.toContain('MTH 110')
  })
})
