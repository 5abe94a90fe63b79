import { sql } from 'drizzle-orm'
import { boolean, check, index, int, mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core'
import type { ClassStanding, Course, Delivery, GradingMode, Meeting, Part } from '@ridgeway/core/catalog'
import type { Program } from '@ridgeway/core/requirements'
import type { CasesFile } from '@ridgeway/formats'
import { instant, jsonText } from './columns'
import { sites, terms } from './institution'

export const courses = mysqlTable('courses', {
  code: varchar({ length: 10 }).primaryKey(),
  subject: varchar({ length: 5 }).notNull(),
  number: int().notNull(),
  title: varchar({ length: 120 }).notNull(),
  credits: int().notNull(),
  creditsMax: int('credits_max').notNull(),
  description: varchar({ length: 1000 }).notNull(),
  attributes: jsonText<string[]>()('attributes').notNull(),
  prerequisite: varchar({ length: 500 }).notNull(),
  corequisite: varchar({ length: 300 }).notNull(),
  exclusions: jsonText<string[]>()('exclusions').notNull(),
  equivalents: jsonText<string[]>()('equivalents').notNull(),
  repeatLimit: int('repeat_limit').notNull(),
  /** At most so many credits of it in all; null where only the times count. */
  repeatCredits: int('repeat_credits'),
  offered: jsonText<Course['offered']>()('offered').notNull(),
  parts: jsonText<Part[]>()('parts').notNull(),
  fee: int().notNull(),
}, table => [index('courses_subject').on(table.subject, table.number)])

export const programs = mysqlTable('programs', {
  /** Program and catalog year, `WSC-BS-2025`. */
  id: varchar({ length: 30 }).primaryKey(),
  code: varchar({ length: 20 }).notNull(),
  catalogYear: int('catalog_year').notNull(),
  body: jsonText<Program>()('body').notNull(),
  /** Worked cases that are kept with it and run at every change; null where it has none. */
  cases: jsonText<CasesFile>()('cases'),
  /** Counts how often it was put in force. */
  version: int().notNull().default(1),
})

/** A program as it was, each time that another took its place. */
export const programHistory = mysqlTable('program_history', {
  program: varchar({ length: 30 }).notNull().references(() => programs.id),
  version: int().notNull(),
  body: jsonText<Program>()('body').notNull(),
  cases: jsonText<CasesFile>()('cases'),
  /** When and by whom it was replaced. */
  at: instant('replaced_at').notNull(),
  by: int('replaced_by').notNull(),
}, table => [primaryKey({ columns: [table.program, table.version] })])

export const sections = mysqlTable('sections', {
  id: int().primaryKey(),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  session: varchar({ length: 10 }).notNull(),
  course: varchar({ length: 10 }).notNull().references(() => courses.code),
  number: varchar({ length: 5 }).notNull(),
  label: varchar({ length: 6 }).notNull(),
  part: varchar({ length: 10 }).$type<Part>().notNull(),
  link: varchar({ length: 6 }).notNull(),
  exam: jsonText<{ date: string, start: number, end: number }>()('exam'),
  instructors: jsonText<string[]>()('instructors').notNull(),
  waitlistCapacity: int('waitlist_capacity').notNull(),
  delivery: varchar({ length: 20 }).$type<Delivery>().notNull(),
  topic: varchar({ length: 120 }).notNull().default(''),
  notes: varchar({ length: 300 }).notNull(),
  /** Cents, besides the course's own fee. */
  fee: int().notNull().default(0),
  gradingModes: jsonText<GradingMode[]>()('grading_modes').notNull().$defaultFn(() => ['letter']),
  group: varchar('taken_together', { length: 20 }).notNull().default(''),
  /** The section whose seats it shares; null where it has its own. */
  seatsWith: int('seats_with'),
  onlyPrograms: jsonText<string[]>()('only_programs').notNull(),
  onlyStandings: jsonText<ClassStanding[]>()('only_standings').notNull().$defaultFn(() => []),
  onlyCohorts: jsonText<string[]>()('only_cohorts').notNull().$defaultFn(() => []),
  cancelled: boolean().notNull(),
}, table => [index('sections_term_course').on(table.term, table.course)])

export const meetings = mysqlTable('meetings', {
  id: int().autoincrement().primaryKey(),
  section: int().notNull().references(() => sections.id),
  days: jsonText<Meeting['days']>()('days').notNull(),
  start: int('start_minute').notNull(),
  end: int('end_minute').notNull(),
  first: varchar('first_date', { length: 10 }).notNull(),
  last: varchar('last_date', { length: 10 }).notNull(),
  site: varchar({ length: 20 }).notNull().references(() => sites.code),
  room: varchar({ length: 40 }).notNull(),
}, table => [index('meetings_section').on(table.section)])

/** Seats of a section by category. That no category is oversold is also a check of the table itself. */
export const seatPools = mysqlTable('seat_pools', {
  id: int().primaryKey(),
  section: int().notNull().references(() => sections.id),
  forGroup: varchar('for_group', { length: 20 }),
  capacity: int().notNull(),
  taken: int().notNull(),
  held: int().notNull(),
  /** Counts changes of the section whose seats these are; who keeps the section compares it. */
  sectionVersion: int('section_version').notNull().default(0),
}, table => [
  index('seat_pools_section').on(table.section),
  check('seats_within_capacity', sql`${table.taken} >= 0 AND ${table.held} >= 0 AND ${table.taken} + ${table.held} <= ${table.capacity}`),
])
