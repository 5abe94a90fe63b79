import { randomUUID } from 'node:crypto'
import type { z } from 'zod'
import { deadlinesOf, type Section, type Term } from '@ridgeway/core/catalog'
import { exchangedBack, moneyBack, type Price } from '@ridgeway/core/money'
import { readLeaving, WITHDRAWN } from '@ridgeway/core/next'
import type { StudentFile } from '@ridgeway/core/planning'
import { chosenCredits, type RowDecision } from '@ridgeway/core/registration'
import type {
  changeRegistered as DeclaredChange, ChangeResult, decideOffer as DeclaredDecide, dropCourses as DeclaredDrop,
  exchangeCourse as DeclaredExchange, leaveWaitlist as DeclaredLeave, takeOffer as DeclaredOffer,
} from '#shared/contract/acts/student'
import { DONE } from '#shared/contract/define'
import type { Doing } from '../college/asked'
import { type College, findTerm } from '../college/college'
import { decideInstead, staysBeside } from '../college/instead'
import { pricesOf } from '../college/prices'
import { Refusal } from '../college/refusal'
import { creditsPlanned, fileOf, planIn } from '../college/student'
import type { Executor } from '../db/database'
import {
  answeredBefore, type Entry, type Given, keepAnswer, keepChange, keepExchange, keepLeaving, offersOf, ownersOf, readEntry, registeredIn,
  type Told, unservedOf,
} from '../db/store/changes'
import { type Dossier, readDossiers } from '../db/store/dossiers'
import { postings } from '../db/store/money'
import { lockSeats } from '../db/store/sections'

/** A bundle that is wanted, and the offers that it is taken by: one for each part that was waited for. */
interface Wanted {
  course: string
  sectionIds: number[]
  credits: number | null
  grading: string
  offers: Entry[]
  /** Whether to wait for it where it is full. */
  waits?: boolean
}

/** Who changes what is registered, and when; `actor` is null where the college does it by itself. */
export interface Changing {
  tx: Executor
  student: number
  actor: number | null
  at: string
  date: string
  college: College
  input: { term: string, key: string }
}

/** Gives up registered courses. */
export const dropCourses = (doing: Doing<z.output<typeof DeclaredDrop['input']>>) =>
  changeRegistration(doing, doing.input.courses, null, `drop ${doing.input.courses.join()}`, { everything: doing.input.everything })

/** Takes a bundle in place of registered courses, both or neither; where it is full the exchange can wait for a seat. */
export async function exchangeCourse(doing: Doing<z.output<typeof DeclaredExchange['input']>>): Promise<ChangeResult> {
  const { course, sectionIds, drops, wait } = doing.input
  checkCourse(doing.college, course)
  const lined = (await readDossiers(doing.tx, [doing.student])).get(doing.student)!
  const row = lined.lineUp.find(one => one.term === doing.input.term && one.course === course)
  const held = lined.registered.find(one => one.term === doing.input.term && one.course === course && one.credits > 0)
  return changeRegistration(doing, drops, { course, sectionIds, credits: row?.credits ?? held?.credits ?? null,
    grading: row?.grading ?? held?.grading ?? 'letter', offers: [], waits: wait },
  `exchange ${drops.join()} for ${sectionIds.join('+')}${wait ? ', or wait' : ''}`)
}

/** Changes for how many credits, or how graded, a registered course is: the same seats, decided and charged anew. */
export async function changeRegistered(doing: Doing<z.output<typeof DeclaredChange['input']>>): Promise<ChangeResult> {
  const { tx, student, college, input: { term, course, credits, grading } } = doing
  checkCourse(college, course)
  const dossier = (await readDossiers(tx, [student])).get(student)!
  const held = dossier.registered.filter(one => one.term === term && one.course === course)
  const first = held.find(one => one.credits > 0)
  const wanted = { credits: credits ?? first?.credits ?? null, grading: grading ?? first?.grading ?? 'letter' }
  if (first) {
    const { credits: least, creditsMax } = college.catalog.courses.get(course)!
    if (wanted.credits !== null && (wanted.credits < least || wanted.credits > creditsMax))
      throw new Refusal(422, 'credits-range', `${course} is not given for so many credits.`, 'Choose credits within its range.')
    const sections = (await college.sections.now(tx, term, [course])).filter(section => held.some(one => one.section === section.id))
    if (sections.some(section => !section.gradingModes.includes(wanted.grading as 'letter')))
      throw new Refusal(422, 'grading-not-given', `${course} cannot be graded so.`, 'Choose one of the ways that its sections offer.')
  }
  return changeRegistration(doing, [course], { course, sectionIds: held.map(one => one.section), ...wanted, offers: [] },
    `change ${course} to ${wanted.credits} ${wanted.grading}`)
}

