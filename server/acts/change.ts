import type { z } from 'zod'
import type { Section, Term } from '@ridgeway/core/catalog'
import { readLeaving, WITHDRAWN } from '@ridgeway/core/next'
import type { StudentFile } from '@ridgeway/core/planning'
import { chosenCredits, decideRun, type LineUpRow, type RowDecision } from '@ridgeway/core/registration'
import type {
  ChangeResult, dropCourses as DeclaredDrop, exchangeCourse as DeclaredExchange, leaveWaitlist as DeclaredLeave,
  takeOffer as DeclaredOffer,
} from '#shared/contract/acts/student'
import { DONE } from '#shared/contract/define'
import type { Doing } from '../college/asked'
import { findTerm } from '../college/college'
import { Refusal } from '../college/refusal'
import { creditsPlanned, decisionContext, fileOf, gatesOf, planIn } from '../college/student'
import type { Executor } from '../db/database'
import {
  answeredBefore, type Entry, type Given, keepChange, keepLeaving, readEntry, ownersOf, registeredIn, type Told, unservedOf,
} from '../db/store/changes'
import { type Dossier, readDossiers } from '../db/store/dossiers'
import { lockSeats } from '../db/store/sections'

/** A bundle that is wanted, and the offer that it is taken by. */
interface Wanted { course: string, sectionIds: number[], credits: number | null, grading: string, offer: Entry | null }
type Changing = Doing<{ term: string, key: string }>

/** Gives up registered courses. */
export const dropCourses = (doing: Doing<z.output<typeof DeclaredDrop['input']>>) =>
  changeRegistration(doing, doing.input.courses, null, `drop ${doing.input.courses.join()}`)

/** Takes a bundle in place of registered courses, both or neither. */
export async function exchangeCourse(doing: Doing<z.output<typeof DeclaredExchange['input']>>): Promise<ChangeResult> {
  const { course, sectionIds, drops } = doing.input
  if (!doing.college.catalog.courses.has(course))
    throw new Refusal(404, 'course-unknown', `There is no course ${course}.`, 'Choose another one.')
  return changeRegistration(doing, drops, { course, sectionIds, credits: null, grading: 'letter', offer: null },
    `exchange ${drops.join()} for ${sectionIds.join('+')}`)
}

/** Registers what was waited for with the seat that is held for it. */
export async function takeOffer(doing: Doing<z.output<typeof DeclaredOffer['input']>>): Promise<ChangeResult> {
  const { tx, student, at, input } = doing
  const asked = `offer ${input.entry} for ${input.drops.join()}`
  const before = await repeated(tx, student, input.key, asked)
  if (before) return before
  const entry = await readEntry(tx, input.entry)
  if (!entry || entry.student !== student || entry.term !== input.term || entry.offerUntil === null || entry.offerUntil <= at)
    throw new Refusal(409, 'offer-over', 'This offer does not stand any more.', 'The seat went to the next on the waitlist.')
  return changeRegistration(doing, input.drops, { course: entry.course, sectionIds: entry.bundle, credits: entry.credits,
    grading: entry.grading, offer: entry }, asked)
}

/** Leaves a waitlist. */
export async function leaveWaitlist({ tx, student, actor, at, input }: Doing<z.output<typeof DeclaredLeave['input']>>) {
  const entry = await readEntry(tx, input.entry)
  if (!entry || entry.student !== student)
    throw new Refusal(404, 'entry-unknown', 'You are not on this waitlist any more.', 'Here it is as it stands.')
  if (entry.offerPool !== null) await lockSeats(tx, [entry.offerPool])
  const owner = (await ownersOf(tx, [entry.section])).get(entry.section)!
  await keepLeaving(tx, entry, owner, actor, entry.offerPool === null ? 'leave waitlist' : 'decline offer', at)
  return DONE
}

async function repeated(tx: Executor, student: number, key: string, asked: string): Promise<ChangeResult | null> {
  const before = await answeredBefore(tx, student, key)
  if (!before) return null
  if (before.asked !== asked)
    throw new Refusal(409, 'key-used', 'This press was sent before for something else.', 'Press the button again.')
  return { ...before.result as ChangeResult, repeated: true }
}

/**
 * One change of what a student is registered for, in one transaction: courses are given up, a bundle is taken, or both; where the bundle is
 * refused nothing is changed. The student's row is locked by whoever calls; then the seats in order of their ids. A seat that is given
 * up where somebody waits is held for the waitlist, so that nobody takes it from under those who came first.
 */
