import { isOffered, termOrder } from '../catalog/terms'
import type { Course, CourseCode, Season, Term, TermCode } from '../catalog/types'
import { ruleOf } from '../prerequisites/rule-of'
import type { Expression } from '../prerequisites/types'

/** A course that somebody took, takes or means to take; `earns` is null as long as nobody knows. */
export interface Enrolment { course: CourseCode, term: TermCode, earns: boolean | null }

/** A student as a forecast sees them: the degree, and everything of every term. */
export interface ForecastStudent { degree: string, enrolments: readonly Enrolment[] }

export interface ForecastInput {
  students: readonly ForecastStudent[]
  courses: ReadonlyMap<CourseCode, Course>
  /** By degree the courses of its suggested sequence, in order. */
  sequences: ReadonlyMap<string, readonly CourseCode[]>
  terms: readonly Pick<Term, 'code' | 'season' | 'year'>[]
  /** The last long term of which it stands what nearly all students take or plan; for later ones some of them plan something. */
  known: TermCode
  /** The last term that has begun: only what was really taken is learned from. That of `known` where it is not said. */
  begun?: TermCode
}

/** How many students will take a course in a term. */
export interface CourseForecast {
  course: CourseCode
  expected: number
  /** Eight times in ten the number lies between these; null where no past term could be forecast to learn how far it is off. */
  low: number | null
  high: number | null
  /** How many took it in the same season a year before; null where that is not on record. */
  lastYear: number | null
}

/** How near forecasts of past terms came, each made from what was known before it. */
export interface Backtest {
  terms: TermCode[]
  /** Mean error, in students a course, of the forecast, and of taking last year's number. */
  error: number
  errorAsLastYear: number
  courses: number
}

/** Years of the same season that are learned from, the newest first. */
const YEARS = 3
/** Weight of what holds for all courses at the same distance, in students, beside what was seen of one course. */
const PRIOR = 4
/** Open courses that the sequence has before a course are told apart up to so many. */
const RANKS = 9
/** Past terms of the same season that are forecast to learn how far it is off. */
const TESTED = 2
/** The share of forecasts that shall lie within what is given. */
const WITHIN = 0.8

const isLong = (season: Season) => season !== 'summer'
const add = (map: Map<string, number>, key: string, n: number) => map.set(key, (map.get(key) ?? 0) + n)

/**
 * The students whom each course of a term will have. From past terms of the same season it learns how often students who could take a
 * course did, by degree, course, and how much of their sequence lies before it; today's students are carried forward term by term with
 * those chances (what they take or plan in between is taken as it stands), and as many newcomers are added as came a year before.
 * Conditions on anything but courses are held to be met: what they keep out shows in the chances.
 */
export function forecastTerm(target: TermCode, input: ForecastInput): Map<CourseCode, number> {
  return finish(termInSteps(target, input))
}

/** Work that may rest at every step, so that others can go on meanwhile. */
export type InSteps<Result> = Generator<undefined, Result>
function finish<Result>(steps: InSteps<Result>): Result {
  for (;;) {
    const { done, value } = steps.next()
    if (done) return value
  }
}
/** Students between two steps. */
const SLICE = 25

function* termInSteps(target: TermCode, input: ForecastInput): InSteps<Map<CourseCode, number>> {
  const terms = [...input.terms].sort((a, b) => termOrder(a.code) - termOrder(b.code))
  const expected = new Map<CourseCode, number>()
  const last = termOrder(input.known)
  const between = terms.filter(term => termOrder(term.code) > last && termOrder(term.code) <= termOrder(target))
  const learned = new Map<Season, Learned>()
  const rules = readRules(input.courses)
  for (const { season } of between) if (!learned.has(season)) learned.set(season, yield* learn(season, terms, input, rules))
  const groups = input.students.flatMap((student) => {
    const seen = student.enrolments.filter(one => termOrder(one.term) <= last)
    const presence = presenceOf(seen, terms, last)
    return presence ? [carry(student, seen, presence, learned)] : []
  })
  for (const term of between) {
    const known = learned.get(term.season)!
    for (const [i, state] of groups.entries()) {
      if (i % SLICE === 0) yield
      const fixed = term.code === target ? [] : state.intended.filter(one => one.term === term.code)
      const stays = fixed.length > 0 ? state.here : state.here * known.stays[state.presence]
      const chances = fixed.length > 0
        ? new Map(fixed.map(one => [one.course, 1]))
        : chancesOf(state, term, known, input, rules)
      for (const [course, chance] of chances) {
        if (term.code === target) add(expected, course, chance * stays)
        else state.had.set(course, 1 - (1 - (state.had.get(course) ?? 0)) * (1 - chance * known.passes))
      }
      if (isLong(term.season)) [state.here, state.presence] = [stays, 'here']
    }
    if (term.code === target) for (const [course, students] of known.newcomers) add(expected, course, students)
  }
  return expected
}

