import { isAnnounced, isOffered, termPhase, termsAhead } from '../catalog/terms'
import type { Course, CourseCode, CourseItem, LocalDate, Section, Season, Term, TermCode } from '../catalog/types'
import { EMPTY_FILE, type Catalog, type StudentFile } from '../planning/student-file'
import { reachOf, readPrograms } from '../planning/standing'
import { readCourseRules } from '../prerequisites/evaluate'
import { ruleOf } from '../prerequisites/rule-of'
import type { Expression } from '../prerequisites/types'
import { findUnreachable, type Why } from '../requirements/reach'
import { linesOfProgram, type Program, programId } from '../requirements/types'
import { bundlesOf } from '../weeks/bundles'
import { endOf, expandSection } from '../weeks/meetings'

/** Something that the office has to look at in its catalog, though every rule can be read. */
export type CollegeFinding
  /** A course that a program names and that is given in no term ahead. */
  = | { code: 'given no more', course: CourseCode, programs: string[] }
  /** A line that somebody who begins now could never fill, whatever they take. */
    | { code: 'line cannot be filled', program: string, line: string, reasons: Why[] }
  /** A course of the suggested sequence whose rules the steps before do not meet, or that is not given in its season. */
    | { code: 'sequence too early', program: string, step: string, course: CourseCode }
    | { code: 'sequence not given', program: string, step: string, course: CourseCode, season: Season }
    | { code: 'sequence over the cap', program: string, step: string, credits: number, cap: number }
  /** A bundle whose hours in class do not fit the credits. */
    | { code: 'minutes', term: TermCode, course: CourseCode, label: string, minutes: number, least: number, most: number }

export interface CollegeChecked {
  catalog: Catalog
  today: LocalDate
  /** Sections of terms that have begun or are to come. */
  sections: readonly Section[]
}

/** What is wrong in a college that no single rule shows. */
export function checkCollege(input: CollegeChecked): CollegeFinding[] {
  const programs = [...input.catalog.programs].sort((a, b) => programId(a).localeCompare(programId(b)))
  return [...givenNoMore(programs, input), ...programs.flatMap(program => unfillable(program, input)),
    ...programs.flatMap(program => brokenSequence(program, input)), ...oddMinutes(input)]
}

function givenNoMore(programs: readonly Program[], { catalog: { courses, terms }, today }: CollegeChecked): CollegeFinding[] {
  const ahead = termsAhead(terms, today)
  const gone = [...courses.values()].filter(course => isAnnounced(course) && !ahead.some(term => isOffered(course, term)))
  return gone.flatMap(({ code }): CollegeFinding[] => {
    const naming = programs.filter(program => linesOfProgram(program).some(line => line.filter.list?.includes(code)))
    return naming.length > 0 ? [{ code: 'given no more', course: code, programs: naming.map(programId) }] : []
  })
}

/** Somebody who begins now: nothing on the record, in this program, and placed wherever a rule asks for it. */
function newcomer(program: Program, { courses }: Pick<Catalog, 'courses'>): StudentFile {
  const placements: Record<string, number> = {}
  const note = (rule: Expression | null): void => {
    if (!rule) return
    if (rule.kind === 'placement') placements[rule.test] = Math.max(placements[rule.test] ?? 0, rule.score)
    if ('of' in rule) rule.of.forEach(note)
  }
  for (const course of courses.values()) note(ruleOf(course.prerequisite))
  return { ...EMPTY_FILE, programs: [program.code], placements }
}

function unfillable(program: Program, { catalog, today }: CollegeChecked): CollegeFinding[] {
  const file = newcomer(program, catalog)
  const { reports } = readPrograms([program], [], file, catalog)
  const { reach, input } = reachOf(file, catalog, today)
  const titles = new Map(linesOfProgram(program).map(line => [line.id, line.title]))
  return Object.entries(findUnreachable(reports[0]!, [], reach, input)).map(([line, { reasons }]) =>
    ({ code: 'line cannot be filled', program: programId(program), line: titles.get(line) ?? line, reasons }))
}

