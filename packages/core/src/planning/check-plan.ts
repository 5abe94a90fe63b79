import type { Credits } from '../catalog/types'
import { lineRef } from '../record/ids'
import { creditsToTotal } from '../requirements/reach'
import type { ProgramReport, ProgramSums } from '../requirements/report'
import { isBelow } from '../requirements/rules'
import type { CheckFinding, CheckInput, PlanCheck } from './checks'
import { findProblems, isIntended } from './find-problems'
import { findOffPath } from './off-path'
import type { Placeholder } from './plan'

/** All checks: what the rules and wishes say, what counts for nothing, and what of the programs the plan does not reach. */
export function checkPlan(input: CheckInput, reports: readonly ProgramReport[]): PlanCheck[] {
  return [
    ...findProblems(input),
    ...findOffPath(input, reports).filter(isIntended).map((item): PlanCheck => ({
      id: `counts for nothing:${item.id}`,
      kind: 'counts for nothing',
      severity: 'caution',
      itemId: item.id,
      course: item.course,
      term: item.term!,
    })),
    ...reports.flatMap(report => findUnreached(report, input.file.placeholders)),
  ]
}

/** What a program asks as a whole and the plan does not bring: areas with something open, overlays, totals, averages. */
function findUnreached(report: ProgramReport, placeholders: readonly Placeholder[]): PlanCheck[] {
  const about = (id: string, finding: CheckFinding): PlanCheck => ({ ...finding, id: `${finding.kind}:${report.code}/${id}`,
    severity: 'caution', itemId: null, course: null, term: null })
  const open = report.open - heldCredits(report, placeholders)
  const overlays = report.overlays.filter(line => line.open > heldFor(report, line.id, placeholders))
  const rules = report.rules.flatMap((rule) => {
    const { reading } = rule
    if (reading.kind === 'milestone' || rule.state !== 'open') return []
    if (reading.kind === 'gpa') return !isBelow(rule) ? [] : [about(rule.id, { kind: 'gpa', program: report.title, rule })]
    const held = heldOf(report, placeholders)
    // While lines are open, their credits are lacking in the total as well: one thing to mend, said once.
    if (open > 0 || (reading.kind === 'total' && reading.withPlan + held >= reading.asked)) return []
    return [about(rule.id, { kind: 'not reached', program: report.title, lacks: { rule, held: reading.kind === 'total' ? held : 0 } })]
  })
  return [
    ...open > 0 ? [about('open', { kind: 'not reached', program: report.title, lacks: { open } })] : [],
    ...overlays.map(line =>
      about(`overlay-${line.id}`, { kind: 'not reached', program: report.title, lacks: { overlay: line.title, open: line.open } }),
    ),
    ...rules,
  ]
}

/** Whether a program's lines and its total are all covered by record, plan and the places held. */
export function isCovered(report: ProgramSums, placeholders: readonly Placeholder[]): boolean {
  return report.open - heldCredits(report, placeholders) === 0
    && report.overlays.every(line => line.open <= heldFor(report, line.id, placeholders))
    && lackingInTotal(report, placeholders) === 0
}

/** Credits that a program's total lacks with record, plan and places held; 0 where it has no total. */
export const lackingInTotal = (report: ProgramSums, placeholders: readonly Placeholder[]): Credits =>
  Math.max(0, creditsToTotal(report) - heldOf(report, placeholders))

const heldFor = (report: ProgramSums, line: string, placeholders: readonly Placeholder[]): Credits =>
  placeholders.reduce((sum, place) => place.line === lineRef(report.code, line) ? sum + place.credits : sum, 0)

/** Credits that places held for a program's lines will bring, whatever the lines lack. */
export const heldOf = (report: ProgramSums, placeholders: readonly Placeholder[]): Credits =>
  report.areas.flatMap(area => area.lines).reduce((sum, line) => sum + heldFor(report, line.id, placeholders), 0)

/** Credits that placeholders hold of what a program has open: never more than each line lacks. */
export function heldCredits(report: ProgramSums, placeholders: readonly Placeholder[]): Credits {
  return report.areas.flatMap(area => area.lines).reduce(
    (sum, line) => line.setAside ? sum : sum + Math.min(heldFor(report, line.id, placeholders), line.open),
    0,
  )
}
