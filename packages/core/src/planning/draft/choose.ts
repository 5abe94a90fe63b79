import { matchesFilter } from '../../catalog/filter'
import { sameCourse } from '../../catalog/linked'
import type { Course, CourseCode, CourseItem, Credits } from '../../catalog/types'
import { STANDING_CREDITS } from '../../grades/status'
import { countsFor, coursesNamed, type CreditsRule, readCourseRules } from '../../prerequisites/evaluate'
import { ruleOf } from '../../prerequisites/rule-of'
import type { Expression } from '../../prerequisites/types'
import { readCredit } from '../../record/attempts'
import { factsOf } from '../../record/facts'
import { lineRef, type LineRef } from '../../record/ids'
import { excludedBy, takenAlready } from '../../record/repeats'
import { creditsToTotal, poolOf } from '../../requirements/reach'
import type { LineReport, ProgramReport } from '../../requirements/report'
import type { CourseLine, Program, RequirementNode } from '../../requirements/types'
import { heldOf, lackingInTotal } from '../check-plan'
import { readPrograms } from '../standing'
import { programsOf } from '../student-file'
import { reachedSlot, type Setting, slotsFor } from './setting'
import type { ChosenCourse } from './types'

/** How often what is open is read again; each round places a course for every line that lacks one. */
const MOST_ROUNDS = 60
/** Steps of the search for the best use, while choosing: a draft is read at full length before it is offered. */
const QUICK = 25
/** A term after all others: what is asked there is only whether a course comes at all. */
const EVER = '9998FA'

/** A line, a rule about the whole program, or what a course of the plan needs first, for which nothing was found. */
export type Unfound = { code: 'line' | 'rule', title: string, program: string } | { code: 'before', course: CourseCode }

export interface Choice {
  /** Courses to place besides the plan's own; one that is taken several times stands several times. */
  chosen: ChosenCourse[]
  /** What no course could be found for; empty when everything is covered. */
  lacking: Unfound[]
  /** Courses that had no alternative. */
  certain: ReadonlySet<string>
}

/** What courses are preferred, passed over, and taken in any case. */
export interface Taste {
  suggested: boolean
  banned?: ReadonlySet<string>
  also?: readonly string[]
}

/**
 * Chooses courses for all that the plan leaves open, with what must come before them: lines, then rules on credits and levels, then the
 * total.
 * Lines that name their courses are filled first; among several, a course is preferred that carries an overlay, a rule or a line of another
 * program as well, needs nothing else first, can be had early, and stands in the suggested sequence. A course whose credits vary is taken
 * for as many as the line lacks, one that may be repeated as often as it gives credit.
 */
export function chooseCourses(setting: Setting, taste: Taste): Choice {
  const chooser = new Chooser(setting, taste)
  return chooser.run()
}

class Chooser {
  private readonly programs: Program[]
  private readonly chosen: ChosenCourse[] = []
  private list: CourseItem[] | null = null
  private reading: { items: readonly CourseItem[], reports: readonly ProgramReport[] } | null = null
  private readonly certain = new Set<string>()
  private readonly inSequence: ReadonlySet<string>
  private readonly lost = new Set<string>()

  constructor(private readonly setting: Setting, private readonly taste: Taste) {
    this.programs = programsOf(setting.file, setting.catalog)
    this.inSequence = new Set(this.programs.flatMap(program => program.suggested.flatMap(step => step.courses)))
  }

  run(): Choice {
    // What stands in the plan already may lack something that must come first.
    const stuck = this.setting.entries.flatMap(({ course }): Unfound[] => {
      const before = this.needed(course)
      before?.forEach(code => this.add(code, true))
      return before === null ? [{ code: 'before', course }] : []
    })
    for (const code of this.taste.also ?? []) if (this.isPossible(code)) this.add(code, false)
    for (let round = 0; round < MOST_ROUNDS; round++) if (!this.fillOneRound(round) && !this.fillCredits()) break
    this.dropIdle()
    const reports = this.read()
    const { placeholders } = this.setting.file
    const lacking = reports.flatMap(report => [
      ...openLines(report, placeholders).map((line): Unfound => ({ code: 'line', title: line.title, program: report.title })),
      ...openRules(report, placeholders).map((rule): Unfound => ({ code: 'rule', title: rule.title, program: report.title })),
    ])
    return { chosen: [...this.chosen], lacking: [...stuck, ...lacking], certain: this.certain }
  }

