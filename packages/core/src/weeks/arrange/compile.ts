import type { CourseCode, Section, Term, TravelTime, Weekday } from '../../catalog/types'
import { clashBetween, clashWithin } from '../bundles'
import { expandMeeting, weekdayOf } from '../meetings'
import { breaksWish, type Choice, endOfDay, PRICE, type Wish } from './wishes'

/**
 * A place of the week that one bundle takes: a course with its bundles, or one of several courses with the bundles of them all, as for a
 * placeholder of the plan.
 */
interface Place {
  /** The course; for one of several courses what names the place. */
  course: CourseCode
  choices: readonly Choice[]
}

/** What is to be arranged: for each place of the week the bundles that could be taken, what is pinned, and the wishes. */
export interface ArrangeInput {
  courses: readonly Place[]
  /** Courses of which only one may be taken, as they exclude each other or give the same credit; a course itself never stands twice. */
  apart?: readonly (readonly [CourseCode, CourseCode])[] | undefined
  /** By place the bundle that must stay. */
  pins: Readonly<Record<CourseCode, string>>
  wishes: readonly Wish[]
  term: Pick<Term, 'noClass' | 'movedDays'>
  travel: readonly TravelTime[]
  /** Sites that are no places: nobody has to be there. */
  online?: readonly string[]
}

/** A class on one date of a cell: from when to when, where, and whether one has to be there. */
export interface Block { start: number, end: number, site: string, onSite: boolean }

/**
 * Dates on which the same of all the meetings take place, so that whatever is chosen they look alike; `days` is how many they are.
 * About ten tell a term exactly, half terms and moved days included.
 */
interface Cell {
  days: number
  /** The weekday whose timetable is followed. */
  follows: Weekday
}

/** One bundle as the search sees it. */
interface Option {
  course: number
  /** Its place among the course's choices as they were given, before any was left out: ties are broken by it. */
  rank: number
  choice: Choice
  /** Hard wishes that it breaks by itself, and whether another bundle is pinned in its place: with any of them it is left out. */
  breaks: { wishes: ReadonlySet<string>, pin: boolean }
  /** What it costs by itself, whatever stands beside it. */
  own: number
  /** Its blocks in each cell that it touches, in order of time. */
  cells: { cell: number, pattern: number }[]
}

export interface Problem {
  /** Places in the order of their codes. */
  courses: CourseCode[]
  options: Option[]
  /** By place the indexes of the options that may be taken there. */
  of: number[][]
  cells: Cell[]
  /** By cell the different lists of blocks that an option can have there. */
  patterns: (readonly Block[])[][]
  /** A row of bits an option: which options can stand beside it. */
  compatible: Uint32Array[]
  words: number
  wishes: readonly Wish[]
  travel: (from: string, to: string) => number
}

/**
 * The problem as tables. Bundles that break a hard wish or are not the pinned one are in the tables and in no place, so that other wishes
 * and pins need no new ones (`narrowed`); what clashes with itself is in neither.
 */
export function compileWeeks(input: ArrangeInput): Problem {
  const { term, travel, wishes, pins } = input
  const courses = [...input.courses].sort((a, b) => a.course < b.course ? -1 : 1)
  const hard = wishes.filter(wish => wish.weight === 'hard')
  const { cells, cellOf } = cellsOf(courses.flatMap(one => one.choices), term)
  const patterns = cells.map((): { key: string, blocks: Block[] }[] => [])
  const options: Option[] = []
  courses.forEach(({ course, choices }, c) => choices.forEach((choice, rank) => {
    if (clashWithin(choice.sections, term, travel)) return
    const breaks = { wishes: new Set(hard.filter(wish => breaksWish(wish, choice, choices)).map(wish => wish.id)),
      pin: pins[course] !== undefined && pins[course] !== choice.id }
    const blocks = new Map<number, Block[]>()
    for (const [date, block] of blocksOf(choice.sections, input)) {
      const cell = cellOf.get(date)!
      if (date !== cells[cell]!.first) continue
      blocks.set(cell, [...blocks.get(cell) ?? [], block])
    }
    const touched = [...blocks].sort((a, b) => a[0] - b[0]).map(([cell, list]) => {
      const sorted = list.sort((a, b) => a.start - b.start)
      const key = JSON.stringify(sorted)
      let pattern = patterns[cell]!.findIndex(one => one.key === key)
      if (pattern < 0) pattern = patterns[cell]!.push({ key, blocks: sorted }) - 1
      return { cell, pattern }
    })
    options.push({ course: c, rank, choice, breaks, own: ownCost(choice, choices, wishes, term), cells: touched })
  }))
  const words = Math.ceil(options.length / 32)
  const compatible = options.map(() => new Uint32Array(words))
  const clash = clashesOf(patterns.map(list => list.map(one => one.blocks)), input)
  const isApart = apartIn(input, courses)
  options.forEach((one, i) => {
    for (let j = i + 1; j < options.length; j++) {
      const other = options[j]!
      if (one.course === other.course || isApart(one, other) || clash(one, other)) continue
      compatible[i]![j >>> 5]! |= 1 << (j & 31)
      compatible[j]![i >>> 5]! |= 1 << (i & 31)
    }
  })
  return {
    courses: courses.map(one => one.course),
    options,
    of: courses.map((_, c) => options.flatMap((option, i) =>
      option.course === c && option.breaks.wishes.size === 0 && !option.breaks.pin ? [i] : [])),
    cells: cells.map(({ days, follows }) => ({ days, follows })),
    patterns: patterns.map(list => list.map(one => one.blocks)),
    compatible,
    words,
    wishes,
    travel: shortestWays(travel),
  }
}

