import { asc, eq, inArray } from 'drizzle-orm'
import type { CourseCode, Meeting, Section, TermCode } from '@ridgeway/core/catalog'
import type { Executor } from '../database'
import { meetings, seatPools, sections } from '../schema'
import { groupBy } from './group'
import { change, plain } from './plain'

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
}

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
  const all = rows.map((row): Section => ({
    ...row,
    meetings: (meetingsBy.get(row.id) ?? []).map(({ id: _, section: __, ...meeting }): Meeting => meeting),
    pools: (poolsBy.get(row.seatsWith ?? row.id) ?? []).map(({ id, forGroup }) => ({ id, forGroup, capacity: 0, taken: 0, held: 0 })),
    waiting: 0,
  }))
  return { byId: new Map(all.map(one => [one.id, one])), byCourse: groupBy(all, one => one.course),
    versions: new Map(pools.map(pool => [pool.id, pool.sectionVersion])) }
}

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