function checkCourse(college: College, course: string) {
  if (!college.catalog.courses.has(course))
    throw new Refusal(404, 'course-unknown', `There is no course ${course}.`, 'Choose another one.')
}

/** Registers what was waited for with the seats that are held for it. */
export async function takeOffer(doing: Doing<z.output<typeof DeclaredOffer['input']>>): Promise<ChangeResult> {
  const { tx, student, at, input } = doing
  const asked = `offer ${input.entry} for ${input.drops.join()}`
  const before = await repeated(tx, student, input.key, asked)
  if (before) return before
  const entry = await readEntry(tx, input.entry)
  if (!entry || entry.student !== student || entry.term !== input.term || entry.offerUntil === null || entry.offerUntil <= at)
    throw new Refusal(409, 'offer-over', 'This offer does not stand any more.', 'The seat went to the next on the waitlist.')
  return takeEntry(doing, entry, input.drops, asked)
}

const takeEntry = async (changing: Changing, entry: Entry, drops: readonly string[], asked: string) =>
  changeRegistration(changing, drops, { course: entry.course, sectionIds: entry.bundle, credits: entry.credits, grading: entry.grading,
    offers: await offersOf(changing.tx, entry) }, asked)

/**
 * Takes an offer that was just made as the student decided beforehand. False where it is refused: the offer then stands like any other.
 * The student's row and all the seats are locked.
 */
export async function takeAsDecided(changing: Omit<Changing, 'input' | 'actor'>, entry: Entry): Promise<boolean> {
  if (entry.exchange === null) return false
  try {
    const { done } = await takeEntry({ ...changing, actor: entry.student, input: { term: entry.term, key: randomUUID() } }, entry,
      entry.exchange, 'as decided beforehand')
    return done
  }
  catch (problem) {
    // What was to be given up is not registered any more, or can be left no more: the student is asked.
    if (problem instanceof Refusal) return false
    throw problem
  }
}

/**
 * Decides beforehand what happens when a seat is offered: it is taken at once, in place of courses or beside them, or the student is
 * asked.
 */
export async function decideOffer({ tx, student, input }: Doing<z.output<typeof DeclaredDecide['input']>>) {
  const entry = await readEntry(tx, input.entry)
  if (!entry || entry.student !== student || entry.term !== input.term)
    throw new Refusal(404, 'entry-unknown', 'You are not on this waitlist any more.', 'Here it is as it stands.')
  if (entry.offerUntil !== null)
    throw new Refusal(409, 'offered-already', 'The seat is offered to you already.', 'Take it, or let it go.')
  if (input.exchange !== null) {
    const held = await registeredIn(tx, student, input.term, input.exchange)
    const missing = input.exchange.find(course => !held.some(one => one.course === course))
    if (missing)
      throw new Refusal(409, 'not-registered', `You are not registered for ${missing} any more.`, 'Choose again what to give up.')
  }
  await keepExchange(tx, student, entry, input.exchange)
  return DONE
}

/** Leaves a waitlist. */
export async function leaveWaitlist({ tx, student, actor, at, input }: Doing<z.output<typeof DeclaredLeave['input']>>) {
  const entry = await readEntry(tx, input.entry)
  if (!entry || entry.student !== student)
    throw new Refusal(404, 'entry-unknown', 'You are not on this waitlist any more.', 'Here it is as it stands.')
  await endWait(tx, entry, actor, entry.offerPool === null ? 'leave waitlist' : 'decline offer', at)
  return DONE
}