  /** Reads what is open and chooses for it; false when nothing is left to do. */
  private fillOneRound(round: number): boolean {
    const { placeholders } = this.setting.file
    const reports = this.read()
    const open = reports.flatMap(report =>
      openLines(report, placeholders).map(line => ({ line, report, ref: lineRef(report.code, line.id) })),
    )
      .filter(({ ref }) => !this.lost.has(ref))
    const listed = open.filter(({ line }) => line.unfilled.length > 0)
    const before = this.chosen.length
    for (const one of listed) this.fillListed(one)
    if (this.chosen.length > before) return true
    const base = open.filter(({ line }) => !line.overlay)
    const overlays = open.filter(({ line }) => line.overlay && line.unfilled.length === 0)
    const choices = base.filter(({ line }) => line.unfilled.length === 0)
    const lenders = choices.length > 0 ? [] : this.lendersTo(listed, round)
    const wanted = choices.length > 0 ? choices : lenders.length > 0 ? lenders : overlays
    if (wanted.length === 0 && listed.length > 0) return true
    if (wanted.length === 0) return this.fillRules(reports)
    const carried = new Carried(overlays.map(one => one.line))
    // What comes along for one line, since something waits for it, may be what another lacks.
    const alongside: Course[] = []
    for (const { line, report, ref } of wanted) {
      const others = base.filter(one => one.report !== report).map(one => one.line)
      const fill = (lacking: Credits): boolean => {
        const from = this.chosen.length
        const best = this.rank(this.pool(line, report), carried.open(), others, lacking).find(course =>
          this.add(course.code, false, lacking),
        )
        const added = this.chosen.slice(from).map(one => this.setting.facts.courses.get(one.code)!)
        alongside.push(...added.filter(course => course !== best))
        added.forEach(course => carried.take(course))
        return best !== undefined
      }
      // A lender gives up one course; an overlay is carried by what other lines take. Only a line of its own is filled at once.
      const times = wanted === choices && line.unit > 0 ? Math.ceil(line.open / line.unit) : 1
      for (let n = 0; n < times; n++) {
        const there = n === 0 ? -1 : alongside.findIndex(course => matchesFilter(course, line.filter))
        if (there >= 0) alongside.splice(there, 1)
        else if (!fill(line.open - n * line.unit)) {
          if (n === 0) this.lost.add(ref)
          break
        }
      }
    }
    return true
  }

  /** Courses that a line names one by one: each, or the equivalent that can be had soonest. */
  private fillListed({ line, report, ref }: { line: LineReport, report: ProgramReport, ref: LineRef }) {
    const asked = this.pointsOf(line.minGrade)
    const sure = isSure(report, line, this.programs)
    for (const same of poolOf(line, this.setting.facts.courses)) {
      const items = this.items()
      const taken = same.find(course => takenAlready(course, items, this.setting.facts, asked))
      if (taken) continue
      const ways = same.filter(course => this.isPossible(course.code)).sort((a, b) =>
        reachedSlot(a.code, this.setting) - reachedSlot(b.code, this.setting),
      )
      if (!ways.some(course => this.add(course.code, sure && same.length === 1))) this.lost.add(ref)
    }
  }

  /** Where another line uses a course that a line names: the other needs one more, and gives it up. */
  private lendersTo(listed: readonly { line: LineReport, report: ProgramReport, ref: LineRef }[], round: number) {
    return listed.flatMap(({ line, report, ref }) => {
      const lender = report.areas.flatMap(area => area.lines).find(other =>
        other.unfilled.length === 0 && other.uses.some(use => line.unfilled.includes(use.item.course)),
      )
      if (!lender || round > MOST_ROUNDS / 2) this.lost.add(ref)
      return lender ? [{ line: lender, report, ref: lineRef(report.code, lender.id) }] : []
    })
  }

  /** Rules on credits and levels, and the total, once all lines are filled: one course at a time. */
  private fillRules(reports: readonly ProgramReport[]): boolean {
    const { placeholders } = this.setting.file
    for (const report of reports) {
      const program = this.programs.find(candidate => candidate.code === report.code)!
      for (const { id, lacking } of openRules(report, placeholders)) {
        const ref = lineRef(report.code, `rule ${id}`)
        if (this.lost.has(ref)) continue
        const rule = program.rules.find(candidate => candidate.id === id)
        const filter = (rule ? rule.kind === 'credits' && rule.filter : program.totalFilter) || {}
        const best = this.rank(this.pool({ filter, unfilled: [] }, report), [], [], lacking)
          .find(course => this.add(course.code, false, lacking))
        if (best) return true
        this.lost.add(ref)
      }
    }
    return false
  }

