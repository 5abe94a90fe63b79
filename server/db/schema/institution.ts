import { boolean, char, index, int, mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core'
import type { AdvisingPolicy } from '@ridgeway/core/advising'
import type { Deadlines, Season, Session, Weekday } from '@ridgeway/core/catalog'
import type { GradeScale } from '@ridgeway/core/grades'
import type { MoneyPolicy } from '@ridgeway/core/money'
import type { RepeatPolicy } from '@ridgeway/core/record'
import { instant, jsonText, localDate } from './columns'

export const institution = mysqlTable('institution', {
  id: int().primaryKey(),
  name: varchar({ length: 120 }).notNull(),
  zone: varchar({ length: 60 }).notNull(),
  gradeScale: jsonText<GradeScale>()('grade_scale').notNull(),
  repeatPolicy: varchar('repeat_policy', { length: 10 }).$type<RepeatPolicy>().notNull(),
  /** What it asks, gives back, and how long it waits. */
  money: jsonText<MoneyPolicy>()('money').notNull(),
  /** How sign-off and exceptions are handled here. */
  advising: jsonText<AdvisingPolicy>()('advising').notNull(),
  termsText: varchar('terms_text', { length: 2000 }).notNull(),
  /** Hours for which a seat that came free is held for the next on the waitlist (common practice: about two days, no source). */
  offerHours: int('offer_hours').notNull().default(48),
})

export const sites = mysqlTable('sites', {
  code: varchar({ length: 20 }).primaryKey(),
  name: varchar({ length: 80 }).notNull(),
  online: boolean().notNull(),
})

export const siteTravel = mysqlTable('site_travel', {
  from: varchar('from_site', { length: 20 }).notNull().references(() => sites.code),
  to: varchar('to_site', { length: 20 }).notNull().references(() => sites.code),
  minutes: int().notNull(),
}, table => [primaryKey({ columns: [table.from, table.to] })])

export const terms = mysqlTable('terms', {
  code: varchar({ length: 6 }).primaryKey(),
  name: varchar({ length: 40 }).notNull(),
  season: varchar({ length: 6 }).$type<Season>().notNull(),
  year: int().notNull(),
  start: localDate().notNull(),
  end: localDate().notNull(),
  noClass: jsonText<{ date: string, name: string }[]>()('no_class').notNull(),
  movedDays: jsonText<{ date: string, follows: Weekday }[]>()('moved_days').notNull(),
  loadCap: int('load_cap').notNull(),
  fullTime: int('full_time').notNull(),
  addBy: localDate('add_by').notNull(),
  dropBy: localDate('drop_by').notNull(),
  withdrawBy: localDate('withdraw_by').notNull(),
  feesDue: localDate('fees_due').notNull(),
  scheduled: boolean().notNull(),
  /** Why the office keeps registration closed for now; null where it does not. */
  closedBecause: varchar('closed_because', { length: 300 }),
  /** Counts changes of the term's sections, their seats left out. */
  sectionsVersion: int('sections_version').notNull().default(0),
})

/** Counts changes of what all servers keep: the college itself, calendar, courses and programs. One row. */
export const collegeStamp = mysqlTable('college_stamp', { id: int().primaryKey(), version: int().notNull() })

export const termSessions = mysqlTable('term_sessions', {
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  code: varchar({ length: 10 }).$type<Session['code']>().notNull(),
  name: varchar({ length: 40 }).notNull(),
  start: localDate().notNull(),
  end: localDate().notNull(),
  /** Its own deadlines; null for those of the term. */
  deadlines: jsonText<Deadlines>()('deadlines'),
}, table => [primaryKey({ columns: [table.term, table.code] })])

export const openings = mysqlTable('openings', {
  id: int().autoincrement().primaryKey(),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  from: instant('opens_at').notNull(),
  program: varchar({ length: 20 }),
  earnedMin: int('earned_min').notNull(),
  words: varchar({ length: 200 }).notNull(),
})

/** The demo's clock: one row. */
export const clockSetting = mysqlTable('clock_setting', {
  id: int().primaryKey(),
  /** The demo instant at the machine instant `setAt`; null runs on the machine's own time. */
  demoNow: instant('demo_now'),
  setAt: instant('set_at').notNull(),
})

/** Work that takes its time, while it goes on: how far it is, for whoever asks any server, and whether it is to be given up. */
export const longWorks = mysqlTable('long_works', {
  id: varchar({ length: 36 }).primaryKey(),
  stage: varchar({ length: 60 }).notNull(),
  done: int().notNull(),
  total: int().notNull(),
  cancelled: boolean().notNull().default(false),
  at: instant('begun_at').notNull(),
})

/**
 * One row for each change that was kept, under a name that its server gave it beforehand: where the answer to keeping it was lost, the name
 * tells. Rows of an hour ago are taken away.
 */
export const writeMarks = mysqlTable('write_marks', {
  id: char({ length: 36 }).primaryKey(),
  at: instant('kept_at').notNull(),
}, table => [index('write_marks_at').on(table.at)])
