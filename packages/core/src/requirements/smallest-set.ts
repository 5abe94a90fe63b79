import { sameCourse } from '../catalog/linked'
import { isOffered } from '../catalog/terms'
import type { Course, CourseCode, CourseItem, Credits, Term } from '../catalog/types'
import { readCourseRules } from '../prerequisites/evaluate'
import type { RecordRules } from '../record/attempts'
import type { StudentFacts } from '../record/facts'
import { excludedBy, takenAlready } from '../record/repeats'
import { prepareProgram } from './prepare'
import type { Reach } from './reach'
import type { ProgramReport } from './report'
import { type ProgramsInput, readTogether } from './together'

/** The fewest courses that would meet a line, those included that must come first; in the order in which they can be taken. */
export interface SmallestSet {
  courses: CourseCode[]
  /** What a course whose credits vary must be taken for. */
  credits: Readonly<Record<CourseCode, Credits>>
  /** Whether it is proved that no smaller set does; else it is the smallest that was found. */
  proved: boolean
}

/** Readings that are made at most: each takes a few milliseconds. */
const MOST_READINGS = 300
/** Courses of one set at most. */
const MOST_COURSES = 10

/** A course that could be taken, with all that is not there yet and must come first. */
interface Way {
  course: Course
  /** What it would be taken for: as much as the line lacks, where its credits vary. */
  credits: Credits
  /** Whether something in its chain asks for credits of a kind, which the chain may not bring. */
  asksCredits: boolean
  /** The courses to be taken, itself last. */
  chain: CourseCode[]
  /** What it could bring to the line, in hundredths of a credit. */
  gain: Credits
  /** Two ways that say the same here do the same for every line of every program. */
  signature: string
}

/**
 * What would have to change for a line to be met: the smallest set of courses that could still be taken which meets it and takes nothing
 * from any other line, by reading all programs with it. Null when the line is met, or nothing that was found meets it.
 * A set of so many courses brings at most so many times what one can bring, which proves most answers; sets of one course that could are
 * all tried. Where the courses of the line alone do not do, those that other lines would take are tried as well: they may free one of its
 * own.
 */
