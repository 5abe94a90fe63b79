import { describe, expect, it } from 'vitest'
import type { CourseItem } from '@ridgeway/core/catalog'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import { EMPTY_FILE, readPrograms } from '@ridgeway/core/planning'
import { type Program, type ProgramReport, readProgram, readyProgram } from '@ridgeway/core/requirements'
import { sayLacking, sayRule, saySharedRule } from '@ridgeway/words'
import { COURSES } from '../../demo/courses'
import { findProgram, PROGRAMS } from '../../demo/programs'

/**
 * General patterns that published catalogs share, worked in the demo college's own programs. Each is common practice, no source,
 * unless one is named; what must come out was worked out by hand.
 */
const courses = new Map(COURSES.map(course => [course.code, course]))
const context = { courses, scale: LETTER_SCALE, repeatPolicy: 'best' as const }
const passed = (text: string, values: Partial<CourseItem> = {}): CourseItem[] =>
  text.split(', ').map((entry) => {
    const [subject, number, grade = 'B'] = entry.split(' ')
    const code = `${subject} ${number}`
    return { id: `${code}${values.term ?? ''}`, course: code, term: '2025FA', credits: courses.get(code)!.credits, grade,
      state: 'completed', source: 'here', ...values }
  })
const read = (id: string, items: CourseItem[]) => readProgram({ program: findProgram(id), items, ...context })
const line = (report: ProgramReport, id: string) =>
  [...report.areas.flatMap(area => area.lines), ...report.overlays].find(candidate => candidate.id === id)!
const usesOf = (report: ProgramReport, id: string) => line(report, id).uses.map(use => use.item.course)

describe('patterns of published catalogs', () => {
  it('a four-credit course meets a three-credit requirement, the fourth credit counts towards the total only', () => {
    const report = read('GFT-AAS-2025', passed('MTH 140'))
    expect(line(report, 'mathematics-one')).toMatchObject({ state: 'met', needed: 300 })
    expect(report.beyond).toBe(100)
    expect(sayRule(report.rules.find(rule => rule.id === 'total')!)).toBe('4 of 60 cr earned')
  })
  it('a C- is enough where C- is asked, and not where C is', () => {
    expect(line(read('WSC-BS-2025', passed('CHY 110 C-')), 'chemistry').uses).toHaveLength(1)
    expect(line(read('WSC-BS-2025', passed('HYD 110 C-')), 'watershed-all').uses).toHaveLength(0)
  })
  it('a course counts once in the degree, and again in an overlay', () => {
    const report = read('WSC-BS-2025', passed('FLD 260, FLD 310'))
    expect([usesOf(report, 'field-all'), usesOf(report, 'field-based')]).toEqual([['FLD 260', 'FLD 310'], ['FLD 260', 'FLD 310']])
    expect(report.met).toBe(600)
  })
  it('one language through its last course, not two halves of two languages', () => {
    const report = read('UPH-BA-2025', passed('LNG 101, LNG 102, LNG 210, LNG 111, LNG 112'))
    expect(line(report, 'language-north').setAside).toBe(true)
    expect(line(report, 'language-upland')).toMatchObject({ open: 300, unfilled: ['LNG 220'] })
    // What the choice leaves aside is free for electives.
    expect(usesOf(report, 'free')).toEqual(['LNG 111', 'LNG 112'])
  })
  it('breadth asks for several subjects and takes no more than two courses from one of them', () => {
    const report = read('UPH-BA-2025',
      passed('VAL 110, VAL 120, VAL 210, VAL 220, VAL 230, VAL 240, VAL 310, VAL 330, VAL 340, WRT 220, HRT 120, LNG 140'))
    const used = usesOf(report, 'breadth')
    expect(used.filter(code => code.startsWith('VAL'))).toHaveLength(2)
    expect(sayLacking(line(report, 'breadth').lacking)).toMatch(/from another subject/)
    expect(usesOf(report, 'free')).not.toEqual([])
  })
  it('technical electives take three credits of an internship and no more', () => {
    const [internship] = passed('TIM 480')
    const report = read('TIM-BS-2025', [{ ...internship!, credits: 600 }, ...passed('STT 210, PHX 210')])
    expect(usesOf(report, 'technical')).not.toContain('TIM 480')
    expect(usesOf(report, 'free')).toEqual(['TIM 480'])
    expect(usesOf(read('TIM-BS-2025', [{ ...internship!, credits: 300 }, ...passed('STT 210, PHX 210')]), 'technical')).toContain('TIM 480')
  })
  it('at most two courses of the minor may also count in the major', () => {
    const items = passed('STT 201, STT 301, STT 310, STT 320, STT 210, ECL 350')
    const file = EMPTY_FILE
    const together = readPrograms([findProgram('WSC-BS-2025'), findProgram('EST-MIN-2025')], items, file, context).reports
    const inMajor = new Set(together[0]!.areas.flatMap(area => area.lines.flatMap(l => l.uses.map(use => use.item.id))))
    const both = together[1]!.areas.flatMap(area => area.lines.flatMap(l => l.uses)).filter(use => inMajor.has(use.item.id))
    expect(both.length).toBeLessThanOrEqual(2)
    expect(saySharedRule(together[1]!.notShared!.rules[0]!)).toMatch(/At most 2 courses/)
    const alone = readPrograms([findProgram('EST-MIN-2025')], items, file, context).reports[0]!
    expect(alone).toMatchObject({ open: 0, notShared: null })
  })
  it('transfer credit meets a line and the total, and not the credits to be taken here', () => {
    const report = read('WSC-BS-2025', passed('WRT 110 TR, MTH 140 TR', { source: 'transfer', term: null }))
    expect(line(report, 'writing').uses).toHaveLength(1)
    expect(report.rules.map(rule => [rule.id, sayRule(rule).split(' earned')[0]])).toEqual([['total', '7 of 120 cr'], ['gpa',
      'no grades yet, 2.00 asked'], ['here', '0 of 30 cr']])
  })
  it('a repeat after a D replaces it: one credit, the better grade in the average', () => {
    const items = [...passed('CHY 110 D', { term: '2025FA' }), ...passed('CHY 110 B', { term: '2026SP' })]
    const report = read('WSC-BS-2025', items)
    expect(usesOf(report, 'chemistry')).toEqual(['CHY 110'])
    expect(sayRule(report.rules.find(rule => rule.id === 'total')!)).toBe('4 of 120 cr earned')
    expect(sayRule(report.rules.find(rule => rule.id === 'gpa')!)).toBe('3.00 now, 2.00 asked')
  })
  it('two catalog years of one program ask for different things of one record', () => {
    const items = passed('GSP 120, GSP 140, GSP 225')
    expect(line(read('WSC-BS-2025', items), 'geospatial-all').state).toBe('met')
    expect(line(read('WSC-BS-2024', items), 'geospatial-all')).toMatchObject({ state: 'open', unfilled: ['GSP 150'] })
  })
})

