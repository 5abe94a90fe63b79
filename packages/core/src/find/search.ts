import { remembered } from '../catalog/remembered'
import type { Course, CourseCode, Credits, Delivery, Section, Weekday } from '../catalog/types'
import { refusalsOf } from '../next/mend-week'
import type { LineRef } from '../record/ids'
import { chosenCredits, type DecisionContext, type LineUpRow } from '../registration/decision'
import { decideBeside } from '../registration/decide-run'
import type { Finding, RefusalCode } from '../registration/findings'
import { groupsOf } from '../registration/groups'
import { seatsFor } from '../registration/seats'
import { breaksWish, type Wish } from '../weeks/arrange'
import type { Bundle } from '../weeks/bundles'
import { offerOf } from '../weeks/offer'
import { inOrder, type SearchOrder } from './order'
import { readText, type TextIndex } from './text'

/** What is looked for among the sections of a term. A condition that is not set lets everything through. */
export interface SectionSearch {
  text: string
  /** Lines that a course would count for, any of them; `open` is every open line. */
  lines?: readonly ('open' | LineRef)[] | undefined
  /** Nothing refuses it but what is beside it, or that it is full. */
  canTake?: boolean | undefined
  /** It clashes with nothing that is picked or registered, and hits no block that is kept free. */
  fits?: boolean | undefined
  seatsLeft?: boolean | undefined
  /** Days on which it may meet: all its days are among them. */
  days?: readonly Weekday[] | undefined
  /** Minutes of the day between which all of it lies. */
  from?: number | undefined
  to?: number | undefined
  sites?: readonly string[] | undefined
  deliveries?: readonly Delivery[] | undefined
  sessions?: readonly string[] | undefined
  subjects?: readonly string[] | undefined
  /** Hundreds of the course number. */
  levels?: readonly number[] | undefined
  instructor?: string | undefined
  group?: string | undefined
  /** Only what is on the shortlist. */
  remembered?: boolean | undefined
  /** Shows what is not shown for one reason: see `hidden` of the counts. */
  hiddenFor?: string | undefined
  sort?: SearchOrder | undefined
}
export type Condition = Exclude<keyof SectionSearch, 'text' | 'sort' | 'from' | 'to' | 'hiddenFor'> | 'hours'
const CONDITIONS: readonly Condition[] = ['lines', 'canTake', 'fits', 'seatsLeft', 'days', 'hours', 'sites', 'deliveries', 'sessions',
  'subjects',
  'levels', 'instructor', 'group', 'remembered']

/** A requirement line that a course would count for; `used` where it is this course that fills it, as record and plan stand. */
export interface CountsFor { line: LineRef, title: string, program: string, hue: string, open: boolean, overlay: boolean, used: boolean }

/** Conditions that ask for the decision on a bundle, not only for what it is. */
const DECIDED: readonly Condition[] = ['canTake', 'fits', 'seatsLeft', 'remembered']

/** One bundle as it is for this student. */
export interface FoundBundle {
  id: string
  course: CourseCode
  sections: Section[]
  /** What refuses it, gates and its own row left out; none when it fits. */
  refusals: Finding[]
  /** Names of the blocks kept free that it hits. */
  hits: string[]
  /** Seats in each part that this student could take, at least. */
  seats: number
  waiting: number
  picked: boolean
  registered: boolean
  remembered: boolean
}
export interface FoundCourse { course: CourseCode, credits: Credits, countsFor: CountsFor[], bundles: FoundBundle[] }

/** How many bundles each choice of a condition would leave, with all other conditions as they are. */
export interface SearchCounts {
  lines: Record<LineRef, number>
  canTake: number
  fits: number
  seatsLeft: number
  days: Partial<Record<Weekday, number>>
  sites: Record<string, number>
  deliveries: Partial<Record<Delivery, number>>
  sessions: Record<string, number>
  subjects: Record<string, number>
  levels: Record<string, number>
  instructors: Record<string, number>
  groups: Record<string, number>
  /** What is not shown only because it cannot be taken, does not fit or is full, by the first reason. */
  hidden: { reason: HiddenReason, bundles: number }[]
  /** Where nothing is found: what letting one condition go, or the words, would bring. */
  letGo: { condition: Condition | 'text', bundles: number }[]
}
export type HiddenReason = RefusalCode | 'keep free'