async function changeRegistration(doing: Changing, drops: readonly string[], take: Wanted | null, asked: string): Promise<ChangeResult> {
  const { tx, student, actor, at, date, college, input } = doing
  const before = await repeated(tx, student, input.key, asked)
  if (before) return before
  const term = findTerm(college, input.term)
  const dossier = (await readDossiers(tx, [student])).get(student)!
  const file = fileOf(dossier, college, term.code, planIn(dossier).plan)
  const gone = await registeredIn(tx, student, term.code, drops)
  const missing = drops.find(course => !gone.some(one => one.course === course))
  if (missing)
    throw new Refusal(409, 'not-registered', `You are not registered for ${missing} any more.`, 'Here it is as it stands.')
  const leaving = readLeaving(drops, { term, date, file, rules: college.catalog, instead: take
    ? [{ id: 'instead', course: take.course, term: term.code, grade: null, state: 'registered', source: 'here',
        credits: chosenCredits(take.credits, college.catalog.courses.get(take.course)) }]
    : [] })
  if (drops.length > 0) refuseLeaving(drops, leaving, term)

  const wanted = take
    ? (await college.sections.now(tx, term.code, [take.course])).filter(section => take.sectionIds.includes(section.id))
    : []
  await lockSeats(tx, [...new Set([...gone.map(one => one.pool), ...wanted.flatMap(section => section.pools.map(pool => pool.id))])]
    .sort((a, b) => a - b))
  const decision = take && await decideTaking(doing, { take, dossier, file, term, gone })
  const result: ChangeResult = { done: decision === null || decision.outcome === 'register', repeated: false,
    dropped: decision === null || decision.outcome === 'register' ? [...drops] : [], decision }
  // A refusal changes nothing, and may be asked again when it has been mended.
  if (!result.done) return result

  const owners = await ownersOf(tx, gone.map(one => one.section))
  const left = await unservedOf(tx, [...new Set(owners.values())])
  const held: { section: number, pool: number }[] = []
  const freed: number[] = []
  for (const one of gone) {
    const owner = owners.get(one.section)!
    const waiting = left.get(owner) ?? 0
    if (waiting > 0 && date <= term.addBy) held.push({ section: owner, pool: one.pool })
    else freed.push(one.pool)
    left.set(owner, waiting - 1)
  }
  const entries = take ? dossier.waitlisted.filter(row => row.term === term.code && row.course === take.course) : []
  await keepChange(tx, {
    student, actor, at, term: term.code, key: input.key, asked, gone, freed, held, result,
    claims: (decision?.claims ?? []).map(({ sectionId, poolId }, i) => ({ section: sectionId, pool: poolId, course: take!.course,
      credits: i === 0 ? decision!.credits : 0, grading: take!.grading })),
    offered: take?.offer?.offerPool ?? null,
    entries: entries.filter(row => row.offerUntil === null || row.id === take!.offer?.id).map(row => row.id),
    rows: take ? [take.course] : [],
    withdrawn: leaving.kind === 'withdraw'
      ? gone.filter(one => one.credits > 0).map(({ course, credits }) => ({ course, credits, grade: WITHDRAWN }))
      : [],
    told: [
      ...gone.map((one): Told => ({ action: leaving.kind === 'withdraw' ? 'withdraw' : 'drop', section: one.section, pool: one.pool,
        detail: { course: one.course, ...take ? { for: take.course } : {} } })),
      ...(decision?.claims ?? []).map((claim): Told => ({ action: 'register', section: claim.sectionId, pool: claim.poolId,
        detail: { course: take!.course, ...take!.offer ? { offer: take!.offer.id } : {} } })),
    ],
  })
  return result
}

/** What may not be given up so: too late, or something that stays asks for it. */
function refuseLeaving(drops: readonly string[], { kind, alone }: ReturnType<typeof readLeaving>, term: Term) {
  if (kind === 'closed')
    throw new Refusal(422, 'drop-closed', `The last day to withdraw from a course of ${term.name} is over.`,
      'Ask the registrar\'s office; nothing is changed.')
  if (alone.length > 0)
    throw new Refusal(422, 'partner-stays', `${alone.join(' and ')} goes with ${drops.join(' and ')} and would stay alone.`,
      `Give up ${alone.join(' and ')} in the same move; nothing is changed.`)
}

/** The one decision on a bundle, as if what is given up for it were gone and the seat that is held for it free; its seats are locked. */
async function decideTaking({ tx, college, at }: Changing, { take, dossier, file, term, gone }: {
  take: Wanted
  dossier: Dossier
  file: StudentFile
  term: Term
  gone: readonly Given[]
}): Promise<RowDecision> {
  const courses = new Set(gone.map(one => one.course))
  const without: StudentFile = { ...file, record: file.record.filter(item =>
    !(item.term === term.code && item.state === 'registered' && courses.has(item.course))) }
  const stays = dossier.registered.filter(row => row.term === term.code && !courses.has(row.course))
  const now = await college.sections.now(tx, term.code, [...new Set([take.course, ...stays.map(row => row.course)])])
  const sections = now.map((section): Section => ({ ...section, pools: section.pools.map(pool => ({ ...pool,
    taken: pool.taken - gone.filter(one => one.pool === pool.id).length,
    held: pool.held - (take.offer?.offerPool === pool.id ? 1 : 0) })) }))
  const row: LineUpRow = { id: 1, course: take.course, sectionIds: take.sectionIds,
    credits: take.credits ?? creditsPlanned(file, take.course, term.code) }
  const context = decisionContext(college, dossier, { file: without, gates: gatesOf(dossier, college, term, without, at, null), term },
    sections, sections.filter(section => stays.some(one => one.section === section.id)))
  return decideRun([row], context)[0]!
}
