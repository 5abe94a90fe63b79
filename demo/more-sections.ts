import { type Course, type Delivery, isOffered, type Meeting, type Part, type Section, type Term,
  type Weekday } from '@ridgeway/core/catalog'
import { isNear } from './section-details'

/** What a slot offers: days and the minute at which it begins. */
interface Slot { days: Weekday[], start: number }
/** A course with the slots of one kind of section, and what is special about it. */
interface Wanted {
  course: Course
  /** Slots to try for the lecture, the first that is free is taken. */
  slots: Slot[]
  delivery?: Delivery
  site?: string
  values?: Partial<Section>
  /** Meetings that it must keep clear of: those of its group. */
  clearOf?: Meeting[]
  session?: string
}

const EXTRA_ROOMS = [...Array.from({ length: 16 }, (_, i) => `Gill Court ${i + 1}`), ...Array.from({ length: 6 }, (_, i) =>
  `Tarn Lab ${i + 7}`)]
const GROUPS: { group: string, courses: string[], shift: number }[] = [
  ...['A', 'B', 'C', 'D'].map((letter, shift) => ({ group: `WSC-1${letter}`, courses: ['CHY 110', 'GSP 120', 'WRT 210', 'TIM 120',
    'ECL 110'],
  shift })),
  ...['A', 'B', 'C'].map((letter, shift) => ({ group: `WSC-2${letter}`, courses: ['HYD 230', 'SOL 201', 'GSP 140', 'ECL 210'], shift })),
  ...['A', 'B'].map((letter, shift) => ({ group: `UPH-1${letter}`, courses: ['WRT 210', 'HRT 130', 'LNG 102', 'ECL 110'],
    shift: shift + 2 })),
  { group: 'TIM-1A', courses: ['MTH 150', 'PHX 140', 'TIM 150', 'WRT 210'], shift: 1 },
]
const EVENING = ['WRT 110', 'WRT 210', 'MTH 140', 'STT 201', 'VAL 110', 'VAL 220', 'HRT 130', 'HRT 150', 'LNG 102', 'ECL 110', 'MTH 110',
  'SOL 201',
  'HYD 210', 'GSP 225']
const WEEKEND = ['WRT 110', 'STT 201', 'VAL 110', 'HRT 130', 'LNG 101']
const MIXED = ['WRT 210', 'VAL 220', 'STT 201', 'HRT 230', 'LNG 102', 'MTH 140', 'HRT 150', 'VAL 110', 'WRT 310', 'ECL 210']
const ANY_TIME = ['WRT 310', 'STT 201', 'VAL 220', 'HRT 230', 'HRT 130', 'MTH 110', 'LNG 140', 'WRT 110', 'GSP 225', 'VAL 110']
const TOPICS: [string, string][] = [['HYD 450', 'Beaver ponds and slow water'], ['HYD 450', 'Snow that comes as rain'],
  ['ECL 450', 'Hedges as corridors'], ['ECL 450', 'Fire in wet country']]
/** Two names of one class, with one set of seats. */
const COMBINED: [string, string, string][] = [['HYD 450', 'ECL 450', 'Peat: water and life'], ['HRT 150', 'VAL 110',
  'Commons, then and now'],
['GSP 225', 'HRT 130', 'Maps as documents']]
/** Courses whose sections fill first, and how many sections are added for them. */
const LATE = ['VAL 110', 'HRT 130', 'WRT 210', 'STT 201', 'ECL 210', 'VAL 220', 'HRT 110', 'WRT 310', 'HRT 210', 'LNG 102', 'GSP 225',
  'ECL 110', 'HRT 150', 'LNG 140', 'WRT 110', 'MTH 110', 'HYD 115', 'VAL 240', 'MTH 140', 'HRT 230', 'VAL 110', 'WRT 210']
const LATE_SECTIONS = 20
const DAYS: Weekday[] = ['M', 'T', 'W', 'R', 'F']
const PAIRS: Weekday[][] = [['M', 'W'], ['T', 'R']]
const LONG_STARTS = [480, 570, 660, 780, 870, 960]
const LAB_STARTS = [480, 660, 840, 900, 960, 780]
/** A class of several parts: the credits that its labs and tutorials stand for. */
const partCredits = (course: Course, part: Part) => part === 'lecture'
  ? Math.max(1, course.credits / 100 - (course.parts.length > 1
      ? 1
      : 0))
  : 1

