import {
  type Course, type Delivery, isOffered, type Meeting, type Section, type Session, type Term, type Weekday,
} from '@ridgeway/core/catalog'
import type { Random } from './random'

interface Slot {
  days: Weekday[]
  start: number
}

const PAIRS: Weekday[][] = [['M', 'W'], ['T', 'R']]
const LONG_STARTS = [480, 570, 660, 780, 870, 960]
const LAB_STARTS = [480, 540, 660, 780, 840, 900, 960]
const SURNAMES = ['Aldane', 'Brackwell', 'Corrie', 'Dunmoor', 'Eskrigg', 'Farrant', 'Greave', 'Hollin', 'Ivers', 'Jessop', 'Keld',
  'Lorimer', 'Mossop', 'Netherby', 'Oake', 'Pellow', 'Quarmby', 'Roxby', 'Skelwith', 'Thrang', 'Underhay', 'Vasey', 'Wharram', 'Yewdale']
const ROOMS: Record<string, string[]> = {
  larkmoor: ['Fell Hall 12', 'Fell Hall 14', 'Fell Hall 20', 'Beck House 3', 'Beck House 5', 'Beck House 9', 'Cairn 101', 'Cairn 102',
    'Cairn 204', 'Tarn Lab 1', 'Tarn Lab 2', 'Tarn Lab 3', 'Tarn Lab 4', 'Library 2', 'Library 4', 'Fell Hall 22', 'Beck House 11',
    'Beck House 12', 'Cairn 206', 'Cairn 210', 'Ghyll 1', 'Ghyll 2', 'Ghyll 5', 'Ghyll 6', 'Ghyll 7', 'Ghyll 8', 'Scar 1', 'Scar 2',
    'Scar 3', 'Scar 4', 'Tarn Lab 5', 'Tarn Lab 6'],
  stonegate: ['Works 3', 'Works 5', 'Works 8', 'Works 11', 'Works 12', 'Works 14', 'Works 15', 'Works 17'],
  high: ['Station Hall', 'Wet Lab', 'Loft', 'Upper Room', 'Boat House'],
}
const POPULAR = new Set(['WRT', 'MTH', 'CHY', 'STT', 'HYD', 'VAL', 'HRT'])

/**
 * Sections of one term: bundles with linked labs, half-term and online ones, some kept for a program, some cancelled; rooms are never
 * double-booked.
 */
export function makeSections(term: Term, courses: readonly Course[], random: Random, firstId: number): Section[] {
  const sections: Section[] = []
  const booked = new Map<string, { start: number, end: number, first: string, last: string }[]>()
  let id = firstId
  for (const course of courses.filter(candidate => isOffered(candidate, term))) {
    const bundles = term.season === 'summer' ? 1 : bundleCount(course, random)
    for (let b = 1; b <= bundles; b++) {
      const link = String(b).padStart(2, '0')
      const session = chooseSession(course, term, b, random)
      const delivery = chooseDelivery(course, b, bundles)
      const capacity = course.parts.includes('lab') ? random.between(14, 24) : random.between(18, 32)
      const instructor = random.pick(SURNAMES)
      const reserved = course.subject === 'HYD' && course.number < 300 && b === 1
      const cancelled = bundles > 2 && b === bundles && random.chance(0.2)
      const bundle: Meeting[] = []
      course.parts.forEach((part, index) => {
        const meetings = delivery === 'online any time' ? [] : [placeMeeting(course, part, term, session, delivery, bundle, booked, random)]
        bundle.push(...meetings)
        const room = meetings[0]?.room ?? ''
        sections.push({
          id,
          term: term.code,
          session: session.code,
          course: course.code,
          number: String(20000 + id),
          part,
          link,
          label: part === 'lecture' || course.parts.length === 1 ? link : `${link}${part === 'lab' ? 'L' : 'T'}`,
          meetings,
          exam: null,
          instructors: [index === 0 ? instructor : random.pick(SURNAMES)],
          pools: reserved
            ? [{ id: id * 10, forGroup: null, capacity: capacity - 4, taken: 0, held: 0 }, { id: id * 10 + 1, forGroup: 'WSC-BS',
                capacity: 4, taken: 0, held: 0 }]
            : [{ id: id * 10, forGroup: null, capacity, taken: 0, held: 0 }],
          waitlistCapacity: 6,
          waiting: 0,
          delivery,
          topic: '',
          notes: room.startsWith('Station') || room === 'Wet Lab' ? 'Van from Larkmoor leaves 45 minutes before.' : '',
          fee: 0,
          gradingModes: ['letter'],
          group: '',
          seatsWith: null,
          onlyStandings: [],
          onlyCohorts: [],
          onlyPrograms: course.subject === 'FLD' && course.number >= 200 && b === 2 ? ['TSS-CERT'] : [],
          cancelled,
        })
        id++
      })
    }
  }
  return sections
}

