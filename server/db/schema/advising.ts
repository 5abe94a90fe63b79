import { sql } from 'drizzle-orm'
import { boolean, char, index, int, mysqlTable, primaryKey, unique, varchar } from 'drizzle-orm/mysql-core'
import type { ExceptionAsked, Notice, NoticeWish } from '@ridgeway/core/advising'
import type { PlanOperation } from '@ridgeway/core/planning'
import { instant, jsonText, localDate } from './columns'
import { terms } from './institution'
import { people, students } from './people'
import { plans } from './planning'

/** Who stands in for an advisor, from a date until a date, both in the college's zone and both included. */
export const deputies = mysqlTable('deputies', {
  id: int().autoincrement().primaryKey(),
  advisor: int().notNull().references(() => people.id),
  deputy: int().notNull().references(() => people.id),
  from: localDate('from_date').notNull(),
  until: localDate('until_date').notNull(),
}, table => [index('deputies_advisor').on(table.advisor, table.until), index('deputies_deputy').on(table.deputy, table.until)])

/** Who advised a student until when, and who changed that. */
export const advisorsBefore = mysqlTable('advisors_before', {
  id: int().autoincrement().primaryKey(),
  student: int().notNull().references(() => students.person),
  advisor: int().references(() => people.id),
  until: instant('until_at').notNull(),
  by: int('changed_by').notNull().references(() => people.id),
  reason: varchar({ length: 300 }).notNull(),
}, table => [index('advisors_before_student').on(table.student)])

/** Where somebody stopped looking at a student's file, and up to which comment they have read. */
export const fileLooks = mysqlTable('file_looks', {
  person: int().notNull().references(() => people.id),
  student: int().notNull().references(() => students.person),
  /** Null until the file was looked at as a whole. */
  at: instant('looked_at'),
  plan: int(),
  version: int(),
  /** The finish that the plan came to then. */
  finish: varchar({ length: 6 }),
  comment: int('comment_read').notNull().default(0),
}, table => [primaryKey({ columns: [table.person, table.student] })])

/** Who has a student's file open, as of a moment ago. */
export const presence = mysqlTable('presence', {
  student: int().notNull().references(() => students.person),
  person: int().notNull().references(() => people.id),
  seen: instant('seen_at').notNull(),
}, table => [primaryKey({ columns: [table.student, table.person] })])

/** A change of a plan that is suggested, one line each; those that were sent together share the set. */
export const suggestions = mysqlTable('suggestions', {
  id: int().autoincrement().primaryKey(),
  student: int().notNull().references(() => students.person),
  plan: int().notNull().references(() => plans.id),
  set: char('sent_as', { length: 36 }).notNull(),
  author: int().notNull().references(() => people.id),
  at: instant('suggested_at').notNull(),
  why: varchar({ length: 500 }).notNull(),
  operations: jsonText<PlanOperation[]>()('operations').notNull(),
  state: varchar({ length: 10 }).$type<'open' | 'accepted' | 'declined' | 'taken back'>().notNull(),
  decided: instant('decided_at'),
  words: varchar({ length: 300 }).notNull().default(''),
}, table => [index('suggestions_student').on(table.student, table.state)])

/** An exception that a student asks for, with its answer. */
export const exceptionRequests = mysqlTable('exception_requests', {
  id: int().autoincrement().primaryKey(),
  student: int().notNull().references(() => students.person),
  term: varchar({ length: 6 }).references(() => terms.code),
  asked: jsonText<ExceptionAsked>()('asked').notNull(),
  /** What it is about, as one text: the same is asked once at a time. */
  about: varchar({ length: 140 }).notNull(),
  reason: varchar({ length: 300 }).notNull(),
  at: instant('asked_at').notNull(),
  state: varchar({ length: 10 }).$type<'asked' | 'granted' | 'declined' | 'taken back'>().notNull(),
  decidedBy: int('decided_by').references(() => people.id),
  decidedAt: instant('decided_at'),
  words: varchar({ length: 300 }).notNull().default(''),
  waiting: varchar('waiting_about', { length: 140 }).generatedAlwaysAs(sql`if(state = 'asked', about, null)`, { mode: 'stored' }),
}, table => [index('exception_requests_student').on(table.student), unique('exception_requests_once').on(table.student, table.waiting)])

