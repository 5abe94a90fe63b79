import { sql } from 'drizzle-orm'
import { boolean, char, index, int, mysqlTable, primaryKey, unique, varchar } from 'drizzle-orm/mysql-core'
import type { CourseItem } from '@ridgeway/core/catalog'
import { instant, jsonText, localDate } from './columns'
import { courses, programs } from './catalog'
import { terms } from './institution'

export type Role = 'student' | 'advisor' | 'office'

export const people = mysqlTable('people', {
  id: int().primaryKey(),
  username: varchar({ length: 40 }).notNull().unique(),
  name: varchar({ length: 80 }).notNull(),
  email: varchar({ length: 120 }).notNull(),
  role: varchar({ length: 10 }).$type<Role>().notNull(),
  /** argon2id; null for people who do not sign in (generated students). */
  passwordHash: varchar('password_hash', { length: 200 }),
  /** Told on the sign-in page of the demo. */
  story: varchar({ length: 300 }).notNull(),
  /** Since when nothing is known of them: what rests on them stays, without a name. */
  erased: instant('erased_at'),
})

/** Who is signed in where. The cookie holds a secret; here stands what it hashes to. */
export const sessions = mysqlTable('sessions', {
  id: char({ length: 64 }).primaryKey(),
  person: int().notNull().references(() => people.id),
  started: instant('started_at').notNull(),
  until: instant('valid_until').notNull(),
  /** A mark of the password that was given; a session does not outlive it. */
  mark: char({ length: 64 }).notNull(),
}, table => [index('sessions_person').on(table.person)])

/** Who may choose a first or a new password: the link holds a secret, here stands what it hashes to. */
export const invitations = mysqlTable('invitations', {
  id: char({ length: 64 }).primaryKey(),
  person: int().notNull().references(() => people.id),
  until: instant('valid_until').notNull(),
}, table => [index('invitations_person').on(table.person)])

/** Tokens by which other programs act for somebody; only what they hash to stands here. A new password ends them, as it ends sessions. */
export const apiTokens = mysqlTable('api_tokens', {
  id: int().autoincrement().primaryKey(),
  person: int().notNull().references(() => people.id),
  name: varchar({ length: 60 }).notNull(),
  hash: char('token_hash', { length: 64 }).notNull().unique(),
  scope: varchar({ length: 5 }).$type<'read' | 'write'>().notNull(),
  made: instant('made_at').notNull(),
  until: instant('valid_until').notNull(),
  used: instant('used_at'),
  mark: char({ length: 64 }).notNull(),
}, table => [index('api_tokens_person').on(table.person)])

/** Tries to sign in, counted by name and by address, for all servers together. */
export const signInTries = mysqlTable('sign_in_tries', {
  key: varchar('try_key', { length: 120 }).primaryKey(),
  tries: int().notNull(),
  until: instant('counted_until').notNull(),
})

export const students = mysqlTable('students', {
  person: int().primaryKey().references(() => people.id),
  advisor: int().references(() => people.id),
  programConfirmed: boolean('program_confirmed').notNull(),
  placements: jsonText<Record<string, number>>()('placements').notNull(),
  /** Cohorts that the student belongs to. */
  cohorts: jsonText<string[]>()('cohorts').notNull().$defaultFn(() => []),
  /** Credits a term the student aims at; null for none. */
  targetLoad: int('target_load'),
  /** Residence band, by which tuition is asked. */
  residence: varchar({ length: 20 }).notNull().default('resident'),
  /** Counts what changes in the student's file, the operations on plans left out, which have versions of their own. */
  version: int().notNull().default(0),
}, table => [index('students_advisor').on(table.advisor)])

export const studentPrograms = mysqlTable('student_programs', {
  student: int().notNull().references(() => students.person),
  program: varchar({ length: 30 }).notNull().references(() => programs.id),
  position: int().notNull(),
}, table => [primaryKey({ columns: [table.student, table.program] })])

/** Attempts on the record: completed, withdrawn, under way. */
export const records = mysqlTable('records', {
  id: int().autoincrement().primaryKey(),
  student: int().notNull().references(() => students.person),
  /** A course of another college keeps its own code: it need not be in the catalog; what was taken here must be. */
  course: varchar({ length: 10 }).notNull(),
  term: varchar({ length: 6 }),
  credits: int().notNull(),
  grade: varchar({ length: 3 }),
  /** The grade earned elsewhere, beside the credit that it brought. */
  earnedGrade: varchar('earned_grade', { length: 3 }),
  /** What it was about, for a course whose topics change. */
  topic: varchar({ length: 120 }),
  state: varchar({ length: 12 }).$type<'completed' | 'under way'>().notNull(),
  source: varchar({ length: 10 }).$type<CourseItem['source']>().notNull(),
  /** When the grade was given; of two attempts in one term it tells which came later. */
  gradedAt: instant('graded_at'),
  listedCourse: varchar('listed_course', { length: 10 }).generatedAlwaysAs(sql`if(source = 'here', course, null)`, { mode: 'stored' })
    .references(() => courses.code),
}, table => [index('records_student').on(table.student)])