function bundleCount(course: Course, random: Random): number {
  if (course.number >= 300) return course.number >= 400 ? 1 : random.between(1, 2)
  return POPULAR.has(course.subject) && course.number < 220 ? random.between(3, 4) : random.between(2, 3)
}

function chooseSession(course: Course, term: Term, bundle: number, random: Random): Session {
  const half = course.credits <= 300 && course.parts.length === 1 && bundle >= 2 && random.chance(0.25)
  const code = half ? random.pick(['first', 'second']) : 'full'
  return term.sessions.find(session => session.code === code)!
}

function chooseDelivery(course: Course, bundle: number, bundles: number): Delivery {
  if (course.parts.length > 1 || !['WRT', 'HRT', 'STT', 'VAL', 'MTH', 'GSP', 'LNG'].includes(course.subject)) return 'on site'
  if (bundle === bundles && bundles >= 3) return 'online any time'
  return bundle === 2 && bundles >= 3 ? 'online live' : 'on site'
}

/**
 * Weekly minutes follow the credits: 50 minutes a credit for lectures and tutorials, 170 for a lab,
 * doubled in half a term (common practice, no source).
 */
function placeMeeting(course: Course, part: Section['part'], term: Term, session: Session, delivery: Delivery, siblings: Meeting[],
  booked: Map<string, { start: number, end: number, first: string, last: string }[]>, random: Random): Meeting {
  const labCredits = course.parts.includes('lab') || course.parts.includes('tutorial') ? 1 : 0
  const credits = part === 'lecture' ? Math.max(1, course.credits / 100 - labCredits) : 1
  const factor = session.code === 'full' ? (term.season === 'summer' ? 2 : 1) : 2
  const lab = part === 'lab'
  const perWeek = (lab ? 170 : credits * 50) * factor
  const site = delivery === 'online live' ? 'online' : siteFor(course, part)
  for (let attempt = 0; attempt < 200; attempt++) {
    const slot = chooseSlot(lab || part === 'tutorial' || credits === 1, factor, random)
    const end = slot.start + Math.round(perWeek / slot.days.length)
    if (end > 20 * 60 || siblings.some(other => tooClose(other, slot, end, site))) continue
    const rooms = (ROOMS[site] ?? []).filter(name => site !== 'larkmoor' || name.startsWith('Tarn Lab') === lab)
    const room = site === 'online'
      ? 'Online, live'
      : rooms.find(name => slot.days.every(day => isFree(booked.get(`${name} ${day}`) ?? [], slot.start, end, session)))
    if (!room) continue
    if (site !== 'online') {
      for (const day of slot.days) {
        booked.set(`${room} ${day}`, [...booked.get(`${room} ${day}`) ?? [], { start: slot.start, end, first: session.start,
          last: session.end }])
      }
    }
    return { days: slot.days, start: slot.start, end, first: session.start, last: session.end, site, room }
  }
  throw new Error(`no room left for ${course.code} in ${term.name}`)
}

/** Parts of one bundle never overlap, and leave an hour where they are at different sites. */
function tooClose(other: Meeting, slot: Slot, end: number, site: string): boolean {
  const room = other.site === site ? 0 : 60
  return other.days.some(day => slot.days.includes(day)) && slot.start < other.end + room && other.start < end + room
}

function chooseSlot(once: boolean, factor: number, random: Random): Slot {
  if (once && factor === 1) return { days: [random.pick<Weekday>(['M', 'T', 'W', 'R', 'F', 'F'])], start: random.pick(LAB_STARTS) }
  if (once) return { days: random.pick(PAIRS), start: random.pick(LAB_STARTS) }
  if (factor > 1)
    return { days: random.pick<Weekday[]>([['M', 'T', 'W', 'R'], ['M', 'W', 'F'], ['T', 'R']]), start: random.pick(LONG_STARTS) }
  return random.chance(0.2)
    ? { days: ['M', 'W', 'F'], start: random.pick([480, 540, 600, 660, 780]) }
    : { days: random.pick(PAIRS), start: random.pick(LONG_STARTS) }
}

function siteFor(course: Course, part: Section['part']): string {
  if (course.subject === 'TIM') return 'stonegate'
  if (course.subject === 'FLD' && course.number >= 200 && part !== 'lecture') return 'high'
  if (course.code === 'FLD 260') return 'high'
  return course.subject === 'GSP' && part === 'lab' ? 'stonegate' : 'larkmoor'
}

function isFree(taken: { start: number, end: number, first: string, last: string }[], start: number, end: number,
  session: Session): boolean {
  return taken.every(other => other.end <= start || end <= other.start || other.last < session.start || session.end < other.first)
}
