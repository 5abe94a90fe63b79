import type { z } from 'zod'
import { lastToAdd, shiftDate, type Term } from '@ridgeway/core/catalog'
import { type MoneyEntry, type PaymentPlan, readAccount, type TermAccount } from '@ridgeway/core/money'
import type * as contract from '#shared/contract/acts/student'
import { DONE } from '#shared/contract/define'
import type { Doing } from '../college/asked'
import { type College, dateIn, findTerm, type KeptCollege, presentInstant } from '../college/college'
import { Refusal } from '../college/refusal'
import type { Database, Executor } from '../db/database'
import { type Given, keepChange, registeredIn, type Told } from '../db/store/changes'
import { readStamp } from '../db/store/college'
import {
  beginPayment, chosenPlan, clearHold, feeHold, findPayment, keepPlanChoice, markPayment, openBalances, paymentsOf, placeHold,
  type Posting, postings,
  readEntries,
} from '../db/store/money'
import { together } from '../db/store/plain'
import { lockSeats } from '../db/store/sections'
import { bumpStudents, lockStudent, writeLedger } from '../db/store/students'
import { whereSeatsGo } from './change'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>

/** How a student pays a term: as they chose, else the first of the college's plans. */
const planOf = (college: College, chosen: string | null): PaymentPlan =>
  college.money.plans.find(plan => plan.code === chosen) ?? college.money.plans[0]!

/** How the account of a term stands on a date. */
async function accountOf(db: Executor, college: College, student: number, term: Term, date: string):
Promise<{ account: TermAccount, entries: MoneyEntry[] }> {
  const entries = await readEntries(db, student, term.code)
  const plan = planOf(college, await chosenPlan(db, student, term.code))
  return { entries, account: readAccount(entries, { feesDue: term.feesDue, plan, policy: college.money, date }) }
}

/** Chooses in how many parts a term is paid, while nothing of it is due. */
export async function choosePlan({ tx, student, college, date, input }: Doing<Input<typeof contract.choosePlan>>) {
  const term = findTerm(college, input.term)
  if (!college.money.plans.some(plan => plan.code === input.plan))
    throw new Refusal(422, 'plan-unknown', 'The college has no such payment plan.', 'Choose one from the list.')
  if (date > term.feesDue)
    throw new Refusal(422, 'plan-late', `The fees of ${term.name} were due by ${term.feesDue}.`,
      'How they are paid can be chosen until then; pay what is due.')
  await keepPlanChoice(tx, student, term.code, input.plan)
  return DONE
}

/** Begins a payment of no more than is still to pay; the same key begins the same payment. */
export async function startPayment({ tx, student, college, at, date, input }: Doing<Input<typeof contract.startPayment>>) {
  const term = findTerm(college, input.term)
  const before = await findPayment(tx, input.key)
  if (before) {
    if (before.student !== student || before.cents !== input.cents || before.term !== term.code)
      throw new Refusal(409, 'key-used', 'This payment was begun before for something else.', 'Press the button again.')
    return { payment: before.id }
  }
  const { account } = await accountOf(tx, college, student, term, date)
  const onTheirWay = (await paymentsOf(tx, student, term.code)).filter(one => one.state === 'sent').reduce((sum, one) => sum + one.cents, 0)
  if (input.cents > account.balance - onTheirWay)
    throw new Refusal(422, 'too-much', onTheirWay > 0
      ? 'That is more than is left to pay while another payment is on its way.'
      : 'That is more than is to pay.', 'Pay what is open, or wait until the desk has answered.')
  await beginPayment(tx, { id: input.key, student, term: term.code, cents: input.cents, at })
  return { payment: input.key }
}

/** What the college owes goes back the way that it came. */
export async function askPayback({ tx, student, actor, college, at, date, input }: Doing<Input<typeof contract.askPayback>>) {
  const term = findTerm(college, input.term)
  const { account, entries } = await accountOf(tx, college, student, term, date)
  const before = entries.find(entry => entry.kind === 'payback' && entry.reference === input.key)
  if (before) return { cents: before.cents }
  if (account.balance >= 0)
    throw new Refusal(422, 'nothing-owed', 'The college owes you nothing for this term.', 'Look at the account again.')
  await post(tx, { student, term: term.code, at, date, actor, kind: 'payback', courses: [], cents: -account.balance, reference: input.key })
  return { cents: -account.balance }
}

const post = (tx: Executor, posting: Posting) => together(tx, postings(posting))

/**
 * The desk has answered. However often it answers, a payment is money once; an acceptance counts even after a refusal, since the card was
 * charged. Gives the student whose file changed, null where nothing did.
 */
