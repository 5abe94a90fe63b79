import { and, eq } from 'drizzle-orm'
import type { CourseCode, Instant, TermCode } from '@ridgeway/core/catalog'
import type { Wish } from '@ridgeway/core/weeks'
import type { Executor } from '../database'
import { calendarFeeds, keptSearches, lineUpRows, sharedWeeks, shortlist, weekWishes } from '../schema'
import type { LineOnFile } from './dossiers'
import { plain, toInstant } from './plain'

export const dropChoice = (tx: Executor, student: number, term: TermCode, course: CourseCode) =>
  tx.delete(lineUpRows).where(and(eq(lineUpRows.student, student), eq(lineUpRows.term, term), eq(lineUpRows.course, course)))
/** Keeps a bundle for a course; what was set up for the row stays where the course stood in the line-up already. */
export const keepChoice = (tx: Executor, row: { student: number, term: TermCode, course: CourseCode, position: number }
  & Pick<LineOnFile, 'sectionIds' | 'seen' | 'backups'>) =>
  tx.insert(lineUpRows).values(row)
    .onDuplicateKeyUpdate({ set: { sectionIds: row.sectionIds, seen: row.seen, backups: row.backups } })
/** Changes how a row is to be registered, or its place. */
export const changeRow = (tx: Executor, id: number, values: Partial<Pick<LineOnFile,
  'backups' | 'waitIfFull' | 'grading' | 'credits' | 'position'>>) =>
  tx.update(lineUpRows).set(values).where(eq(lineUpRows.id, id))

export const keepWishesOf = (tx: Executor, student: number, term: TermCode, wishes: Wish[]) =>
  tx.insert(weekWishes).values({ student, term, wishes }).onDuplicateKeyUpdate({ set: { wishes } })

/** Bundles kept in mind for a term, by course and ids of sections joined by `+`. */
export const shortlistOf = (db: Executor, student: number, term: TermCode) =>
  db.select({ course: shortlist.course, bundle: shortlist.bundle }).from(shortlist)
    .where(and(eq(shortlist.student, student), eq(shortlist.term, term)))
export const addToShortlist = (tx: Executor, row: { student: number, term: TermCode, course: CourseCode, bundle: string }) =>
  tx.insert(shortlist).ignore().values(row)
export const takeOffShortlist = (tx: Executor, student: number, term: TermCode, bundle: string) =>
  tx.delete(shortlist).where(and(eq(shortlist.student, student), eq(shortlist.term, term), eq(shortlist.bundle, bundle)))

/** Searches kept by name. */
export const searchesOf = (db: Executor, student: number) =>
  db.select({ name: keptSearches.name, search: keptSearches.search }).from(keptSearches).where(eq(keptSearches.student, student))
export const keepSearchOf = (tx: Executor, student: number, name: string, search: Record<string, unknown>) =>
  tx.insert(keptSearches).values({ student, name, search }).onDuplicateKeyUpdate({ set: { search } })
export const dropSearch = (tx: Executor, student: number, name: string) =>
  tx.delete(keptSearches).where(and(eq(keptSearches.student, student), eq(keptSearches.name, name)))

/** What a student keeps for the weeks of a term besides the line-up, in one statement: wishes, shortlist, the week shown to the advisor. */
export async function readKept(db: Executor, student: number, term: TermCode) {
  const rows = await plain<{ kind: string, a: string, b: string | null, at: string | null }>(db,
    `SELECT 'wishes' kind, wishes a, NULL b, NULL at FROM week_wishes WHERE student = ? AND term = ?
     UNION ALL SELECT 'short', bundle, course, NULL FROM shortlist WHERE student = ? AND term = ?
     UNION ALL SELECT 'shared', choices, note, shared_at FROM shared_weeks WHERE student = ? AND term = ?`,
    [student, term, student, term, student, term])
  const wishes = rows.find(row => row.kind === 'wishes')
  const shared = rows.find(row => row.kind === 'shared')
  return {
    wishes: wishes ? JSON.parse(wishes.a) as Wish[] : [],
    shortlist: rows.filter(row => row.kind === 'short').map(row => ({ course: row.b!, bundle: row.a })),
    shared: shared ? { at: toInstant(shared.at!), choices: JSON.parse(shared.a) as Record<string, string>, note: shared.b! } : null,
  }
}
type SharedWeek = typeof sharedWeeks.$inferInsert
export const shareWeekOf = (tx: Executor, row: SharedWeek) =>
  tx.insert(sharedWeeks).values(row).onDuplicateKeyUpdate({ set: { at: row.at, choices: row.choices, note: row.note } })
export const unshareWeek = (tx: Executor, student: number, term: TermCode) =>
  tx.delete(sharedWeeks).where(and(eq(sharedWeeks.student, student), eq(sharedWeeks.term, term)))

export const keepFeed = (tx: Executor, row: { student: number, secret: string, made: Instant }) =>
  tx.insert(calendarFeeds).values(row).onDuplicateKeyUpdate({ set: { secret: row.secret, made: row.made } })
export const dropFeed = (tx: Executor, student: number) => tx.delete(calendarFeeds).where(eq(calendarFeeds.student, student))
/** Whose calendar a secret opens. */
export async function studentOfFeed(db: Executor, secret: string): Promise<number | null> {
  const [row] = await db.select({ student: calendarFeeds.student }).from(calendarFeeds).where(eq(calendarFeeds.secret, secret))
  return row?.student ?? null
}