export interface Forecast { courses: CourseForecast[], backtest: Backtest | null }
/** Forecasts of every course of a term, with how far they may be off as past terms tell, and how near those came. */
export const forecastWithBacktest = (target: TermCode, input: ForecastInput): Forecast => finish(forecastInSteps(target, input))

/** The same, for whoever has others to serve between the steps. */
export function* forecastInSteps(target: TermCode, input: ForecastInput): InSteps<Forecast> {
  const season = input.terms.find(term => term.code === target)?.season
  const counts = countByTerm(input.students)
  const lived = input.terms.filter(term => hasBegun(term.code, input) && counts.has(term.code))
    .sort((a, b) => termOrder(b.code) - termOrder(a.code))
  const past = lived.filter(term => term.season === season)
  const tested = past.filter(term => past.some(other => other.code === yearBefore(term.code))).slice(0, TESTED)
  const errors: { scaled: number, off: number, naive: number }[] = []
  for (const term of tested) {
    const before = lived.find(one => isLong(one.season) && termOrder(one.code) < termOrder(term.code))!
    const forecast = yield* termInSteps(term.code, { ...input, students: asKnownIn(before.code, input.students),
      known: before.code, begun: before.code })
    const actual = counts.get(term.code)!
    const last = counts.get(yearBefore(term.code)) ?? new Map<string, number>()
    for (const course of new Set([...forecast.keys(), ...actual.keys(), ...last.keys()])) {
      const [is, was] = [actual.get(course) ?? 0, last.get(course) ?? 0]
      const said = forecast.get(course) ?? 0
      if (is < 1 && was < 1 && said < 1) continue
      errors.push({ scaled: Math.abs(is - said) / Math.sqrt(said + 1), off: Math.abs(is - said), naive: Math.abs(is - was) })
    }
  }
  const mean = (of: (one: typeof errors[number]) => number) => errors.reduce((sum, one) => sum + of(one), 0) / errors.length
  const width = errors.length > 0 ? errors.map(one => one.scaled).sort((a, b) => a - b)[Math.ceil(errors.length * WITHIN) - 1]! : null
  const expected = yield* termInSteps(target, input)
  const lastYear = lived.some(term => term.code === yearBefore(target)) ? counts.get(yearBefore(target)) : undefined
  const courses = [...expected].map(([course, students]): CourseForecast => {
    const spread = width === null ? null : width * Math.sqrt(students + 1)
    return { course, expected: Math.round(students), low: spread === null ? null : Math.max(0, Math.round(students - spread)),
      high: spread === null ? null : Math.round(students + spread), lastYear: lastYear ? lastYear.get(course) ?? 0 : null }
  }).filter(one => one.expected > 0 || (one.high ?? 0) > 0)
  courses.sort((a, b) => b.expected - a.expected || a.course.localeCompare(b.course))
  return { courses, backtest: errors.length === 0
    ? null
    : { terms: tested.map(term => term.code), error: mean(one => one.off), errorAsLastYear: mean(one => one.naive),
        courses: errors.length } }
}

/** Everything as it was known while a term was under way: nothing of it had a grade yet, and nothing was known of later ones. */
const asKnownIn = (term: TermCode, students: readonly ForecastStudent[]): ForecastStudent[] => students.map(student => ({ ...student,
  enrolments: student.enrolments.filter(one => termOrder(one.term) <= termOrder(term))
    .map(one => one.term === term ? { ...one, earns: null } : one) })).filter(student => student.enrolments.length > 0)

const hasBegun = (term: TermCode, { begun, known }: ForecastInput) => termOrder(term) <= termOrder(begun ?? known)
const yearBefore = (term: TermCode): TermCode => `${Number(term.slice(0, 4)) - 1}${term.slice(4)}`

