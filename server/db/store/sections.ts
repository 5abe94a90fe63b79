import { asc, eq, inArray } from 'drizzle-orm'
import type { CourseCode, Meeting, Section, TermCode } from '@ridgeway/core/catalog'
import type { Executor } from '../database'
import { meetings, seatPools, sections } from '../schema'
import { groupBy } from './group'
import { unservedOf } from './changes'
import { change, fromInstantText, plain, together } from './plain'

/** Seats of a category of a section as they stand; sections that share seats have the same ones. `version` counts the changes of the
 * section that owns them, and of those that share them. */
export interface Seats {
  pool: number
  section: number
  capacity: number
  taken: number
  held: number
  version: number
}

/** What changes seldom about the sections of a term, as one server keeps it; seats are all 0 here. */
export interface TermSections {
  byId: ReadonlyMap<number, Section>
  byCourse: ReadonlyMap<CourseCode, readonly Section[]>
  /** By seat pool: the version of its section that was read. */
  versions: ReadonlyMap<number, number>
  /** The least and the greatest number of its sections and of their categories of seats. */
  span: Span
}
export interface Span { sections: readonly [number, number], pools: readonly [number, number] }

/** All sections of a term without their seats, by course and label. */
export async function readTermSections(db: Executor, term: TermCode): Promise<TermSections> {
  const rows = await db.select().from(sections).where(eq(sections.term, term)).orderBy(asc(sections.course), asc(sections.label))
  const ids = rows.map(row => row.id)
  const meetingRows = ids.length > 0
    ? await db.select().from(meetings).where(inArray(meetings.section, ids)).orderBy(asc(meetings.id))
    : []
  const pools = ids.length > 0
    ? await db.select().from(seatPools).where(inArray(seatPools.section, ids)).orderBy(asc(seatPools.id))
    : []
  const meetingsBy = groupBy(meetingRows, row => row.section)
  const poolsBy = groupBy(pools, row => row.section)
  const all = rows.map(row => named(row, (meetingsBy.get(row.id) ?? []).map(({ days, start, end, first, last, site, room }): Meeting =>
    ({ days, start, end, first, last, site, room })),
  (poolsBy.get(row.seatsWith ?? row.id) ?? []).map(({ id, forGroup }) => ({ id, forGroup, capacity: 0, taken: 0, held: 0 }))))
  return { byId: new Map(all.map(one => [one.id, one])), byCourse: groupBy(all, one => one.course),
    versions: new Map(pools.map(pool => [pool.id, pool.sectionVersion])),
    span: { sections: spanOf(rows), pools: spanOf(pools) } }
}

/**
 * A section with its fields named one by one: one that is spread from a row and given more has a shape of its own in the engine, and to
 * read thousands of those, as every search does, takes ten times as long.
 */
const named = ({ id, term, session, course, number, label, part, link, exam, instructors, waitlistCapacity, delivery, topic, notes, fee,
  gradingModes, group, seatsWith, onlyPrograms, onlyStandings, onlyCohorts, cancelled }: typeof sections.$inferSelect,
meetings: Meeting[], pools: Section['pools']): Section => ({ id, term, session, course, number, label, part, link, meetings, exam,
  instructors, pools, waitlistCapacity, waiting: 0, delivery, topic, notes, fee, gradingModes, group, seatsWith, onlyPrograms,
  onlyStandings, onlyCohorts, cancelled })

/** Of none, numbers between which there are none. */
const spanOf = (all: readonly { id: number }[]): readonly [number, number] =>
  all.reduce(([least, most], { id }) => [Math.min(least, id), Math.max(most, id)], [2 ** 31, 0])

/** Seats and lengths of waitlists of a term's sections, of some courses or of all, with the stamp of the term's sections. */
export async function readSeats(db: Executor, term: TermCode, courses: readonly CourseCode[] | null) {
  const rows = await plain<Seats & { stamp: number, waiting: number }>(db,
    `SELECT t.sections_version stamp, p.id pool, s.id section, p.capacity, p.taken, p.held, p.section_version version,
       (SELECT COUNT(*) FROM waitlist_entries w WHERE w.section = s.id) waiting
     FROM terms t LEFT JOIN sections s ON s.term = t.code AND (? OR s.course IN (?))
     LEFT JOIN seat_pools p ON p.section = IFNULL(s.seats_with,
       s.id) WHERE t.code = ?`, [courses === null, courses?.length ? courses : [''], term])
  return { stamp: rows[0]?.stamp ?? 0, seats: rows.filter(row => row.pool !== null) }
}

/**
 * The same of all of a term's sections, by the numbers between which those that are known lie: in a large term this takes a quarter of
 * the time that looking each of them up does. What else lies between comes along, a few of another term at most; what came since has a
 * later stamp.
 */
export async function readSeatsWithin(db: Executor, term: TermCode, { sections, pools }: Span) {
  const [stamps, seats, waiting] = await together(db, [
    ['SELECT sections_version stamp FROM terms WHERE code = ?', [term]],
    ['SELECT id pool, section, capacity, taken, held, section_version version FROM seat_pools WHERE id BETWEEN ? AND ?', pools],
    ['SELECT section, COUNT(*) waiting FROM waitlist_entries WHERE section BETWEEN ? AND ? GROUP BY section', sections],
  ]) as [{ stamp: number }[], Seats[], { section: number, waiting: number }[]]
  return { stamp: stamps[0]?.stamp ?? 0, seats, waiting: new Map(waiting.map(one => [one.section, one.waiting])) }
}

/** How many wait for sections, as it is now whatever this transaction read before. */
export const readWaiting = (tx: Executor, ids: readonly number[]) => plain<{ section: number, waiting: number }>(tx,
  'SELECT section, COUNT(*) waiting FROM waitlist_entries WHERE section IN (?) GROUP BY section LOCK IN SHARE MODE', [[...ids]])

