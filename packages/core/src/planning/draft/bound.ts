import { matchesFilter } from '../../catalog/filter'
import { sameCourse } from '../../catalog/linked'
import type { Course, CourseItem, Credits } from '../../catalog/types'
import { coursesMentionedBy, readCourseRules } from '../../prerequisites/evaluate'
import type { Expression } from '../../prerequisites/types'
import { factsOf } from '../../record/facts'
import { creditsToTotal, longestChain } from '../../requirements/reach'
import type { ProgramReport } from '../../requirements/report'
import { type CourseLine, needsEveryListed, type Program } from '../../requirements/types'
import { readPrograms } from '../standing'
import { programsOf } from '../student-file'
import { certainLines, leastCredits } from './choose'
import { couldEndIn, earliestSlots, finishBound } from './finish-bound'
import { problemOf, reachedSlot, type Setting, slotsFor } from './setting'
import type { ScheduleProblem, Task } from './types'
import { NOW } from './waits'

/** Cases that are told apart at most to refute one finish. */
const MOST_CASES = 500

/**
 * Lower bounds on the finish over everything that could be chosen. They rest on what every complete plan has: the plan's own courses,
 * those that the programs name without alternative, what must come before them, the longest chain of each open line over its
 * soonest courses, so many courses of each line that asks for a number, and the credits that are lacking whatever is chosen.
 */
export class FinishBounds {
  private readonly programs: Program[]
  private readonly items: CourseItem[]
  private readonly reports: ProgramReport[]
  /** Courses that every complete plan has besides its own. */
  private readonly certain: ReadonlySet<string>
  /** Credits that every complete plan still places. */
  private readonly lacking: Credits
  private readonly chain: number
  /** Lines that ask for a number of courses, in one program: a course may count again in another. */
  private readonly lines: CourseLine[]
  /** Courses that lines of that program name without alternative: each counts there, and so nowhere else in it. */
  private readonly usedUp: ReadonlySet<string>
  /** Courses that a course's rules name, and the ways into it with some of them there, read once. */
  private readonly named = new Map<string, string[]>()
  private readonly ways = new Map<string, string[][] | null>()

  constructor(private readonly setting: Setting) {
    const { catalog, file, facts, entries, firm } = setting
    this.programs = programsOf(file, catalog)
    this.items = [...firm, ...entries.map(entry => plannedItem(entry.course, entry.term, entry.credits))]
    this.reports = readPrograms(this.programs, this.items, file, catalog).reports
    const free = file.exceptions.length > 0 || file.placeholders.length > 0
    this.certain = this.settle(new Set(this.namedCourses()), new Set()) ?? new Set()
    const asksNumber = (line: CourseLine) =>
      line.courses && !line.credits && !needsEveryListed(line) && line.filter.list?.length !== line.courses
    const most = free ? undefined : [...this.programs].sort((a, b) => askedFor(b) - askedFor(a))[0]
    function askedFor(program: Program) {
      return certainLines(program).filter(asksNumber).reduce((sum, line) => sum + line.courses!, 0)
    }
    this.lines = most ? certainLines(most).filter(asksNumber) : []
    this.usedUp = new Set(
      most
        ? certainLines(most).flatMap(line =>
            needsEveryListed(line)
              ? line.filter.list!.filter(code => !this.isReplaceable(code) && facts.courses.get(code)?.repeatLimit === 1)
              : [],
          )
        : [],
    )
    this.lacking = Math.max(0, ...this.programs.map((program, p) => {
      const counted = this.reports[p]!.earning.reduce((sum, item) => sum + item.credits, 0)
      return Math.max(creditsToTotal(this.reports[p]!), free ? 0 : leastCredits(program, facts.courses) - counted)
    })) - file.placeholders.reduce((sum, one) => sum + one.credits, 0)
    this.chain = this.longestChain(free)
  }

  /** No plan is complete before this slot. As many slots as there are: no plan is complete at all. */
  first(): number {
    const { problem, more } = this.problemWith(this.certain, new Set())
    return finishBound(problem, more, this.chain) ?? this.setting.facts.terms.length
  }

  /**
   * Whether it is proved that no plan is complete by the end of a slot: what is left open, which way into a course and which course of a
   * line, is told apart case by case, until every case is seen to fail. False says nothing.
   */
  refutes(end: number): boolean {
    let cases = 0
    const fails = (required: ReadonlySet<string>, excluded: ReadonlySet<string>): boolean => {
      if (++cases > MOST_CASES) return false
      const settled = this.settle(required, excluded)
      if (settled === null) return true
      const { problem, more } = this.problemWith(settled, excluded)
      const early = earliestSlots(problem)
      if (early.some(slot => slot > end) || this.chain > end || !couldEndIn(problem, early, end, more)) return true
      const ways = this.openWays(settled, excluded)
      if (ways) return ways.every(way => fails(new Set([...settled, ...way]), excluded))
      const choice = this.openChoice(settled, excluded)
      // The i-th case takes the i-th course and leaves out all before it: together they are everything.
      return choice !== null && choice.every((code, i) => fails(new Set([...settled, code]), new Set([...excluded, ...choice.slice(0, i)])))
    }
    return fails(this.certain, new Set())
  }

