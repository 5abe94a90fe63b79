import type { Course, CourseItem, Credits, LocalDate, Meeting, Section, Term, TravelTime, Weekday } from '@ridgeway/core/catalog'
import { type GradeScale, LETTER_SCALE } from '@ridgeway/core/grades'
import { type Catalog, type DraftWishes, EMPTY_FILE, type PlanEntry, type StudentFile } from '@ridgeway/core/planning'
import { coursesIn, parseExpression } from '@ridgeway/core/prerequisites'
import { type LineRef, lineRef, newEntryId, pickRef } from '@ridgeway/core/record'
import { chosenCredits, type LineUpRow } from '@ridgeway/core/registration'
import { linesOfProgram, type Program, type RequirementException } from '@ridgeway/core/requirements'
import { bundlesOf } from '@ridgeway/core/weeks'
import type { Given, LooseNode } from './case-schema'
import { toProgram } from './program'
import { programSchema } from './program-schema'

/** What a case gives, ready for the rules. */
export interface CaseWorld {
  today: LocalDate
  catalog: Catalog
  file: StudentFile
  sections: Section[]
  travel: TravelTime[]
  lineUp: LineUpRow[]
  lineUpTerm: Term
  registered: Section[]
  draft: DraftWishes
}

const FIRST_YEAR = 2024
const LAST_YEAR = 2030
const hundredths = (credits: number): Credits => Math.round(credits * 100)

/** A case's own parts over those that the whole file gives; courses are added, everything else is replaced. */
export function mergeGiven(shared: Given, own: Given): Given {
  return { ...shared, ...own, courses: { ...shared.courses, ...own.courses } }
}

/** What a case is worked out in where it gives none of its own: a college's catalog, with the programs that the case is about. */
export type CaseCatalog = Pick<Catalog, 'courses' | 'programs' | 'terms' | 'scale' | 'repeatPolicy'>

/** Makes what a case gives whole. @throws CaseProblem where it contradicts itself. */
export function worldOf(given: Given, around?: CaseCatalog): CaseWorld {
  const scale = around?.scale ?? scaleOf(given)
  const programs = around ? [...around.programs] : (given.programs ?? []).map(toWholeProgram)
  const courses = around ? new Map(around.courses) : coursesOf(given, programs)
  const terms = around ? [...around.terms] : termsOf(given)
  const catalog: Catalog = { courses, programs, terms, scale, repeatPolicy: around?.repeatPolicy ?? given.repeats ?? 'best',
    ...(given.together ? { programsPolicy: given.together } : {}) }
  const record = (given.record ?? []).map((one, n) => toItem(one, n, courses))
  const entries = (given.plan ?? []).map(one => toEntry(one, courses, programs))
  const file: StudentFile = {
    ...EMPTY_FILE,
    record,
    entries: distinct(entries),
    programs: given.enrolled ?? programs.map(program => program.code),
    placeholders: (given.places ?? []).map(({ countsFor, term, credits }, n) => ({ id: `place${n}`, line: refOf(countsFor, programs), term,
      credits: hundredths(credits), note: '' }),
    ),
    wishes: given.wishes
      ? { target: given.wishes.creditsPerTerm === null ? null : hundredths(given.wishes.creditsPerTerm), termsOff: given.wishes.termsOff,
          latestFinish: given.wishes.latestFinish }
      : EMPTY_FILE.wishes,
    picked: (given.plan ?? []).flatMap(one => typeof one !== 'string' && one.picked ? [pickRef(one.course, one.term)] : []),
    placements: given.placements ?? {},
    permissions: given.lifted ?? [],
    capRaised: Object.fromEntries(Object.entries(given.capRaised ?? {}).map(([term, credits]) => [term, hundredths(credits)])),
    milestones: (given.milestones ?? []).map(name => refOf(name, programs)),
    exceptions: (given.exceptions ?? []).map((one, n) => toException(one, n, programs)),
    usePins: (given.pins ?? []).flatMap((pin) => {
      const { program, line } = splitRef(refOf(pin.for, programs))
      return [...record, ...entries.map(entry => ({ ...entry, term: entry.term }))].filter(item => matchesItem(item, pin.use)).map(
        item => ({ item: item.id, program, line }),
      )
    }),
  }
  const sections = (given.sections ?? []).map(one => toSection(one, terms))
  const lineUpTerm = terms.find(term => term.code === (given.lineUpTerm ?? '2027SP'))
  if (!lineUpTerm && given.lineUp) throw new CaseProblem(`the term of the line-up, ${given.lineUpTerm ?? '2027SP'}, is not among the terms`)
  const { load = null, ...wishes } = given.draft ?? {}
  return {
    today: given.today ?? '2026-11-09',
    catalog,
    file,
    sections,
    travel: given.travel ?? [],
    lineUp: (given.lineUp ?? []).map((one, n) => toRow(one, n, courses, sections, entries, given.lineUpTerm ?? '2027SP')),
    lineUpTerm: lineUpTerm ?? terms[0]!,
    registered: sections.filter(section => given.registeredSections?.includes(section.id)),
    draft: { termsOff: [], latestFinish: null, summers: 'when needed', around: 'placed', ...wishes,
      load: load === null ? null : hundredths(load) },
  }
}

