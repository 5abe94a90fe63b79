import { sql } from 'drizzle-orm'
import { boolean, index, int, mysqlTable, primaryKey, unique, varchar } from 'drizzle-orm/mysql-core'
import type { SelfCheck } from '@ridgeway/core/advising'
import type { Plan, PlanEntry, PlanOperation } from '@ridgeway/core/planning'
import type { LineRef } from '@ridgeway/core/record'
import { instant, jsonText } from './columns'
import { courses } from './catalog'
import { terms } from './institution'
import { people, students } from './people'

/** What a plan holds besides its entries. */
export type PlanDetails = Omit<Plan, 'entries'>

export const plans = mysqlTable('plans', {
  id: int().autoincrement().primaryKey(),
  student: int().notNull().references(() => students.person),
  name: varchar({ length: 60 }).notNull(),
  current: boolean('is_current').notNull(),
  /** Counts operations; a write names the version it was based on. */
  version: int().notNull(),
  details: jsonText<PlanDetails>()('details').notNull(),
  /** A deleted plan is kept, so that deleting can be undone. */
  deletedAt: instant('deleted_at'),
  /** The student, for the plan that is the current one: there is one. */
  currentOf: int('current_of').generatedAlwaysAs(sql`if(is_current and deleted_at is null, student, null)`, { mode: 'stored' }),
}, table => [index('plans_student').on(table.student), unique('plans_current').on(table.currentOf)])

export const planEntries = mysqlTable('plan_entries', {
  plan: int().notNull().references(() => plans.id),
  id: varchar({ length: 40 }).notNull(),
  course: varchar({ length: 10 }).notNull().references(() => courses.code),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  credits: int().notNull(),
  pinned: boolean().notNull(),
  pinnedUse: varchar('pinned_use', { length: 80 }).$type<LineRef>(),
  note: varchar({ length: 500 }).notNull(),
}, table => [primaryKey({ columns: [table.plan, table.id] }), unique('plan_course_term').on(table.plan, table.course, table.term)])

/** Every operation on a plan, in order; the entries are their result. */
export const planOperations = mysqlTable('plan_operations', {
  plan: int().notNull().references(() => plans.id),
  version: int().notNull(),
  by: int('by_person').notNull().references(() => people.id),
  at: instant('done_at').notNull(),
  operation: jsonText<PlanOperation>()('operation').notNull(),
  /** The request that brought it: a request sent again is known by this. */
  batch: varchar({ length: 36 }),
}, table => [primaryKey({ columns: [table.plan, table.version] }), index('plan_operations_batch').on(table.plan, table.batch)])

export const signOffRequests = mysqlTable('sign_off_requests', {
  student: int().notNull().references(() => students.person),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  askedAt: instant('asked_at').notNull(),
  note: varchar({ length: 500 }).notNull(),
  /** What the plan answered to the self-check then. */
  answers: jsonText<SelfCheck>()('answers'),
  /** Given back with words by the advisor: changes are asked for, or a sign-off was withdrawn. */
  returned: jsonText<{ by: string, at: string, words: string, withdrawn: boolean }>()('returned'),
}, table => [primaryKey({ columns: [table.student, table.term] })])

/** The advisor's release of a term, with a copy of what was agreed. */
export const signOffs = mysqlTable('sign_offs', {
  id: int().autoincrement().primaryKey(),
  student: int().notNull().references(() => students.person),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  advisor: int().notNull().references(() => people.id),
  at: instant('signed_at').notNull(),
  note: varchar({ length: 500 }).notNull(),
  copy: jsonText<PlanEntry[]>()('copy').notNull(),
}, table => [unique('sign_offs_student_term').on(table.student, table.term)])

export const comments = mysqlTable('comments', {
  id: int().autoincrement().primaryKey(),
  student: int().notNull().references(() => students.person),
  author: int().notNull().references(() => people.id),
  at: instant('written_at').notNull(),
  /** What it is about: a term, a plan entry, or the whole plan when both are null. */
  term: varchar({ length: 6 }).references(() => terms.code),
  entry: varchar({ length: 40 }),
  text: varchar({ length: 1000 }).notNull(),
  /** When and by whom the thread that it belongs to was settled; it stands on the thread's comments alike. */
  resolved: instant('resolved_at'),
  resolvedBy: int('resolved_by').references(() => people.id),
}, table => [index('comments_student').on(table.student)])