/** Whether one of the numbers that were asked for is there, and which bundle it belongs to. */
export interface NumberFound { number: string, bundles: string[], course: CourseCode | null }

export interface SearchResult {
  courses: FoundCourse[]
  bundles: number
  courseCount: number
  counts: SearchCounts
  /** For a list of section numbers: each with what it is. */
  numbers: NumberFound[]
}

export interface SearchInput {
  search: SectionSearch
  /** What the decision reads, with all sections of the term, and the rows of the line-up that are not registered. */
  context: DecisionContext
  rows: readonly LineUpRow[]
  /** Lines of the student's programs, the open ones first as they are to be read, and which courses each still takes. */
  lines: readonly SearchLine[]
  wishes: readonly Wish[]
  /** Bundles on the shortlist, by their ids. */
  shortlist: ReadonlySet<string>
  /** Credits chosen in the plan for a course of this term. */
  creditsOf: (course: CourseCode) => Credits | null
  index: TextIndex
  /** Courses that are listed at most. */
  most: number
}
export interface SearchLine extends Omit<CountsFor, 'used'> {
  takes: (course: Course) => boolean
  /** Courses that fill it. */
  uses: ReadonlySet<CourseCode>
}

/** A bundle on its way through the conditions; `found` is read when something asks for it. */
interface Candidate { bundle: Bundle, score: number, found: FoundBundle | null, shape: Shape, course: Course }
/** When and where the weekly meetings of a bundle are; without set times it lies between all hours, on no day. */
interface Shape { days: Weekday[], start: number, end: number, sites: string[] }

const shapeOf = remembered(({ sections }: Bundle): Shape => {
  const shape: Shape = { days: [], start: Infinity, end: -Infinity, sites: [] }
  const add = <T>(list: T[], one: T) => list.includes(one) || list.push(one)
  for (const { meetings } of sections)
    for (const meeting of meetings) {
      add(shape.sites, meeting.site)
      // A trip on a single day says nothing about the days and hours of a course.
      if (!isWeekly(meeting)) continue
      for (const day of meeting.days) add(shape.days, day)
      shape.start = Math.min(shape.start, meeting.start)
      shape.end = Math.max(shape.end, endsAt(meeting))
    }
  return shape
})

/** What answers to a search, as it is for one student; pure, and the same for the same input. */
export function findSections(input: SearchInput): SearchResult {
  const { search, most } = input
  const reader = new BundleReader(input)
  const { candidates, numbers } = answering(input)
  const openLines = input.lines.filter(line => line.open)
  const linesOf = memo((course: Course) => openLines.filter(line => line.takes(course)))
  const asked = CONDITIONS.filter(condition => isSet(search, condition))
  const shown: Candidate[] = []
  const nearly = new Map<Condition, Candidate[]>()
  const hidden = new Map<HiddenReason, number>()
  const [plain, decided] = [asked.filter(one => !DECIDED.includes(one)), asked.filter(one => DECIDED.includes(one))]
  const nearlyBy = (condition: Condition, candidate: Candidate) => {
    const list = nearly.get(condition)
    if (list) list.push(candidate)
    else nearly.set(condition, [candidate])
  }
  // Where only what can be taken is asked for, no more needs to be known of a course that is refused than that.
  const mayStop = search.canTake && !search.fits && !search.remembered && !search.hiddenFor
  for (const candidate of candidates) {
    // What two plain conditions keep away is in no count: it needs no decision.
    const early: Condition[] = []
    for (const condition of plain) if (early.length < 2 && !holdsPlainly(condition, search, candidate, linesOf)) early.push(condition)
    if (early.length > 1) continue
    const refused = mayStop ? reader.refusedCourse(candidate.course.code) : undefined
    if (refused) {
      const isFull = search.seatsLeft && reader.seatsIn(candidate.bundle) === 0
      if (early.length === 0 && !isFull) nearlyBy('canTake', candidate)
      if (early.length === 0) hidden.set(refused, (hidden.get(refused) ?? 0) + 1)
      continue
    }
    const found = candidate.found = reader.read(candidate.bundle)
    const fails = [...early, ...decided.filter(condition => !holdsDecided(condition, found))]
    if (fails.length === 0 && !search.hiddenFor) shown.push(candidate)
    else if (fails.length === 1) nearlyBy(fails[0]!, candidate)
    if (fails.length > 0 && fails.every(one => one === 'canTake' || one === 'fits' || one === 'seatsLeft')) {
      const reason = reasonOf(found, fails[0]!)
      hidden.set(reason, (hidden.get(reason) ?? 0) + 1)
      if (reason === search.hiddenFor) shown.push(candidate)
    }
  }
  const courses = inOrder(shown, search.sort ?? 'best', most, linesOf)
  return {
    courses: courses.slice(0, most).map(({ course, bundles }) => ({
      course: course.code, credits: chosenCredits(input.creditsOf(course.code), course),
      countsFor: countsFor(course, input.lines),
      bundles: bundles.map(one => one.found!),
    })),
    bundles: shown.length,
    courseCount: courses.length,
    counts: { ...countChoices(shown, nearly, openLines, linesOf), hidden: [...hidden].map(([reason, bundles]) => ({ reason, bundles }))
      .sort((a, b) => b.bundles - a.bundles),
    letGo: shown.length > 0 ? [] : letGo(nearly, input) },
    numbers,
  }
}