/** The sequence walked as it is printed: each step in its season, all before it passed with the best grade. */
function brokenSequence(program: Program, { catalog, today }: CollegeChecked): CollegeFinding[] {
  const findings: CollegeFinding[] = []
  const ahead = termsAhead(catalog.terms, today)
  const best = Object.entries(catalog.scale).filter(([, one]) => one.earns).sort((a, b) => b[1].points - a[1].points)[0]?.[0] ?? 'A'
  const facts = newcomer(program, catalog)
  const items: CourseItem[] = []
  const later = (step: Program['suggested'][number]) => new Set(program.suggested.slice(program.suggested.indexOf(step) + 1)
    .flatMap(one => one.courses))
  let at = ahead.findIndex(term => term.season === 'fall')
  for (const step of program.suggested) {
    const slot = ahead.findIndex((term, i) => i >= at && (step.season ? term.season === step.season : term.season !== 'summer'))
    if (slot < 0) break
    const term = ahead[slot]!
    const mine = step.courses.flatMap((code): CourseItem[] => {
      const course = catalog.courses.get(code)
      return course
        ? [{ id: `${step.name} ${code}`, course: code, term: term.code, credits: course.credits, grade: null, state: 'planned',
            source: 'here' }]
        : []
    })
    for (const item of mine) {
      const course = catalog.courses.get(item.course)!
      const { before, beside } = readCourseRules(course, term.code, { ...facts, items: [...items, ...mine] }, catalog)
      const about = { program: programId(program), step: step.name, course: item.course }
      const unmet = [before, beside].filter(one => one?.firmness === 'unmet')
      if (unmet.some(one => isOwnFault(program, one!.missing, later(step)))) findings.push({ code: 'sequence too early', ...about })
      // A year that is left out is the student's to work round; a season is not.
      if (isAnnounced(course) && !course.offered.seasons.includes(term.season))
        findings.push({ code: 'sequence not given', ...about, season: term.season })
    }
    const credits = mine.reduce((sum, item) => sum + item.credits, 0)
    if (credits > term.loadCap)
      findings.push({ code: 'sequence over the cap', program: programId(program), step: step.name, credits, cap: term.loadCap })
    items.push(...mine.map((item): CourseItem => ({ ...item, state: 'completed', grade: best })))
    at = slot + 1
  }
  return findings
}

/**
 * Whether a program's own sequence is why a rule is not met: a major brings all that its courses ask for, while beside a minor or a
 * certificate somebody takes other courses; there only what the sequence itself puts later is at fault.
 */
const isOwnFault = ({ kind }: Program, missing: readonly (readonly Expression[])[], later: ReadonlySet<CourseCode>) =>
  kind === 'major' || missing.some(set => set.some(one => one.kind === 'course' && later.has(one.course)))

/**
 * Minutes in class that a credit stands for: fifteen weeks of fifty minutes (the credit hour of 34 CFR 600.2, read with the fifty-minute
 * hour of common practice). A laboratory meets two to three times as long for a credit (common practice, no source).
 */
const MINUTES_A_CREDIT = 750
const LAB_TIMES = 3
/** What holidays and rounding of the week may take, and what a seminar or work outdoors may add. */
const LESS = 0.2
const MORE = 0.4

function oddMinutes({ catalog: { courses, terms }, sections, today }: CollegeChecked): CollegeFinding[] {
  const findings: CollegeFinding[] = []
  for (const term of terms.filter(one => termPhase(one, today) !== 'past')) {
    const byCourse = new Map<CourseCode, Section[]>()
    for (const one of sections) {
      if (one.term !== term.code || one.cancelled) continue
      const mine = byCourse.get(one.course)
      if (mine) mine.push(one)
      else byCourse.set(one.course, [one])
    }
    for (const [code, mine] of byCourse) {
      const course = courses.get(code)
      if (course) findings.push(...oddBundles(course, mine, term))
    }
  }
  return findings
}

function oddBundles(course: Course, sections: readonly Section[], term: Term): CollegeFinding[] {
  return bundlesOf(course, sections).flatMap(({ sections: parts }): CollegeFinding[] => {
    // What is taught without set times, in part or whole, has no minutes that could be counted.
    if (parts.some(one => one.meetings.length === 0 || one.delivery === 'mixed' || one.delivery === 'online any time')) return []
    const minutes = parts.reduce((sum, one) => sum + expandSection(one, term).reduce((all, meeting) =>
      all + endOf(meeting) - meeting.start, 0), 0)
    const least = Math.round(course.credits / 100 * MINUTES_A_CREDIT * (1 - LESS))
    const most = Math.round(course.creditsMax / 100 * MINUTES_A_CREDIT * (parts.some(one => one.part !== 'lecture') ? LAB_TIMES : 1)
      * (1 + MORE))
    const label = parts.map(one => one.label).join(' + ')
    return minutes < least || minutes > most
      ? [{ code: 'minutes', term: term.code, course: course.code, label, minutes, least, most }]
      : []
  })
}