/** What an advisor wrote down about a student: shared with the student, or for those who advise alone. */
export const notes = mysqlTable('notes', {
  id: int().autoincrement().primaryKey(),
  student: int().notNull().references(() => students.person),
  author: int().notNull().references(() => people.id),
  at: instant('written_at').notNull(),
  text: varchar({ length: 2000 }).notNull(),
  shared: boolean().notNull(),
  meeting: int(),
}, table => [index('notes_student').on(table.student)])

/** When an advisor can be met, week by week. */
export const officeHours = mysqlTable('office_hours', {
  id: int().autoincrement().primaryKey(),
  advisor: int().notNull().references(() => people.id),
  day: char('week_day', { length: 1 }).$type<'M' | 'T' | 'W' | 'R' | 'F' | 'S' | 'U'>().notNull(),
  start: int('start_minute').notNull(),
  end: int('end_minute').notNull(),
  /** Minutes of one meeting. */
  length: int('slot_minutes').notNull(),
  place: varchar({ length: 80 }).notNull(),
}, table => [index('office_hours_advisor').on(table.advisor)])

export const meetingsWith = mysqlTable('advising_meetings', {
  id: int().autoincrement().primaryKey(),
  advisor: int().notNull().references(() => people.id),
  student: int().notNull().references(() => students.person),
  start: instant('start_at').notNull(),
  minutes: int().notNull(),
  place: varchar({ length: 80 }).notNull(),
  about: varchar({ length: 300 }).notNull(),
  state: varchar({ length: 10 }).$type<'booked' | 'cancelled'>().notNull(),
  /** Counts changes, for calendar programs. */
  sequence: int().notNull().default(0),
  /** The slot while it is booked: nobody else can have it. */
  slot: varchar({ length: 40 }).generatedAlwaysAs(sql`if(state = 'booked', concat(advisor, ' ', start_at), null)`, { mode: 'stored' }),
}, table => [unique('advising_meetings_slot').on(table.slot), index('advising_meetings_student').on(table.student),
  index('advising_meetings_advisor').on(table.advisor, table.start)])

/** What somebody is told; it goes out by mail as they wish. */
export const notices = mysqlTable('notices', {
  id: int().autoincrement().primaryKey(),
  person: int().notNull().references(() => people.id),
  /** The file that it is about. */
  student: int().notNull().references(() => students.person),
  at: instant('told_at').notNull(),
  notice: jsonText<Notice>()('notice').notNull(),
  read: instant('read_at'),
  /** `wait`: to be mailed; `claimed`: a server is at it, until `mailUntil`; `sent`; `none`: not by mail. */
  mail: varchar({ length: 10 }).$type<'wait' | 'claimed' | 'sent' | 'none'>().notNull(),
  /** Not before this moment; while it is claimed, when another server may take it up. */
  mailAt: instant('mail_at').notNull(),
  tries: int().notNull().default(0),
}, table => [index('notices_person').on(table.person, table.read), index('notices_mail').on(table.mail, table.mailAt)])

export const noticeWishes = mysqlTable('notice_wishes', {
  person: int().primaryKey().references(() => people.id),
  wish: varchar({ length: 10 }).$type<NoticeWish>().notNull(),
})

/** The stand-in for everybody's mailbox: what its SMTP server took. */
export const caughtMails = mysqlTable('caught_mails', {
  /** The message's own id: one that is sent again is the same mail. */
  id: varchar({ length: 120 }).primaryKey(),
  to: varchar('sent_to', { length: 120 }).notNull(),
  at: instant('caught_at').notNull(),
  raw: jsonText<string>()('raw').notNull(),
}, table => [index('caught_mails_to').on(table.to)])
