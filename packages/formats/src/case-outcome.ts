import type { CourseItem } from '@ridgeway/core/catalog'
import { classStanding } from '@ridgeway/core/grades'
import {
  applyAll, draftRest, EMPTY_PLAN, gradesAskedOf, movesFor, type PlanCheck, type PlanMove, projectPlan, reachOf,
  readPace, readStanding, type Standing,
} from '@ridgeway/core/planning'
import { checkCatalog, type Expression, printExpression, readCourseRules } from '@ridgeway/core/prerequisites'
import { factsOf, readCredit } from '@ridgeway/core/record'
import { decideRun, type RowDecision } from '@ridgeway/core/registration'
import {
  earliestFinish, explainUse, findCandidates, findUnreachable, type LineReport, type ProgramReport, smallestSet,
} from '@ridgeway/core/requirements'
import { describeLine, sayCheck, sayFinding, sayLacking, sayUseChange } from '@ridgeway/words'
import { type CaseWorld, matchesItem, refOf } from './case-given'
import type { Expectations, LineExpectation } from './case-schema'

/** One expectation that does not hold: what it is about, what was expected, and what came out. */
export interface Mismatch {
  about: string
  expected: unknown
  actual: unknown
}

const credits = (value: number) => value / 100

/** Works a case out and holds it against what is expected; nothing comes back when all of it holds. */
export function compareCase(world: CaseWorld, expect: Expectations): Mismatch[] {
  const found: Mismatch[] = []
  const compare = new Comparison(found)
  if (expect.catalog)
    compare.set('catalog', expect.catalog, checkCatalog(world.catalog.courses, world.catalog.scale).map(problem =>
      problem.code === 'ring'
        ? `ring ${problem.courses.join(', ')}`
        : problem.code === 'unknown course'
          ? `unknown course ${problem.names}`
          : `unreadable rule ${problem.course}`,
    ))
  const standing = readStanding(world.file, world.catalog, world.today)
  compare.value('earned', expect.earned, credits(standing.earned))
  compare.value('gpa', expect.gpa, standing.gpa.value === null ? null : credits(standing.gpa.value))
  compare.value('standing', expect.standing, classStanding(standing.earned))
  compare.value('open', expect.open, credits(standing.open))
  compare.value('finish', expect.finish, standing.finish)
  if (expect.offPath)
    compare.set('offPath', expect.offPath, namesOf(standing.items.filter(item => standing.offPath.includes(item.id)), expect.offPath))
  comparePrograms(world, standing, expect, compare)
  compareRules(standing, expect, compare)
  compareConditions(world, standing, expect, compare)
  compareChecks(world, standing, expect, compare)
  compareWindows(world, standing, expect, compare)
  if (expect.draft) compareDraft(world, expect.draft, compare)
  const decisions = expect.lineUp || expect.says ? decide(world, standing) : []
  compareLineUp(decisions, expect, compare)
  compareWords(world, standing, decisions, expect, compare)
  return found
}

/** Collects what differs. What is not expected is not compared. */
class Comparison {
  constructor(private readonly found: Mismatch[]) {}

  value(about: string, expected: unknown, actual: unknown) {
    if (expected !== undefined && JSON.stringify(expected) !== JSON.stringify(actual)) this.found.push({ about, expected, actual })
  }

  /** The same members, in whatever order. */
  set(about: string, expected: readonly string[] | undefined, actual: readonly string[]) {
    if (expected) this.value(about, [...expected].sort(), [...actual].sort())
  }

  with(about: string, expected: readonly string[], actual: readonly string[]) {
    for (const one of expected) if (!actual.includes(one)) this.found.push({ about: `${about}, with`, expected: one, actual })
  }

  without(about: string, unexpected: readonly string[], actual: readonly string[]) {
    for (const one of unexpected) if (actual.includes(one)) this.found.push({ about: `${about}, without`, expected: `not ${one}`, actual })
  }

