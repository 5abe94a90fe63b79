import { linked, sameCourse } from '../catalog/linked'
import type { CourseItem } from '../catalog/types'
import { coursesNamed, readCourseRules, restsOn } from '../prerequisites/evaluate'
import { byFirmness } from '../record/attempts'
import { factsOf } from '../record/facts'
import type { ProgramReport } from '../requirements/report'
import { countsForRule, type ProgramCreditsRule } from '../requirements/rules'
import type { CheckInput } from './checks'

/**
 * Courses that count for nothing: no line of any program uses them, no program's total needs their credits, and nothing that counts
 * has them as its prerequisite or corequisite. Without a program nothing can be said, and so nothing counts for nothing.
 */
export function findOffPath(input: Pick<CheckInput, 'file' | 'items' | 'catalog'>, reports: readonly ProgramReport[]): CourseItem[] {
  if (reports.length === 0) return []
  const known = reports[0]!.couldCount
  const needed = new Set<string>()
  for (const report of reports) {
    const unused = new Set(report.unused.map(item => item.id))
    for (const item of input.items) if (item.id in known && !unused.has(item.id)) needed.add(item.id)
    for (const item of countsInTotal(report)) needed.add(item.id)
    const program = input.catalog.programs.find(one => one.code === report.code)
    for (const rule of program?.rules ?? [])
      if (rule.kind === 'credits' && !rule.used)
        for (const item of countsInRule(rule, report, needed, input.catalog.courses)) needed.add(item.id)
  }
  supportNeeded(needed, input)
  return input.items.filter(item => (item.id in known || item.state !== 'completed') && !needed.has(item.id))
}

/**
 * Unused items whose credits the program's total asks for besides what its lines use and will use, firmest and earliest first;
 * what goes beyond the total is not needed.
 */
function countsInTotal(report: ProgramReport): CourseItem[] {
  if (!report.rules.some(rule => rule.reading.kind === 'total')) return []
  const unused = new Set(report.unused.map(item => item.id))
  let lacking = report.totalCredits - report.open - report.earning.reduce((sum, item) => unused.has(item.id) ? sum : sum + item.credits, 0)
  return report.earning.filter(item => unused.has(item.id)).sort(byFirmness).filter((item) => {
    if (lacking <= 0) return false
    lacking -= item.credits
    return true
  })
}

/**
 * Items whose credits a rule of the program still lacks with those that are needed anyway, firmest and earliest first; what goes beyond
 * the rule is not needed.
 */
function countsInRule(rule: ProgramCreditsRule, report: ProgramReport, needed: ReadonlySet<string>,
  courses: CheckInput['catalog']['courses']): CourseItem[] {
  const mine = report.earning.filter(item => countsForRule(rule, item, linked(courses))).sort(byFirmness)
  // What fills the open lines will count as well, unless the rule asks for courses of a kind.
  const toCome = rule.filter ? 0 : report.open
  let lacking = rule.credits - toCome - mine.reduce((sum, item) => needed.has(item.id) ? sum + item.credits : sum, 0)
  return mine.filter((item) => {
    if (lacking <= 0 || needed.has(item.id)) return false
    lacking -= item.credits
    return true
  })
}

/** Adds what the needed courses rest on, and what that rests on: prerequisites and corequisites that hold because of it. */
function supportNeeded(needed: Set<string>, { file, items, catalog }: Pick<CheckInput, 'file' | 'items' | 'catalog'>) {
  const loose = items.filter(item => item.state !== 'completed' && !needed.has(item.id))
  if (loose.length === 0) return
  const wanted = new Set(loose.flatMap(item => sameCourse(item.course, catalog.courses)))
  const facts = factsOf(file, items)
  const byId = new Map(items.map(item => [item.id, item]))
  const queue = [...needed].flatMap(id => byId.get(id) ?? []).filter(item => item.state !== 'completed')
  for (let item = queue.pop(); item !== undefined; item = queue.pop()) {
    const course = catalog.courses.get(item.course)
    if (!course || !item.term) continue
    if (!coursesNamed(course).some(code => wanted.has(code))) continue
    const { before, beside } = readCourseRules(course, item.term, facts, catalog)
    const leaves = [before, beside].flatMap(rule => rule && rule.firmness !== 'unmet' ? restsOn(rule.reason) : [])
    for (const { expression } of leaves) {
      if (expression.kind !== 'course') continue
      const accepted = sameCourse(expression.course, catalog.courses)
      for (const other of loose) {
        if (needed.has(other.id) || !accepted.includes(other.course)) continue
        needed.add(other.id)
        queue.push(other)
      }
    }
  }
}