  /** What there is with what is chosen so far; one list until more is chosen, so that what is read from it is read once. */
  private items(): CourseItem[] {
    const { setting, chosen } = this
    const last = setting.facts.terms.at(-1)?.code ?? null
    this.list ??= [
      ...setting.firm,
      ...setting.entries.map((entry): CourseItem => planned(entry.id, entry.course, entry.term, entry.credits)),
      ...chosen.map(({ code, credits }, n): CourseItem => planned(`draft ${code} ${n}`, code, last, credits)),
    ]
    return this.list
  }

  /** All programs with what is chosen so far, read once until more is chosen. */
  private read(): readonly ProgramReport[] {
    const items = this.items()
    if (this.reading?.items !== items)
      this.reading = { items, reports: readPrograms(this.programs, items, this.setting.file, this.setting.catalog, QUICK).reports }
    return this.reading.reports
  }

  /** What else must be chosen for a course to be possible; null when that cannot be had. */
  private needed(code: string, seen: readonly string[] = []): string[] | null {
    const { facts, file } = this.setting
    const course = facts.courses.get(code)
    if (!course || seen.includes(code)) return null
    const mine = [...seen, code]
    const more: string[] = []
    for (const which of ['before', 'beside'] as const) {
      const soFar = more.length > 0 ? [...this.items(), ...more.map(other => planned(other, other, '9997SP', 0))] : this.items()
      const rule = readCourseRules(course, EVER, factsOf(file, soFar), facts)[which]
      if (rule?.firmness !== 'unmet') continue
      const ways = rule.missing.flatMap((set) => {
        const codes = courseCodes(set)?.map(one => this.soonestOf(one)) ?? null
        const all = codes?.map(other => other === null ? null : mine.includes(other) ? [] : this.needed(other, mine))
        return codes && all && all.every(part => part !== null)
          ? [[...all.flat(), ...codes.flatMap(other => other !== null && !mine.includes(other) ? [other] : [])]]
          : []
      })
      const best = ways.sort((a, b) => a.length - b.length || this.lateness(a) - this.lateness(b))[0]
      if (!best) return null
      more.push(...best.filter(other => !more.includes(other)))
    }
    return more
  }

  /** Of a course and its equivalents the one that can be had soonest; null when none can be placed. */
  private soonestOf(code: string): string | null {
    const ways = sameCourse(code, this.setting.facts.courses).filter(other => slotsFor(other, this.setting).length > 0)
    return ways.sort((a, b) => reachedSlot(a, this.setting) - reachedSlot(b, this.setting))[0] ?? null
  }

  private lateness = (codes: readonly string[]) => Math.max(-1, ...codes.map(code => reachedSlot(code, this.setting)))

  /** Takes a course, for as many credits as are wanted where they vary, and what it needs first; false when it cannot be had. */
  private add(code: string, isCertain: boolean, wanted: Credits = 0): boolean {
    const known = this.chosen.some(one => one.code === code)
    if (known && this.isTaken(code)) return true
    const before = this.needed(code)
    if (before === null) return false
    for (const one of [...before, code]) {
      const course = this.setting.facts.courses.get(one)!
      const credits = one === code ? Math.min(course.creditsMax, Math.max(course.credits, wanted)) : course.credits
      if (one === code || !this.chosen.some(other => other.code === one)) this.choose({ code: one, credits })
      if (isCertain) this.certain.add(one)
    }
    return true
  }

  private choose(course: ChosenCourse) {
    this.chosen.push(course)
    this.list = null
  }

  private isTaken(code: string): boolean {
    const course = this.setting.facts.courses.get(code)!
    return takenAlready(course, this.items(), this.setting.facts) !== null
  }

  private isPossible(code: string): boolean {
    return slotsFor(code, this.setting).length > 0 && reachedSlot(code, this.setting) < Infinity
  }

  private pointsOf = (grade: string | undefined) => grade === undefined ? 0 : this.setting.facts.scale[grade]?.standsFor ?? 0

  /** Courses of a kind of which no more may count in a program. */
  private isOver(course: Course, report: ProgramReport): boolean {
    const program = this.programs.find(candidate => candidate.code === report.code)!
    return program.rules.some((rule) => {
      if (rule.kind !== 'maximum' || !rule.of.filter || rule.of.source || rule.of.gradeAtMost || rule.of.ungraded) return false
      const reading = report.rules.find(one => one.id === rule.id)?.reading
      return reading?.kind === 'maximum' && reading.used >= reading.most && matchesFilter(course, rule.of.filter)
    })
  }