  /** What lines without alternative name and nothing fills yet. */
  private namedCourses(): string[] {
    const exempt = new Set(this.setting.file.exceptions.map(exception => `${exception.program}/${exception.line}`))
    return this.programs.flatMap((program, p) => {
      const sure = new Set(certainLines(program).filter(line => !exempt.has(`${program.code}/${line.id}`)).map(line => line.id))
      return this.reports[p]!.areas.flatMap(area => area.lines).filter(line => sure.has(line.id) && !line.setAside).flatMap(line =>
        line.unfilled.filter(code => this.isOwnWay(code)),
      )
    })
  }

  private isReplaceable(code: string): boolean {
    const { courses } = this.setting.facts
    return (courses.get(code)?.equivalents.length ?? 0) > 0
  }

  /** Nothing else stands for it, it is not there, and it can be placed. */
  private isOwnWay(code: string): boolean {
    return !this.isReplaceable(code) && !this.items.some(item => item.course === code) && slotsFor(code, this.setting).length > 0
  }

  /** The smallest ways to make a course possible, as sets of courses; null when its rules hold already. */
  private waysInto(code: string, required: ReadonlySet<string>, excluded: ReadonlySet<string>): string[][] | null {
    const course = this.setting.facts.courses.get(code)
    if (!course) return null
    // Of what is required only what the rule names, or what stands for it, changes the answer: it brings no credits here.
    const asked = this.named.get(code) ?? this.readNamed(course)
    const there = asked.filter(one => required.has(one))
    const key = `${code}:${there.join()}`
    let ways = this.ways.get(key)
    if (ways === undefined) this.ways.set(key, ways = this.readWays(course, there))
    return ways && ways.filter(way => way.every(one => !excluded.has(one)))
  }

  private readNamed(course: Course): string[] {
    const asked = coursesMentionedBy(course).flatMap(one => sameCourse(one, this.setting.facts.courses))
    this.named.set(course.code, asked)
    return asked
  }

  private readWays(course: Course, there: readonly string[]): string[][] | null {
    const { file, facts } = this.setting
    const items = there.length > 0 ? [...this.items, ...there.map(one => plannedItem(one, '9997SP', 0))] : this.items
    const found = readCourseRules(course, '9998FA', factsOf(file, items), facts).before
    if (!found || found.firmness !== 'unmet' || found.missing.length === 0) return null
    const ways = found.missing.map(coursesOf)
    // A rule of which some ways are not told, or one that asks for what is no course, settles nothing.
    if (
      found.missing.length >= MOST_WAYS
      || ways.some(way => way.length === 0 || way.some(one => (facts.courses.get(one)?.equivalents.length ?? 0) > 0))
    ) return null
    return ways.filter(way => way.every(one => slotsFor(one, this.setting).length > 0))
  }

  /** Adds what has no alternative, until nothing more follows; null when something has no way at all. */
  private settle(required: ReadonlySet<string>, excluded: ReadonlySet<string>): ReadonlySet<string> | null {
    const all = new Set(required)
    for (let again = true; again;) {
      again = false
      for (const code of [...this.setting.entries.map(entry => entry.course), ...all]) {
        const ways = this.waysInto(code, all, excluded)
        if (ways === null) continue
        if (ways.length === 0) return null
        for (const one of ways[0]!.filter(other => !all.has(other) && ways.every(way => way.includes(other)))) {
          all.add(one)
          again = true
        }
      }
    }
    return all
  }

  /** The ways into one course that has several; null when none has. */
  private openWays(required: ReadonlySet<string>, excluded: ReadonlySet<string>): string[][] | null {
    const open = [...this.setting.entries.map(entry => entry.course), ...required].map(code => this.waysInto(code, required, excluded))
      .filter(ways => ways !== null)
    return open.sort((a, b) => a.length - b.length)[0] ?? null
  }

  /** Courses of which one more must be taken, the fewest that can be told; null when every line may be filled. */
  private openChoice(required: ReadonlySet<string>, excluded: ReadonlySet<string>): string[] | null {
    const lines = this.lines.map(line => this.lineWith(line, required, excluded))
    const open = lines.flatMap(({ open: lacks, free }) => lacks > 0 ? [free.map(course => course.code)] : [])
    if (open.length > 0) return open.sort((a, b) => a.length - b.length)[0]!
    const short = shortLines(lines.map(({ asked, there }) => ({ asked, there: there.map(course => course.code) })))
    return short && [...new Set(short.flatMap(l => lines[l]!.free.map(course => course.code)))]
  }