/** All that a course would count for, open lines first. */
export const countsFor = (course: Course, lines: readonly SearchLine[]): CountsFor[] =>
  lines.filter(line => line.takes(course) || line.uses.has(course.code))
    .map(({ takes: _, uses, ...line }) => ({ ...line, used: uses.has(course.code) })).sort((a, b) => Number(b.used) - Number(a.used))

/** The bundles that answer to the words, or to the numbers, with how well. */
function answering({ search, context, index }: SearchInput): { candidates: Candidate[], numbers: NumberFound[] } {
  const offer = offerOf(context.sections)
  const bundlesIn = (code: CourseCode): Candidate[] => {
    const course = context.courses.get(code)
    return course ? offer.bundles(course).map(bundle => ({ bundle, score: 1, found: null, shape: shapeOf(bundle), course })) : []
  }
  const query = readText(search.text)
  if (query.kind === 'nothing') return { candidates: offer.courses().sort().flatMap(bundlesIn), numbers: [] }
  if (query.kind === 'code') {
    const all = bundlesIn(query.course)
    const named = all.filter(one => one.bundle.sections.some(section => section.label.toUpperCase() === query.label))
    if (all.length > 0) return { candidates: named.length > 0 ? named : all, numbers: [] }
  }
  if (query.kind === 'numbers') {
    const sections = [...context.sections.values()]
    const numbers = query.numbers.map((number): NumberFound => {
      const section = sections.find(one => one.number === number)
      const bundles = section ? bundlesIn(section.course).filter(one => one.bundle.sections.some(other => other.id === section.id)) : []
      return { number, course: section?.course ?? null, bundles: bundles.map(one => one.bundle.id) }
    })
    const wanted = new Set(numbers.flatMap(one => one.bundles))
    return { candidates: [...new Set(numbers.flatMap(one => one.course ?? []))].flatMap(bundlesIn).filter(one =>
      wanted.has(one.bundle.id)), numbers }
  }
  const words = query.kind === 'words' ? query.words : query.course.toLowerCase().split(' ')
  const { courses, sections } = index.search(words)
  const codes = new Set([...courses.keys(), ...[...sections.keys()].flatMap(id => context.sections.get(id)?.course ?? [])])
  const found = [...codes].flatMap((code) => {
    const answer = courses.get(code)
    const asked = new Set(answer?.asked)
    return bundlesIn(code).map((candidate) => {
      let [all, score] = [asked, answer?.score ?? 0]
      // Where the words are of the course alone, they are the same for each of its bundles.
      for (const { id } of candidate.bundle.sections) {
        const own = sections.get(id)
        if (own) [all, score] = [new Set([...all, ...own.asked]), score + own.score]
      }
      return { candidate, words: all.size, score }
    })
  })
  // What answers to all of the words, or else to most of them.
  const best = Math.max(0, ...found.map(one => one.words))
  return { candidates: found.filter(one => one.words === best).map(({ candidate, score }) => ({ ...candidate, score })), numbers: [] }
}

const NONE: string[] = []
/** What refuses a course whichever of its bundles is looked at. */
const OF_EVERY_BUNDLE: readonly RefusalCode[] = ['prerequisite', 'corequisite', 'already-passed', 'taken-elsewhere', 'exclusion']

