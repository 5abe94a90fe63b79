import { deadlinesOf } from '@ridgeway/core/catalog'
import { offerUntil, type RowDecision } from '@ridgeway/core/registration'
import { toInstant } from '@ridgeway/core/weeks'
import { dateIn, findTerm, type KeptCollege, presentInstant } from '../college/college'
import { type Instead, otherBundleFor, staysBeside } from '../college/instead'
import { fileOf, planIn } from '../college/student'
import { tell } from '../college/tell'
import type { Database, Executor } from '../db/database'
import { type Given, keepChange, keepExchange, readEntry, registeredIn, type Told } from '../db/store/changes'
import { readStamp } from '../db/store/college'
import { readDossiers } from '../db/store/dossiers'
import { postings } from '../db/store/money'
import { cancelledOf, cancelledWaits, cancelledWith, keepSeatFor } from '../db/store/office'
import { lockSeats } from '../db/store/sections'
import { bumpStudents, lockStudent } from '../db/store/students'
import { endWait, whereSeatsGo } from './change'

/** Students that are served in one go at most, so that one server never works at this alone. */
const MOST_AT_ONCE = 50

/**
 * Serves those whom cancelled sections leave: waits for them end; who is registered gets back all that was charged for the course, at
 * whatever date, and, where another bundle fits and has a seat, that seat held as an offer (common practice, no source). Any server may do
 * it at any time, beside others: each student is served once, whole or not at all. Tells whose files changed.
 */
export async function serveCancelled(database: Database, kept: KeptCollege): Promise<number[]> {
  const { waits, registered } = await database.read(async (db) => {
    const stamp = await readStamp(db)
    const date = dateIn(presentInstant(stamp), (await kept.at(db, stamp.catalog)).zone)
    return { waits: await cancelledWaits(db, MOST_AT_ONCE), registered: await cancelledWith(db, date, MOST_AT_ONCE) }
  })
  const changed: number[] = []
  for (const { id, student } of waits)
    if (await database.write(tx => endCancelledWait(tx, kept, id, student))) changed.push(student)
  for (const one of registered)
    if (await database.write(tx => serveOne(tx, kept, one))) changed.push(one.student)
  return changed
}

async function endCancelledWait(tx: Executor, kept: KeptCollege, id: number, student: number): Promise<boolean> {
  const locked = await lockStudent(tx, student)
  const entry = await readEntry(tx, id)
  if (!locked || !entry || (await cancelledOf(tx, [entry.section, ...entry.bundle])).length === 0) return false
  const college = await kept.at(tx, locked.catalog)
  const at = presentInstant(await readStamp(tx))
  await endWait(tx, entry, null, 'waitlist closed', at)
  await tell({ tx, student, at, college, visitor: null }, [student], { code: 'section cancelled', offered: false, waited: true })
  return true
}

interface Left { student: number, term: string, course: string }
async function serveOne(tx: Executor, kept: KeptCollege, { student, term: code, course }: Left): Promise<boolean> {
  const locked = await lockStudent(tx, student)
  if (!locked) return false
  const gone = await registeredIn(tx, student, code, [course])
  if ((await cancelledOf(tx, gone.map(one => one.section))).length === 0) return false
  const college = await kept.at(tx, locked.catalog)
  const term = findTerm(college, code)
  const at = presentInstant(await readStamp(tx))
  const date = dateIn(at, college.zone)
  const dossier = (await readDossiers(tx, [student])).get(student)!
  const instead: Instead = { college, dossier, file: fileOf(dossier, college, code, planIn(dossier).plan, date), term, at, date, gone }
  const decision = await lockAndChoose(tx, instead, course)
  const claims = decision?.claims.map(one => ({ section: one.sectionId, pool: one.poolId })) ?? []
  const addBy = (session: string | undefined) => deadlinesOf(term, session).addBy
  const { held, freed } = await whereSeatsGo(tx, { gone, claims, date,
    addBy: of => addBy(gone.find(one => one.course === of)?.session) })
  const key = `cancelled ${gone[0]!.id}`
  await keepChange(tx, {
    student, actor: null, at, term: code, key, asked: key, gone, held, freed, claims: [], offered: [], entries: [], rows: [], withdrawn: [],
    result: { cancelled: course },
    money: postings({ student, term: code, at, date, actor: null, kind: 'refund', reference: key,
      courses: [{ course, cents: gone.reduce((sum, one) => sum + one.tuition + one.fees, 0) }] }),
    told: gone.map((one): Told => ({ action: 'section cancelled', section: one.section, pool: one.pool, detail: { course } })),
  })
  if (decision) {
    const lead = dossier.registered.find(row => row.course === course && row.term === code && row.credits > 0)
    const until = offerUntil(at, toInstant(addBy(gone[0]!.session), 24 * 60 - 1, college.zone), college.offerHours)
    await keepSeatFor(tx, { student, at, until, course,
      bundle: decision.sectionIds, grading: lead?.grading ?? 'letter', credits: lead?.credits ?? null, claims })
  }
  // Who waited to exchange it takes what is offered without giving anything up.
  for (const wait of dossier.waitlisted)
    if (wait.term === code && wait.exchange?.includes(course))
      await keepExchange(tx, student, wait, wait.exchange.filter(one => one !== course))
  await tell({ tx, student, at, college, visitor: null }, [student], { code: 'section cancelled', offered: decision !== null,
    waited: false })
  await bumpStudents(tx, [student])
  return true
}

/** The other bundle, decided on seats that are locked: all those of the course and those that are given up, in their order. */
async function lockAndChoose(tx: Executor, instead: Instead, course: string): Promise<RowDecision | null> {
  const { college, dossier, term, gone } = instead
  const courses = [...new Set([course, ...staysBeside(dossier, term.code, new Set([course])).map(row => row.course)])]
  const before = await college.sections.now(tx, term.code, [course])
  await lockSeats(tx, poolsOf(before, gone))
  return otherBundleFor(instead, course, await college.sections.now(tx, term.code, courses))
}

const poolsOf = (sections: readonly { pools: readonly { id: number }[] }[], gone: readonly Pick<Given, 'pool'>[]) =>
  [...new Set([...gone.map(one => one.pool), ...sections.flatMap(section => section.pools.map(pool => pool.id))])].sort((a, b) => a - b)