  missing(about: string, expected: unknown) {
    this.found.push({ about, expected, actual: 'there is no such thing in this case' })
  }
}

/** Items named as the expectation names them: by course, or by course and term where it does. */
const namesOf = (items: readonly CourseItem[], expected: readonly string[]): string[] =>
  items.map(item => expected.includes(`${item.course} ${item.term}`) ? `${item.course} ${item.term}` : item.course)

const linesOf = (report: ProgramReport): LineReport[] => [...report.areas.flatMap(area => area.lines), ...report.overlays]

function lineAt(name: string, { reports }: Standing): { report: ProgramReport, line: LineReport } | null {
  const ref = refOf(name, reports)
  const report = reports.find(candidate => ref.startsWith(`${candidate.code}/`))
  const line = report && linesOf(report).find(candidate => ref === `${report.code}/${candidate.id}`)
  return report && line ? { report, line } : null
}

function comparePrograms(world: CaseWorld, standing: Standing, expect: Expectations, compare: Comparison) {
  for (const [name, expected] of Object.entries(expect.lines ?? {})) {
    const at = lineAt(name, standing)
    if (!at) compare.missing(`line ${name}`, expected)
    else compareLine(name, expected, at, world, standing, compare)
  }
  for (const [code, expected] of Object.entries(expect.programs ?? {})) {
    const report = standing.reports.find(candidate => candidate.code === code)
    if (!report) {
      compare.missing(`program ${code}`, expected)
      continue
    }
    for (const key of ['met', 'underWay', 'covered', 'open'] as const)
      compare.value(`program ${code}, ${key}`, expected[key], credits(report[key]))
    if (expected.unused) compare.set(`program ${code}, unused`, expected.unused, namesOf(report.unused, expected.unused))
    if (expected.earliestFinish !== undefined || expected.creditsLeft !== undefined) {
      const { reach, input } = reachOf(world.file, world.catalog, world.today)
      const bare = readStanding({ ...world.file, entries: [], placeholders: [] }, world.catalog, world.today).reports.find(candidate =>
        candidate.code === code,
      )!
      const finish = earliestFinish(bare, reach, input)
      compare.value(`program ${code}, earliest finish`, expected.earliestFinish, finish.term?.code ?? null)
      compare.value(`program ${code}, credits left`, expected.creditsLeft, credits(finish.creditsLeft))
    }
  }
}

function compareLine(name: string, expected: LineExpectation, { report, line }: { report: ProgramReport, line: LineReport },
  world: CaseWorld, standing: Standing, compare: Comparison) {
  const about = (part: string) => `line ${name}, ${part}`
  compare.value(about('state'), expected.state, line.state)
  if (expected.uses) compare.set(about('uses'), expected.uses, namesOf(line.uses.map(use => use.item), expected.uses))
  compare.value(about('needed'), expected.needed, credits(line.needed))
  compare.value(about('open'), expected.open, credits(line.open))
  compare.value(about('met'), expected.met, credits(line.filled.met))
  compare.value(about('under way'), expected.underWay, credits(line.filled.underWay))
  compare.value(about('covered'), expected.covered, credits(line.filled.covered))
  compare.set(about('unfilled'), expected.unfilled, line.unfilled)
  compare.value(about('set aside'), expected.setAside, line.setAside)
  compare.value(about('choose more'), expected.chooseMore,
    line.lacking?.code === 'amount' ? line.lacking.courses : line.lacking?.courses.length ?? 0)
  if (expected.lost !== undefined) {
    const { reach, input } = reachOf(world.file, world.catalog, world.today)
    const lost = findUnreachable(report, standing.items, reach, input)[line.id]
    if (typeof expected.lost === 'boolean') compare.value(about('lost'), expected.lost, lost !== undefined)
    else compare.set(about('lost because'), expected.lost, (lost?.reasons ?? []).map(why => why.code))
  }
  if (expected.smallest !== undefined || expected.smallestProved !== undefined) {
    const { reach } = reachOf(world.file, world.catalog, world.today)
    const found = smallestSet(standing.asked, standing.reports, standing.reports.indexOf(report), line.id,
      { reach, facts: factsOf(world.file, standing.items) })
    if (expected.smallest === null) compare.value(about('smallest set'), null, found)
    else compare.set(about('smallest set'), expected.smallest, found?.courses ?? [])
    compare.value(about('smallest proved'), expected.smallestProved, found?.proved ?? null)
  }
  if (expected.now ?? expected.later ?? expected.blocked ?? expected.fits) {
    const terms = world.catalog.terms.filter(term => term.start > world.today)
    const found = findCandidates({ line, workingTerm: world.lineUpTerm, terms, facts: factsOf(world.file, standing.items),
      rules: world.catalog })
    const codes = (list: typeof found.now) => list.map(candidate => candidate.course.code)
    compare.set(about('now'), expected.now, codes(found.now))
    compare.set(about('later'), expected.later, codes(found.later))
    compare.set(about('blocked'), expected.blocked, codes(found.blocked))
    compare.set(about('fits'), expected.fits, codes([...found.now, ...found.later, ...found.blocked]))
  }
}

