import fc from 'fast-check'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { EMPTY_PLAN, type Plan } from '@ridgeway/core/planning'
import { TERMS } from '../../../demo/calendar'
import { COURSES } from '../../../demo/courses'
import { type KnownCatalog, planJsonSchema, type ReadPlan, readPlanCsv, readPlanJson, writePlanCsv, writePlanJson } from './plan'

const courses = new Map(COURSES.map(course => [course.code, course]))
const LINES = ['WSC-BS/voices', 'WSC-BS/field-seminar'] as const
const known: KnownCatalog = { courses, terms: TERMS, lines: new Set(LINES) }
const term = fc.constantFrom(...TERMS.map(one => one.code))
/** Notes as people write them, and as an attack on a spreadsheet would. */
const note = fc.oneof(fc.string({ maxLength: 20 }).map(text => text.replace(/\r/g, '').trim()),
  fc.constantFrom('=1+1', '@x', '+49 30', '-', '\'=quoted', '\'\'-', 'a "quoted", line', 'two\nlines', '')).map(text => text.trim())
const anyPlan: fc.Arbitrary<Plan> = fc.record({
  entries: fc.uniqueArray(
    fc.record({ course: fc.constantFrom(...COURSES.slice(0, 40).map(course => course.code)), term, pinned: fc.boolean(),
      pinnedUse: fc.constantFrom(null, ...LINES), note }),
    { maxLength: 12, selector: one => `${one.course} ${one.term}` },
  )
    .map(list => list.map(one => ({ ...one, id: `${one.course}-${one.term}`, credits: courses.get(one.course)!.credits }))),
  placeholders: fc.array(fc.record({ line: fc.constantFrom(...LINES), term, credits: fc.constantFrom(100, 300, 450), note }), {
    maxLength: 3,
  }).map(list => list.map((one, i) => ({ ...one, id: `h${i}` }))),
  wishes: fc.record({ target: fc.constantFrom(null, 1200, 1550), termsOff: fc.subarray(TERMS.map(one => one.code)),
    latestFinish: fc.option(term, { nil: null }) }),
  note,
  termNotes: fc.dictionary(term, note.filter(text => text !== ''), { maxKeys: 3 }),
})
/** What a plan says, whatever ids it uses and in whatever order. */
const said = (plan: Plan) => ({
  ...plan,
  termNotes: Object.fromEntries(Object.entries(plan.termNotes).sort()),
  entries: plan.entries.map(({ id: _, ...one }) => JSON.stringify(one, Object.keys(one).sort())).sort(),
  placeholders: plan.placeholders.map(({ id: _, ...one }) => JSON.stringify(one, Object.keys(one).sort())).sort(),
})
const planOf = (read: ReadPlan): Plan => {
  if (!read.ok) throw new Error(JSON.stringify(read.problems))
  return read.plan
}

describe('a plan as JSON', () => {
  it('comes back as it went', () => {
    fc.assert(fc.property(anyPlan, (plan) => {
      expect(said(planOf(readPlanJson(writePlanJson('Main', plan), known)))).toEqual(said(plan))
    }), { numRuns: 200 })
  })
  it.each([
    ['no JSON', '{', /Line 1: This is not JSON/],
    ['a key twice', '{"format": "ridgeway-plan/1", "name": "x",\n"name": "y", "terms": []}', /Line 2, name: "name" stands here twice/],
    ['what is nested too deeply', '['.repeat(50_000), /levels deep/],
    ['another format', '{"format": "ridgeway-plan/9", "name": "x", "terms": []}', /ridgeway-plan\/1/],
    ['an unknown key', '{"format": "ridgeway-plan/1", "name": "x", "terms": [], "evil": 1}', /evil/],
    ['an unknown course',
      JSON.stringify({ format: 'ridgeway-plan/1', name: 'x', terms: [{ term: '2027SP', courses: [{ course: 'ZZZ 999' }] }] }),
      /terms\[1\]\.courses\[1\].*no course "ZZZ 999"/],
    ['an unknown term', JSON.stringify({ format: 'ridgeway-plan/1', name: 'x', terms: [{ term: '1999SP' }] }), /no term "1999SP"/],
    ['credits out of range',
      JSON.stringify({ format: 'ridgeway-plan/1', name: 'x', terms: [{ term: '2027SP', courses: [{ course: 'WRT 110', credits: 9 }] }] }),
      /not 9/],
    ['a course twice',
      JSON.stringify({ format: 'ridgeway-plan/1', name: 'x',
        terms: [{ term: '2027SP', courses: [{ course: 'WRT 110' }, { course: 'WRT 110' }] }] }), /twice/],
  ])('refuses %s, and says where', (_, text, words) => {
    const read = readPlanJson(text, known)
    expect(read.ok).toBe(false)
    expect(read.ok ? '' : read.problems.map(one => one.message).join('\n')).toMatch(words)
  })
  it('has its schema in the documentation, up to date', async () => {
    const documented = (await import('../../../docs/formats/plan.schema.json')).default
    expect(JSON.parse(JSON.stringify(planJsonSchema()))).toEqual(documented)
  })
})

