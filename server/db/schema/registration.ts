import { bigint, boolean, char, index, int, mysqlTable, primaryKey, unique, varchar } from 'drizzle-orm/mysql-core'
import type { GradingMode, Meeting } from '@ridgeway/core/catalog'
import type { Wish } from '@ridgeway/core/weeks'
import type { LedgerAction } from '@ridgeway/core/office'
import { instant, jsonText } from './columns'
import { courses, seatPools, sections } from './catalog'
import { terms } from './institution'
import { people, students } from './people'

/** The sections chosen for a term, in order; one row a course. */
export const lineUpRows = mysqlTable('line_up_rows', {
  id: int().autoincrement().primaryKey(),
  student: int().notNull().references(() => students.person),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  course: varchar({ length: 10 }).notNull().references(() => courses.code),
  position: int().notNull(),
  sectionIds: jsonText<number[]>()('section_ids').notNull(),
  /** Bundles to take when the first choice is full, in order. */
  backups: jsonText<number[][]>()('backups').notNull().$defaultFn(() => []),
  /** Whether to join the waitlist when nothing of it has a seat. */
  waitIfFull: boolean('wait_if_full').notNull().default(false),
  grading: varchar({ length: 10 }).$type<GradingMode>().notNull().default('letter'),
  /** Credits chosen here; null takes those of the plan. */
  credits: int(),
  /** When and where it met as it was picked, so that a later change can be told; null where that was not kept. */
  seen: jsonText<Meeting[]>()('seen'),
}, table => [unique('line_up_course').on(table.student, table.term, table.course)])

/** What a student wishes for the weeks of a term. */
export const weekWishes = mysqlTable('week_wishes', {
  student: int().notNull().references(() => students.person),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  wishes: jsonText<Wish[]>()('wishes').notNull(),
}, table => [primaryKey({ columns: [table.student, table.term] })])

/** Bundles that a student keeps in mind for a term. */
export const shortlist = mysqlTable('shortlist', {
  student: int().notNull().references(() => students.person),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  course: varchar({ length: 10 }).notNull().references(() => courses.code),
  /** Section ids joined by `+`. */
  bundle: varchar({ length: 60 }).notNull(),
}, table => [primaryKey({ columns: [table.student, table.term, table.bundle] })])

/** Searches that a student keeps by name. */
export const keptSearches = mysqlTable('kept_searches', {
  student: int().notNull().references(() => students.person),
  name: varchar({ length: 60 }).notNull(),
  search: jsonText<Record<string, unknown>>()('search').notNull(),
}, table => [primaryKey({ columns: [table.student, table.name] })])

/** The secret address of a student's calendar: only what it hashes to stands here. */
export const calendarFeeds = mysqlTable('calendar_feeds', {
  student: int().primaryKey().references(() => students.person),
  secret: char({ length: 64 }).notNull().unique(),
  made: instant('made_at').notNull(),
})

/** A week shown to the advisor, as it was when it was shared; the newest of a term counts. */
export const sharedWeeks = mysqlTable('shared_weeks', {
  student: int().notNull().references(() => students.person),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  at: instant('shared_at').notNull(),
  /** By course its bundle. */
  choices: jsonText<Record<string, string>>()('choices').notNull(),
  note: varchar({ length: 500 }).notNull(),
}, table => [primaryKey({ columns: [table.student, table.term] })])

/** One registered section; the sections of a bundle share the run's reference. */
export const registrations = mysqlTable('registrations', {
  id: int().autoincrement().primaryKey(),
  student: int().notNull().references(() => students.person),
  section: int().notNull().references(() => sections.id),
  pool: int().notNull().references(() => seatPools.id),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  course: varchar({ length: 10 }).notNull().references(() => courses.code),
  credits: int().notNull(),
  grading: varchar({ length: 10 }).$type<GradingMode>().notNull().default('letter'),
  run: varchar({ length: 40 }).notNull(),
  at: instant('registered_at').notNull(),
  /** What was charged for it, in cents: tuition stands on the bundle's first section. */
  tuition: int().notNull().default(0),
  fees: int().notNull().default(0),
  /** Its grade stands on the record: it is history, no registration any more. */
  graded: boolean().notNull().default(false),
},
table => [unique('registrations_once').on(table.student, table.section), index('registrations_section').on(table.section),
  index('registrations_term').on(table.student, table.term)])