function compareRules({ reports }: Standing, expect: Expectations, compare: Comparison) {
  for (const [name, expected] of Object.entries(expect.rules ?? {})) {
    const ref = refOf(name, reports)
    const rule = reports.flatMap(report => report.rules.map(one => ({ ref: `${report.code}/${one.id}`, one }))).find(candidate =>
      candidate.ref === ref,
    )?.one
    if (!rule) {
      compare.missing(`rule ${name}`, expected)
      continue
    }
    const { reading } = rule
    compare.value(`rule ${name}, state`, expected.state, rule.state)
    if (reading.kind === 'gpa') {
      compare.value(`rule ${name}, now`, expected.now, reading.now === null ? null : credits(reading.now))
      compare.value(`rule ${name}, outlook`, expected.outlook, reading.outlook?.code ?? null)
      const outlook = reading.outlook
      compare.value(`rule ${name}, average`, expected.average, outlook?.code === 'needs average' ? credits(outlook.average) : null)
      compare.value(`rule ${name}, over`, expected.over, outlook && 'credits' in outlook ? credits(outlook.credits) : null)
    }
    else if (reading.kind === 'maximum') {
      const told = (value: number) => reading.courses ? value : credits(value)
      compare.value(`rule ${name}, done`, expected.done, told(reading.used))
      compare.value(`rule ${name}, over`, expected.over, told(reading.over))
    }
    else if (reading.kind !== 'milestone') {
      compare.value(`rule ${name}, done`, expected.done, credits(reading.done))
      compare.value(`rule ${name}, with the plan`, expected.withPlan, credits(reading.withPlan))
    }
  }
}

function compareConditions(world: CaseWorld, standing: Standing, expect: Expectations, compare: Comparison) {
  for (const [name, expected] of Object.entries(expect.conditions ?? {})) {
    const [code, term] = [name.slice(0, name.lastIndexOf(' ')), name.slice(name.lastIndexOf(' ') + 1)]
    const course = world.catalog.courses.get(code)
    if (!course) {
      compare.missing(`conditions of ${name}`, expected)
      continue
    }
    const { before, beside, lifted } = readCourseRules(course, term, factsOf(world.file, standing.items), world.catalog)
    compare.value(`conditions of ${name}`, expected.firmness, lifted ? 'lifted' : before?.firmness ?? 'none')
    compare.value(`conditions of ${name}, beside`, expected.beside, beside?.firmness ?? 'none')
    const said = (set: readonly Expression[]) => set.map(one => printExpression(one)).sort()
    if (expected.missing)
      compare.value(`conditions of ${name}, missing`, expected.missing.map(set => [...set].sort()), (before?.missing ?? []).map(said))
  }
}