/** What of a problem has to hold: which places are in the week, which hard wishes (by their ids) hold, where the pinned bundle stays. */
export interface Holds { place: (course: CourseCode) => boolean, wish: (id: string) => boolean, pin: (course: CourseCode) => boolean }
/** What can stand beside what, and in which place. */
export type Rows = Pick<Problem, 'of' | 'options' | 'compatible' | 'words'>

/** The same tables for some of the places, the wishes and the pins. */
export function narrowed(problem: Problem, holds: Holds): Rows {
  const { options, compatible, words, courses } = problem
  const of = courses.map((): number[] => [])
  options.forEach(({ course, breaks }, i) => {
    const isOut = (breaks.pin && holds.pin(courses[course]!)) || [...breaks.wishes].some(holds.wish)
    if (!isOut) of[course]!.push(i)
  })
  return { of: of.filter((_, c) => holds.place(courses[c]!)), options, compatible, words }
}

/** Whether two options are of courses of which only one may be taken; where two places are for one of the same, they come in order. */
function apartIn({ apart = [] }: ArrangeInput, places: readonly Place[]): (a: Option, b: Option) => boolean {
  const pairs = new Set(apart.flatMap(([a, b]) => [`${a} ${b}`, `${b} ${a}`]))
  const forms = places.map(({ choices }) => choices.map(choice => choice.id).sort().join(' '))
  return (a, b) => {
    const [one, other] = [a.choice.sections[0]?.course, b.choice.sections[0]?.course]
    if (one === undefined || other === undefined) return false
    if (one === other || pairs.has(`${one} ${other}`)) return true
    return forms[a.course] === forms[b.course] && (a.course < b.course) !== (one < other)
  }
}

/**
 * Whether two options clash. Each list of blocks is held against each other only once a cell, which says the same as every real date;
 * exams, and classes so late or early that they could meet those of another day, are held against each other on their dates.
 */
function clashesOf(patterns: readonly (readonly Block[])[][], { term, travel }: ArrangeInput): (a: Option, b: Option) => boolean {
  const ways = new Map(travel.flatMap(way => [[`${way.from} ${way.to}`, way.minutes], [`${way.to} ${way.from}`, way.minutes]]))
  const longest = Math.max(0, ...travel.map(way => way.minutes))
  const known = patterns.map(list => new Int8Array(list.length * list.length))
  const isNear = (a: Block, b: Block) => {
    if (a.start < b.end && b.start < a.end) return true
    const [first, then] = a.start < b.start ? [a, b] : [b, a]
    return then.start - first.end < (ways.get(`${first.site} ${then.site}`) ?? 0)
  }
  function meets(cell: number, a: number, b: number): boolean {
    const key = a * patterns[cell]!.length + b
    if (known[cell]![key] === 0)
      known[cell]![key] = patterns[cell]![a]!.some(one => patterns[cell]![b]!.some(other => isNear(one, other))) ? 1 : 2
    return known[cell]![key] === 1
  }
  const knownTimes = new Map<Choice, { exam: boolean, nearMidnight: boolean }>()
  const timesOf = ({ choice }: Option) => {
    const before = knownTimes.get(choice)
    if (before) return before
    const made = { exam: choice.sections.some(section => section.exam !== null), nearMidnight: choice.sections.some(section =>
      section.meetings.some(meeting => meeting.start < longest || endOfDay(meeting) + longest > 1440)) }
    knownTimes.set(choice, made)
    return made
  }
  /** An exam meets whatever class is on its date; classes of different days meet only around midnight. */
  const needDates = (a: Option, b: Option) => {
    const [one, other] = [timesOf(a), timesOf(b)]
    return one.exam || other.exam || (one.nearMidnight && other.nearMidnight)
  }
  return (a, b) => {
    for (let i = 0, j = 0; i < a.cells.length && j < b.cells.length;) {
      const [one, other] = [a.cells[i]!, b.cells[j]!]
      if (one.cell < other.cell) i++
      else if (one.cell > other.cell) j++
      else {
        if (meets(one.cell, one.pattern, other.pattern)) return true
        i++
        j++
      }
    }
    return needDates(a, b) && clashBetween(a.choice.sections, b.choice.sections, term, travel) !== null
  }
}