export const holds = mysqlTable('holds', {
  id: int().autoincrement().primaryKey(),
  student: int().notNull().references(() => students.person),
  /** Which of the college's own rules placed it, `fees 2027SP`; empty for one that a person placed. */
  placedBy: varchar('placed_by', { length: 20 }).notNull().default(''),
  reason: varchar({ length: 200 }).notNull(),
  contact: varchar({ length: 120 }).notNull(),
  placed: instant('placed_at').notNull(),
  cleared: instant('cleared_at'),
}, table => [index('holds_student').on(table.student)])

export const exceptions = mysqlTable('exceptions', {
  id: int().autoincrement().primaryKey(),
  student: int().notNull().references(() => students.person),
  kind: varchar({ length: 20 }).$type<'prerequisite' | 'load' | 'substitution' | 'waiver' | 'seat' | 'restriction'
  | 'late add' | 'clash'>().notNull(),
  /** What counts by a substitution need not be in the catalog; any other course must be. */
  course: varchar({ length: 10 }),
  listedCourse: varchar('listed_course', { length: 10 }).generatedAlwaysAs(sql`if(kind = 'substitution', null, course)`, { mode: 'stored' })
    .references(() => courses.code),
  term: varchar({ length: 6 }).references(() => terms.code),
  /** For `substitution` and `waiver`: the line of a program, and the listed course in whose place another counts. */
  program: varchar({ length: 20 }),
  line: varchar({ length: 60 }),
  instead: varchar({ length: 10 }).references(() => courses.code),
  /** Kind's own value in hundredths: the raised cap for `load`, how much of the line for `waiver` (null: all of it). */
  value: int(),
  /** The section of a `seat` permission. */
  section: int(),
  /** The last date on which it holds, in the college's zone; null for as long as it stands. */
  until: localDate('until_date'),
  reason: varchar({ length: 300 }).notNull(),
  grantedBy: int('granted_by').notNull().references(() => people.id),
  grantedAt: instant('granted_at').notNull(),
  /** What is lifted, as one text: nothing is granted twice. */
  what: varchar({ length: 140 }).generatedAlwaysAs(
    sql`concat_ws('|', kind, ifnull(course, ''), ifnull(term, ''), ifnull(program, ''), ifnull(line, ''), ifnull(section, ''),
      if(kind = 'clash', ifnull(instead, ''), ''))`, { mode: 'stored' }),
}, table => [index('exceptions_student').on(table.student), unique('exceptions_once').on(table.student, table.what)])

/** Uses pinned for items of the record; those of planned courses stand in the plan itself. */
export const usePins = mysqlTable('use_pins', {
  student: int().notNull().references(() => students.person),
  /** The item's id in the student's file: `r12` of the record, `g340` of a registration. */
  item: varchar({ length: 40 }).notNull(),
  program: varchar({ length: 20 }).notNull(),
  line: varchar({ length: 60 }).notNull(),
}, table => [primaryKey({ columns: [table.student, table.item, table.program] })])

/** Requirements without credit that are done. */
export const milestones = mysqlTable('milestones', {
  student: int().notNull().references(() => students.person),
  program: varchar({ length: 20 }).notNull(),
  milestone: varchar({ length: 60 }).notNull(),
  recordedBy: int('recorded_by').notNull().references(() => people.id),
  recordedAt: instant('recorded_at').notNull(),
}, table => [primaryKey({ columns: [table.student, table.program, table.milestone] })])

/** A student's wish to be in other programs, and the advisor's answer; the newest one counts. */
export const programRequests = mysqlTable('program_requests', {
  id: int().autoincrement().primaryKey(),
  student: int().notNull().references(() => students.person),
  programs: jsonText<string[]>()('programs').notNull(),
  note: varchar({ length: 500 }).notNull(),
  askedAt: instant('asked_at').notNull(),
  state: varchar({ length: 10 }).$type<'asked' | 'granted' | 'declined' | 'taken back'>().notNull(),
  decidedBy: int('decided_by').references(() => people.id),
  decidedAt: instant('decided_at'),
  words: varchar({ length: 500 }).notNull(),
  /** The student, while the wish waits for its answer: one at a time. */
  waitingOf: int('waiting_of').generatedAlwaysAs(sql`if(state = 'asked', student, null)`, { mode: 'stored' }),
}, table => [index('program_requests_student').on(table.student), unique('program_requests_waiting').on(table.waitingOf)])