/** "prerequisite AAA 200", "over the cap 2027SP", "not reached P/total". */
function checkNames(check: PlanCheck): string[] {
  const about = check.course ?? check.term ?? check.id.slice(check.kind.length + 1)
  return [check.kind, `${check.kind} ${about}`, ...check.course && check.term ? [`${check.kind} ${check.course} ${check.term}`] : []]
}

const checkName = (check: PlanCheck) => checkNames(check)[1]!

function moveName({ move }: PlanMove): string {
  switch (move.code) {
    case 'take out':
      return `take out ${move.course}`
    case 'take the place out':
      return 'take the place out'
    case 'move here':
      return `move to ${move.term.code}`
    case 'move':
      return `move ${move.course} to ${move.term.code}`
    case 'place':
      return `place ${move.course} ${move.term.code}`
    case 'put back':
      return `put back ${move.term.code}`
  }
}

function compareChecks(world: CaseWorld, standing: Standing, expect: Expectations, compare: Comparison) {
  const names = standing.checks.flatMap(checkNames)
  compare.with('checks', expect.checks?.with ?? [], names)
  compare.without('checks', expect.checks?.without ?? [], names)
  if (expect.checks?.blockers)
    compare.set('blockers', expect.checks.blockers, standing.checks.filter(check => check.severity === 'blocker').map(checkName))
  for (const [name, moves] of Object.entries(expect.moves ?? {})) {
    const check = standing.checks.find(candidate => checkNames(candidate).includes(name))
    if (check) compare.with(`moves for ${name}`, moves, movesFor(check, world.file, world.catalog, world.today).map(moveName))
    else compare.missing(`check ${name}`, moves)
  }
}

function compareWindows(world: CaseWorld, standing: Standing, expect: Expectations, compare: Comparison) {
  if (expect.pace) {
    const { earning } = readCredit(standing.items, world.catalog)
    const pace = readPace({ earning, terms: world.catalog.terms, today: world.today, total: 0, behind: 0, finish: null })
    compare.value('pace so far', expect.pace.soFar, pace.soFar === null ? null : credits(pace.soFar))
  }
  if (!expect.windows) return
  const projection = projectPlan({ file: world.file, items: standing.items, catalog: world.catalog, today: world.today })
  for (const [name, expected] of Object.entries(expect.windows)) {
    const item = standing.items.find(candidate => matchesItem(candidate, name))
    const window = item && projection.windows[item.id]
    if (!window) {
      compare.missing(`window of ${name}`, expected)
      continue
    }
    compare.value(`window of ${name}, earliest`, expected.earliest, window.earliest)
    compare.value(`window of ${name}, latest`, expected.latest, window.latest)
    compare.value(`window of ${name}, slack`, expected.slack, window.slack)
  }
}

function compareDraft({ file, catalog, today, draft: wishes }: CaseWorld, expected: NonNullable<Expectations['draft']>,
  compare: Comparison) {
  const result = draftRest({ file, catalog, today, wishes })
  compare.value('draft', expected.result, result.kind)
  compare.value('draft, reason', expected.reason, result.kind === 'impossible' ? result.reason.code : null)
  const first = result.kind === 'drafts' ? result.drafts[0]! : null
  compare.value('draft, finish', expected.finish, first?.finish ?? null)
  compare.value('draft, shortest', expected.shortest, first?.shortest ?? null)
  const placed = (first?.placed ?? []).flatMap((
    { course, term, credits: amount },
  ) => [course, `${course} ${term}`, `${course} ${credits(amount)} cr`])
  compare.with('draft, places', expected.places ?? [], placed)
  compare.without('draft, places', expected.without ?? [], placed)
  if (expected.clean !== undefined) {
    const plan = first && applyAll({ ...EMPTY_PLAN, entries: file.entries, placeholders: file.placeholders }, first.operations)
    const after = plan && typeof plan !== 'string' ? readStanding({ ...file, entries: plan.entries }, catalog, today) : null
    compare.value('draft, clean', expected.clean, after !== null && after.checks.every(check =>
      check.severity !== 'blocker' && check.kind !== 'not reached',
    ))
  }
}

