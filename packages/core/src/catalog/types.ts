/**
 * The catalog's objects as the core sees them: plain data, no identity of a database.
 *
 * Units used everywhere in the core:
 * - credits are whole hundredths (`300` is three credits);
 * - times of day are minutes since local midnight (`570` is 9:30);
 * - dates are local, `YYYY-MM-DD`; instants are ISO strings in UTC.
 */
export type Credits = number
export type LocalDate = string
export type Instant = string
export type CourseCode = string
export type TermCode = string

export type Season = 'spring' | 'summer' | 'fall'
/** One letter a day as registrars write it: R is Thursday, U Sunday (common practice, no source). */
export type Weekday = 'M' | 'T' | 'W' | 'R' | 'F' | 'S' | 'U'
export type Part = 'lecture' | 'lab' | 'tutorial'
export type Delivery = 'on site' | 'online live' | 'online any time' | 'mixed'
/** How far a student is, by credits earned; see `classStanding`. */
export type ClassStanding = 'freshman' | 'sophomore' | 'junior' | 'senior'
/** How a course is graded: with a letter, with pass or no credit, or not at all. */
export type GradingMode = 'letter' | 'pass' | 'audit'

/** The last days on which a course can be added, dropped without a trace, and left with a W. */
export interface Deadlines { addBy: LocalDate, dropBy: LocalDate, withdrawBy: LocalDate }

export interface Session {
  code: string
  name: string
  start: LocalDate
  end: LocalDate
  /** Its own deadlines, where they are not those of the term. */
  deadlines?: Deadlines | null
}

export interface Term extends Deadlines {
  code: TermCode
  name: string
  season: Season
  year: number
  start: LocalDate
  end: LocalDate
  sessions: Session[]
  /** Days without classes, with the reason as it is printed in the academic calendar. */
  noClass: { date: LocalDate, name: string }[]
  /** Days on which the classes of another weekday meet. */
  movedDays: { date: LocalDate, follows: Weekday }[]
  loadCap: Credits
  fullTime: Credits
  feesDue: LocalDate
  /** Why the office keeps registration closed for now; null where it does not. */
  closedBecause?: string | null
  /** True once sections exist for the term. */
  scheduled: boolean
}

/** A term as a finding names it; `name` is empty for one that nobody has announced. */
export type TermName = Pick<Term, 'code' | 'name'>

export interface OfferingPattern {
  seasons: Season[]
  years?: 'odd' | 'even'
  /** Last term in which it is offered, for a course that is being given up. */
  until?: TermCode
}

export interface Course {
  code: CourseCode
  subject: string
  number: number
  title: string
  credits: Credits
  /** Upper end of the range where the credits vary, else equal to `credits`. */
  creditsMax: Credits
  description: string
  attributes: string[]
  /** Readable expressions, see `prerequisites/parse.ts`; empty when there is none. */
  prerequisite: string
  corequisite: string
  /** No credit for both. */
  exclusions: CourseCode[]
  equivalents: CourseCode[]
  /** How often credit may be earned; 1 for most courses. */
  repeatLimit: number
  /** At most so many credits of it in all, however often; where it is not said, only the times count. */
  repeatCredits?: Credits | null
  offered: OfferingPattern
  /** Parts that one bundle must contain. */
  parts: Part[]
  /** Extra fee in cents. */
  fee: number
}

export interface Meeting {
  days: Weekday[]
  start: number
  end: number
  first: LocalDate
  last: LocalDate
  site: string
  room: string
}

/** Seats of one category; `forGroup` is a program, a class standing or a cohort, null for seats anybody may take. */
export interface SeatPool {
  id: number
  forGroup: string | null
  capacity: number
  taken: number
  /** Seats held by offers to people on the waitlist. */
  held: number
}

export interface Section {
  id: number
  term: TermCode
  session: string
  course: CourseCode
  /** Five-digit number printed beside every section. */
  number: string
  /** Short label within the course: `02`, `02L`, `W1`. */
  label: string
  part: Part
  /** Sections with the same link, one of each part, form a bundle. */
  link: string
  meetings: Meeting[]
  exam: { date: LocalDate, start: number, end: number } | null
  instructors: string[]
  pools: SeatPool[]
  waitlistCapacity: number
  waiting: number
  delivery: Delivery
  /** What this section is about, where one course has several; empty for most. */
  topic: string
  notes: string
  /** What the section costs besides the course's own fee, in cents. */
  fee: number
  /** How it can be graded; the first is what it is unless another is chosen. */
  gradingModes: GradingMode[]
  /** Sections of one group keep clear of each other's hours; empty for most. */
  group: string
  /** The section whose seats it shares: two names of one class. Null where it has its own. */
  seatsWith: number | null
  /** Only students holding one of these program codes may take it; empty for everybody. */
  onlyPrograms: string[]
  /** Only students of these class standings may take it; empty for everybody. */
  onlyStandings: ClassStanding[]
  /** Only students of one of these cohorts may take it; empty for everybody. */
  onlyCohorts: string[]
  cancelled: boolean
}

export interface TravelTime { from: string, to: string, minutes: number }
export interface Site { code: string, name: string, online: boolean }

/** States a course can have for a student, in order of commitment. */
export type Commitment = 'completed' | 'under way' | 'registered' | 'picked' | 'planned'

/** One attempt at, or intention to take, a course. */
export interface CourseItem {
  id: string
  course: CourseCode
  term: TermCode | null
  credits: Credits
  grade: string | null
  /** The grade it was earned with elsewhere: it counts for minimum grades, never in an average. */
  earnedGrade?: string | null
  /** When its grade was given, where that is known: of two attempts in one term it tells which came later. */
  gradedAt?: Instant | null
  /** What it was about, for a course whose topics change: each topic gives credit once, several may stand side by side. */
  topic?: string | null
  state: Commitment
  source: 'here' | 'transfer' | 'exam'
}