describe('a plan as CSV', () => {
  it('names the row that a spreadsheet shows, blank rows and all', () => {
    const read = readPlanCsv('term,course\r\n2027SP,WRT 110\r\n\r\n,\r\n2027SP,ZZZ 999\r\n', 'x', known)
    expect(read.ok ? [] : read.problems.map(problem => problem.row)).toEqual([5])
  })
  it('comes back as it went: courses, places to choose, pins, uses and notes', () => {
    fc.assert(fc.property(anyPlan, (plan) => {
      const back = planOf(readPlanCsv(writePlanCsv(plan, courses), 'x', known))
      expect(said(back).entries).toEqual(said(plan).entries)
      expect(said(back).placeholders).toEqual(said(plan).placeholders)
    }), { numRuns: 200 })
  })
  it('is parted as its first row is, whatever a note holds', () => {
    const note = '|"|; "a"|"b"\t'
    const plan = { ...EMPTY_PLAN, entries: [{ id: 'x', course: 'WRT 110', term: '2027SP', credits: 300, pinned: false, pinnedUse: null,
      note }] }
    expect(planOf(readPlanCsv(writePlanCsv(plan, courses), 'x', known)).entries[0]!.note).toBe(note)
    const semicolons = readPlanCsv('term;course;note\n2027SP;WRT 110;first, or later\n', 'x', known)
    expect(planOf(semicolons).entries[0]!.note).toBe('first, or later')
  })
  // RFC 4180, read back by the general-purpose parser; OWASP "CSV Injection" for the first characters.
  it('has no cell that a spreadsheet would run', () => {
    fc.assert(fc.property(anyPlan, (plan) => {
      const { data } = Papa.parse<string[]>(writePlanCsv(plan, courses), { delimiter: ',' })
      for (const cell of data.flat()) expect(cell).not.toMatch(/^[=+\-@\t\r]/)
    }))
  })
  it.each([
    ['a missing column', 'term,title\n2027SP,x\n', 1, /"course" is missing/],
    ['an open quote', 'term,course\n2027SP,"WRT 110\n', 2, /quotation mark/],
    ['an unknown course', 'term,course\n2027SP,WRT 110\n2027SP,ZZZ 999\n', 3, /no course "ZZZ 999"/],
    ['bad credits', 'term,course,credits\n2027SP,WRT 110,many\n', 2, /"many" is no number/],
    ['an empty row of nothing', 'term,course,credits\n2027SP,,3\n', 2, /neither a course nor a line/],
    ['an unknown line', 'term,course,counts for\n2027SP,WRT 110,X-Y/none\n', 2, /no line/],
  ])('refuses %s with its row', (_, text, row, words) => {
    const read = readPlanCsv(text, 'x', known)
    expect(read).toMatchObject({ ok: false, problems: [{ row, message: expect.stringMatching(words) as string }] })
  })
  it('takes a file that a spreadsheet saved: a byte order mark, capitals, an empty line', () => {
    expect(planOf(readPlanCsv('\uFEFFTerm,Course\r\n2027sp,wrt 110\r\n\r\n', 'x', known)).entries).toMatchObject([{ course: 'WRT 110',
      term: '2027SP', credits: 300 }])
  })
})