/** What a person with a pencil does: line by line, in printed order, each takes the first courses that fit. */
function firstCome(program: Program, items: readonly CourseItem[]): number {
  const settings = { courses, scale: LETTER_SCALE, exceptions: [] }
  const left = [...items]
  const { compiled, fitsOf } = readyProgram(program, settings)
  return compiled.reduce((open, target, l) => {
    let { credits, courses: wanted } = target.need
    for (let i = 0; i < left.length && (credits > 0 || wanted > 0);) {
      if (!fitsOf(left[i]!).includes(l)) {
        i++
        continue
      }
      credits -= left[i]!.credits
      wanted--
      left.splice(i, 1)
    }
    return open + Math.max(0, credits, wanted * target.need.unit)
  }, 0)
}

describe('the best use against a first-come use', () => {
  const cases = PROGRAMS.filter(program =>
    program.suggested.length > 0 && program.areas.every(area => area.children.every(child => child.kind === 'courses')),
  )
    .map(program =>
      [`${program.code} ${program.catalogYear}`, program, passed([...new Set(program.suggested.flatMap(step =>
        step.courses,
      ))].join(', '))] as const,
    )
  it.each(cases)('%s: never worse, and it leaves nothing open of a finished record', (_, program, items) => {
    const report = readProgram({ program, items, ...context })
    expect(report.open).toBe(0)
    expect(firstCome(program, items)).toBeGreaterThanOrEqual(report.open)
  })
  it('a first-come use goes wrong for most of these records', () => {
    const wrong = cases.filter(([, program, items]) => firstCome(program, items) > 0)
    expect(wrong.length).toBeGreaterThanOrEqual(4)
  })
})
