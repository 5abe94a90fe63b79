import { bigint, boolean, char, index, int, mysqlTable, primaryKey, unique, varchar } from 'drizzle-orm/mysql-core'
import type { MoneyEntry } from '@ridgeway/core/money'
import { instant, jsonText, localDate } from './columns'
import { terms } from './institution'
import { people, students } from './people'

/** Append-only: what was charged, came back and was paid. Each row takes from one side and gives to another, so that all balance. */
export const moneyEntries = mysqlTable('money_entries', {
  id: bigint({ mode: 'number' }).autoincrement().primaryKey(),
  student: int().notNull().references(() => students.person),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  at: instant('happened_at').notNull(),
  /** The date in the college's zone. */
  date: localDate('happened_on').notNull(),
  /** Null for what the college does by itself. */
  actor: int().references(() => people.id),
  kind: varchar({ length: 10 }).$type<MoneyEntry['kind']>().notNull(),
  cents: int().notNull(),
  courses: jsonText<MoneyEntry['courses']>()('courses').notNull(),
  reference: varchar({ length: 40 }).notNull(),
}, table => [index('money_student').on(table.student, table.term)])

/** How a student pays a term, where they chose; and since when a missed part stands as a hold. */
export const paymentChoices = mysqlTable('payment_choices', {
  student: int().notNull().references(() => students.person),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  plan: varchar({ length: 20 }).notNull(),
}, table => [primaryKey({ columns: [table.student, table.term] })])

/** A payment at the desk, from its begin to its answer. Only an accepted one is money. */
export const payments = mysqlTable('payments', {
  id: char({ length: 36 }).primaryKey(),
  student: int().notNull().references(() => students.person),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  cents: int().notNull(),
  state: varchar({ length: 10 }).$type<'started' | 'sent' | 'accepted' | 'refused'>().notNull(),
  started: instant('started_at').notNull(),
  settled: instant('settled_at'),
}, table => [index('payments_student').on(table.student, table.term)])

/** The stand-in for the desk: cards that were given, and the answers that it still has to send. */
export const deskOrders = mysqlTable('desk_orders', {
  id: int().autoincrement().primaryKey(),
  payment: char({ length: 36 }).notNull().references(() => payments.id),
  accepted: boolean().notNull(),
  answerAt: instant('answer_at').notNull(),
  answers: int().notNull(),
}, table => [index('desk_orders_due').on(table.answers, table.answerAt)])

/** The stand-in for everybody else: presses of generated students that are still to come. */
export const crowdPresses = mysqlTable('crowd_presses', {
  id: int().autoincrement().primaryKey(),
  student: int().notNull().references(() => students.person),
  term: varchar({ length: 6 }).notNull().references(() => terms.code),
  /** By the college's clock. */
  at: instant('press_at').notNull(),
  state: varchar({ length: 10 }).$type<'waiting' | 'pressing' | 'done'>().notNull(),
  key: char('press_key', { length: 36 }).notNull(),
  registered: int().notNull().default(0),
}, table => [unique('crowd_once').on(table.student, table.term), index('crowd_due').on(table.state, table.at)])