  /** How many courses a line still asks for, those taken off that are there or required and could count in it. */
  private lineWith(line: CourseLine, required: ReadonlySet<string>,
    excluded: ReadonlySet<string>): { asked: number, open: number, there: Course[], free: Course[] } {
    const known = (course: Course) => required.has(course.code) || this.items.some(item => item.course === course.code)
    // A course that another line names alone is used up there.
    const fitting = [...this.setting.facts.courses.values()].filter(course =>
      matchesFilter(course, line.filter) && !this.usedUp.has(course.code),
    )
    const there = fitting.filter(known)
    const free = fitting.filter(course => !known(course) && !excluded.has(course.code) && slotsFor(course.code, this.setting).length > 0)
    // A course that may be repeated could be all of them.
    if (fitting.some(course => course.repeatLimit > 1)) return { asked: 0, open: 0, there: [], free: [] }
    return { asked: line.courses!, open: line.courses! - there.length, there, free }
  }

  /**
   * A stand-in for each course still to be chosen: the n-th of a line has at least as few credits as the line's smallest course,
   * and comes no sooner than the n-th soonest of its courses.
   */
  private standIns(required: ReadonlySet<string>, excluded: ReadonlySet<string>): Task[] {
    return this.lines.flatMap((line) => {
      const { open, free } = this.lineWith(line, required, excluded)
      const soonest = free.map(course => reachedSlot(course.code, this.setting)).sort((a, b) => a - b)
      const slots = [...new Set(free.flatMap(course => slotsFor(course.code, this.setting)))].sort((a, b) => a - b)
      const credits = Math.min(...free.map(course => course.credits))
      return Array.from({ length: Math.max(0, open) },
        (_, i): Task => ({ courses: [], credits, was: null, suggested: null,
          slots: slots.filter(slot => slot >= (soonest[i] ?? Infinity)) }))
    })
  }

  private problemWith(required: ReadonlySet<string>, excluded: ReadonlySet<string>): { problem: ScheduleProblem, more: Credits } {
    const named = problemOf(this.setting, [...required].map(code => ({ code, credits: this.setting.facts.courses.get(code)!.credits })),
      code => excluded.has(code) ? Infinity : reachedSlot(code, this.setting))
    const standIns = this.standIns(required, excluded)
    const placed = [...required].reduce((sum, code) => sum + this.setting.facts.courses.get(code)!.credits, 0) + creditsOf(standIns)
    return { problem: { ...named, tasks: [...named.tasks, ...standIns], waits: [...named.waits, ...standIns.map(() => NOW)] },
      more: Math.max(0, this.lacking - placed) }
  }

  private longestChain(free: boolean): number {
    const { facts, reach } = this.setting
    if (free) return -1
    return Math.max(-1, ...this.reports.map((report) => {
      const { at } = longestChain(report, reach, { items: this.items, courses: facts.courses, scale: facts.scale })
      const code = at === null || at < 0 ? undefined : reach.terms[at]?.code
      return code === undefined ? -1 : facts.terms.findIndex(term => term.code === code)
    }))
  }
}

/** As many ways as an evaluation tells at most: with so many, there may be more. */
const MOST_WAYS = 8
const plannedItem = (course: string, term: string, credits: Credits): CourseItem => ({ id: `${course} ${term}`, course, term, credits,
  grade: null, state: 'planned', source: 'here' })
const creditsOf = (tasks: readonly Task[]) => tasks.reduce((sum, task) => sum + task.credits, 0)
const coursesOf = (way: readonly Expression[]) => way.flatMap(one => one.kind === 'course' ? [one.course] : [])

/**
 * Lines that cannot all be filled from what is there, when each course counts in one of them only: a largest matching by augmenting
 * paths, and the lines that an unfilled place reaches (Hall's condition fails for them). Null when all can be filled.
 */
function shortLines(lines: readonly { asked: number, there: readonly string[] }[]): number[] | null {
  const usedBy = new Map<string, number>()
  const fill = (line: number, seen: Set<string>, reached: Set<number>): boolean => {
    reached.add(line)
    return lines[line]!.there.some((code) => {
      if (seen.has(code)) return false
      seen.add(code)
      const holder = usedBy.get(code)
      if (holder !== undefined && !fill(holder, seen, reached)) return false
      usedBy.set(code, line)
      return true
    })
  }
  for (let line = 0; line < lines.length; line++) {
    for (let n = 0; n < lines[line]!.asked; n++) {
      const reached = new Set<number>()
      if (!fill(line, new Set(), reached)) return [...reached]
    }
  }
  return null
}