  /** Courses that could fill a line, or a rule on credits; one without credit only where the line counts courses. */
  private pool(line: Pick<LineReport, 'filter' | 'unfilled' | 'minGrade'> & { unit?: Credits }, report: ProgramReport): Course[] {
    const { facts } = this.setting
    const now = this.items()
    const asked = this.pointsOf(line.minGrade)
    return [...facts.courses.values()].filter(course =>
      (course.creditsMax > 0 || line.unit) && matchesFilter(course, line.filter) && !this.isOver(course, report)
      && !takenAlready(course, now, facts, asked) && !excludedBy(course, now, facts) && this.isPossible(course.code),
    )
  }

  private rank(courses: readonly Course[], overlays: readonly LineReport[], others: readonly LineReport[], lacking: Credits): Course[] {
    const { setting, taste } = this
    const known = new Set(this.items().map(item => item.course))
    const cost = (course: Course) => {
      const extra = setting.reach.chain(course.code).filter(code => code !== course.code && !known.has(code)).length
      const carries = overlays.filter(overlay => matchesFilter(course, overlay.filter)).length
      const shared = others.filter(other => matchesFilter(course, other.filter)).length
      const over = Math.max(0, course.credits - lacking) / 100
      // One course for as much as is lacking is better than several.
      const size = Math.min(course.creditsMax, Math.max(course.credits, lacking))
      return (taste.banned?.has(course.code) ? 100 : 0) + extra * 3 + reachedSlot(course.code, setting) * 0.5 - carries * 2.5 - shared * 2
        + over * 0.6
        + Math.abs(size - 300) / 200 + (this.inSequence.has(course.code) ? (taste.suggested ? -4 : -0.8) : 0)
    }
    return courses.map(course => ({ course, at: cost(course) })).sort((a, b) => a.at - b.at || a.course.code.localeCompare(b.course.code))
      .map(({ course }) => course)
  }

  /**
   * Takes back chosen courses that nothing needs: no line uses them, no rule and no total lacks their credits, and everything else that is
   * chosen or planned can be taken without them.
   */
  private dropIdle() {
    const { placeholders } = this.setting.file
    const lackingNow = () => this.read().reduce((sum, report) =>
      sum + openLines(report, placeholders).length + openRules(report, placeholders).length, 0)
    for (let n = this.chosen.length - 1; n >= 0; n--) {
      const one = this.chosen[n]!
      const reports = this.read()
      if (this.taste.also?.includes(one.code)
        || !reports.every(report => report.unused.some(item => item.id === `draft ${one.code} ${n}`))
        || reports.some(report => creditsToTotal(report, one.credits) > heldOf(report, placeholders))) continue
      const before = lackingNow()
      this.chosen.splice(n, 1)
      this.list = null
      const others = [...this.setting.entries.map(entry => entry.course), ...this.chosen.map(other => other.code)]
      if (others.some(code => this.needed(code)?.length !== 0) || this.lacksCredits() !== null || lackingNow() > before) {
        this.chosen.splice(n, 0, one)
        this.list = null
      }
    }
  }

  /** Credits, in all or of a subject or level, that a chosen or planned course asks for and that nothing brings before it. */
  private lacksCredits(): { rule: CreditsRule, lacking: Credits, course: CourseCode } | null {
    const { facts, file } = this.setting
    const courses = [...this.setting.entries.map(entry => entry.course), ...this.chosen.map(one => one.code)]
    for (const code of new Set(courses)) {
      const course = facts.courses.get(code)!
      if (!hasCreditsRule(course)) continue
      // Its own credits, and those of what waits for it, do not come before it.
      const before = this.items().filter(item => item.state === 'completed' || !this.waitsFor(item.course, code))
      const found = readCourseRules(course, EVER, factsOf(file, before), facts).before
      if (found?.firmness !== 'unmet') continue
      const set = found.missing.find(conditions => conditions.every(one => one.kind === 'credits' || one.kind === 'standing'))
      const first = set?.[0]
      if (!first || (first.kind !== 'credits' && first.kind !== 'standing')) continue
      const rule: CreditsRule = first.kind === 'credits' ? first : { kind: 'credits', credits: STANDING_CREDITS[first.standing] }
      const there = readCredit(before, facts).earning
        .reduce((sum, item) => countsFor(rule, facts.courses.get(item.course)) ? sum + item.credits : sum, 0)
      return { rule, lacking: rule.credits - there, course: code }
    }
    return null
  }

  /** Whether a course is another one, or its rules name that one, directly or through others. */
  private waitsFor(code: CourseCode, other: CourseCode, seen = new Set<CourseCode>()): boolean {
    const { courses } = this.setting.facts
    if (sameCourse(code, courses).includes(other)) return true
    const course = courses.get(code)
    if (!course || seen.has(code)) return false
    seen.add(code)
    return coursesNamed(course).some(named => this.waitsFor(named, other, seen))
  }