/** Minutes from site to site by the shortest way, over others where that is shorter, so that a stop on the way never saves any. */
function shortestWays(travel: readonly TravelTime[]): (from: string, to: string) => number {
  const sites = [...new Set(travel.flatMap(way => [way.from, way.to]))]
  const minutes = new Map<string, number>()
  const of = (from: string, to: string) => from === to ? 0 : minutes.get(`${from} ${to}`) ?? 0
  for (const { from, to, minutes: m } of travel) minutes.set(`${from} ${to}`, m).set(`${to} ${from}`, m)
  for (const via of sites)
    for (const from of sites)
      for (const to of sites) minutes.set(`${from} ${to}`, Math.min(of(from, to), of(from, via) + of(via, to)))
  return of
}

/** The classes of a bundle, each on its real dates; exams stay out of the wishes. */
function* blocksOf(sections: readonly Section[], { term, online = [] }: ArrangeInput): Generator<[date: string, block: Block]> {
  for (const { meetings, delivery } of sections)
    for (const meeting of meetings)
      for (const { date, start, site } of expandMeeting(meeting, term as Term))
        yield [date, { start, end: endOfDay(meeting), site,
          onSite: delivery !== 'online live' && delivery !== 'online any time' && !online.includes(site) }]
}

/** Dates put together on which exactly the same meetings take place and the same weekday's timetable is followed. */
function cellsOf(choices: readonly Choice[], term: ArrangeInput['term']) {
  const meetingsOn = new Map<string, number[]>()
  let n = 0
  for (const { sections } of choices)
    for (const { meetings } of sections)
      for (const meeting of meetings) {
        for (const { date } of expandMeeting(meeting, term as Term)) meetingsOn.set(date, [...meetingsOn.get(date) ?? [], n])
        n++
      }
  const moved = new Map(term.movedDays.map(day => [day.date, day.follows]))
  const cells: (Cell & { first: string })[] = []
  const cellOf = new Map<string, number>()
  const known = new Map<string, number>()
  for (const [date, meetings] of [...meetingsOn].sort((a, b) => a[0] < b[0] ? -1 : 1)) {
    const follows = moved.get(date) ?? weekdayOf(date)
    const key = `${follows} ${meetings.join()}`
    let cell = known.get(key)
    if (cell === undefined) {
      cell = cells.push({ days: 0, follows, first: date }) - 1
      known.set(key, cell)
    }
    cells[cell]!.days++
    cellOf.set(date, cell)
  }
  return { cells, cellOf }
}

/** What a bundle costs by itself: minutes in keep-free blocks and avoided sites on each date, the rest once a week. */
function ownCost(choice: Choice, others: readonly Choice[], wishes: readonly Wish[], term: ArrangeInput['term']): number {
  let cost = 0
  for (const wish of wishes) {
    if (wish.weight === 'hard') continue
    if (wish.kind === 'keep free' || wish.kind === 'avoid site') cost += wish.weight * meetingCost(wish, choice.sections, term)
    else if (wish.kind === 'avoid delivery')
      cost += wish.weight * PRICE.delivery * choice.sections.filter(section => section.delivery === wish.delivery).length
    else if (wish.kind === 'instructor' || wish.kind === 'group')
      cost += breaksWish(wish, choice, others) ? wish.weight * PRICE[wish.kind] : 0
    else if (wish.kind === 'seats left') cost += wish.weight * PRICE.seat * Math.max(0, wish.least - choice.seats)
  }
  return cost
}

function meetingCost(wish: Extract<Wish, { kind: 'keep free' | 'avoid site' }>, sections: readonly Section[], term: ArrangeInput['term']) {
  const moved = new Map(term.movedDays.map(day => [day.date, day.follows]))
  let cost = 0
  for (const { meetings } of sections)
    for (const meeting of meetings)
      for (const { date } of expandMeeting(meeting, term as Term)) {
        if (wish.kind === 'avoid site') cost += meeting.site === wish.site ? PRICE.avoidedSite : 0
        else if (wish.days.includes(moved.get(date) ?? weekdayOf(date)))
          cost += Math.max(0, Math.min(endOfDay(meeting), wish.end) - Math.max(meeting.start, wish.start))
      }
  return cost
}
