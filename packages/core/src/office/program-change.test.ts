import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { TERMS } from '../../../../demo/calendar'
import { COURSES } from '../../../../demo/courses'
import { PROGRAMS } from '../../../../demo/programs'
import type { CourseItem } from '../catalog/types'
import { LETTER_SCALE } from '../grades/scale'
import { readStanding } from '../planning/standing'
import { type Catalog, EMPTY_FILE, type StudentFile } from '../planning/student-file'
import type { CourseLine, Program } from '../requirements/types'
import { effectOf, type ProgramNow, readProgramFor } from './program-change'

const line = fc.record({ id: fc.constantFrom('a', 'b', 'c'), title: fc.constant('Line'),
  state: fc.constantFrom<ProgramNow['lines'][number]['state'][]>('met', 'under way', 'covered', 'open'),
  open: fc.integer({ min: 0, max: 6 }).map(n => n * 100), uses: fc.constant<string[]>([]) })
const now = fc.record({ open: fc.integer({ min: 0, max: 6 }).map(n => n * 100), lost: fc.boolean(),
  finish: fc.constantFrom(null, '2027SP', '2027SU', '2027FA'), lines: fc.uniqueArray(line, { selector: one => one.id }) })
const MIRROR = { gains: 'loses', loses: 'gains', both: 'both', same: 'same' }

describe('what a change of rules comes to', () => {
  it('is nothing where nothing is changed', () => fc.assert(fc.property(now, (one) => {
    expect(effectOf(one, one)).toMatchObject({ kind: 'same', lines: [] })
  })))
  it('is the mirror image when it is taken back', () => fc.assert(fc.property(now, now, (a, b) => {
    const [there, back] = [effectOf(a, b), effectOf(b, a)]
    expect(back.kind).toBe(MIRROR[there.kind])
    expect(back.lines.map(one => [one.id, one.before, one.after]).sort()).toEqual(
      there.lines.map(one => [one.id, one.after, one.before]).sort())
  })))
  it('is a loss where more is open, where the finish moves back, and where a line cannot be filled any more', () => {
    const base: ProgramNow = { open: 300, finish: '2027SP', lost: false, lines: [] }
    expect(effectOf(base, { ...base, open: 600 }).kind).toBe('loses')
    expect(effectOf(base, { ...base, finish: '2027FA' }).kind).toBe('loses')
    expect(effectOf(base, { ...base, lost: true, finish: null }).kind).toBe('loses')
    expect(effectOf(base, { ...base, open: 0, finish: null }).kind).toBe('gains')
    expect(effectOf(base, { ...base, open: 0, finish: '2027FA' }).kind).toBe('both')
  })
})

const TODAY = '2026-11-09'
const catalog: Catalog = { courses: new Map(COURSES.map(course => [course.code, course])), programs: PROGRAMS, terms: TERMS,
  scale: LETTER_SCALE, repeatPolicy: 'best' }
const program = (code: string) => PROGRAMS.find(one => one.code === code)!
const WATER = program('WSC-BS')
const FUTURE = TERMS.filter(term => term.start > TODAY).map(term => term.code)
const record = fc.uniqueArray(fc.constantFrom(...COURSES.slice(0, 60)), { maxLength: 25, selector: one => one.code }).map(list =>
  list.map((course): CourseItem => ({ id: `r-${course.code}`, course: course.code, term: '2025FA', credits: course.credits, grade: 'B',
    state: 'completed', source: 'here' })))
const fileOf = (items: CourseItem[], programs = [WATER.code]): StudentFile =>
  ({ ...EMPTY_FILE, record: items, programs, placements: { MTH: 70 } })
const read = (rules: Program, file: StudentFile, others: readonly Program[] = []) => readProgramFor(rules, file, catalog, TODAY, others)
/** The program with one more line, which asks for a course that it does not name elsewhere. */
const withLine = (line: Partial<CourseLine>): Program => ({ ...WATER, areas: [...WATER.areas,
  { ...WATER.areas[0]!, id: 'more', title: 'More',
    children: [{ kind: 'courses', id: 'more-line', title: 'One more', filter: {}, ...line }] }] })

describe('a program read for one student under other rules', () => {
  it('has open what their own page says, and every line of it', () => {
    fc.assert(fc.property(record, (items) => {
      const [report] = readStanding(fileOf(items), catalog, TODAY).reports
      const found = read(WATER, fileOf(items))
      expect(found.open).toBe(report!.open + report!.overlays.reduce((sum, line) => sum + line.open, 0))
      expect(found.lines.map(line => line.id)).toEqual([...report!.areas.flatMap(area => area.lines), ...report!.overlays]
        .map(line => line.id))
      expect(found.lost).toBe(false)
    }), { numRuns: 10 })
  })

  it('never has less open with one more line, and the line is told as new', () => {
    fc.assert(fc.property(record, (items) => {
      const [before, after] = [read(WATER, fileOf(items)), read(withLine({ filter: { list: ['OCE 150'] }, courses: 1 }), fileOf(items))]
      const effect = effectOf(before, after)
      expect(after.open).toBeGreaterThanOrEqual(before.open)
      expect(['loses', 'same']).toContain(effect.kind)
      expect(effect.lines.find(line => line.id === 'more-line')).toMatchObject({ title: 'One more', before: null })
      expect(effectOf(after, before).lines.find(line => line.id === 'more-line')).toMatchObject({ after: null })
    }), { numRuns: 10 })
  })

  it('is lost where a line names a course that cannot be had, and the finish is gone', () => {
    const effect = effectOf(read(WATER, fileOf([])), read(withLine({ filter: { list: ['GON 999'] }, courses: 1 }), fileOf([])))
    expect(effect).toMatchObject({ kind: 'loses', lost: { before: false, after: true }, finish: { after: null } })
    expect(effect.finish.before).not.toBeNull()
  })

  it('is read beside the other programs, its own old rules left out, and finishes as the record alone would', () => {
    const both = fileOf([], [WATER.code, 'TSS-CERT'])
    const others = [WATER, program('TSS-CERT')]
    const changed = withLine({ filter: { list: ['OCE 150'] }, courses: 1 })
    expect(read(changed, both, others).lines.map(line => line.id)).toContain('more-line')
    expect(read(WATER, both, others).lines.map(line => line.id)).not.toContain('more-line')
    // What is planned fills lines, and says nothing of how soon everything could be done.
    const planned = { ...both, entries: [{ id: 'p', course: 'WRT 110', term: FUTURE.at(-1)!, credits: 300, pinned: false, pinnedUse: null,
      note: '' }] }
    const [bare, withPlan] = [read(WATER, both, others), read(WATER, planned, others)]
    expect(withPlan.open).toBe(bare.open - 300)
    expect(withPlan.finish).toBe(bare.finish)
    expect(withPlan.lines.flatMap(line => line.uses)).toContain('WRT 110')
  })
})
