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
 * all tried.
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
  const ways = [...courses.values()].flatMap((course): Way[] => {
    if (course.credits === 0 || reach.of(course.code).at === null || excludedBy(course, items, asked.programs[index]!)
      || takenAlready(course, items, asked.programs[index]!)) return []
    const item = toItem(course, 0)
    const fits = mine.fitsOf(item).filter(l => mine.compiled[l]!.line.id === lineId)
    const all = prepared.map(one => [one.ready.fitsOf(item).join(), one.ready.overlays.map(overlay => overlay.fitsOf(item).length).join()])
    const first = firstOf(course.code, [])
    if (first === null) return []
    const chain = [...first, course.code]
    return [{ course, chain, gain: fits.length > 0 ? Math.max(...fits.map(l => gainOf(mine.compiled[l]!.need, course.credits)), 0) : 0,
      signature: JSON.stringify([all, course.credits, course.subject, course.attributes, chain.length]) }]
  })
  const before = openElsewhere(reports, index, lineId)
  let readings = 0
  const meets = (set: readonly Way[]): boolean => {
    readings++
    const added = [...new Set(set.flatMap(way => way.chain))].flatMap((code, n) => {
      const course = courses.get(code)
      return course ? [toItem(course, n)] : []
    })
    const then = readTogether({ ...asked, programs: asked.programs.map(program => ({ ...program, items: [...items, ...added] })) })
    const now = [...then[index]!.areas.flatMap(area => area.lines), ...then[index]!.overlays].find(one => one.id === lineId)!
    return now.open === 0 && openElsewhere(then, index, lineId) <= before
  }
  const direct = ways.filter(way => way.gain > 0).sort((a, b) => a.chain.length - b.chain.length || b.gain - a.gain
    || reach.of(a.course.code).at! - reach.of(b.course.code).at! || (a.course.code < b.course.code ? -1 : 1))
  const found = firstThatMeets(direct, line.open, meets, () => readings > MOST_READINGS)
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
      if (way.course.creditsMax > way.course.credits) return false
      return readings <= MOST_READINGS && !meets([way])
    })
  }
  const courseOrder = [...new Set(found.flatMap(way => way.chain))]
  return { courses: courseOrder, proved: size === 1 || size <= least || (size === 2 && isSingleRefuted()) }
}

/**
 * What must be taken before or beside a course that is not there yet, first to last: of several ways the one with the fewest courses.
 * Credits and standings come by themselves; null where something is asked that no course brings.
 */
function firstNeeded(rules: RecordRules, facts: StudentFacts, reach: Reach) {
  const known = new Map<CourseCode, CourseCode[] | null>()
  const needed = (code: CourseCode, seen: readonly CourseCode[]): CourseCode[] | null => {
    if (known.has(code)) return known.get(code)!
    const course = rules.courses.get(code)
    if (!course || seen.includes(code) || reach.of(code).at === null) return null
    const mine = [...seen, code]
    const found = readCourseRules(course, EVER, facts, rules)
    const parts = [found.before, found.beside].map((rule): CourseCode[] | null => {
      if (rule?.firmness !== 'unmet') return []
      const ways = rule.missing.flatMap((set) => {
        const all = set.map((one): CourseCode[] | null => {
          if (one.kind === 'credits' || one.kind === 'standing') return []
          const before = one.kind === 'course' && one.course !== code ? needed(one.course, mine) : null
          return before && one.kind === 'course' ? [...before, one.course] : null
        })
        return all.every(part => part !== null) ? [[...new Set(all.flat())]] : []
      })
      return ways.sort((a, b) => a.length - b.length)[0] ?? null
    })
    const result = parts.every(part => part !== null) ? [...new Set(parts.flat())] : null
    // What was found on the way into a ring holds only there.
    if (seen.length === 0 || result !== null) known.set(code, result)
    return result
  }
  return needed
}

/** The first terms in which the courses of a set can stand, one after the other, with the plan as it is; null where there is none. */
export function placesOf(courses: readonly CourseCode[], terms: readonly Term[], facts: StudentFacts,
  rules: RecordRules): { code: CourseCode, term: Term | null }[] {
  const items = [...facts.items]
  return courses.map((code, n) => {
    const course = rules.courses.get(code)
    const term = course && terms.find(one => isOffered(course, one)
      && readCourseRules(course, one.code, { ...facts, items }, rules).before?.firmness !== 'unmet')
    if (course && term) items.push({ ...toItem(course, n), term: term.code })
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

const toItem = (course: Course, n: number): CourseItem => ({ id: `set ${course.code} ${n}`, course: course.code, term: null,
  credits: course.credits, grade: null, state: 'planned', source: 'here' })