export function smallestSet(asked: ProgramsInput, reports: readonly ProgramReport[], index: number, lineId: string,
  { reach, facts }: { reach: Reach, facts: StudentFacts }): SmallestSet | null {
  const line = [...reports[index]!.areas.flatMap(area => area.lines), ...reports[index]!.overlays].find(one => one.id === lineId)
  if (!line || line.open === 0) return null
  const { items, courses } = asked.programs[index]!
  const prepared = asked.programs.map(prepareProgram)
  const needs = prepared.flatMap(one => [...one.needs, ...one.ready.overlays.flatMap(overlay => overlay.compiled.map(part => part.need))])
  const gainOf = (need: { credits: Credits, courses: number, unit: Credits, spread?: unknown }, credits: Credits) =>
    Math.max(need.credits > 0 ? credits : 0, need.courses > 0 || need.spread ? need.unit : 0)
  const { ready } = prepared[index]!
  const mine = line.overlay
    ? ready.overlays.find(overlay => overlay.line.id === lineId)!
    : { compiled: ready.compiled, fitsOf: ready.fitsOf }
  const firstOf = firstNeeded(asked.programs[index]!, facts, reach)
  const points = line.minGrade === undefined ? 0 : asked.programs[index]!.scale[line.minGrade]?.standsFor ?? 0
  const ways = [...courses.values()].flatMap((course): Way[] => {
    const credits = Math.min(course.creditsMax, Math.max(course.credits, line.open))
    if (reach.of(course.code).at === null || excludedBy(course, items, asked.programs[index]!)
      || takenAlready(course, items, asked.programs[index]!, points, credits)) return []
    const item = toItem(course, credits, 0)
    const fits = mine.fitsOf(item).filter(l => mine.compiled[l]!.line.id === lineId)
    const all = prepared.map(one => [one.ready.fitsOf(item).join(), one.ready.overlays.map(overlay => overlay.fitsOf(item).length).join()])
    const first = firstOf(course.code, [])
    if (first === null) return []
    const chain = [...first.courses, course.code]
    // What is on the record already is a repeat: it may bring nothing.
    const repeats = sameCourse(course.code, courses).filter(code => items.some(one => one.course === code))
    return [{ course, credits, chain, asksCredits: first.asksCredits,
      gain: fits.length > 0 ? Math.max(...fits.map(l => gainOf(mine.compiled[l]!.need, credits)), 0) : 0,
      signature: JSON.stringify([all, credits, course.subject, course.attributes, chain.length, repeats]) }]
  })
  const before = openElsewhere(reports, index, lineId)
  let readings = 0
  const meets = (set: readonly Way[]): boolean => {
    readings++
    const added = [...new Set(set.flatMap(way => way.chain))].flatMap((code, n) => {
      const course = courses.get(code)
      const credits = set.find(way => way.course.code === code)?.credits ?? course?.credits ?? 0
      return course ? [toItem(course, credits, n)] : []
    })
    const then = readTogether({ ...asked, programs: asked.programs.map(program => ({ ...program, items: [...items, ...added] })) })
    const now = [...then[index]!.areas.flatMap(area => area.lines), ...then[index]!.overlays].find(one => one.id === lineId)!
    return now.open === 0 && openElsewhere(then, index, lineId) <= before
  }
  const direct = ways.filter(way => way.gain > 0).sort((a, b) => a.chain.length - b.chain.length || b.gain - a.gain
    || reach.of(a.course.code).at! - reach.of(b.course.code).at! || (a.course.code < b.course.code ? -1 : 1))
  const isOver = () => readings > MOST_READINGS
  const found = firstThatMeets(direct, line.open, meets, isOver) ?? firstWithOthers(direct, ways, meets, isOver)
  if (!found) return null
  const size = sizeOf(found)
  // However the courses are shifted, one more brings no line more than this.
  const mostOf = (way: Way) => Math.max(1, ...needs.map(need => gainOf(need, way.course.creditsMax)))
  const most = Math.max(1, ...ways.map(mostOf))
  const least = Math.ceil(line.open / most)
  const isSingleRefuted = () => {
    const tried = new Set<string>()
    return ways.every((way) => {
      if (way.chain.length > 1 || tried.has(way.signature) || mostOf(way) < line.open) return true
      tried.add(way.signature)
      // Taken for more credits than it is tried with, it might do.
      if (way.course.creditsMax > way.credits) return false
      return readings <= MOST_READINGS && !meets([way])
    })
  }
  const courseOrder = [...new Set(found.flatMap(way => way.chain))]
  const isWhole = found.every(way => !way.asksCredits)
  const credits = Object.fromEntries(found.flatMap(({ course, credits: taken }) =>
    course.creditsMax > course.credits ? [[course.code, taken]] : []))
  return { courses: courseOrder, credits, proved: isWhole && (size === 1 || size <= least || (size === 2 && isSingleRefuted())) }
}

/** Sets of one course of the line with one or two others, which may take the place of a course that the line could use. */
function firstWithOthers(direct: readonly Way[], ways: readonly Way[], meets: (set: readonly Way[]) => boolean,
  isOver: () => boolean): Way[] | null {
  const others = distinctWays(ways.filter(way => way.chain.length === 1))
  const own = distinctWays(direct.filter(way => way.chain.length === 1))
  const pairs = own.flatMap(way => others.filter(other => other.course.code !== way.course.code).map(other => [other, way]))
  for (const set of [...others.map(other => [other]), ...pairs]) {
    if (isOver()) return null
    if (meets(set)) return set
  }
  return null
}

/** One of all that say the same, two where both could be used. */
function distinctWays(ways: readonly Way[]): Way[] {
  const seen = new Map<string, number>()
  return ways.filter(({ signature }) => {
    seen.set(signature, (seen.get(signature) ?? 0) + 1)
    return seen.get(signature)! <= 2
  })
}

/**
 * What must be taken before or beside a course that is not there yet, first to last: of several ways the one with the fewest courses.
 * Credits and standings are left to what is taken anyway, which is said; null where something is asked that no course brings.
 */