/** Reads bundles as they are for the student, beside the line-up without the course's own row. */
class BundleReader {
  private readonly groups: string[]
  private readonly beside = new Map<CourseCode, (row: LineUpRow) => ReturnType<ReturnType<typeof decideBeside>>>()
  private readonly all
  private readonly registered: ReadonlySet<number>
  private readonly blocks: readonly Wish[]

  constructor(private readonly input: SearchInput) {
    const { context, rows, wishes } = input
    this.groups = groupsOf(context, context.items, context)
    this.all = decideBeside(rows, context)
    this.registered = new Set(context.registered.map(section => section.id))
    this.blocks = wishes.filter(wish => wish.kind === 'keep free')
  }

  read({ id, course, sections }: Bundle): FoundBundle {
    const { rows, creditsOf } = this.input
    const sectionIds = sections.map(section => section.id)
    const mine = rows.find(row => row.course === course)
    const { findings } = this.besideOthers(course)({ id: -1, course, sectionIds, credits: creditsOf(course) })
    const refusals = refusalsOf(findings)
    if (!this.refused.has(course)) {
      const isRegistered = sectionIds.every(one => this.registered.has(one))
      this.refused.set(course, isRegistered ? undefined : refusals.find(one => OF_EVERY_BUNDLE.includes(one.code))?.code)
    }
    const choice = { id, sections, seats: 0 }
    return {
      id, course, sections, refusals,
      hits: this.blocks.length === 0
        ? NONE
        : this.blocks.flatMap(wish => breaksWish(wish, choice) && wish.kind === 'keep free'
            ? [wish.name ?? '']
            : []),
      seats: this.seatsIn({ sections }),
      waiting: Math.max(...sections.map(section => section.waiting)),
      picked: mine !== undefined && mine.sectionIds.length === sectionIds.length && sectionIds.every(one => mine.sectionIds.includes(one)),
      registered: sectionIds.every(one => this.registered.has(one)),
      remembered: this.input.shortlist.has(id),
    }
  }

  private readonly refused = new Map<CourseCode, RefusalCode | undefined>()
  /** What refuses a course as such, where a bundle of it was read before; it is the same for the others. */
  refusedCourse = (course: CourseCode) => this.refused.get(course)
  seatsIn = ({ sections }: Pick<Bundle, 'sections'>) => Math.min(...sections.map(section => seatsFor(section, this.groups)))

  private besideOthers(course: CourseCode) {
    const { rows, context } = this.input
    if (!rows.some(row => row.course === course)) return this.all
    const known = this.beside.get(course) ?? decideBeside(rows.filter(row => row.course !== course), context)
    this.beside.set(course, known)
    return known
  }
}

const isSet = (search: SectionSearch, condition: Condition): boolean => {
  if (condition === 'hours') return search.from !== undefined || search.to !== undefined
  const value = search[condition]
  return Array.isArray(value) ? value.length > 0 : Boolean(value)
}

const endsAt = (meeting: { start: number, end: number }) => meeting.end <= meeting.start ? meeting.end + 1440 : meeting.end
const isWeekly = (meeting: { first: string, last: string }) => meeting.first !== meeting.last
const clashes = (refusals: readonly Finding[]) => refusals.some(one => one.code === 'clash')
/** Refused for what stands beside it, or for want of a seat: not for what the student is. */
const OF_THE_MOMENT: readonly RefusalCode[] = ['clash', 'seats-full', 'load-cap']
const isOfTheMoment = (finding: Finding): boolean =>
  finding.code === 'partner-refused' ? finding.because.every(isOfTheMoment) : OF_THE_MOMENT.includes(finding.code)
const levelOf = (course: Course) => Math.floor(course.number / 100)

/** Whether a condition holds that asks only what a bundle is. */
function holdsPlainly(condition: Condition, search: SectionSearch, { bundle: { sections }, course, shape }: Candidate,
  linesOf: (course: Course) => SearchLine[]): boolean {
  switch (condition) {
    case 'lines': return linesOf(course).some(line => search.lines!.includes('open') || search.lines!.includes(line.line))
    case 'days': return shape.days.every(day => search.days!.includes(day))
    case 'hours': return shape.start >= (search.from ?? 0) && shape.end <= (search.to ?? 2880)
    case 'sites': return shape.sites.every(site => search.sites!.includes(site))
    case 'deliveries': return sections.every(section => search.deliveries!.includes(section.delivery))
    case 'sessions': return sections.every(section => search.sessions!.includes(section.session))
    case 'subjects': return search.subjects!.includes(course.subject)
    case 'levels': return search.levels!.includes(levelOf(course))
    case 'instructor': return sections.some(section => section.instructors.includes(search.instructor!))
    case 'group': return sections.some(section => section.group === search.group)
    default: return true
  }
}