export const waitlistEntries = mysqlTable('waitlist_entries', {
  id: int().autoincrement().primaryKey(),
  student: int().notNull().references(() => students.person),
  section: int().notNull().references(() => sections.id),
  joined: instant('joined_at').notNull(),
  /** Set while a seat is held for this person, and in which pool it is. */
  offerUntil: instant('offer_until'),
  offerPool: int('offer_pool').references(() => seatPools.id),
  /** The bundle that is waited for; empty means the section by itself. */
  bundle: jsonText<number[]>()('bundle').notNull().$defaultFn(() => []),
  grading: varchar({ length: 10 }).$type<GradingMode>().notNull().default('letter'),
  credits: int(),
  /** Courses to give up when the seat is offered, decided beforehand; null leaves the answer to the student. */
  exchange: jsonText<string[]>()('exchange_for'),
  /** The place on the list when it was joined. */
  joinedAs: int('joined_as').notNull().default(1),
}, table => [unique('waitlist_once').on(table.student, table.section), index('waitlist_section').on(table.section, table.joined),
  index('waitlist_offers').on(table.offerUntil)])

/** Seats given up where somebody waits: held for the waitlist until one of those who wait is offered it, or nobody may take it. */
export const freedSeats = mysqlTable('freed_seats', {
  id: int().autoincrement().primaryKey(),
  /** The section that owns the pool; those who meet with it under another name wait for the same seats. */
  section: int().notNull().references(() => sections.id),
  pool: int().notNull().references(() => seatPools.id),
  at: instant('freed_at').notNull(),
}, table => [index('freed_seats_section').on(table.section)])

/** How it went for those who waited, term by term: what the chance of moving up has been. */
export const waitlistPast = mysqlTable('waitlist_past', {
  id: int().autoincrement().primaryKey(),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  course: varchar({ length: 10 }).notNull().references(() => courses.code),
  place: int().notNull(),
  offered: boolean().notNull(),
}, table => [index('waitlist_past_course').on(table.course)])

/** Codes by which an advisor releases a term without being at a screen with the student; only what they hash to stands here. */
export const releaseCodes = mysqlTable('release_codes', {
  student: int().notNull().references(() => students.person),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  code: char({ length: 64 }).notNull(),
  advisor: int().notNull().references(() => people.id),
  made: instant('made_at').notNull(),
  /** From then on it opens nothing. */
  until: instant('valid_until').notNull(),
  used: instant('used_at'),
}, table => [primaryKey({ columns: [table.student, table.term] })])

/** One press of the button: the key names it, so that the same request acts once. */
export const registrationRuns = mysqlTable('registration_runs', {
  student: int().notNull().references(() => students.person),
  key: varchar('run_key', { length: 40 }).notNull(),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  /** What was asked, as one text: a key stands for one request only. */
  asked: varchar({ length: 300 }).notNull(),
  at: instant('run_at').notNull(),
  result: jsonText<unknown>()('result').notNull(),
}, table => [primaryKey({ columns: [table.student, table.key] })])

export const termsAcceptances = mysqlTable('terms_acceptances', {
  student: int().notNull().references(() => students.person),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  at: instant('accepted_at').notNull(),
}, table => [primaryKey({ columns: [table.student, table.term] })])

/** What can happen, as the ledger calls it. */
/** Append-only: who, when, what, under which rule. Replaying it gives the present seats. */
export const ledger = mysqlTable('ledger', {
  id: bigint({ mode: 'number' }).autoincrement().primaryKey(),
  at: instant('happened_at').notNull(),
  /** Null for what the college does by itself. */
  actor: int().references(() => people.id),
  /** Null for what concerns no single student, such as a new program. */
  student: int().references(() => students.person),
  action: varchar({ length: 30 }).$type<LedgerAction>().notNull(),
  section: int().references(() => sections.id),
  pool: int().references(() => seatPools.id),
  run: varchar({ length: 40 }),
  detail: jsonText<Record<string, unknown>>()('detail').notNull(),
}, table => [index('ledger_student').on(table.student, table.id), index('ledger_section').on(table.section)])
