import type { Course, CourseCode, CourseItem, Credits, LocalDate, Section, Term, TravelTime } from '../catalog/types'
import type { RecordRules } from '../record/attempts'
import type { FactsOnFile } from '../record/facts'
import type { GradesAsked } from '../record/repeats'
import type { Finding } from './findings'
import type { Gate } from './gates'
import type { SeatClaim } from './seats'

/** `credits` are those that the student chose for a course whose credits vary; null takes the least. */
export interface LineUpRow {
  id: number
  course: CourseCode
  sectionIds: number[]
  credits: Credits | null
  /** Bundles to take when the first choice is full or cancelled, in order. */
  backups?: readonly number[][] | undefined
  /** Whether to join the waitlist of the first choice when nothing of it has a seat. */
  waitIfFull?: boolean | undefined
}

export interface RowDecision {
  rowId: number
  course: CourseCode
  outcome: 'register' | 'waitlist' | 'refused'
  /** What would become of it once the gates are open; left out where they are. */
  once?: RowDecision['outcome']
  findings: Finding[]
  /** The sections that this is about: the first choice, or a backup. */
  sectionIds: number[]
  /** Which backup it is, from 1; 0 for the first choice. */
  backup: number
  /** The waitlists that it would join, with the place on each. */
  waits: { sectionId: number, place: number }[]
  /** The seats this row would take, one a section. */
  claims: SeatClaim[]
  credits: Credits
}

export interface DecisionContext extends RecordRules, FactsOnFile {
  term: Term
  gates: readonly Gate[]
  /** Sections of the term that the rows name, and their siblings for the way forward. */
  sections: ReadonlyMap<number, Section>
  travel: readonly TravelTime[]
  /** Terms by code, for naming those of courses taken elsewhere. */
  terms: readonly Term[]
  /** Completed, under way and registered items; nothing that is only planned. */
  items: readonly CourseItem[]
  /** Grade points that the student's programs and plans ask: a course passed with less may be taken again. */
  asked: GradesAsked
  loadCap: Credits
  /** Sections registered in this term. */
  registered: readonly Section[]
  /** Sections on whose waitlist the student is. */
  waitlisted?: ReadonlySet<number> | undefined
  /** The date in the college's zone, by which the deadlines of sessions are read; left out, none is over. */
  today?: LocalDate | undefined
  /** Courses for which a rule was lifted in this term: adding after the last day, or who may take a section. */
  lifted?: Lifted | undefined
  /** What was signed off for the term, where nothing else may be registered: by the institution's own rule. */
  signed?: { courses: ReadonlySet<CourseCode>, by: string } | null | undefined
}

/** Rules that are lifted for a student in a term. */
interface Lifted {
  lateAdd: ReadonlySet<CourseCode>
  restriction: ReadonlySet<CourseCode>
  /** Pairs of courses that may meet at the same time; see `clashPair`. */
  clash: ReadonlySet<string>
  /** Sections of which any free seat may be taken, whoever it is kept for. */
  seat: ReadonlySet<number>
}
export const clashPair = (one: CourseCode, other: CourseCode): string => one < other ? `${one}|${other}` : `${other}|${one}`

/** A row with what belongs to it. */
export interface Candidate {
  /** Tells it from every other: one row can be asked about with several bundles. */
  key: string
  row: LineUpRow
  course: Course | undefined
  sections: Section[]
  credits: Credits
}

export function candidateOf(row: LineUpRow, { courses, sections }: Pick<DecisionContext, 'courses' | 'sections'>): Candidate {
  const course = courses.get(row.course)
  return { key: `row ${row.id} ${row.sectionIds.join('+')}`, row, course, sections: row.sectionIds.flatMap(id => sections.get(id) ?? []),
    credits: chosenCredits(row.credits, course) }
}

/** Credits that a course is taken for: those that were chosen, within its range; else its least. */
export function chosenCredits(chosen: Credits | null | undefined, course: Pick<Course, 'credits' | 'creditsMax'> | undefined): Credits {
  if (!course) return 0
  return Math.min(course.creditsMax, Math.max(course.credits, chosen ?? course.credits))
}