/**
 * What a term has beside its plain sections: groups that keep clear of clashes, evenings, a weekend, mixed and online ones, topics, and
 * classes under two names. Rooms are never double-booked with those that are there.
 */
export function moreSections(term: Term, courses: ReadonlyMap<string, Course>, before: readonly Section[], firstId: number): Section[] {
  return new Maker(term, courses, before, firstId).make()
}

/** Sections that were added last, since the first to register had filled what there was. */
export const lateSections = (term: Term, courses: ReadonlyMap<string, Course>, before: readonly Section[], firstId: number): Section[] =>
  new Maker(term, courses, before, firstId).makeLate()

/** What a summer has beside one section of each course: classes without set times, for those who work. */
export const summerSections = (term: Term, courses: ReadonlyMap<string, Course>, before: readonly Section[], firstId: number): Section[] =>
  new Maker(term, courses, before, firstId).makeSummer()

class Maker {
  private readonly made: Section[] = []
  private readonly full

  constructor(private readonly term: Term, private readonly courses: ReadonlyMap<string, Course>,
    private readonly before: readonly Section[],
    private readonly firstId: number) {
    this.full = term.sessions[0]!
  }

  make(): Section[] {
    for (const { group, courses, shift } of GROUPS) this.group(group, this.offered(courses), shift)
    this.offered(EVENING).forEach((course, i) => this.add({ course, slots: rotate(DAYS.slice(0, 4), i).map(day => ({ days: [day],
      start: 1065 })),
    values: { notes: 'In the evening, for those who work by day.' } }))
    this.offered(WEEKEND).forEach((course, i) => this.add({ course, slots: [{ days: ['S'], start: [540, 780][i % 2]! }] }))
    this.offered(MIXED).forEach((course, i) => this.add({ course, delivery: 'mixed',
      slots: rotate(DAYS, i).flatMap(day => LONG_STARTS.map(start => ({ days: [day], start }))),
      values: { notes: 'One meeting a week on site, one online at a set time.' } }))
    this.offered(ANY_TIME).forEach(course => this.add({ course, delivery: 'online any time', slots: [] }))
    for (const [code, topic] of TOPICS) for (const course of this.offered([code])) this.add({ course, slots: pairSlots(this.made.length),
      values: { topic } })
    for (const [code, other, topic] of COMBINED) this.combine(code, other, topic)
    // The half of the term that leaves room for those who come late.
    this.offered(['VAL 110', 'HRT 130', 'WRT 310']).forEach((course, i) => this.add({ course, session: 'second',
      slots: rotate(LONG_STARTS, i).map(start => ({ days: ['M', 'T', 'W', 'R'], start })) }))
    return this.made
  }

  makeLate(): Section[] {
    for (const [i, course] of this.offered(LATE).entries()) {
      if (this.made.length >= LATE_SECTIONS) break
      this.add({ course, slots: pairSlots(i * 3), values: { notes: 'Added on 6 November, as the others fill.' } })
    }
    return this.made
  }

  makeSummer(): Section[] {
    const plain = [...this.courses.values()].filter(course => isOffered(course, this.term) && course.parts.length === 1
      && !['FLD', 'TIM'].includes(course.subject))
    for (const course of plain) this.add({ course, delivery: 'online any time', slots: [] })
    return this.made
  }

  private offered = (codes: readonly string[]) => codes.flatMap((code) => {
    const course = this.courses.get(code)
    return course && isOffered(course, this.term) ? [course] : []
  })

  /** One bundle of each course, none of which is in another's way. */
  private group(group: string, courses: readonly Course[], shift: number) {
    const meetings: Meeting[] = []
    courses.forEach((course, i) => {
      const made = this.add({ course, slots: pairSlots(shift * 5 + i * 2), clearOf: meetings,
        values: { group, notes: `Keeps clear of the other courses of group ${group}.` } })
      meetings.push(...made.flatMap(section => section.meetings))
    })
  }

  private combine(code: string, other: string, topic: string) {
    const [course, second] = this.offered([code, other])
    if (!course || !second) return
    const [owner] = this.add({ course, slots: pairSlots(this.made.length), values: { topic,
      notes: `Meets together with ${second.code}.` } })
    this.push(second, 'lecture', this.nextLink(second.code), owner!.meetings, { topic, notes: `Meets together with ${course.code}.`,
      seatsWith: owner!.id, pools: [], instructors: owner!.instructors })
  }

