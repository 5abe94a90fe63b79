import { z } from 'zod'
import type { GradingMode, Meeting, Section } from '@ridgeway/core/catalog'
import type { PlanEntry, Plan, PlanOperation, StudentFile } from '@ridgeway/core/planning'
import type { MoneyEntry } from '@ridgeway/core/money'
import type { Finding, Gate, RowDecision, WaitedBefore } from '@ridgeway/core/registration'
import type { MovedPick } from '@ridgeway/core/next'
import type { Wish } from '@ridgeway/core/weeks'
import { known, view } from '../define'
import { planId, termCode } from '../values'
import { Asked, AskedException, BookedMeeting, Returned, SharedNote, Suggestion } from './advising'

export const PlanHead = z.object({ id: z.number(), name: z.string(), version: z.number(), current: z.boolean() })
export type PlanHead = z.infer<typeof PlanHead>

export const ProgramChange = z.object({
  /** The wish that an answer is about. */
  id: z.number(), programs: z.array(z.string()), note: z.string(), askedAt: z.string(),
  state: z.enum(['asked', 'granted', 'declined', 'taken back']), words: z.string(),
})
export type ProgramChange = z.infer<typeof ProgramChange>

const Registered = z.object({ section: z.number(), course: z.string(), label: z.string(), term: z.string(),
  session: z.string(), credits: z.number(), grading: known<GradingMode>('GradingMode'),
  /** What was charged for it, in cents. */
  tuition: z.number(), fees: z.number(), at: z.string(), run: z.string() })
export type Registered = z.infer<typeof Registered>

/** `credits` are those chosen for the row, else those that the plan has the course for; null where it is not in the plan. */
const LineUpRow = z.object({ id: z.number(), course: z.string(), sectionIds: z.array(z.number()), position: z.number(),
  credits: z.number().nullable(), backups: z.array(z.array(z.number())), waitIfFull: z.boolean(),
  grading: known<GradingMode>('GradingMode'),
  /** When and where the bundle met as it was picked. */
  seen: known<Meeting[]>('Meeting, a list').nullable() })
export type LineUpRow = z.infer<typeof LineUpRow>

export const PlanComment = z.object({ id: z.number(), author: z.number(), name: z.string(), at: z.string(), term: z.string().nullable(),
  entry: z.string().nullable(), text: z.string(), settledBy: z.string().nullable() })
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
  /** Residence band, by which tuition is asked. */
  residence: z.string(),
  /** The account of the working term: its lines, and the plan by which it is paid where one was chosen. */
  account: z.object({ entries: known<MoneyEntry[]>('MoneyEntry, a list'), plan: z.string().nullable() }),
  targetLoad: z.number().nullable(),
  /** The plan that was asked for, else the current one; its entries stand in the file. */
  plan: PlanHead.extend({ note: z.string(), termNotes: z.record(z.string(), z.string()) }),
  plans: z.array(PlanHead),
  comments: z.array(PlanComment),
  /** The newest comment that each of those who write there has read, by person. */
  read: z.record(z.string(), z.number()),
  /** Changes that are suggested and not answered. */
  suggestions: z.array(Suggestion),
  /** Exceptions asked for; those that are answered for a while. */
  asked: z.array(AskedException),
  notes: z.array(SharedNote),
  meetings: z.array(BookedMeeting),
  /** Messages to the student that were not read. */
  messages: z.number(),
  /** Who stands in for the advisor now. */
  deputy: z.string().nullable(),
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
  /** Sections that were cancelled while they were registered, where their course is not registered again. */
  gone: z.array(z.object({ course: z.string(), label: z.string() })),
  feedSince: z.string().nullable(),
  waitlisted: z.array(z.object({ id: z.number(), section: z.number(), course: z.string(), label: z.string(), place: z.number(),
    offerUntil: z.string().nullable(), bundle: z.array(z.number()),
    /** What is given up when a seat is offered, decided beforehand; null asks the student. */
    exchange: z.array(z.string()).nullable(),
    /** How it went for those who waited for the course before. */
    before: known<WaitedBefore[]>('WaitedBefore, a list') })),
  gates: known<Gate[]>('Gate, a list'),
  opening: z.object({ from: z.string(), words: z.string() }).nullable(),
  /** Rules that are lifted for this student, with who did it and why. */
  lifted: z.array(z.object({ id: z.number(), kind: z.enum(['late add', 'restriction', 'prerequisite', 'load', 'seat', 'clash']),
    course: z.string().nullable(), term: z.string().nullable(), value: z.number().nullable(), section: z.number().nullable(),
    instead: z.string().nullable(), until: z.string().nullable(), reason: z.string(), by: z.string() })),
  holds: z.array(z.object({ reason: z.string(), contact: z.string(), placed: z.string() })),
  signOff: z.object({ by: z.string(), at: z.string(), note: z.string(), copy: known<PlanEntry[]>('PlanEntry, a list') }).nullable(),
  signOffAsked: Asked.nullable(),
  /** The plan came back from the advisor, or a sign-off was withdrawn; until sign-off is asked for again or given. */
  returned: Returned.nullable(),
  termsAcceptedAt: z.string().nullable(),
})
export type StudentState = z.infer<typeof StudentState>

