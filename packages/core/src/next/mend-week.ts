import type { CourseCode } from '../catalog/types'
import type { Lack } from '../prerequisites/evaluate'
import type { Finding, RefusalCode } from '../registration/findings'
import { type ArrangeInput, type Choice, smallestChange } from '../weeks/arrange'

/** What is refused about the course itself: no other bundle of it helps. */
const OF_THE_COURSE: readonly RefusalCode[] = ['prerequisite', 'corequisite', 'already-passed', 'taken-elsewhere', 'exclusion', 'load-cap',
  'not-signed']

/** The waypoint where a refusal is mended; a partner's where the partner's own is. */
export const placeToMend = (finding: Finding): 'plan' | 'week' =>
  finding.code === 'partner-refused' && finding.because[0]
    ? placeToMend(finding.because[0])
    : OF_THE_COURSE.includes(finding.code)
      ? 'plan'
      : 'week'

/** What was found against a row that its student can do something about: gates open by themselves, and what it is already is no fault. */
export const refusalsOf = (findings: readonly Finding[]): Finding[] =>
  findings.filter(finding => !finding.ok && finding.code !== 'gate' && finding.code !== 'duplicate')

/** Whether another bundle of the same course could mend it: everything that refuses it is about the bundle. */
export function mendedByBundle(findings: readonly Finding[]): boolean {
  const refusals = refusalsOf(findings)
  return refusals.length > 0 && refusals.every(finding => placeToMend(finding) === 'week')
}

/** A bundle of a course as the week shows it. */
interface WeekChoice extends Choice {
  findings: readonly Finding[]
  picked: boolean
  registered: boolean
}
export interface WeekCourse {
  course: CourseCode
  bundles: readonly WeekChoice[]
}

/** What could be arranged, and of which courses nothing could be taken at all. */
export interface Arrangeable {
  courses: ArrangeInput['courses']
  without: CourseCode[]
}

/**
 * Of each course of a week the bundles that this student could take, were it not for what is chosen beside them: what is registered
 * stays as it is; a clash is the arranging's own business; the load is the same whichever bundles are chosen; and a corequisite that is
 * to stand in the same week comes along.
 */
export function arrangeable(week: readonly WeekCourse[]): Arrangeable {
  const besides = new Set(week.filter(one => one.bundles.length > 0).map(one => one.course))
  const isSettledHere = (one: Finding) => one.code === 'corequisite' && !one.ok
    ? one.needs.some(set => set.every(lack => comesAlong(lack, besides)))
    : one.code === 'clash' || one.code === 'load-cap'
  const couldTake = ({ findings }: WeekChoice) => findings.every(one => one.ok || isSettledHere(one))
  const courses = week.map(({ course, bundles }) => {
    const registered = bundles.filter(bundle => bundle.registered)
    return { course, choices: registered.length > 0 ? registered : bundles.filter(couldTake) }
  })
  return { courses: courses.filter(one => one.choices.length > 0),
    without: courses.filter(one => one.choices.length === 0).map(one => one.course) }
}

const comesAlong = ({ condition }: Lack, besides: ReadonlySet<CourseCode>) =>
  condition.kind === 'course' && besides.has(condition.course)

/** The fewest bundles to exchange so that the picks whose bundles are refused stand. */
export interface WeekMend {
  /** The picks that it mends. */
  mends: CourseCode[]
  /** Picks that stay refused, because of the course and not of the bundle; they keep their places in the week where that is possible. */
  stays: CourseCode[]
  exchanged: { course: CourseCode, from: string, to: string }[]
}

/**
 * The smallest change of what is picked; null where no pick is refused for its bundle, or where nothing stands however much is exchanged.
 * What has no pick yet stays so.
 */
export function mendWeek(week: readonly WeekCourse[], { term, travel }: Pick<ArrangeInput, 'term' | 'travel'>): WeekMend | null {
  const chosen = week.flatMap(({ course, bundles }) => {
    const bundle = bundles.find(one => one.registered) ?? bundles.find(one => one.picked)
    return bundle ? [{ course, bundle }] : []
  })
  const open = chosen.filter(one => !one.bundle.registered)
  const mends = open.filter(one => mendedByBundle(one.bundle.findings)).map(one => one.course)
  if (mends.length === 0) return null
  const picked = Object.fromEntries(chosen.map(one => [one.course, one.bundle.id]))
  const { courses } = arrangeable(week.filter(one => picked[one.course]))
  const movable = new Set(courses.map(one => one.course))
  const fixed = open.filter(one => !movable.has(one.course)
    || refusalsOf(one.bundle.findings).some(finding => placeToMend(finding) === 'plan'))
  const stays = fixed.map(one => one.course)
  const rest = courses.filter(one => !stays.includes(one.course))
  const change = smallestChange({ courses: [...rest, ...fixed.map(({ course, bundle }) => ({ course, choices: [bundle] }))], pins: {},
    wishes: [], term, travel }, picked)
  ?? smallestChange({ courses: rest, pins: {}, wishes: [], term, travel }, picked)
  return change && change.exchanged.length > 0
    ? { mends, stays, exchanged: change.exchanged.map(course => ({ course, from: picked[course]!, to: change.choices[course]! })) }
    : null
}