/** A wait ends: seats that were held for the bundle go to the next, all of them. */
export async function endWait(tx: Executor, entry: Entry, actor: number | null,
  action: 'leave waitlist' | 'decline offer' | 'offer lapsed' | 'waitlist closed', at: string) {
  const ends = entry.offerPool === null ? [entry] : await offersOf(tx, entry)
  await lockSeats(tx, ends.flatMap(one => one.offerPool ?? []).sort((a, b) => a - b))
  const owners = await ownersOf(tx, ends.map(one => one.section))
  for (const one of ends) await keepLeaving(tx, one, owners.get(one.section)!, actor, action, at)
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
 * up where somebody waits is held for the waitlist, so that nobody takes it from under those who came first. What comes back and what is
 * charged stands on the account in the same transaction.
 */
async function changeRegistration(doing: Changing, drops: readonly string[], take: Wanted | null, asked: string,
  { everything = false } = {}): Promise<ChangeResult> {
  const { tx, student, actor, at, date, college, input } = doing
  const before = await repeated(tx, student, input.key, asked)
  if (before) return before
  const term = findTerm(college, input.term)
  const dossier = (await readDossiers(tx, [student])).get(student)!
  const file = fileOf(dossier, college, term.code, planIn(dossier).plan, date)
  const gone = await registeredIn(tx, student, term.code, drops)
  const missing = drops.find(course => !gone.some(one => one.course === course))
  if (missing)
    throw new Refusal(409, 'not-registered', `You are not registered for ${missing} any more.`, 'Here it is as it stands.')
  const deadlines = (course: string) => deadlinesOf(term, gone.find(one => one.course === course)?.session)
  const leaving = readLeaving(drops, { term, date, file, rules: college.catalog, deadlines, instead: take
    ? [{ id: 'instead', course: take.course, term: term.code, grade: null, state: 'registered', source: 'here',
        credits: chosenCredits(take.credits, college.catalog.courses.get(take.course)) }]
    : [] })
  const changesOnly = take !== null && drops.length === 1 && drops[0] === take.course && take.sectionIds.length === gone.length
    && take.sectionIds.every(id => gone.some(one => one.section === id))
  if (drops.length > 0 && !changesOnly) refuseLeaving(drops, leaving, term, everything || take !== null)

  const wanted = take
    ? (await college.sections.now(tx, term.code, [take.course])).filter(section => take.sectionIds.includes(section.id))
    : []
  await lockSeats(tx, [...new Set([...gone.map(one => one.pool), ...wanted.flatMap(section => section.pools.map(pool => pool.id))])]
    .sort((a, b) => a - b))
  const decision = take && await decideTaking(doing, { take, dossier, file, term, gone })
  const outcome = decision?.outcome ?? 'register'
  const result: ChangeResult = { done: outcome === 'register', waits: outcome === 'waitlist', repeated: false,
    dropped: outcome === 'register' ? [...drops] : [], decision }
  // A refusal changes nothing, and may be asked again when it has been mended.
  if (outcome === 'refused') return result
  if (outcome === 'waitlist') {
    await keepAnswer(tx, { student, actor, at, term: term.code, key: input.key, asked, result,
      waits: decision!.waits.map(wait => ({ ...wait,
        course: take!.course, bundle: take!.sectionIds, grading: take!.grading, credits: take!.credits, exchange: [...drops] })) })
    return result
  }

  const prices: Price[] = decision ? pricesOf(college, dossier.residence, decision, new Map(wanted.map(one => [one.id, one]))) : []
  const claims = (decision?.claims ?? []).map(({ sectionId, poolId }, i) => ({ section: sectionId, pool: poolId, course: take!.course,
    credits: i === 0 ? decision!.credits : 0, grading: take!.grading, ...prices[i]! }))
  const { held, freed } = await whereSeatsGo(tx, { gone, claims, addBy: course => deadlines(course).addBy, date })
  const entries = take && !changesOnly ? dossier.waitlisted.filter(row => row.term === term.code && row.course === take.course) : []
  const taken = take?.offers ?? []
  const money = take
    ? exchangedBack(gone, { tuition: sum(prices, 'tuition'), fees: sum(prices, 'fees') }, term, college.money, date)
    : moneyBack(gone, term, college.money, date)
  const posting = { student, term: term.code, at, date, actor, reference: input.key }
  await keepChange(tx, {
    student, actor, at, term: term.code, key: input.key, asked, gone, freed, held, result, claims,
    offered: taken.flatMap(one => one.offerPool ?? []),
    entries: entries.map(row => row.id),
    rows: take ? [take.course] : [],
    withdrawn: take && changesOnly
      ? []
      : gone.filter(one => one.credits > 0 && leaving.withdrawn.includes(one.course)).map(({ course, credits }) => ({ course, credits,
          grade: WITHDRAWN })),
    money: postings({ ...posting, kind: 'refund', courses: money.filter(one => one.cents > 0).map(({ course, cents }) => ({ course,
      cents })) },
    { ...posting, kind: 'charge', courses: take ? [{ course: take.course, cents: sum(prices, 'tuition') + sum(prices, 'fees') }] : [] }),
    told: changesOnly
      ? [{ action: 'change', section: gone[0]!.section, pool: null, detail: { course: take.course, credits: decision!.credits,
          grading: take.grading } }]
      : [
          ...gone.map((one): Told => ({ action: leaving.withdrawn.includes(one.course) ? 'withdraw' : 'drop', section: one.section,
            pool: one.pool, detail: { course: one.course, ...take ? { for: take.course } : {} } })),
          ...claims.map((claim): Told => ({ action: 'register', section: claim.section, pool: claim.pool,
            detail: { course: claim.course, ...taken.length > 0 ? { offers: taken.map(one => one.id) } : {} } })),
        ],
  })
  return result
}

const sum = (prices: readonly Price[], what: keyof Price) => prices.reduce((total, one) => total + one[what], 0)

/** Seats that are given up: those that are taken again stay, those that somebody waits for are held, all others are free. */
export async function whereSeatsGo(tx: Executor, { gone, claims, addBy, date }: {
  gone: readonly Given[]
  claims: readonly { pool: number }[]
  addBy: (course: string) => string
  date: string
}) {
  const again = claims.map(claim => claim.pool)
  const owners = await ownersOf(tx, gone.map(one => one.section))
  const left = await unservedOf(tx, [...new Set(owners.values())])
  const held: { section: number, pool: number }[] = []
  const freed: number[] = []
  for (const one of gone) {
    const taken = again.indexOf(one.pool)
    if (taken >= 0) {
      again.splice(taken, 1)
      freed.push(one.pool)
      continue
    }
    const owner = owners.get(one.section)!
    const waiting = left.get(owner) ?? 0
    if (waiting > 0 && date <= addBy(one.course)) held.push({ section: owner, pool: one.pool })
    else freed.push(one.pool)
    left.set(owner, waiting - 1)
  }
  return { held, freed }
}

/** What may not be given up so: too late, something that stays asks for it, or all of a term without meaning to. */
function refuseLeaving(drops: readonly string[], { kind, alone, everything }: ReturnType<typeof readLeaving>, term: Term, means: boolean) {
  if (kind === 'closed')
    throw new Refusal(422, 'drop-closed', `The last day to withdraw from a course of ${term.name} is over.`,
      'Ask the registrar\'s office; nothing is changed.')
  if (alone.length > 0)
    throw new Refusal(422, 'partner-stays', `${alone.join(' and ')} goes with ${drops.join(' and ')} and would stay alone.`,
      `Give up ${alone.join(' and ')} in the same move; nothing is changed.`)
  if (everything && !means)
    throw new Refusal(422, 'leaves-term', `Nothing of ${term.name} would stay registered.`,
      `Leave ${term.name} as a whole if that is what you want; nothing is changed.`)
}

/** The sections of a course as somebody finds them for whom these seats are held: of what was waited for only they count. */
export function withOffered(sections: readonly Section[], offers: readonly { section: number, pool: number | null }[]): Section[] {
  return sections.map((section) => {
    const mine = offers.find(one => one.section === section.id)
    if (!mine) return section
    return { ...section, pools: section.pools.map(pool => pool.id === mine.pool
      ? { ...pool, capacity: pool.taken + pool.held, held: pool.held - 1 }
      : { ...pool, capacity: pool.taken + pool.held }) }
  })
}

/** The one decision on a bundle, as if what is given up for it were gone and the seats that are held for it free; its seats are locked. */
async function decideTaking({ tx, college, at, date }: Changing, { take, dossier, file, term, gone }: {
  take: Wanted
  dossier: Dossier
  file: StudentFile
  term: Term
  gone: readonly Given[]
}): Promise<RowDecision> {
  const stays = staysBeside(dossier, term.code, new Set(gone.map(one => one.course)))
  const now = await college.sections.now(tx, term.code, [...new Set([take.course, ...stays.map(row => row.course)])])
  return decideInstead({ college, dossier, file, term, at, date, gone }, { id: 1, course: take.course, sectionIds: take.sectionIds,
    waitIfFull: take.waits, credits: take.credits ?? creditsPlanned(file, take.course, term.code) },
  withOffered(now, take.offers.map(one => ({ section: one.section, pool: one.offerPool }))))
}