function countByTerm(students: readonly ForecastStudent[]): Map<TermCode, Map<CourseCode, number>> {
  const counts = new Map<TermCode, Map<CourseCode, number>>()
  for (const { enrolments } of students) for (const { term, course } of enrolments) {
    const of = counts.get(term) ?? new Map<CourseCode, number>()
    counts.set(term, of)
    add(of, course, 1)
  }
  return counts
}
/** Whether somebody was here in the last long term, or only in the one before; null for who was in neither. */
type Presence = 'here' | 'away'
function presenceOf(seen: readonly Enrolment[], terms: ForecastInput['terms'], last: number): Presence | null {
  const long = terms.filter(term => isLong(term.season) && termOrder(term.code) <= last).slice(-2).map(term => term.code)
  if (seen.some(one => one.term === long.at(-1))) return 'here'
  return seen.some(one => one.term === long[0]) ? 'away' : null
}

interface Rules { before: Expression | null, beside: Expression | null }
const readRules = (courses: ForecastInput['courses']): Map<CourseCode, Rules> => new Map([...courses.values()].map(course =>
  [course.code, { before: ruleOf(course.prerequisite), beside: ruleOf(course.corequisite) }] as const))

/** The chance that a rule is met, when courses are had with these chances, one independent of the other. */
function chanceOf(rule: Expression | null, had: ReadonlyMap<CourseCode, number>): number {
  if (!rule) return 1
  switch (rule.kind) {
    case 'course':
      return rule.alongside ? 1 : had.get(rule.course) ?? 0
    case 'all':
      return rule.of.reduce((chance, part) => chance * chanceOf(part, had), 1)
    case 'any':
      return 1 - rule.of.reduce((chance, part) => chance * (1 - chanceOf(part, had)), 1)
    case 'atLeast':
      return atLeast(rule.n, rule.of.map(part => chanceOf(part, had)))
    default:
      return 1
  }
}
/** The chance that at least n of independent events happen. */
function atLeast(n: number, chances: readonly number[]): number {
  let counts = [1]
  for (const chance of chances) counts = Array.from({ length: counts.length + 1 }, (_, k) =>
    (counts[k] ?? 0) * (1 - chance) + (counts[k - 1] ?? 0) * chance)
  return counts.slice(n).reduce((sum, one) => sum + one, 0)
}

/** What a season's past terms tell. */
interface Learned {
  /** Took it, could have: by degree, course and distance; and by degree and distance over all courses of the season. */
  took: Map<string, number>
  could: Map<string, number>
  passes: number
  /** How many of those who have something ahead go on, by whether they were here the term before. */
  stays: Record<Presence, number>
  /** What those took who came in the last time. */
  newcomers: Map<CourseCode, number>
  /** Courses that somebody took in this season. */
  given: ReadonlySet<CourseCode>
}

/**
 * What a student could take in a term: with what chance a course that is not had is open to them, with what chance it is not (some come
 * in all the same: by permission, by what they bring), and how many open ones their sequence has before it.
 */
interface Open { chance: number, closed: number, rank: Rank }
type Rank = number | 'beside' | 'closed'
function openTo(degree: string, had: ReadonlyMap<CourseCode, number>, term: Pick<Term, 'season' | 'year'>, given: ReadonlySet<CourseCode>,
  { courses, sequences }: ForecastInput, rules: ReadonlyMap<CourseCode, Rules>): Map<CourseCode, Open> {
  const open = new Map<CourseCode, Open>()
  for (const code of given) {
    const course = courses.get(code)
    if (!course || !isOffered(course, term)) continue
    const lacking = 1 - (had.get(code) ?? 0)
    const chance = lacking * chanceOf(rules.get(code)!.before, had)
    if (lacking > 0) open.set(code, { chance, closed: lacking - chance, rank: 'beside' })
  }
  let before = 0
  for (const course of sequences.get(degree) ?? []) {
    const one = open.get(course)
    if (!one || one.rank !== 'beside') continue
    one.rank = Math.min(RANKS, Math.round(before))
    before += one.chance
  }
  return open
}
const keyOf = (degree: string, course: CourseCode | '', rank: Rank) => `${degree}|${course}|${rank}`

