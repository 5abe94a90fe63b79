import type { CourseCode, LocalDate, TermCode } from '../catalog/types'

/** Money is whole cents everywhere; never a fraction, never a float that was divided and kept. */
export type Cents = number

/** One way of paying a term: parts that follow each other from its due date. */
export interface PaymentPlan {
  code: string
  name: string
  /** Days after the due date of the term, and the share of the whole in percent; the shares add up to 100. */
  parts: { days: number, percent: number }[]
}

/** What an institution asks, gives back, and how long it waits. */
export interface MoneyPolicy {
  /** Tuition of a credit by residence band. */
  bands: { code: string, name: string, perCredit: Cents }[]
  /** What every section costs that meets at a site. */
  siteFees: Record<string, Cents>
  /** Of what a course cost, so many percent come back while no more than this share of its session, in percent, has gone by. */
  refunds: { share: number, percent: number }[]
  /** The first is what it is unless another is chosen. */
  plans: PaymentPlan[]
  /** Days that somebody has who registers late: a charge is due no earlier than so many days after it came about. */
  lateDays: number
  /** Days after the due date until a registration that is unpaid is voided. */
  graceDays: number
}

/** What one course costs: tuition by its credits, and fees of the course, its sections and their sites. */
export interface Price { tuition: Cents, fees: Cents }

/**
 * What can happen on an account. A charge takes from the student, everything else gives to them; `payback` is what the college sends
 * back of money that was paid.
 */
type MoneyKind = 'charge' | 'refund' | 'void' | 'payment' | 'payback'

/** One line of an account; cents are never negative, the kind tells which way they went. */
export interface MoneyEntry {
  id: number
  at: string
  /** The date in the college's zone. */
  date: LocalDate
  term: TermCode
  kind: MoneyKind
  cents: Cents
  /** Courses that it is about, with what each comes to. */
  courses: { course: CourseCode, cents: Cents }[]
  /** The reference of a run or the receipt of a payment. */
  reference: string
}

/** What is owed on a date, and since when it could not be paid later. */
export interface DuePart {
  due: LocalDate
  cents: Cents
  /** What of it is not paid. */
  open: Cents
  /** Which part of the plan, from 0; the first one decides whether the registration stays. */
  part: number
}