export const readEverything = view({ name: 'everything about me', path: '/api/students/:id/everything', who: 'own', input: z.object({}),
  output: z.object({ format: z.literal('ridgeway-student'), version: z.literal(1), made: z.string(), college: z.string(),
    person: z.object({ name: z.string(), username: z.string(), email: z.string() }),
    tables: z.record(z.string(), z.array(z.record(z.string(), z.unknown()))) }), stamp: 'none',
  words: 'All that is kept about the student, in one answer: each table with its rows.' })
export const readStudent = view({ name: 'student file', path: '/api/students/:id', who: 'file',
  input: z.object({ term: termCode, plan: planId.optional() }), output: StudentState, stamp: 'version of the student\'s file',
  words: 'All that is on file about one student, for one working term.' })

export const readPlan = view({ name: 'one plan', path: '/api/students/:id/plans/:plan', who: 'file',
  input: z.object({ since: z.coerce.number().int().min(0).default(0) }), stamp: 'version of the plan',
  output: z.object({ head: PlanHead, plan: known<Plan>('Plan'),
    changes: z.array(z.object({ by: z.string(), person: z.number(), operation: known<PlanOperation>('PlanOperation') })) }),
  words: 'One of the student\'s plans, with what was done to it after a version, and by whom.' })

/**
 * Seats of a term as they are now: all of them first, then those that changed. By seat category its capacity, seats taken and held; by
 * section how many wait.
 */
export const SeatNews = z.object({ term: z.string(), pools: z.record(z.string(), z.tuple([z.number(), z.number(), z.number()])),
  waiting: z.record(z.string(), z.number()) })
export type SeatNews = z.infer<typeof SeatNews>

/** What changed beside an open page, as versions only. */
export const News = z.object({ version: z.number(), plans: z.record(z.string(), z.number()), catalog: z.number(),
  /** Who else has the file open, by person. */
  here: z.record(z.string(), z.string()) })
export type News = z.infer<typeof News>
export const listen = view({ name: 'news of a student', path: '/api/students/:id/news', who: 'file',
  input: z.object({ term: termCode.optional() }), output: News, stream: true, stamp: 'none: it is the news',
  words: 'An event stream of versions: student\'s file, plans, catalog; and, as events named seats, of the seats of a term.' })

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

const PaymentView = z.object({ id: z.string(), cents: z.number(), state: z.enum(['started', 'sent', 'accepted', 'refused']),
  started: z.string(), settled: z.string().nullable() })
export const AccountView = z.object({ entries: known<MoneyEntry[]>('MoneyEntry, a list'), plan: z.string().nullable(),
  payments: z.array(PaymentView) })
export type AccountView = z.infer<typeof AccountView>
export const readAccountView = view({ name: 'account', path: '/api/students/:id/account', who: 'file', input: z.object({ term: termCode }),
  output: AccountView, stamp: 'version of the student\'s file', words: 'What was charged, came back and was paid for a term.' })

/** Where a press stands: so many before it in the line of this server, 0 while it is served; null where it is not in line here. */
export const Place = z.object({ before: z.number().nullable(),
  /** Seconds until its turn, as it went lately. */
  seconds: z.number().nullable(), served: z.boolean(),
  /** Milliseconds after which to look again. */
  again: z.number() })
export type Place = z.infer<typeof Place>
export const readPlace = view({ name: 'place in line', path: '/api/students/:id/registrations', who: 'own',
  input: z.object({ key: z.uuid() }), output: Place, stamp: 'none', words: 'Where a press of Register stands while it has no answer.' })

/** The run sheet of another term that is scheduled, with its own gates. */
export const OtherTerm = Sheet.extend({ term: z.string(), gates: known<Gate[]>('Gate, a list'), labels: z.record(z.string(), z.string()) })
export type OtherTerm = z.infer<typeof OtherTerm>
export const readOtherTerms = view({ name: 'run sheets of other terms', path: '/api/students/:id/line-ups', who: 'file',
  input: z.object({ term: termCode }), output: z.array(OtherTerm), stamp: 'version of the student\'s file, and the seats',
  words: 'The dry run of every line-up but that of one term, each with its gates.' })