/** What a case says cannot be. */
export class CaseProblem extends Error {}

function scaleOf({ grades }: Given): GradeScale {
  if (!grades) return LETTER_SCALE
  return Object.fromEntries(
    Object.entries(grades).map((
      [grade, { points, inAverage, earns, standsFor }],
    ) => [grade, { points: hundredths(points), inGpa: inAverage, earns, standsFor: earns ? hundredths(standsFor ?? points) : -1 }]),
  )
}

/** Every course that is given, and every one that is named anywhere, with its defaults. */
function coursesOf(given: Given, programs: readonly Program[]): Map<string, Course> {
  const courses = new Map<string, Course>()
  const add = (code: string, values: NonNullable<Given['courses']>[string] | null) => {
    const [least, most] = Array.isArray(values?.credits) ? values.credits : [values?.credits ?? 3, values?.credits ?? 3]
    const [subject, number] = code.split(' ') as [string, string]
    courses.set(code, {
      code,
      subject,
      number: Number.parseInt(number, 10),
      title: code,
      credits: hundredths(least),
      creditsMax: hundredths(most),
      description: '',
      fee: 0,
      attributes: values?.attributes ?? [],
      prerequisite: values?.prerequisite ?? '',
      corequisite: values?.corequisite ?? '',
      exclusions: values?.excludes ?? [],
      equivalents: values?.same ?? [],
      repeatLimit: values?.times ?? 1,
      ...(values?.repeatCredits === undefined ? {} : { repeatCredits: hundredths(values.repeatCredits) }),
      parts: values?.parts ?? ['lecture'],
      offered: { seasons: values?.offered ?? ['fall', 'spring', 'summer'], ...(values?.years ? { years: values.years } : {}),
        ...(values?.until ? { until: values.until } : {}) },
    })
  }
  for (const [code, values] of Object.entries(given.courses ?? {})) add(code, values)
  const named = new Set<string>([
    ...programs.flatMap(
      program => [...linesOfProgram(program).flatMap(line => [...line.filter.list ?? [], ...line.filter.except ?? []]),
        ...program.suggested.flatMap(step => step.courses)],
    ),
    ...[...given.record ?? [], ...given.plan ?? []].map(one =>
      typeof one === 'string' ? one.slice(0, one.indexOf(' ', one.indexOf(' ') + 1)) : one.course,
    ),
    ...(given.sections ?? []).map(section => section.course),
    ...(given.lineUp ?? []).map(one => typeof one === 'string' ? one : one.course),
    ...[...courses.values()].flatMap((
      { prerequisite, corequisite, exclusions, equivalents },
    ) => [...exclusions, ...equivalents, ...[prerequisite, corequisite].flatMap((text) => {
      const parsed = parseExpression(text, null)
      return parsed.ok ? coursesIn(parsed.expression) : []
    })]),
  ])
  for (const code of named) if (!courses.has(code) && !given.outside?.includes(code)) add(code, null)
  return courses
}

const SEASONS = { SP: ['spring', '01-11', '05-07'], SU: ['summer', '06-01', '07-24'], FA: ['fall', '08-24', '12-11'] } as const