function decide(world: CaseWorld, { items }: Standing): RowDecision[] {
  const { file, catalog, lineUpTerm } = world
  return decideRun(world.lineUp, {
    ...factsOf(file, file.record),
    courses: catalog.courses,
    scale: catalog.scale,
    repeatPolicy: catalog.repeatPolicy,
    term: lineUpTerm,
    terms: catalog.terms,
    gates: [],
    sections: new Map(world.sections.map(section => [section.id, section])),
    travel: world.travel,
    asked: gradesAskedOf({ file, items, catalog }),
    loadCap: file.capRaised[lineUpTerm.code] ?? lineUpTerm.loadCap,
    registered: world.registered,
  })
}

function compareLineUp(decisions: readonly RowDecision[], expect: Expectations, compare: Comparison) {
  for (const [course, expected] of Object.entries(expect.lineUp ?? {})) {
    const row = decisions.find(candidate => candidate.course === course)
    if (!row) {
      compare.missing(`line-up ${course}`, expected)
      continue
    }
    const refused = row.findings.filter(finding => !finding.ok)
    compare.value(`line-up ${course}`, expected.outcome, row.outcome)
    compare.set(`line-up ${course}, refusals`, expected.codes, refused.map(finding => finding.code))
    compare.value(`line-up ${course}, credits`, expected.credits, credits(row.credits))
    const clash = refused.find(finding => finding.code === 'clash')
    compare.value(`line-up ${course}, clash with`, expected.clashWith, clash?.code === 'clash' ? clash.course : null)
    const timed = refused.find(finding => finding.code === 'clash' || finding.code === 'own-clash')
    compare.value(`line-up ${course}, first on`, expected.firstOn, timed && 'clash' in timed ? timed.clash.date : null)
    const named = refused.find(finding => 'by' in finding)
    compare.value(`line-up ${course}, by`, expected.by, named && 'by' in named ? named.by : null)
    const partner = refused.find(finding => finding.code === 'partner-refused')
    compare.set(`line-up ${course}, partner's refusals`, expected.partnerCodes,
      partner?.code === 'partner-refused' ? partner.because.map(finding => finding.code) : [])
  }
}

function compareWords(world: CaseWorld, standing: Standing, decisions: readonly RowDecision[], expect: Expectations, compare: Comparison) {
  for (const [about, expected] of Object.entries(expect.says ?? {})) {
    const said = sayOne(about, world, standing, decisions)
    if (said === null) compare.missing(`words on ${about}`, expected)
    else compare.value(`words on ${about}`, expected, said)
  }
}

function sayOne(about: string, world: CaseWorld, standing: Standing, decisions: readonly RowDecision[]): string | null {
  const [what, ...rest] = about.split(' ')
  const name = rest.join(' ')
  switch (what) {
    case 'rule': {
      const at = lineAt(name, standing)
      return at && describeLine(at.line.rule)
    }
    case 'lacking': {
      const at = lineAt(name, standing)
      return at && sayLacking(at.line.lacking)
    }
    case 'check': {
      const check = standing.checks.find(candidate => checkNames(candidate).includes(name))
      return check ? sayCheck(check) : null
    }
    case 'refusal': {
      const row = decisions.find(candidate => candidate.course === rest.slice(0, 2).join(' '))
      const finding = row?.findings.find(one => !one.ok && one.code === rest[2])
      return finding ? sayFinding(finding).words : null
    }
    case 'use': {
      const [course, line] = name.split(' on ') as [string, string]
      const at = lineAt(line, standing)
      const index = at ? standing.reports.indexOf(at.report) : -1
      const item = standing.items.find(candidate => matchesItem(candidate, course))
      const change = item && at
        ? explainUse(standing.asked, standing.reports, index,
            item.id).find(one => one.lineId === at.line.id)
        : undefined
      return change ? sayUseChange(change) : null
    }
    default:
      return null
  }
}
