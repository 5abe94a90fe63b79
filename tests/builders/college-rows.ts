import { LETTER_SCALE } from '@ridgeway/core/grades'
import { type CollegeRows, fromCourse, fromTerm, type KnownCollege } from '@ridgeway/formats'
import { OPENINGS, SITES, TERMS, TRAVEL } from '../../demo/calendar'
import { COURSES } from '../../demo/courses'

/** A database without a college. */
export const NOTHING: KnownCollege = { sites: new Set(), terms: new Map(), sessions: new Set(), courses: new Map(), programs: new Map(),
  people: new Map(), sections: new Set(), scale: LETTER_SCALE }
export const INSTITUTION = { name: 'Larkmoor College', zone: 'America/Denver', repeatPolicy: 'best' as const,
  termsText: 'By registering …' }
/** A small college in the rows of its folder: the demonstration's catalog, one section, an advisor and a student. */
export const COLLEGE_ROWS: CollegeRows = {
  sites: SITES, travel: TRAVEL, terms: TERMS.map(fromTerm), openings: OPENINGS, courses: COURSES.map(fromCourse),
  sessions: TERMS.flatMap(term => term.sessions.map(({ deadlines: _, ...session }) => ({ ...session, term: term.code, addBy: null,
    dropBy: null, withdrawBy: null }))),
  sections: [{ term: '2027SP', course: 'HYD 110', label: '01', number: '20001', session: 'full', part: 'lecture', link: '01', seats: 20,
    reserved: [{ for: 'TIM-BS', seats: 5 }], sharesWith: null, waitlist: 8, exam: { date: '2027-04-28', start: 540, end: 660 },
    meets: [{ days: ['M', 'W'], start: 570, end: 645, first: '2027-01-11', last: '2027-04-28', site: 'larkmoor', room: 'Weir 12' }],
    delivery: 'on site', instructors: ['R. Tarn'], topic: '', notes: '=1+1 is no formula here', fee: 4500, gradingModes: ['letter', 'pass'],
    group: '', onlyPrograms: [], onlyStandings: ['senior'], onlyCohorts: [], cancelled: false }],
  people: [{ username: 'hollis', name: 'Hollis Marr', email: 'hollis@larkmoor.example', role: 'advisor', advisor: null, programs: [],
    confirmed: false, residence: 'resident', cohorts: [], placements: [] },
  { username: 'joss', name: 'Joss "Jay" Penhale', email: 'joss@larkmoor.example', role: 'student', advisor: 'hollis',
    programs: ['WSC-BS-2025'], confirmed: true, residence: 'regional', cohorts: ['TRAILHEAD'], placements: [{ test: 'MTH', score: 70 }] }],
  records: [{ username: 'joss', course: 'HYD 110', term: '2026SP', attempt: 1, credits: 400, grade: 'B+', earnedGrade: null, topic: null,
    gradedAt: '2026-05-12T15:00:00.000Z', state: 'completed', source: 'here' },
  { username: 'joss', course: 'OCE 150', term: null, attempt: 1, credits: 267, grade: 'TR', earnedGrade: 'B', topic: null,
    gradedAt: null, state: 'completed', source: 'transfer' }],
}