function termsOf({ terms }: Given): Term[] {
  const all = terms ?? Array.from({ length: LAST_YEAR - FIRST_YEAR + 1 }, (_, i) => FIRST_YEAR + i)
    .flatMap(year => [`${year}SP`, `${year}SU`, `${year}FA`]).filter(code => code >= '2024FA' && code <= '2030SU')
  return all.map((one): Term => {
    const values = typeof one === 'string' ? { term: one, sections: false, noClass: [] } : one
    const year = Number(values.term.slice(0, 4))
    const [season, from, to] = SEASONS[values.term.slice(4) as keyof typeof SEASONS]
    const start = ('start' in values && values.start) || `${year}-${from}`
    const end = ('end' in values && values.end) || `${year}-${to}`
    const cap = 'cap' in values && values.cap !== undefined ? values.cap : season === 'summer' ? 12 : 18
    return {
      code: values.term,
      name: '',
      season,
      year,
      start,
      end,
      sessions: [{ code: 'full', name: '', start, end }],
      noClass: values.noClass.map(date => ({ date, name: '' })),
      movedDays: [],
      loadCap: hundredths(cap),
      fullTime: hundredths(('fullTime' in values && values.fullTime) || 12),
      addBy: start,
      dropBy: start,
      withdrawBy: end,
      feesDue: start,
      scheduled: values.sections,
    }
  })
}

function toWholeProgram(loose: NonNullable<Given['programs']>[number]): Program {
  const line = <T extends { id: string, kind?: unknown, title?: string | undefined, filter?: unknown }>(one: T) => ({ ...one,
    kind: 'courses', title: one.title ?? one.id, filter: one.filter ?? {} })
  const node = (one: LooseNode): object =>
    'children' in one
      ? { id: one.id, title: one.title ?? one.id, kind: one.kind ?? (one.n === undefined ? 'all' : 'some'),
          ...(one.n === undefined ? {} : { n: one.n }), children: one.children.map(node) }
      : line(one)
  const title = loose.title ?? loose.code
  const whole = programSchema.safeParse({
    format: 'ridgeway-program/2',
    code: 'CASE',
    kind: loose.kind,
    title,
    catalogYear: 2025,
    totalCredits: loose.total || 1,
    ...(loose.totalFilter ? { totalFilter: loose.totalFilter } : {}),
    areas: [{ id: 'area', title: 'Area', hue: 'moss',
      children: loose.lines.length > 0 ? loose.lines.map(node) : [line({ id: 'nothing', courses: 1 })] }],
    rules: loose.rules,
    overlays: loose.overlays.map(line),
    sharing: loose.sharing,
    suggested: loose.suggested,
  })
  if (!whole.success)
    throw new CaseProblem(`the program ${loose.code} cannot be read: ${
      whole.error.issues.map(issue => `${issue.path.join('.')}: ${issue.message}`).join('; ')
    }`)
  const program = toProgram(whole.data)
  return { ...program, code: loose.code, totalCredits: hundredths(loose.total),
    areas: loose.lines.length > 0 ? program.areas : program.areas.map(area => ({ ...area, children: [] })) }
}

function toItem(one: NonNullable<Given['record']>[number], n: number, courses: ReadonlyMap<string, Course>): CourseItem {
  const id = `r${n + 1}`
  if (typeof one !== 'string') {
    const { course, term, grade, state, source, credits, gradedAt } = one
    return { id, course, term, grade, state, source, ...(one.earnedGrade ? { earnedGrade: one.earnedGrade } : {}),
      ...(gradedAt ? { gradedAt } : {}),
      ...(one.topic ? { topic: one.topic } : {}),
      credits: credits === undefined ? courses.get(course)?.credits ?? 300 : hundredths(credits) }
  }
  const match = /^(\S+ \S+) (\d{4}(?:SP|SU|FA)|transfer|exam)(?: (under way|registered|\S+))?(?: (\d+(?:\.\d+)?))?$/.exec(one)
  if (!match)
    throw new CaseProblem(
      `"${one}" is no entry of a record: write "AAA 100 2025FA B", with the credits after it where they are not the course's own`,
    )
  const [, course, where, what, amount] = match as unknown as [string, string, string, string | undefined, string | undefined]
  const elsewhere = where === 'transfer' || where === 'exam'
  const going = what === 'under way' || what === 'registered'
  return {
    id,
    course,
    term: elsewhere ? null : where,
    state: going ? what : 'completed',
    source: elsewhere ? where : 'here',
    grade: going ? null : what ?? (elsewhere ? 'TR' : null),
    credits: amount === undefined ? courses.get(course)?.credits ?? 300 : hundredths(Number(amount)),
  }
}

function toEntry(one: NonNullable<Given['plan']>[number], courses: ReadonlyMap<string, Course>, programs: readonly Program[]): PlanEntry {
  const [code, number, at] = typeof one === 'string' ? one.split(' ') as [string, string, string] : ['', '', '']
  const { course, term, credits, pinned, countsFor } = typeof one === 'string'
    ? { course: `${code} ${number}`, term: at, credits: undefined, pinned: false, countsFor: undefined }
    : one
  return {
    id: newEntryId(course, term),
    course,
    term,
    credits: credits === undefined ? courses.get(course)!.credits : hundredths(credits),
    pinned,
    pinnedUse: countsFor === undefined ? null : refOf(countsFor, programs),
    note: '',
  }
}

