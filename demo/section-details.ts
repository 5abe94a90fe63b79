import type { Course, Meeting, Section, Term } from '@ridgeway/core/catalog'

const SURNAMES = ['Aldane', 'Brackwell', 'Corrie', 'Dunmoor', 'Eskrigg', 'Farrant', 'Greave', 'Hollin', 'Ivers', 'Jessop', 'Keld',
  'Lorimer',
  'Mossop', 'Netherby', 'Oake', 'Pellow', 'Quarmby', 'Roxby', 'Skelwith', 'Thrang', 'Underhay', 'Vasey', 'Wharram', 'Yewdale']
const INITIALS = 'RNTALSEJMHKD'
/** Days on which field courses go out: Saturdays of the term. */
const TRIP_SATURDAYS = [40, 54, 68, 89, 96, 33]
/** Exams: five days of four slots in the week after the last class. */
const EXAM_SLOTS = [[480, 600], [630, 750], [810, 930], [960, 1080]] as const
const LAB_FEES: Record<string, number> = { CHY: 4500, PHX: 3000, TIM: 3500, ECL: 2000 }

/**
 * What the bare timetable does not say: who teaches (nobody at two places at once), exams by the hour at which a course meets, trips, fees,
 * ways of being graded, and for whom some sections are. Drawn from nothing but the timetable, so that it is the same every time.
 */
export function withDetails(sections: readonly Section[], term: Term, courses: ReadonlyMap<string, Course>): Section[] {
  const trips = new Map<string, number>()
  const detailed = sections.map((section): Section => {
    const course = courses.get(section.course)!
    return {
      ...section,
      exam: section.exam ?? examOf(section, term),
      meetings: [...section.meetings, ...tripOf(section, term, trips)],
      fee: section.part === 'lab' ? LAB_FEES[course.subject] ?? 0 : section.delivery === 'online any time' ? 1500 : 0,
      gradingModes: course.number >= 300 || course.subject === 'LNG' || course.credits === 100
        ? ['letter', 'pass', 'audit']
        : ['letter',
            'audit'],
      ...section.course === 'WRT 110' && section.link === '01' ? { onlyStandings: ['freshman' as const] } : {},
      ...section.group === 'WSC-1A' ? { onlyCohorts: ['TRAILHEAD'] } : {},
    }
  })
  return withTeachers(detailed.map(section => withSharedMeetings(section, detailed)), courses)
}

/** What goes under a second name meets when the first one does. */
const withSharedMeetings = (section: Section, all: readonly Section[]): Section =>
  section.seatsWith === null ? section : { ...section, meetings: all.find(one => one.id === section.seatsWith)!.meetings }

/** Hours at which courses begin that meet twice or more a week, by the first of their days; who could meet two has two exam slots. */
const EXAM_HOURS: Record<'M' | 'T', number[]> = { M: [480, 570, 600, 660, 780, 870, 960], T: [480, 570, 660, 780, 870, 960] }

/** An exam by the hour at which a course meets; what meets once a week, or in half a term, has its last test in class. */
function examOf({ part, session, meetings, delivery }: Section, term: Term): Section['exam'] {
  const [first] = meetings
  if (part !== 'lecture' || session !== 'full' || term.season === 'summer' || !first || delivery !== 'on site' || first.days.length < 2)
    return null
  const column = first.days.includes('M') ? 'M' : 'T'
  const place = EXAM_HOURS[column].indexOf(first.start === 540 ? 570 : first.start)
  if (place < 0) return null
  const slot = (column === 'M' ? 0 : EXAM_HOURS.M.length) + place
  const [start, end] = EXAM_SLOTS[slot % 4]!
  return { date: shift(term.end, 3 + Math.floor(slot / 4)), start, end }
}

function tripOf(section: Section, term: Term, trips: Map<string, number>): Meeting[] {
  const [first] = section.meetings
  if (!section.course.startsWith('FLD') || section.part !== 'lecture' || !first || term.season === 'summer'
    || section.session !== 'full') return []
  const n = trips.get('FLD') ?? 0
  trips.set('FLD', n + 1)
  const date = shift(term.start, TRIP_SATURDAYS[n % TRIP_SATURDAYS.length]!)
  const saturday = shift(date, (6 - new Date(`${date}T00:00:00Z`).getUTCDay() + 7) % 7)
  return [{ days: ['S'], start: 480, end: 1020, first: saturday, last: saturday, site: 'high', room: 'Field trip' }]
}

/** A teacher for every section: the first of the subject who is free then, or one more. */
function withTeachers(sections: readonly Section[], courses: ReadonlyMap<string, Course>): Section[] {
  const staff = new Map<string, { name: string, meetings: Meeting[], sections: number }[]>()
  let next = 0
  const made = new Map<number, string[]>()
  for (const section of sections) {
    if (section.seatsWith !== null) continue
    const { subject } = courses.get(section.course)!
    const people = staff.get(subject) ?? []
    staff.set(subject, people)
    let person = people.find(one => one.sections < 5 && !one.meetings.some(meeting => section.meetings.some(other => isNear(meeting,
      other))))
    if (!person) {
      person = { name: `${INITIALS[Math.floor(next / SURNAMES.length) % INITIALS.length]}. ${SURNAMES[next % SURNAMES.length]}`,
        meetings: [],
        sections: 0 }
      next++
      people.push(person)
    }
    person.meetings.push(...section.meetings)
    person.sections++
    made.set(section.id, [person.name])
  }
  return sections.map(section => ({ ...section, instructors: made.get(section.seatsWith ?? section.id)! }))
}

/** Two meetings that nobody could go to both, with an hour for the way between sites. */
export function isNear(a: Meeting, b: Meeting): boolean {
  const room = a.site === b.site || a.site === 'online' || b.site === 'online' ? 0 : 60
  return a.days.some(day => b.days.includes(day)) && a.start < b.end + room && b.start < a.end + room && a.first <= b.last
    && b.first <= a.last
}

const shift = (date: string, by: number) => new Date(Date.parse(`${date}T00:00:00Z`) + by * 86_400_000).toISOString().slice(0, 10)
