import type { CourseCode, Credits, Instant, LocalDate, TermName } from '../catalog/types'
import type { Cents } from '../money/types'
import { openingFor, type OpeningRule } from '../registration/gates'

/** What needs the registrar's office. */
export type OfficeNeed
  = | { code: 'registration closed', term: TermName, because: string }
    | { code: 'import refused', at: Instant, problems: number, first: string }
  /** Somebody is let in soon, or a short while ago; who of them could not press yet, for which reason. */
    | ({ code: 'opening' } & ComingOpening)
  /** Students whom no opening of a term with sections lets in. */
    | { code: 'no opening', term: TermName, students: number }
    | { code: 'questions', count: number, first: { student: number, name: string } }
    | { code: 'waiting', sections: number, students: number, most: Waiting }
    | { code: 'over-wished', courses: number, most: readonly Wished[] }
    | { code: 'unpaid', term: TermName, students: number, cents: Cents, by: LocalDate, days: number }
    | { code: 'no advisor', students: number }
    | { code: 'holds', count: number }
    | { code: 'unconfirmed', count: number }
    | { code: 'catalog', problems: number }

interface Waiting { section: number, course: CourseCode, label: string, waiting: number }
interface ComingOpening {
  from: Instant
  isOpen: boolean
  who: string
  students: number
  unsigned: number
  held: number
  unconfirmed: number
}
/** A course that more students plan than have seats. */
interface Wished { course: CourseCode, planned: number, seats: number }

/** A student as openings see them, and what keeps them from pressing. */
export interface Comer {
  id: number
  programs: readonly string[]
  earned: Credits
  unsigned: boolean
  held: boolean
  unconfirmed: boolean
}

/** Days for which openings are told beforehand, and hours for which they are told after they began. */
const OPENINGS_DAYS = 7
const OPENED_HOURS = 24
/** Days before the due date from which those who have not paid are told. */
const UNPAID_DAYS = 21

/** For each opening of a term how many students it is the first for; those whom none lets in come last. */
export function comersOf<C extends Pick<Comer, 'programs' | 'earned'>>(openings: readonly OpeningRule[], comers: readonly C[]):
{ by: Map<OpeningRule, C[]>, without: C[] } {
  const by = new Map<OpeningRule, C[]>(openings.map(rule => [rule, []]))
  const without: C[] = []
  for (const comer of comers) {
    const rule = openingFor(openings, comer.programs, comer.earned)
    if (rule) by.get(rule)!.push(comer)
    else without.push(comer)
  }
  return { by, without }
}

/** Whose first moment moves when the openings of a term are replaced by others, by how many students. */
export function openingsEffect(before: readonly OpeningRule[], after: readonly OpeningRule[],
  comers: readonly Pick<Comer, 'programs' | 'earned'>[]) {
  const effect = { earlier: 0, later: 0, gained: 0, lost: 0 }
  for (const { programs, earned } of comers) {
    const [was, is] = [openingFor(before, programs, earned)?.from, openingFor(after, programs, earned)?.from]
    if (was === is) continue
    if (was === undefined) effect.gained++
    else if (is === undefined) effect.lost++
    else if (is < was) effect.earlier++
    else effect.later++
  }
  return effect
}

export interface OfficeNow {
  now: Instant
  today: LocalDate
  term: TermName & { scheduled: boolean, closedBecause: string | null, feesDue: LocalDate }
  openings: readonly OpeningRule[]
  comers: readonly Comer[]
  refusedImport: { at: Instant, problems: number, first: string } | null
  questions: readonly { student: number, name: string }[]
  waiting: readonly Waiting[]
  demand: readonly Wished[]
  unpaid: { students: number, cents: Cents }
  withoutAdvisor: number
  holds: number
  catalogProblems: number
}

/** What the office has to do, most pressing first: what keeps students out now, then what will soon, then what can wait. */
export function officeNeeds(input: OfficeNow): OfficeNeed[] {
  const { term, now, comers } = input
  const name = { code: term.code, name: term.name }
  const needs: OfficeNeed[] = []
  const add = (need: OfficeNeed | false | null) => need && needs.push(need)
  add(term.closedBecause !== null && { code: 'registration closed', term: name, because: term.closedBecause })
  add(input.refusedImport && { code: 'import refused', ...input.refusedImport })
  const { by, without } = comersOf(input.openings, comers)
  const soon = shift(now, OPENINGS_DAYS * 24)
  const since = shift(now, -OPENED_HOURS)
  for (const [rule, students] of [...by].sort((a, b) => a[0].from < b[0].from ? -1 : 1)) {
    if (rule.from < since || rule.from > soon || students.length === 0) continue
    const having = (what: 'unsigned' | 'held' | 'unconfirmed') => students.filter(one => one[what]).length
    add({ code: 'opening', from: rule.from, isOpen: rule.from <= now, who: rule.words, students: students.length,
      unsigned: having('unsigned'), held: having('held'), unconfirmed: having('unconfirmed') })
  }
  const [first] = input.questions
  add(first !== undefined && { code: 'questions', count: input.questions.length, first })
  add(term.scheduled && without.length > 0 && { code: 'no opening', term: name, students: without.length })
  const waiting = input.waiting.filter(one => one.waiting > 0).sort((a, b) => b.waiting - a.waiting)
  add(waiting.length > 0 && { code: 'waiting', sections: waiting.length, students: waiting.reduce((sum, one) => sum + one.waiting, 0),
    most: waiting[0]! })
  const over = input.demand.filter(one => one.planned > one.seats).sort((a, b) => (b.planned - b.seats) - (a.planned - a.seats))
  add(over.length > 0 && { code: 'over-wished', courses: over.length, most: over.slice(0, 3) })
  const days = Math.round((Date.parse(term.feesDue) - Date.parse(input.today)) / 86_400_000)
  add(input.unpaid.students > 0 && days >= 0 && days <= UNPAID_DAYS && { code: 'unpaid', term: name, ...input.unpaid, by: term.feesDue,
    days })
  add(input.withoutAdvisor > 0 && { code: 'no advisor', students: input.withoutAdvisor })
  add(input.catalogProblems > 0 && { code: 'catalog', problems: input.catalogProblems })
  add(input.holds > 0 && { code: 'holds', count: input.holds })
  const unconfirmed = comers.filter(one => one.unconfirmed).length
  add(unconfirmed > 0 && { code: 'unconfirmed', count: unconfirmed })
  return needs
}

const shift = (instant: Instant, hours: number): Instant => new Date(Date.parse(instant) + hours * 3_600_000).toISOString()
