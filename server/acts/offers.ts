import type { Section } from '@ridgeway/core/catalog'
import { decideRun, mayBeOffered, offerUntil } from '@ridgeway/core/registration'
import { toInstant } from '@ridgeway/core/weeks'
import { type College, dateIn, findTerm, type KeptCollege, presentInstant } from '../college/college'
import { decisionContext, fileOf, gatesOf, planIn } from '../college/student'
import type { Database, Executor } from '../db/database'
import {
  anyFreedSeat, claimFreedSeat, type Entry, keepLeaving, keepOffer, lapsedOffers, ownersOf, readEntry, releaseSeat, waitingFor,
} from '../db/store/changes'
import { readStamp } from '../db/store/college'
import { readDossiers } from '../db/store/dossiers'
import { lockSeats } from '../db/store/sections'
import { lockStudent } from '../db/store/students'

/** Seats that are served in one go at most, so that one server never works at this alone. */
const MOST_AT_ONCE = 200

/**
 * Serves the waitlists: offers whose time is over go to the next, and seats that were given up are offered to the first who may take them.
 * Any server may do it at any time, beside others: each seat is claimed by one. Tells whose files changed.
 */
export async function serveWaitlists(database: Database, kept: KeptCollege): Promise<number[]> {
  const { at, lapsed, any } = await database.read(async (db) => {
    const now = presentInstant(await readStamp(db))
    return { at: now, lapsed: await lapsedOffers(db, now), any: await anyFreedSeat(db) }
  })
  const changed: number[] = []
  for (const { id, student } of lapsed)
    if (await database.write(tx => lapse(tx, id, student, at))) changed.push(student)
  if (!any && changed.length === 0) return changed
  for (let n = 0; n < MOST_AT_ONCE; n++) {
    const served = await database.write(tx => offerNext(tx, kept, at))
    if (served === null) break
    if (served > 0) changed.push(served)
  }
  return changed
}

/** An offer whose time is over: its place on the waitlist is gone, and the seat goes to the next. */
async function lapse(tx: Executor, id: number, student: number, at: string): Promise<boolean> {
  await lockStudent(tx, student)
  const entry = await readEntry(tx, id)
  if (!entry || entry.offerUntil === null || entry.offerUntil > at) return false
  if (entry.offerPool !== null) await lockSeats(tx, [entry.offerPool])
  const owner = (await ownersOf(tx, [entry.section])).get(entry.section)!
  await keepLeaving(tx, entry, owner, student, 'offer lapsed', at)
  return true
}

/** Offers the oldest seat to the first who may take it, and gives the student; 0 where nobody may, null where no seat is left to serve. */
async function offerNext(tx: Executor, kept: KeptCollege, at: string): Promise<number | null> {
  const seat = await claimFreedSeat(tx)
  if (!seat) return null
  const college = await kept.at(tx, (await readStamp(tx)).catalog)
  for (const candidate of await waitingFor(tx, seat.section)) {
    const term = findTerm(college, candidate.term)
    if (dateIn(at, college.zone) > term.addBy) continue
    await lockStudent(tx, candidate.student)
    const entry = await readEntry(tx, candidate.id)
    if (!entry || entry.offerUntil !== null || !await mayTake(tx, college, entry, seat.pool, at)) continue
    await lockSeats(tx, [seat.pool])
    await keepOffer(tx, seat, entry, offerUntil(at, toInstant(term.addBy, 24 * 60 - 1, college.zone)), at)
    return entry.student
  }
  await lockSeats(tx, [seat.pool])
  await releaseSeat(tx, seat)
  return 0
}

/** Whether this very seat, and whatever else the bundle needs, could be theirs: by the one decision on registering. */
async function mayTake(tx: Executor, college: College, entry: Entry, pool: number, at: string): Promise<boolean> {
  const dossier = (await readDossiers(tx, [entry.student])).get(entry.student)
  if (!dossier) return false
  const term = findTerm(college, entry.term)
  const file = fileOf(dossier, college, term.code, planIn(dossier).plan)
  const held = dossier.registered.filter(row => row.term === term.code)
  const now = await college.sections.now(tx, term.code, [...new Set([entry.course, ...held.map(row => row.course)])])
  // Of the section that is waited for only the seat that came free counts.
  const sections = now.map((section): Section => section.id !== entry.section
    ? section
    : { ...section, pools: section.pools.map(one => ({ ...one, capacity: one.id === pool ? one.taken + one.held : 0,
        held: one.id === pool ? one.held - 1 : 0, taken: one.id === pool ? one.taken : 0 })) })
  const context = decisionContext(college, dossier, { file, gates: gatesOf(dossier, college, term, file, at, null), term }, sections,
    sections.filter(section => held.some(row => row.section === section.id)))
  const [decision] = decideRun([{ id: 1, course: entry.course, sectionIds: entry.bundle, credits: entry.credits }], context)
  return mayBeOffered(decision!)
}