function* learn(season: Season, terms: ForecastInput['terms'], input: ForecastInput,
  rules: ReadonlyMap<CourseCode, Rules>): InSteps<Learned> {
  const counts = countByTerm(input.students)
  const past = terms.filter(term => term.season === season && hasBegun(term.code, input) && counts.has(term.code))
    .slice(-YEARS)
  const learned: Learned = { took: new Map(), could: new Map(), passes: passRate(input.students), stays: { here: 1, away: 0 },
    newcomers: new Map(),
    given: new Set(past.flatMap(term => [...counts.get(term.code)!.keys()])) }
  const were = { here: 0, away: 0 }
  const stayed = { here: 0, away: 0 }
  for (const term of past) {
    const order = termOrder(term.code)
    const last = terms.filter(one => isLong(one.season) && termOrder(one.code) < order).at(-1)
    for (const [i, student] of input.students.entries()) {
      if (i % SLICE === 0) yield
      const seen = student.enrolments.filter(one => termOrder(one.term) < order)
      const now = new Set(student.enrolments.filter(one => one.term === term.code).map(one => one.course))
      if (seen.length === 0) {
        if (term === past.at(-1)) for (const course of now) add(learned.newcomers, course, 1)
        continue
      }
      const presence = last ? presenceOf(seen, terms, termOrder(last.code)) : null
      if (!presence) continue
      const had = hadBefore(seen, learned.passes)
      if (now.size === 0 && isThrough(student.degree, had, input)) continue
      were[presence]++
      if (now.size === 0) continue
      stayed[presence]++
      for (const [code, { chance, closed, rank }] of openTo(student.degree, had, term, learned.given, input, rules)) {
        for (const [of, share] of [[rank, chance], ['closed', closed]] as const) for (const course of [code, '']) {
          const key = keyOf(student.degree, course, of)
          add(learned.could, key, share)
          if (now.has(code)) add(learned.took, key, share / (chance + closed))
        }
      }
    }
  }
  for (const presence of ['here', 'away'] as const) if (were[presence] > 0) learned.stays[presence] = stayed[presence] / were[presence]
  return learned
}

function passRate(students: readonly ForecastStudent[]): number {
  const graded = students.flatMap(({ enrolments }) => enrolments.filter(one => one.earns !== null))
  return graded.length > 0 ? graded.filter(one => one.earns).length / graded.length : 1
}

interface State {
  degree: string
  /** The chance that they study here still, and whether they were here the term before. */
  here: number
  presence: Presence
  had: Map<CourseCode, number>
  /** What they mean to take in terms to come. */
  intended: readonly Enrolment[]
}

function carry(student: ForecastStudent, seen: readonly Enrolment[], presence: Presence, learned: ReadonlyMap<Season, Learned>): State {
  const had = hadBefore(seen, [...learned.values()][0]?.passes ?? 1)
  return { degree: student.degree, here: 1, presence, had, intended: student.enrolments.filter(one => !seen.includes(one)) }
}

/** The chance with which each course is had; what has no grade yet is passed as often as others are. */
function hadBefore(seen: readonly Enrolment[], passes: number): Map<CourseCode, number> {
  const had = new Map<CourseCode, number>()
  for (const { course, earns } of seen) had.set(course, Math.max(had.get(course) ?? 0, earns === null ? passes : earns ? 1 : 0))
  return had
}

/** Somebody who has the whole of the sequence has nothing to come back for. */
function isThrough(degree: string, had: ReadonlyMap<CourseCode, number>, { sequences }: ForecastInput): boolean {
  const sequence = sequences.get(degree) ?? []
  return sequence.length > 0 && sequence.every(course => (had.get(course) ?? 0) > 0)
}

/** With what chance a student who is here takes each course of a term. */
function chancesOf({ degree, had }: State, term: Pick<Term, 'season' | 'year'>, { took, could, given }: Learned,
  input: ForecastInput, rules: ReadonlyMap<CourseCode, Rules>): Map<CourseCode, number> {
  const chances = new Map<CourseCode, number>()
  const rate = (code: CourseCode, rank: Rank) => {
    const [mine, all] = [keyOf(degree, code, rank), keyOf(degree, '', rank)]
    const prior = (took.get(all) ?? 0) / Math.max(1, could.get(all) ?? 0)
    return Math.min(1, ((took.get(mine) ?? 0) + PRIOR * prior) / ((could.get(mine) ?? 0) + PRIOR))
  }
  for (const [code, { chance, closed, rank }] of openTo(degree, had, term, given, input, rules))
    chances.set(code, (chance > 0 ? chance * rate(code, rank) : 0) + (closed > 0 ? closed * rate(code, 'closed') : 0))
  return chances
}