function firstNeeded(rules: RecordRules, facts: StudentFacts, reach: Reach) {
  const known = new Map<CourseCode, Needed | null>()
  const needed = (code: CourseCode, seen: readonly CourseCode[]): Needed | null => {
    if (known.has(code)) return known.get(code)!
    const course = rules.courses.get(code)
    if (!course || reach.of(code).at === null) return null
    const mine = [...seen, code]
    const found = readCourseRules(course, EVER, facts, rules)
    const parts = [found.before, found.beside].map((rule): Needed | null => {
      if (rule?.firmness !== 'unmet') return NOTHING_NEEDED
      const ways = rule.missing.flatMap((set) => {
        const all = set.map((one): Needed | null => {
          if (one.kind === 'credits' || one.kind === 'standing') return { courses: [], asksCredits: true }
          if (one.kind !== 'course') return null
          // Courses that go alongside each other: the one that is asked about is there.
          if (mine.includes(one.course)) return NOTHING_NEEDED
          const before = needed(one.course, mine)
          return before && { courses: [...before.courses, one.course], asksCredits: before.asksCredits }
        })
        return all.every(part => part !== null) ? [joinNeeded(all)] : []
      })
      return ways.sort((a, b) => Number(a.asksCredits) - Number(b.asksCredits) || a.courses.length - b.courses.length)[0] ?? null
    })
    const result = parts.every(part => part !== null) ? joinNeeded(parts) : null
    // What was found on the way into a ring holds only there.
    if (seen.length === 0 || result !== null) known.set(code, result)
    return result
  }
  return needed
}

interface Needed { courses: CourseCode[], asksCredits: boolean }
const NOTHING_NEEDED: Needed = { courses: [], asksCredits: false }
const joinNeeded = (parts: readonly Needed[]): Needed => ({ courses: [...new Set(parts.flatMap(part => part.courses))],
  asksCredits: parts.some(part => part.asksCredits) })

/** The first terms in which the courses of a set can stand, one after the other, with the plan as it is; null where there is none. */
export function placesOf(courses: readonly CourseCode[], terms: readonly Term[], facts: StudentFacts,
  rules: RecordRules): { code: CourseCode, term: Term | null }[] {
  const items = [...facts.items]
  return courses.map((code, n) => {
    const course = rules.courses.get(code)
    const term = course && terms.find(one => isOffered(course, one)
      && readCourseRules(course, one.code, { ...facts, items }, rules).before?.firmness !== 'unmet')
    if (course && term) items.push({ ...toItem(course, course.credits, n), term: term.code })
    return { code, term: term ?? null }
  })
}

/** After everything that could be planned. */
const EVER = '9998FA'

const sizeOf = (set: readonly Way[]): number => new Set(set.flatMap(way => way.chain)).size

/** The first set in order of size that meets the line; of equal ways only as many are told apart as can be used. */
function firstThatMeets(direct: readonly Way[], open: Credits, meets: (set: readonly Way[]) => boolean, isOver: () => boolean): Way[]
  | null {
  const best = Math.max(0, ...direct.map(way => way.gain))
  if (best === 0) return null
  for (let size = 1; size <= MOST_COURSES; size++) {
    const refused = new Set<string>()
    const visit = (from: number, set: Way[], gained: Credits): Way[] | null => {
      const left = size - sizeOf(set)
      if (left < 0 || isOver()) return null
      if (gained >= open && left === 0) {
        const key = set.map(way => way.signature).sort().join()
        if (refused.has(key)) return null
        refused.add(key)
        return meets(set) ? set : null
      }
      if (left === 0 || gained + left * best < open) return null
      for (let k = from; k < direct.length; k++) {
        if (set.some(way => way.course.code === direct[k]!.course.code)) continue
        const found = visit(k + 1, [...set, direct[k]!], gained + direct[k]!.gain)
        if (found || isOver()) return found
      }
      return null
    }
    const found = visit(0, [], 0)
    if (found || isOver()) return found
  }
  return null
}

/** Credits that everything but the line leaves open. */
const openElsewhere = (reports: readonly ProgramReport[], index: number, lineId: string): Credits => reports.reduce((sum, report, p) =>
  sum + [...report.areas.flatMap(area => area.lines), ...report.overlays].reduce((open, line) =>
    line.setAside || (p === index && line.id === lineId) ? open : open + line.open, 0), 0)

const toItem = (course: Course, credits: Credits, n: number): CourseItem => ({ id: `set ${course.code} ${n}`, course: course.code,
  term: null, credits, grade: null, state: 'planned', source: 'here' })