/** Locks seats in order of their ids, whichever sections they are of: no two transactions wait for each other in a circle. */
export async function lockSeats(tx: Executor, pools: readonly number[]): Promise<Seats[]> {
  if (pools.length === 0) return []
  return plain<Seats>(tx, 'SELECT id pool, section, capacity, taken, held, section_version version FROM seat_pools FORCE INDEX (PRIMARY) '
    + 'WHERE id IN (?) ORDER BY id FOR UPDATE', [[...pools]])
}

/**
 * Changes sections of a term. Their seats are locked first and marked, so that a registration that holds them goes before, and one that
 * comes after reads the sections anew; every server hears of it through the term's stamp.
 */
export async function changeSections(tx: Executor, term: TermCode, ids: readonly number[], edit: () => Promise<unknown>): Promise<void> {
  const named = await tx.select({ id: sections.id, seatsWith: sections.seatsWith }).from(sections).where(inArray(sections.id, [...ids]))
  const owners = [...new Set(named.map(one => one.seatsWith ?? one.id))]
  // Sections that come with the change have no seats yet that anybody could hold.
  if (owners.length > 0) {
    const pools = await tx.select({ id: seatPools.id }).from(seatPools).where(inArray(seatPools.section, owners))
    await lockSeats(tx, pools.map(pool => pool.id))
    await change(tx, 'UPDATE seat_pools SET section_version = section_version + 1 WHERE section IN (?)', [owners])
  }
  await edit()
  await change(tx, 'UPDATE terms SET sections_version = sections_version + 1 WHERE code = ?', [term])
}

/** How many seats a section has by whom they are for; null is everybody. */
export type SeatsWanted = ReadonlyMap<string | null, number>

/**
 * Sets the seats of a section's categories; one that is no longer named and that nobody uses goes. Seats that come where somebody waits are
 * held for the waitlist, as those that are given up. The seats are locked by whoever calls. Gives the next free id of a category.
 */
export async function keepSeats(tx: Executor, { section, wanted, at }: { section: number, wanted: SeatsWanted, at: string },
  from: number): Promise<number> {
  let next = from
  const pools = await tx.select().from(seatPools).where(eq(seatPools.section, section)).orderBy(asc(seatPools.id))
  let waiting = pools.length > 0 ? (await unservedOf(tx, [section])).get(section) ?? 0 : 0
  for (const pool of pools) {
    const capacity = wanted.get(pool.forGroup)
    if (capacity !== undefined) {
      await tx.update(seatPools).set({ capacity }).where(eq(seatPools.id, pool.id))
      const more = Math.max(0, Math.min(waiting, capacity - pool.capacity, capacity - pool.taken - pool.held))
      if (more > 0) await holdForWaitlist(tx, { section, pool: pool.id }, more, at)
      waiting -= more
    }
    else if (pool.taken + pool.held > 0 || await isTold(tx, pool.id))
      await tx.update(seatPools).set({ capacity: pool.taken + pool.held }).where(eq(seatPools.id, pool.id))
    else await tx.delete(seatPools).where(eq(seatPools.id, pool.id))
  }
  for (const [forGroup, capacity] of wanted) {
    if (pools.some(pool => pool.forGroup === forGroup)) continue
    const pool = next++
    await tx.insert(seatPools).values({ id: pool, section, forGroup, capacity, taken: 0, held: 0 })
    const more = Math.min(waiting, capacity)
    if (more > 0) await holdForWaitlist(tx, { section, pool }, more, at)
    waiting -= more
  }
  return next
}

/** Whether anything was ever told about a category: then it stays, for whoever reads what happened. */
const isTold = async (tx: Executor, pool: number) => (await plain(tx, 'SELECT 1 FROM ledger WHERE pool = ? LIMIT 1', [pool])).length > 0

const holdForWaitlist = (tx: Executor, { section, pool }: { section: number, pool: number }, seats: number, at: string) => together(tx, [
  ['UPDATE seat_pools SET held = held + ? WHERE id = ?', [seats, pool]],
  ['INSERT INTO freed_seats (section, pool, freed_at) VALUES ?', [Array.from({ length: seats }, () => [section, pool,
    fromInstantText(at)])]],
])

/** A section as whoever changes it needs it. */
export async function findSection(db: Executor, id: number) {
  const [row] = await db.select({ id: sections.id, term: sections.term, course: sections.course, label: sections.label,
    part: sections.part, cancelled: sections.cancelled, seatsWith: sections.seatsWith }).from(sections).where(eq(sections.id, id))
  return row
}
/** Whether it was not so already. */
export const markCancelled = async (tx: Executor, id: number, cancelled: boolean): Promise<boolean> =>
  await change(tx, 'UPDATE sections SET cancelled = ? WHERE id = ? AND cancelled = ?', [cancelled, id, !cancelled]) > 0
/** Categories of a section's seats as they are now; whoever decides on them has locked them. */
export const poolsOfSection = (tx: Executor, section: number) => tx.select().from(seatPools).where(eq(seatPools.section, section))
  .orderBy(asc(seatPools.id))
export const nextPool = async (tx: Executor) =>
  Number((await plain<{ next: number }>(tx, 'SELECT IFNULL(MAX(id), 0) + 1 next FROM seat_pools'))[0]!.next)
/** Whether any student is in a cohort. */
export const hasCohort = async (db: Executor, cohort: string) =>
  (await plain(db, 'SELECT 1 FROM students WHERE JSON_CONTAINS(cohorts, JSON_QUOTE(?)) LIMIT 1', [cohort])).length > 0