  private add({ course, slots, delivery = 'on site', values = {}, clearOf = [], session = 'full' }: Wanted): Section[] {
    const link = this.nextLink(course.code)
    const mine: Meeting[] = []
    return course.parts.map((part) => {
      const meetings = delivery === 'online any time' ? [] : this.place(course, part, slots, delivery, [...clearOf, ...mine], session)
      mine.push(...meetings)
      return this.push(course, part, link, meetings, { delivery, session, ...values })
    })
  }

  private place(course: Course, part: Part, slots: readonly Slot[], delivery: Delivery, clearOf: readonly Meeting[],
    code: string): Meeting[] {
    const session = this.term.sessions.find(one => one.code === code) ?? this.full
    const weekly = (part === 'lab' ? 170 : partCredits(course, part) * 50) * (session.code === 'full' ? 1 : 2)
    const site = siteFor(course, part)
    const once = part !== 'lecture'
    for (const { days, start } of once ? onceSlots(this.made.length) : slots) {
      const times = delivery === 'mixed' ? 2 : days.length
      const end = start + Math.round(weekly / times)
      const first: Meeting = { days, start, end, first: session.start, last: session.end, site, room: '' }
      if (end > 1300 || clearOf.some(other => isNear(other, first))) continue
      const room = this.roomFor(first, part)
      if (!room) continue
      const meeting = { ...first, room }
      if (delivery !== 'mixed') return [meeting]
      const day = DAYS[(DAYS.indexOf(days[0]!) + 2) % 5]!
      return [meeting, { ...meeting, days: [day], site: 'online', room: 'Online, live' }]
    }
    throw new Error(`no room left for another ${part} of ${course.code} in ${this.term.name}`)
  }

  private roomFor(meeting: Meeting, part: Part): string | undefined {
    const rooms = meeting.site === 'larkmoor'
      ? EXTRA_ROOMS.filter(room => room.startsWith('Tarn Lab') === (part === 'lab'))
      : Array.from({ length: 6 }, (_, i) => meeting.site === 'stonegate' ? `Works ${i + 21}` : `Upper Loft ${i + 1}`)
    const taken = [...this.before, ...this.made].flatMap(section => section.seatsWith === null ? section.meetings : [])
    return rooms.find(room => !taken.some(other => other.room === room && other.site === meeting.site && overlap(other, meeting, 0)))
  }

  private nextLink(code: string): string {
    const links = [...this.before, ...this.made].filter(one => one.course === code).map(one => Number(one.link))
    return String(Math.max(0, ...links) + 1).padStart(2, '0')
  }

  private push(course: Course, part: Part, link: string, meetings: Meeting[], values: Partial<Section>): Section {
    const id = this.firstId + this.made.length
    const capacity = course.parts.includes('lab') ? 20 : 26
    const made: Section = {
      id, term: this.term.code, session: 'full', course: course.code, number: String(20000 + id), part, link,
      label: part === 'lecture' || course.parts.length === 1 ? link : `${link}${part === 'lab' ? 'L' : 'T'}`,
      meetings, exam: null, instructors: [], pools: [{ id: id * 10, forGroup: null, capacity, taken: 0, held: 0 }], waitlistCapacity: 6,
      waiting: 0, delivery: 'on site', topic: '', notes: '', fee: 0, gradingModes: ['letter'], group: '', seatsWith: null, onlyPrograms: [],
      onlyStandings: [], onlyCohorts: [], cancelled: false, ...values,
    }
    this.made.push(made)
    return made
  }
}

const rotate = <T>(list: readonly T[], by: number): T[] => [...list.slice(by % list.length), ...list.slice(0, by % list.length)]
const pairSlots = (by: number): Slot[] => rotate(LONG_STARTS.flatMap(start => PAIRS.map(days => ({ days, start }))), by)
const onceSlots = (by: number): Slot[] => rotate(LAB_STARTS.flatMap(start => DAYS.map(day => ({ days: [day], start }))), by * 7)

function siteFor(course: Course, part: Part): string {
  if (course.subject === 'TIM') return 'stonegate'
  return course.subject === 'GSP' && part === 'lab' ? 'stonegate' : 'larkmoor'
}
const overlap = (a: Meeting, b: Meeting, room: number) =>
  a.days.some(day => b.days.includes(day)) && a.start < b.end + room && b.start < a.end + room && a.first <= b.last && b.first <= a.last