export async function settlePayment(tx: Executor, kept: KeptCollege, id: string, accepted: boolean): Promise<number | null> {
  const begun = await findPayment(tx, id)
  if (!begun) return null
  const locked = await lockStudent(tx, begun.student)
  const payment = await findPayment(tx, id)
  if (!locked || !payment || payment.state === 'accepted' || (payment.state === 'refused' && !accepted)) return null
  const college = await kept.at(tx, locked.catalog)
  const at = presentInstant(await readStamp(tx))
  const date = dateIn(at, college.zone)
  const { student } = payment
  await markPayment(tx, id, accepted ? 'accepted' : 'refused', at)
  if (accepted) {
    await post(tx, { student, term: payment.term, at, date, actor: student, kind: 'payment', courses: [], cents: payment.cents,
      reference: id })
    await clearIfPaid(tx, college, student, findTerm(college, payment.term), at)
  }
  await bumpStudents(tx, [student])
  return student
}

const ruleOf = (term: Term) => `fees ${term.code}`

async function clearIfPaid(tx: Executor, college: College, student: number, term: Term, at: string) {
  const { account } = await accountOf(tx, college, student, term, dateIn(at, college.zone))
  if (account.overdue > 0) return
  if (await clearHold(tx, student, ruleOf(term), at) > 0)
    await writeLedger(tx, { at, actor: null, student, action: 'clear hold', detail: { term: term.code, rule: 'fees paid' } })
}

/** Accounts that are looked at in one go at most. */
const MOST_AT_ONCE = 500
/** The student up to whom accounts were looked at: the next turn goes on from there, and begins anew at the end. */
let lookedUpTo = 0

/**
 * What is unpaid when its time is over: while courses can still be added the registration of the term is voided, with the seats for those
 * who wait and nothing left to pay; later a hold stands until it is paid. Any server may do it at any time. Tells whose files changed.
 */
export async function collectFees(database: Database, kept: KeptCollege): Promise<number[]> {
  const open = await database.read(async (db) => {
    const stamp = await readStamp(db)
    const college = await kept.at(db, stamp.catalog)
    const date = dateIn(presentInstant(stamp), college.zone)
    const due = college.catalog.terms.filter(term => shiftDate(term.feesDue, college.money.graceDays) < date && term.scheduled)
    return due.length > 0 ? openBalances(db, due.map(term => term.code), lookedUpTo, MOST_AT_ONCE) : []
  })
  lookedUpTo = open.length < MOST_AT_ONCE ? 0 : open.at(-1)!.student
  const changed: number[] = []
  for (const { student, term } of open)
    if (await database.write(tx => collect(tx, kept, student, term))) changed.push(student)
  return changed
}

async function collect(tx: Executor, kept: KeptCollege, student: number, code: string): Promise<boolean> {
  const locked = await lockStudent(tx, student)
  if (!locked) return false
  const college = await kept.at(tx, locked.catalog)
  const term = findTerm(college, code)
  const at = presentInstant(await readStamp(tx))
  const date = dateIn(at, college.zone)
  const { account } = await accountOf(tx, college, student, term, date)
  const gone = await registeredIn(tx, student, code, null)
  if (account.voidAfter !== null && account.voidAfter < date && date <= lastToAdd(term) && gone.length > 0) {
    await voidTerm(tx, { student, term, at, date, gone })
    await bumpStudents(tx, [student])
    return true
  }
  if (account.overdue === 0 || date <= lastToAdd(term) || await feeHold(tx, student, ruleOf(term))) return false
  await placeHold(tx, { student, rule: ruleOf(term), reason: `Fees of ${term.name} are overdue`, contact: 'bursar@larkmoor.example', at })
  await writeLedger(tx, { at, actor: null, student, action: 'place hold', detail: { term: code, rule: 'fees overdue' } })
  await bumpStudents(tx, [student])
  return true
}

/** All that a student is registered for in a term is taken back, as if it had never been charged. */
async function voidTerm(tx: Executor, { student, term, at, date, gone }: {
  student: number
  term: Term
  at: string
  date: string
  gone: readonly Given[]
}) {
  await lockSeats(tx, [...new Set(gone.map(one => one.pool))].sort((a, b) => a - b))
  const { held, freed } = await whereSeatsGo(tx, { gone, claims: [], addBy: () => lastToAdd(term), date })
  const courses = new Map<string, number>()
  for (const one of gone) courses.set(one.course, (courses.get(one.course) ?? 0) + one.tuition + one.fees)
  const key = `void ${term.code} ${at}`.slice(0, 40)
  await keepChange(tx, {
    student, actor: null, at, term: term.code, key, asked: key, gone, held, freed, claims: [], offered: [], entries: [], rows: [],
    withdrawn: [], result: { voided: [...courses.keys()] },
    money: postings({ student, term: term.code, at, date, actor: null, kind: 'void', reference: key,
      courses: [...courses].map(([course, cents]) => ({ course, cents })) }),
    told: gone.map((one): Told => ({ action: 'void', section: one.section, pool: one.pool, detail: { course: one.course,
      because: 'unpaid' } })),
  })
}