function distinct(entries: PlanEntry[]): PlanEntry[] {
  const seen = new Set<string>()
  for (const { id } of entries) {
    if (seen.has(id)) throw new CaseProblem(`${id} stands in the plan twice`)
    seen.add(id)
  }
  return entries
}

/** `core` is the line of the first program; `P/core` names the program. */
export function refOf(name: string, programs: readonly Pick<Program, 'code'>[]): LineRef {
  const at = name.indexOf('/')
  return at >= 0 ? lineRef(name.slice(0, at), name.slice(at + 1)) : lineRef(programs[0]?.code ?? '', name)
}

const splitRef = (ref: LineRef) => ({ program: ref.slice(0, ref.indexOf('/')), line: ref.slice(ref.indexOf('/') + 1) })

/** `AAA 100`, or `AAA 100 2027SP` for one attempt. */
export const matchesItem = (item: { course: string, term: string | null }, name: string): boolean =>
  item.course === name || `${item.course} ${item.term}` === name

function toException(one: NonNullable<Given['exceptions']>[number], n: number, programs: readonly Program[]): RequirementException {
  const base = { id: n + 1, program: one.program ?? programs[0]?.code ?? '', reason: 'given', by: 'a case' }
  return 'waive' in one
    ? { ...base, kind: 'waiver', line: one.waive, course: one.course ?? null,
        ...(one.amount === undefined ? {} : { amount: hundredths(one.amount) }) }
    : { ...base, kind: 'substitution', line: one.on, course: one.substitute, instead: one.instead ?? null }
}

function toSection(one: NonNullable<Given['sections']>[number], terms: readonly Term[]): Section {
  const term = terms.find(candidate => candidate.code === one.term)
  return {
    id: one.id,
    term: one.term,
    session: 'full',
    course: one.course,
    number: String(10_000 + one.id),
    label: String(one.id).padStart(2, '0'),
    part: one.part,
    link: one.link,
    meetings: one.meets.map(text => toMeeting(text, one.first ?? term?.start ?? '2027-01-11', one.last ?? term?.end ?? '2027-05-07')),
    exam: null,
    instructors: [],
    pools: [
      { id: one.id * 100, forGroup: null, capacity: one.seats, taken: one.taken, held: one.held },
      ...one.kept.map((pool, n) => ({ id: one.id * 100 + n + 1, forGroup: pool.for, capacity: pool.seats, taken: pool.taken, held: 0 })),
    ],
    waitlistCapacity: 0,
    waiting: one.waiting,
    delivery: 'on site',
    topic: '',
    notes: '',
    fee: 0,
    gradingModes: ['letter'],
    group: '',
    seatsWith: null,
    onlyPrograms: one.only,
    onlyStandings: [],
    onlyCohorts: [],
    cancelled: one.cancelled,
  }
}

function toMeeting(text: string, first: LocalDate, last: LocalDate): Meeting {
  const parts = text.split(' ')
  const site = parts.at(-1)!.startsWith('@') ? parts.pop()!.slice(1) : 'main'
  const [start, end] = parts.pop()!.split('-').map((time) => {
    const [hours, minutes] = time.split(':').map(Number) as [number, number]
    return hours * 60 + minutes
  }) as [number, number]
  return { days: parts.join('').split('') as Weekday[], start, end, first, last, site, room: '1' }
}

function toRow(one: NonNullable<Given['lineUp']>[number], n: number, courses: ReadonlyMap<string, Course>, sections: readonly Section[],
  entries: readonly PlanEntry[], term: string): LineUpRow {
  const code = typeof one === 'string' ? one : one.course
  const course = courses.get(code)!
  const own = typeof one === 'string' ? undefined : one.sections
  const bundle = bundlesOf(course, sections.filter(section => section.term === term))[0]?.sections
    ?? sections.filter(section => section.course === code).slice(0, 1)
  const planned = entries.find(entry => entry.course === code && entry.term === term)?.credits ?? null
  const chosen = typeof one !== 'string' && one.credits !== undefined ? hundredths(one.credits) : planned
  return { id: n + 1, course: code, sectionIds: own ?? bundle.map(section => section.id),
    credits: chosen === null ? null : chosenCredits(chosen, course) }
}
