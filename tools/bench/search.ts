import type { Course, Section, Weekday } from '@ridgeway/core/catalog'
import { findSections, makeTextIndex, type SectionSearch, searchLines } from '@ridgeway/core/find'
import { readStanding, type StudentFile } from '@ridgeway/core/planning'
import { factsOf, NO_GRADES_ASKED } from '@ridgeway/core/record'
import { EMPTY_FILE } from '@ridgeway/core/planning'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import { COURSES } from '../../demo/courses'
import { PROGRAMS } from '../../demo/programs'
import { TERMS, TRAVEL } from '../../demo/calendar'
import { Random } from '../../demo/random'
import { median, quantile, round, time, type Figure } from './figure'

const SECTIONS = 5000
const COPIES = 7
const STARTS = [480, 570, 660, 780, 870, 960, 1065]
const PATTERNS: Weekday[][] = [['M', 'W'], ['T', 'R'], ['M', 'W', 'F'], ['F'], ['T'], ['R']]
const SEARCHES: [string, Partial<SectionSearch>][] = [
  ['nothing typed', { canTake: true }], ['a word', { text: 'water', canTake: true }], ['a misspelt word', { text: 'groundwatr',
    canTake: true }],
  ['a code', { text: 'hyd 230' }], ['open lines that fit', { lines: ['open'], canTake: true, fits: true, seatsLeft: true }],
  ['hours and days', { canTake: true, from: 540, to: 900, days: ['M', 'W', 'F'] }], ['nothing found', { text: 'zzzz', canTake: true }],
]

/** Courses of the demonstration several times over, so that there are as many as a large college has, each with its own rules. */
function manyCourses(): Map<string, Course> {
  const all = new Map(COURSES.map(course => [course.code, course]))
  for (let copy = 1; copy < COPIES; copy++)
    for (const course of COURSES) {
      const subject = `${course.subject.slice(0, 2)}${String.fromCharCode(65 + copy)}`
      const code = `${subject} ${course.number}`
      if (!all.has(code)) all.set(code, { ...course, code, subject, exclusions: [], equivalents: [] })
    }
  return all
}

function manySections(courses: ReadonlyMap<string, Course>): Section[] {
  const random = new Random(5000)
  const list = [...courses.values()]
  const term = TERMS.find(one => one.code === '2027SP')!
  return Array.from({ length: SECTIONS }, (_, i): Section => {
    const course = list[i % list.length]!
    const start = random.pick(STARTS)
    return { id: i + 1, term: term.code, session: 'full', course: course.code, number: String(20000 + i),
      label: String(Math.floor(i / list.length) + 1)
        .padStart(2, '0'), part: course.parts[0]!, link: String(i), meetings: [{ days: random.pick(PATTERNS), start, end: start + 75,
        first: term.start,
        last: term.end, site: random.pick(['larkmoor', 'larkmoor', 'stonegate']), room: '1' }], exam: null,
      instructors: [random.pick(['Keld', 'Oake', 'Roxby'])],
      pools: [{ id: i * 10, forGroup: null, capacity: 20, taken: random.chance(0.2) ? 20 : 5, held: 0 }], waitlistCapacity: 5, waiting: 0,
      delivery: 'on site', topic: '', notes: '', fee: 0, gradingModes: ['letter'], group: '', seatsWith: null, onlyPrograms: [],
      onlyStandings: [],
      onlyCohorts: [], cancelled: false }
  })
}

/** A student in the second year, with a line-up of four: what a search reads about everything. */
export function benchSearch(): Figure[] {
  const courses = new Map([...manyCourses()].map(([code, course]) => [code, { ...course, parts: [course.parts[0]!] }]))
  const sections = manySections(courses)
  const catalog = { courses, programs: PROGRAMS, terms: TERMS, scale: LETTER_SCALE, repeatPolicy: 'best' as const }
  const term = TERMS.find(one => one.code === '2027SP')!
  const passed = PROGRAMS[0]!.suggested.flatMap(step => step.courses).slice(0, 14)
  const file: StudentFile = { ...EMPTY_FILE, programs: ['WSC-BS', 'TSS-CERT'], record: passed.map((course, i) => ({ id: `r${i}`, course,
    term: '2025FA',
    credits: courses.get(course)!.credits, grade: 'B', state: 'completed' as const, source: 'here' as const })) }
  const chosen = ['HYD 230', 'GSP 140', 'ECL 210', 'WRT 210'].flatMap((code, i) => {
    const section = sections.find(one => one.course === code)
    return section ? [{ id: i + 1, course: code, sectionIds: [section.id], credits: null }] : []
  })
  const index = time(() => makeTextIndex(courses.values(), sections))
  const once = (search: Partial<SectionSearch>) => time(() => {
    // As the server does it: the sections come with their seats, and the standing is read anew.
    const now = sections.map(section => ({ ...section }))
    const standing = readStanding(file, catalog, '2026-11-09')
    return findSections({ search: { text: '', ...search }, rows: chosen, lines: searchLines(standing.reports, courses), wishes: [],
      shortlist: new Set(),
      creditsOf: () => null, index: index.result, most: 40, context: { ...catalog, ...factsOf(file, file.record), term, gates: [],
        sections: new Map(now.map(section => [section.id, section])), travel: TRAVEL, asked: NO_GRADES_ASKED, loadCap: 1800,
        registered: [] } })
  })
  for (const [, search] of SEARCHES) once(search)
  const runs = SEARCHES.map(([name, search]) => ({ name, runs: Array.from({ length: 15 }, () => once(search)) }))
  const all = runs.flatMap(one => one.runs.map(run => run.ms))
  const scan = median(Array.from({ length: 15 }, () => time(() => sections.filter(section =>
    JSON.stringify(section).includes('water')).length).ms))
  return [
    { name: 'search median', value: round(median(all)), unit: 'ms',
      reference: `${SECTIONS} sections of ${courses.size} courses, ${SEARCHES.length} searches; `
        + `looking at each as text takes ${round(scan)} ms`, ratio: round(median(all) / scan), target: '≤ 100', ok: median(all) <= 100 },
    { name: 'search worst', value: round(quantile(all, 1)), unit: 'ms', reference: 'the slowest of them', ratio: null, target: '≤ 100',
      ok: quantile(all, 1) <= 100 },
    ...runs.map(({ name, runs: list }): Figure => ({ name: `search: ${name}`, value: round(median(list.map(run => run.ms))), unit: 'ms',
      reference: `${list[0]!.result.bundles} bundles found`, ratio: null, target: '', ok: null })),
    { name: 'search index', value: round(index.ms), unit: 'ms', reference: 'made once for each state of catalog and term', ratio: null,
      target: '',
      ok: null },
  ]
}
