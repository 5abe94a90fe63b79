import { z } from 'zod'
import type { GradingMode, Meeting, Section } from '@ridgeway/core/catalog'
import type { PlanEntry, Plan, PlanOperation, StudentFile } from '@ridgeway/core/planning'
import type { Finding, Gate, RowDecision } from '@ridgeway/core/registration'
import type { MovedPick } from '@ridgeway/core/next'
import type { Wish } from '@ridgeway/core/weeks'
import { known, view } from '../define'
import { planId, termCode } from '../values'

export const PlanHead = z.object({ id: z.number(), name: z.string(), version: z.number(), current: z.boolean() })
export type PlanHead = z.infer<typeof PlanHead>

export const ProgramChange = z.object({
  /** The wish that an answer is about. */
  id: z.number(), programs: z.array(z.string()), note: z.string(), askedAt: z.string(),
  state: z.enum(['asked', 'granted', 'declined', 'taken back']), words: z.string(),
})
export type ProgramChange = z.infer<typeof ProgramChange>

const Registered = z.object({ section: z.number(), course: z.string(), label: z.string(), term: z.string(), credits: z.number(),
  at: z.string(), run: z.string() })
export type Registered = z.infer<typeof Registered>

/** `credits` are those chosen for the row, else those that the plan has the course for; null where it is not in the plan. */
const LineUpRow = z.object({ id: z.number(), course: z.string(), sectionIds: z.array(z.number()), position: z.number(),
  credits: z.number().nullable(), backups: z.array(z.array(z.number())), waitIfFull: z.boolean(),
  grading: known<GradingMode>('GradingMode'),
  /** When and where the bundle met as it was picked. */
  seen: known<Meeting[]>('Meeting, a list').nullable() })
export type LineUpRow = z.infer<typeof LineUpRow>

export const PlanComment = z.object({ id: z.number(), author: z.number(), name: z.string(), at: z.string(), term: z.string().nullable(),
  entry: z.string().nullable(), text: z.string() })
export type PlanComment = z.infer<typeof PlanComment>

/** All that is on file about one student, for one working term. */
export const StudentState = z.object({
  id: z.number(),
  /** Counts what changes in the file, the operations on plans left out. */
  version: z.number(),
  name: z.string(),
  email: z.string(),
  advisor: z.object({ id: z.number(), name: z.string(), email: z.string() }).nullable(),
  programConfirmed: z.boolean(),
  targetLoad: z.number().nullable(),
  /** The plan that was asked for, else the current one; its entries stand in the file. */
  plan: PlanHead.extend({ note: z.string(), termNotes: z.record(z.string(), z.string()) }),
  plans: z.array(PlanHead),
  comments: z.array(PlanComment),
  file: known<StudentFile>('StudentFile'),
  /** Programs with their catalog year, in order. */
  programIds: z.array(z.string()),
  /** The newest wish to change them, with its answer. */
  programChange: ProgramChange.nullable(),
  lineUp: z.array(LineUpRow),
  /** Courses of the line-up that the dry run refuses, each with the first reason; gates are left out. */
  refused: z.array(z.object({ course: z.string(), finding: known<Finding>('Finding') })),
  /** Picks that are not when or where they were. */
  moved: known<MovedPick[]>('MovedPick, a list'),
  registered: z.array(Registered),
  /** Searches kept by name, and since when the calendar has a secret address. */
  searches: z.array(z.object({ name: z.string(), search: known<Record<string, unknown>>('Search') })),
  feedSince: z.string().nullable(),
  waitlisted: z.array(z.object({ id: z.number(), section: z.number(), course: z.string(), label: z.string(), place: z.number(),
    offerUntil: z.string().nullable(), bundle: z.array(z.number()) })),
  gates: known<Gate[]>('Gate, a list'),
  opening: z.object({ from: z.string(), words: z.string() }).nullable(),
  holds: z.array(z.object({ reason: z.string(), contact: z.string(), placed: z.string() })),
  signOff: z.object({ by: z.string(), at: z.string(), note: z.string(), copy: known<PlanEntry[]>('PlanEntry, a list') }).nullable(),
  signOffAskedAt: z.string().nullable(),
  termsAcceptedAt: z.string().nullable(),
})
export type StudentState = z.infer<typeof StudentState>

export const readStudent = view({ name: 'student file', path: '/api/students/:id', who: 'file',
  input: z.object({ term: termCode, plan: planId.optional() }), output: StudentState, stamp: 'version of the student\'s file',
  words: 'All that is on file about one student, for one working term.' })

export const readPlan = view({ name: 'one plan', path: '/api/students/:id/plans/:plan', who: 'file',
  input: z.object({ since: z.coerce.number().int().min(0).default(0) }), stamp: 'version of the plan',
  output: z.object({ head: PlanHead, plan: known<Plan>('Plan'),
    changes: z.array(z.object({ by: z.string(), person: z.number(), operation: known<PlanOperation>('PlanOperation') })) }),
  words: 'One of the student\'s plans, with what was done to it after a version, and by whom.' })

/** What changed beside an open page, as versions only. */
export const News = z.object({ version: z.number(), plans: z.record(z.string(), z.number()), catalog: z.number() })
export type News = z.infer<typeof News>
export const listen = view({ name: 'news of a student', path: '/api/students/:id/news', who: 'file', input: z.object({}), output: News,
  stream: true, stamp: 'none: it is the news', words: 'An event stream of versions: student\'s file, plans, catalog.' })

/** A bundle with what would happen if it were registered now. */
export const BundleView = z.object({ id: z.string(), course: z.string(), sections: known<Section[]>('Section, a list'), times: z.string(),
  decision: known<RowDecision>('RowDecision'), picked: z.boolean(), registered: z.boolean() })
export type BundleView = z.infer<typeof BundleView>

export const Week = z.object({ courses: z.array(z.object({ course: z.string(), bundles: z.array(BundleView) })),
  wishes: known<Wish[]>('Wish, a list'), shortlist: z.array(z.object({ course: z.string(), bundle: z.string() })),
  /** The week as it was shown to the advisor. */
  shared: z.object({ at: z.string(), choices: z.record(z.string(), z.string()), note: z.string() }).nullable() })
export type Week = z.infer<typeof Week>
export const readWeek = view({ name: 'week', path: '/api/students/:id/week', who: 'file', input: z.object({ term: termCode }), output: Week,
  stamp: 'version of the student\'s file, and the seats', words: 'Every bundle of every course of the term, with the one decision on it.' })

export const Sheet = z.object({ at: z.string(), rows: z.array(known<RowDecision>('RowDecision')),
  sections: z.array(known<Section>('Section')) })
export type Sheet = z.infer<typeof Sheet>
export const dryRun = view({ name: 'dry run', path: '/api/students/:id/dry-run', who: 'file', input: z.object({ term: termCode }),
  output: Sheet, stamp: 'version of the student\'s file, and the seats',
  words: 'The decision of the registration on the line-up as it is, changing nothing.' })
