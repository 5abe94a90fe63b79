import { deadlinesOf, type Section } from '@ridgeway/core/catalog'
import { decideRun, mayBeOffered, offerUntil } from '@ridgeway/core/registration'
import { toInstant } from '@ridgeway/core/weeks'
import { type College, dateIn, findTerm, type KeptCollege, presentInstant } from '../college/college'
import { decisionContext, fileOf, gatesOf, planIn } from '../college/student'
import type { Database, Executor } from '../db/database'
import {
  anyFreedSeat, claimFreedSeat, claimFreedSeatOf, type Entry, type Freed, keepOffer, lapsedOffers, ownersOf, readEntry, registeredIn,
  releaseSeat, waitsOf, waitedSessions, waitingFor,
} from '../db/store/changes'
import { readStamp } from '../db/store/college'
import { readDossiers } from '../db/store/dossiers'
import { lockSeats } from '../db/store/sections'
import { lockStudent } from '../db/store/students'
import { endWait, takeAsDecided, withOffered } from './change'

/** Seats that are served in one go at most, so that one server never works at this alone. */
const MOST_AT_ONCE = 200

/**
 * Serves the waitlists: offers whose time is over go to the next, waits for what can be added no more end, and seats that were given up
 * are offered to the first who may take them. Any server may do it at any time, beside others: each seat is claimed by one. Tells whose
 * files changed.
 */
export async function serveWaitlists(database: Database, kept: KeptCollege): Promise<number[]> {
  const { at, ended, any } = await database.read(async (db) => {
    const stamp = await readStamp(db)
    const now = presentInstant(stamp)
    const college = await kept.at(db, stamp.catalog)
    const date = dateIn(now, college.zone)
    const over = (await waitedSessions(db)).filter(one => date > deadlinesOf(findTerm(college, one.term), one.session).addBy)
    return { at: now, ended: [...await lapsedOffers(db, now), ...await waitsOf(db, over)], any: await anyFreedSeat(db) }
  })
  const changed: number[] = []
  for (const { id, student } of ended)
    if (await database.write(tx => endOverdue(tx, kept, id, student, at))) changed.push(student)
  if (!any && changed.length === 0) return changed
  for (let n = 0; n < MOST_AT_ONCE; n++) {
    const served = await database.write(tx => offerNext(tx, kept, at))
    if (served === null) break
    if (served > 0) changed.push(served)
  }
  return changed
}

/** An offer whose time is over, or a wait for what can be added no more: the place is gone, and a seat goes to the next. */
async function endOverdue(tx: Executor, kept: KeptCollege, id: number, student: number, at: string): Promise<boolean> {
  const locked = await lockStudent(tx, student)
  const entry = await readEntry(tx, id)
  if (!entry || !locked) return false
  const college = await kept.at(tx, locked.catalog)
  const closed = dateIn(at, college.zone) > addByOf(college, entry)
  const lapsed = entry.offerUntil !== null && entry.offerUntil <= at
  if (!closed && !lapsed) return false
  await endWait(tx, entry, null, lapsed ? 'offer lapsed' : 'waitlist closed', at)
  return true
}

const addByOf = (college: College, entry: Pick<Entry, 'term' | 'session'>) => deadlinesOf(findTerm(college, entry.term),
  entry.session).addBy

/** Offers the oldest seat to the first who may take it, and gives the student; 0 where nobody may, null where no seat is left to serve. */
async function offerNext(tx: Executor, kept: KeptCollege, at: string): Promise<number | null> {
  const seat = await claimFreedSeat(tx)
  if (!seat) return null
  const college = await kept.at(tx, (await readStamp(tx)).catalog)
  const date = dateIn(at, college.zone)
  for (const candidate of await waitingFor(tx, seat.section)) {
    const addBy = addByOf(college, candidate)
    if (date > addBy) continue
    await lockStudent(tx, candidate.student)
    const entry = await readEntry(tx, candidate.id)
    if (!entry || entry.offerUntil !== null) continue
    const seats = await seatsFor(tx, entry, seat)
    if (!await mayTake(tx, college, entry, seats, at)) continue
    const gives = await registeredIn(tx, entry.student, entry.term, entry.exchange ?? [])
    const bundle = (await college.sections.now(tx, entry.term, [entry.course])).filter(section => entry.bundle.includes(section.id))
    await lockSeats(tx, [...new Set([...seats.map(one => one.seat.pool), ...gives.map(one => one.pool),
      ...bundle.flatMap(section => section.pools.map(pool => pool.id))])].sort((a, b) => a - b))
    const until = offerUntil(at, toInstant(addBy, 24 * 60 - 1, college.zone), college.offerHours)
    for (const one of seats) await keepOffer(tx, one.seat, one.entry, until, at)
    await takeAsDecided({ tx, college, at, date, student: entry.student }, { ...entry, offerUntil: until, offerPool: seat.pool })
    return entry.student
  }
  await lockSeats(tx, [seat.pool])
  await releaseSeat(tx, seat, at)
  return 0
}

/** A seat with the wait that it would end. */
interface Serving { seat: Freed, entry: Entry }

/**
 * The seat for one who waits, and with it seats of the other parts of the bundle that they wait for too: parts that came free together
 * are offered together, for one without the other is of no use.
 */
async function seatsFor(tx: Executor, entry: Entry, seat: Freed): Promise<Serving[]> {
  const seats: Serving[] = [{ seat, entry }]
  const others = (await waitsOf(tx, null, entry.student)).filter(one => one.id !== entry.id)
  for (const { id } of others) {
    const other = await readEntry(tx, id)
    if (!other || other.offerUntil !== null || other.course !== entry.course || other.bundle.join() !== entry.bundle.join()) continue
    const owner = (await ownersOf(tx, [other.section])).get(other.section)!
    const beside = await claimFreedSeatOf(tx, owner, seats.map(one => one.seat.id))
    if (beside) seats.push({ seat: beside, entry: other })
  }
  return seats
}

/** Whether these very seats, and whatever else the bundle needs, could be theirs: by the one decision on registering. */
async function mayTake(tx: Executor, college: College, entry: Entry, seats: readonly Serving[], at: string): Promise<boolean> {
  const dossier = (await readDossiers(tx, [entry.student])).get(entry.student)
  if (!dossier) return false
  const term = findTerm(college, entry.term)
  const file = fileOf(dossier, college, term.code, planIn(dossier).plan, dateIn(at, college.zone))
  // What is given up for it when it is offered is no reason to pass somebody over.
  const leaves = (course: string) => entry.exchange?.includes(course) ?? false
  const without = { ...file, record: file.record.filter(item => !(item.term === term.code && item.state === 'registered'
    && (leaves(item.course)))) }
  const held = dossier.registered.filter(row => row.term === term.code && !leaves(row.course))
  const now = await college.sections.now(tx, term.code, [...new Set([entry.course, ...held.map(row => row.course)])])
  const sections: Section[] = withOffered(now, seats.map(one => ({ section: one.entry.section, pool: one.seat.pool })))
  const context = decisionContext(college, dossier, { file: without, gates: gatesOf(dossier, college, term, without, at, null), term,
    date: dateIn(at, college.zone) }, sections, sections.filter(section => held.some(row => row.section === section.id)))
  const [decision] = decideRun([{ id: 1, course: entry.course, sectionIds: entry.bundle, credits: entry.credits }], context)
  return mayBeOffered(decision!)
}