  /** Chooses one more course for credits that something asks for and that nothing brings before it. */
  private fillCredits(): boolean {
    const lack = this.lacksCredits()
    if (!lack) return false
    const { rule, lacking, course } = lack
    const filter = rule.subject ? { subjects: [rule.subject] } : {}
    const first = this.read()[0]
    if (!first) return false
    const pool = this.pool({ filter, unfilled: [] }, first)
      .filter(one => countsFor(rule, one) && !this.waitsFor(one.code, course))
    return this.rank(pool, [], [], lacking).some(one => this.add(one.code, false, lacking))
  }
}

/** Overlays that are open, until as many courses as they lack have been taken. */
class Carried {
  private readonly lacking: { overlay: LineReport, open: Credits }[]

  constructor(overlays: readonly LineReport[]) {
    this.lacking = overlays.map(overlay => ({ overlay, open: overlay.open }))
  }

  open = () => this.lacking.flatMap(({ overlay, open }) => open > 0 ? [overlay] : [])

  take(course: Course) {
    for (const one of this.lacking) if (matchesFilter(course, one.overlay.filter)) one.open -= one.overlay.unit || course.credits
  }
}

const planned = (id: string, course: string, term: string | null, credits: Credits): CourseItem => ({ id, course, term, credits,
  grade: null, state: 'planned', source: 'here' })

/** Whether the prerequisite of a course asks for credits or a class standing. */
function hasCreditsRule({ prerequisite }: Pick<Course, 'prerequisite'>): boolean {
  const visit = (rule: Expression | null): boolean =>
    rule !== null && (rule.kind === 'credits' || rule.kind === 'standing' || ('of' in rule && rule.of.some(visit)))
  return visit(ruleOf(prerequisite))
}

/** Courses of a set of conditions; null when it asks for something that no course brings. Credits come by themselves. */
function courseCodes(set: readonly Expression[]): string[] | null {
  const codes: string[] = []
  for (const one of set) {
    if (one.kind === 'course') codes.push(one.course)
    else if (one.kind !== 'credits' && one.kind !== 'standing') return null
  }
  return codes
}

/** Lines that still lack something and for which no placeholder stands. */
function openLines(report: ProgramReport, placeholders: readonly { line: LineRef, credits: Credits }[]): LineReport[] {
  const held = (line: LineReport) =>
    placeholders.filter(one => one.line === lineRef(report.code, line.id)).reduce((sum, one) => sum + one.credits, 0)
  return [...report.areas.flatMap(area => area.lines), ...report.overlays].filter(line => !line.setAside && line.open > held(line))
}

/** Rules on credits that courses of the plan do not meet, with what is lacking; the total comes last. */
function openRules(report: ProgramReport,
  placeholders: Setting['file']['placeholders']): { id: string, title: string, lacking: Credits }[] {
  const credits = report.rules.flatMap(({ id, title, state, reading }) =>
    reading.kind === 'credits' && state === 'open' ? [{ id, title, lacking: reading.asked - reading.withPlan }] : [],
  )
  const total = lackingInTotal(report, placeholders)
  return total > 0 ? [...credits, { id: 'total', title: '', lacking: total }] : credits
}

/** Lines that every way to complete the program needs: those under no choice. */
export function certainLines(program: Program): CourseLine[] {
  const visit = (node: RequirementNode): CourseLine[] =>
    node.kind === 'courses' ? [node] : node.kind === 'all' || node.n === node.children.length ? node.children.flatMap(visit) : []
  return program.areas.flatMap(visit)
}

function isSure(report: ProgramReport, line: LineReport, programs: readonly Program[]): boolean {
  const program = programs.find(candidate => candidate.code === report.code)!
  return certainLines(program).some(one => one.id === line.id)
}

/** The fewest credits that a complete program can have in its certain lines, over any courses. */
export function leastCredits(program: Program, courses: ReadonlyMap<string, Course>): Credits {
  return certainLines(program).reduce((sum, line) => sum + leastOfLine(line, courses), 0)
}

function leastOfLine(line: CourseLine, courses: ReadonlyMap<string, Course>): Credits {
  const all = !line.courses && !line.credits
  const fitting = [...courses.values()].filter(course => matchesFilter(course, line.filter)).map(course => course.credits).sort((a, b) =>
    a - b,
  )
  if (all) return fitting.length === line.filter.list?.length ? fitting.reduce((sum, credits) => sum + credits, 0) : 0
  const byCount = fitting.slice(0, line.courses ?? 0).reduce((sum, credits) => sum + credits, 0)
  return Math.max(line.credits ?? 0, byCount)
}
