import type { Course, CourseItem, Meeting, Section, Term } from '@ridgeway/core/catalog'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import { type Catalog, EMPTY_FILE, type PlanEntry, type StudentFile } from '@ridgeway/core/planning'
import { newEntryId, NO_GRADES_ASKED, type RecordRules } from '@ridgeway/core/record'
import type { DecisionContext, LineUpRow } from '@ridgeway/core/registration'
import type { Area, CourseLine, Program, RequirementNode } from '@ridgeway/core/requirements'

/** One place for the objects of tests: each with everything it needs, and what a test is about given by hand. */

/** `AAA 100`: three credits, no rules, given in every term. */
export function course(code: string, values: Partial<Course> = {}): Course {
  const credits = values.credits ?? 300
  return {
    code,
    subject: code.slice(0, 3),
    number: Number(code.slice(4, 7)),
    title: code,
    credits,
    creditsMax: credits,
    description: '',
    attributes: [],
    prerequisite: '',
    corequisite: '',
    exclusions: [],
    equivalents: [],
    repeatLimit: 1,
    offered: { seasons: ['fall', 'spring', 'summer'] },
    parts: ['lecture'],
    fee: 0,
    ...values,
  }
}

export const courseMap = (...list: Course[]) => new Map(list.map(one => [one.code, one]))

/** A course passed with B in Fall 2025, unless told otherwise. */
export const item = (code: string, values: Partial<CourseItem> = {}): CourseItem => ({
  id: `${code} ${values.state ?? 'completed'} ${values.term ?? ''}`,
  course: code,
  term: '2025FA',
  credits: 300,
  grade: values.state && values.state !== 'completed' ? null : 'B',
  state: 'completed',
  source: 'here',
  ...values,
})
export const planned = (code: string, term: string, values: Partial<CourseItem> = {}) =>
  item(code, { state: 'planned', grade: null, term, ...values })

const SEASON = { SP: ['spring', '01-11', '05-07'], SU: ['summer', '06-01', '07-24'], FA: ['fall', '08-24', '12-11'] } as const

/** `2027SP`, with a cap of 18 credits, 12 in summer. */
export function term(code: string, values: Partial<Term> = {}): Term {
  const year = Number(code.slice(0, 4))
  const [season, from, to] = SEASON[code.slice(4) as keyof typeof SEASON]
  const [start, end] = [`${year}-${from}`, `${year}-${to}`]
  return {
    code,
    name: '',
    season,
    year,
    start,
    end,
    sessions: [{ code: 'full', name: 'Full term', start, end }],
    noClass: [],
    movedDays: [],
    loadCap: season === 'summer' ? 1200 : 1800,
    fullTime: 1200,
    addBy: start,
    dropBy: start,
    withdrawBy: end,
    feesDue: start,
    scheduled: false,
    ...values,
  }
}

export const entry = (code: string, at: string, values: Partial<PlanEntry> = {}): PlanEntry => ({ id: newEntryId(code, at), course: code,
  term: at, credits: 300, pinned: false, pinnedUse: null, note: '', ...values })

export const file = (values: Partial<StudentFile> = {}): StudentFile => ({ ...EMPTY_FILE, ...values })

export const rulesOf = (courses: RecordRules['courses'], values: Partial<RecordRules> = {}): RecordRules => ({ courses, scale: LETTER_SCALE,
  repeatPolicy: 'best', ...values })

export const catalog = (courses: RecordRules['courses'], values: Partial<Catalog> = {}): Catalog => ({ ...rulesOf(courses), programs: [],
  terms: [], ...values })

export const line = (id: string, values: Partial<CourseLine>): CourseLine => ({ kind: 'courses', id, title: id, filter: {}, ...values })

/** A program of one area. A minor has no total of its own, so that only its lines are looked at. */
export function program(nodes: RequirementNode[], values: Partial<Program> = {}): Program {
  const area: Area = { kind: 'all', id: 'area', title: 'Area', hue: 'moss', children: nodes }
  return { code: 'P', kind: 'minor', title: 'P', catalogYear: 2025, totalCredits: 0, areas: [area], rules: [], overlays: [], sharing: [],
    suggested: [], ...values }
}

/** M W from 9:00, for 75 minutes, all term. */
export const meeting = (start = 540, values: Partial<Meeting> = {}): Meeting => ({ days: ['M', 'W'], start, end: start + 75,
  first: '2027-01-11', last: '2027-05-07', site: 'main', room: '1', ...values })

/** A lecture with ten seats in Spring 2027. */
export const section = (id: number, code: string, values: Partial<Section> = {}): Section => ({
  id,
  term: '2027SP',
  session: 'full',
  course: code,
  number: String(10_000 + id),
  label: `0${id}`,
  part: 'lecture',
  link: 'a',
  meetings: [meeting(480 + id * 90)],
  exam: null,
  instructors: [],
  pools: [{ id: id * 10, forGroup: null, capacity: 10, taken: 0, held: 0 }],
  waitlistCapacity: 0,
  waiting: 0,
  delivery: 'on site',
  topic: '',
  notes: '',
  fee: 0,
  gradingModes: ['letter'],
  group: '',
  seatsWith: null,
  onlyPrograms: [],
  onlyStandings: [],
  onlyCohorts: [],
  cancelled: false,
  ...values,
})

export const row = (id: number, code: string, sectionIds: number[], credits: number | null = null): LineUpRow => ({ id, course: code,
  sectionIds, credits })

/** What a registration in Spring 2027 is decided on: gates open, nothing registered. */
export const decision = (courses: RecordRules['courses'], sections: readonly Section[],
  values: Partial<DecisionContext> = {}): DecisionContext => ({
  ...rulesOf(courses),
  term: term('2027SP'),
  terms: [],
  gates: [],
  sections: new Map(sections.map(one => [one.id, one])),
  travel: [],
  items: [],
  programs: [],
  placements: {},
  permissions: [],
  asked: NO_GRADES_ASKED,
  loadCap: 1800,
  registered: [],
  ...values,
})
