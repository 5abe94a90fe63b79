import { linked } from '../catalog/linked'
import { gatesAgainst } from './alone'
import { decideRows, Run } from './decide'
import { candidateOf, type DecisionContext, type LineUpRow, type RowDecision } from './decision'
import type { Finding } from './findings'

/**
 * The one decision about registering: used by the dry run, by the Week's "can take" and by the registration itself.
 * Every row is checked against every rule, without stopping at the first refusal. Rows are served in the student's order:
 * the first row registers if it can at all, with the partners from the line-up that its rules ask for; then the next.
 * So no other set of rows that holds together has an earlier row in it, or one row more.
 */
export function decideRun(rows: readonly LineUpRow[], context: DecisionContext): RowDecision[] {
  const closed = rows.map(row => gatesAgainst(row.course, context))
  if (rows.length === 0 || closed.some(gates => gates.length === 0)) return decideOpen(rows, context)
  // A closed gate refuses every row; what else there is to say, backups and waitlists among it, is said as if it were open.
  return decideOpen(rows, { ...context, gates: [] }).map((decision, i): RowDecision => ({ ...decision, outcome: 'refused',
    once: decision.outcome, findings: [...closed[i]!, ...decision.findings], claims: [] }))
}

function decideOpen(rows: readonly LineUpRow[], context: DecisionContext): RowDecision[] {
  const first = decideRows(rows, context)
  if (first.every((one, i) => one.outcome === 'register' || (!rows[i]!.backups?.length && !rows[i]!.waitIfFull))) return first
  const { decisions, choices } = withBackups(rows, first, context)
  // Only the last reading counts: a backup of one row may stand in the way of another row's first choice.
  return decisions.map((decision, i): RowDecision => {
    if (decision.outcome === 'register') return { ...decision, backup: choices[i]! }
    return rows[i]!.waitIfFull && isFullOnly(decision) ? waitFor(decision, context) : decision
  })
}

/** What refuses it is only that it has no seats, or is not given any more: another bundle is wanted, nothing else. */
const WANTS_ANOTHER: readonly Finding['code'][] = ['seats-full', 'section-cancelled', 'section-unknown']
const wantsAnother = ({ outcome, findings }: RowDecision) =>
  outcome === 'refused' && findings.every(finding => finding.ok || WANTS_ANOTHER.includes(finding.code))
const isFullOnly = ({ outcome, findings }: RowDecision) =>
  outcome === 'refused' && findings.every(finding => finding.ok || finding.code === 'seats-full')

/**
 * Rows whose first choice has no seat take their backups in order, the first row first; a backup that is refused for anything makes way
 * for the next. So does a first choice that would have registered but for the backup of another row. Where no backup helps, the row is
 * decided with its first choice, beside what the other rows come to.
 */
function withBackups(rows: readonly LineUpRow[], first: readonly RowDecision[], context: DecisionContext) {
  const choices = rows.map(() => 0)
  const bundleOf = (row: LineUpRow, choice: number) => choice === 0 ? row.sectionIds : row.backups![choice - 1]!
  const read = () => decideRows(rows.map((row, i) => ({ ...row, sectionIds: bundleOf(row, choices[i]!) })), context)
  let decisions = [...first]
  for (;;) {
    const next = decisions.findIndex((decision, i) => decision.outcome === 'refused' && choices[i]! < (rows[i]!.backups?.length ?? 0)
      && (choices[i]! > 0 || first[i]!.outcome === 'register' || wantsAnother(decision)))
    if (next < 0) break
    choices[next]!++
    decisions = read()
  }
  const given = decisions.map(decision => decision.outcome === 'register')
  if (given.some((registers, i) => !registers && choices[i]! > 0)) {
    choices.forEach((_, i) => given[i] || (choices[i] = 0))
    decisions = read()
  }
  return { decisions, choices }
}

/** Joins the waitlists of the parts that are full; refused where one of them has no room. */
function waitFor(decision: RowDecision, { sections, waitlisted }: DecisionContext): RowDecision {
  const full = decision.findings.flatMap(finding => finding.code === 'seats-full' && !finding.ok ? [finding.label] : [])
  const parts = decision.sectionIds.flatMap(id => sections.get(id) ?? []).filter(section => full.includes(section.label))
  const closed = parts.find(section => section.waiting >= section.waitlistCapacity && !waitlisted?.has(section.id))
  if (closed) {
    const finding: Finding = { code: 'waitlist-full', ok: false, course: decision.course, label: closed.label, waiting: closed.waiting }
    return { ...decision, findings: [...decision.findings, finding] }
  }
  const waits = parts.filter(section => !waitlisted?.has(section.id)).map(section => ({ sectionId: section.id,
    place: section.waiting + 1 }))
  const there = parts.find(section => waitlisted?.has(section.id))
  if (waits.length === 0 && there) {
    const finding: Finding = { code: 'waiting-already', ok: false, course: decision.course, label: there.label }
    return { ...decision, findings: [...decision.findings, finding] }
  }
  return { ...decision, outcome: 'waitlist', waits }
}

/**
 * What would become of one more row after a line-up, for as many rows as are asked about: the same decision as a run in which it comes
 * last, with all that the line-up comes to worked out once. Where a row of the line-up waits for the new course, the whole run is read.
 */
export function decideBeside(rows: readonly LineUpRow[], context: DecisionContext): (row: LineUpRow) => RowDecision {
  const courses = linked(context.courses)
  const inside = { ...context, courses }
  // What stands beside it is what the run would come to: a backup where a first choice is full.
  const settled = rows.some(row => row.backups?.length)
    ? decideRun(rows, context).map(({ sectionIds }, i) => ({ ...rows[i]!, sectionIds }))
    : rows
  const candidates = settled.map(row => candidateOf(row, inside))
  const run = new Run(candidates, inside)
  run.decide()
  return row => run.waitsFor(row.course) ? decideRows([...rows, row], context).at(-1)! : run.decideOne(candidateOf(row, inside))
}