/** Whether a condition holds that asks for the decision. */
function holdsDecided(condition: Condition, found: FoundBundle): boolean {
  switch (condition) {
    case 'canTake': return found.registered || found.refusals.every(isOfTheMoment)
    case 'fits': return !clashes(found.refusals) && found.hits.length === 0
    case 'seatsLeft': return found.seats > 0 || found.registered
    case 'remembered': return found.remembered
    default: return true
  }
}

function reasonOf({ refusals, hits }: FoundBundle, fails: Condition): HiddenReason {
  const first = fails === 'canTake'
    ? refusals.find(one => !isOfTheMoment(one))
    : refusals.find(one => one.code === (fails === 'fits' ? 'clash' : 'seats-full'))
  return first ? first.code : hits.length > 0 ? 'keep free' : 'seats-full'
}

/** Every choice with how many bundles it would leave: those shown, and those that only this condition keeps away. */
function countChoices(shown: readonly Candidate[], nearly: ReadonlyMap<Condition, readonly Candidate[]>, openLines: readonly SearchLine[],
  linesOf: (course: Course) => SearchLine[]): Omit<SearchCounts, 'hidden' | 'letGo'> {
  const within = (condition: Condition) => [shown, nearly.get(condition) ?? []]
  function tally<K extends string>(condition: Condition, of: (candidate: Candidate) => readonly K[]): Record<K, number> {
    const counts = new Map<K, number>()
    for (const list of within(condition))
      for (const candidate of list) {
        const keys = of(candidate)
        for (const [i, key] of keys.entries()) if (keys.indexOf(key) === i) counts.set(key, (counts.get(key) ?? 0) + 1)
      }
    return Object.fromEntries(counts) as Record<K, number>
  }
  const count = (condition: Condition) => within(condition).reduce((sum, list) => sum + list.filter(one =>
    one.found && holdsDecided(condition, one.found)).length, 0)
  const sections = (candidate: Candidate) => candidate.bundle.sections
  const lines = tally('lines', ({ course }) => linesOf(course).map(line => line.line))
  return {
    lines: Object.fromEntries(openLines.map(({ line }) => [line, lines[line] ?? 0])),
    canTake: count('canTake'),
    fits: count('fits'),
    seatsLeft: count('seatsLeft'),
    days: tally('days', one => one.shape.days),
    sites: tally('sites', one => one.shape.sites),
    deliveries: tally('deliveries', one => sections(one).map(section => section.delivery)),
    sessions: tally('sessions', one => sections(one).map(section => section.session)),
    subjects: tally('subjects', one => [one.course.subject]),
    levels: tally('levels', one => [String(levelOf(one.course))]),
    instructors: tally('instructor', one => sections(one).flatMap(section => section.instructors)),
    groups: tally('group', one => sections(one).flatMap(section => section.group ? [section.group] : [])),
  }
}

/** What each condition alone keeps away, the most first; and what would be found without the words. */
function letGo(nearly: ReadonlyMap<Condition, readonly Candidate[]>, input: SearchInput): SearchCounts['letGo'] {
  const single = [...nearly].map(([condition, list]) => ({ condition, bundles: list.length }))
  // Without words there are none to let go, so this ends.
  const words = input.search.text.trim() === '' ? [] : wordsAway(input)
  return [...single, ...words].sort((a, b) => b.bundles - a.bundles)
}
function wordsAway(input: SearchInput): SearchCounts['letGo'] {
  const { bundles } = findSections({ ...input, search: { ...input.search, text: '' }, most: 0 })
  return bundles > 0 ? [{ condition: 'text', bundles }] : []
}

function memo<K, V>(read: (key: K) => V): (key: K) => V {
  const known = new Map<K, V>()
  return (key) => {
    if (!known.has(key)) known.set(key, read(key))
    return known.get(key)!
  }
}
