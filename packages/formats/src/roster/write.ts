import Papa from 'papaparse'
import type { CollegeRows } from '../college/tables'
import { harmless } from '../spreadsheet'
import { OTHER_FILES, ROSTER_FILES, ROSTER_VERSION, type RosterFile } from './columns'

/** What a roster is written from. */
export interface RosterGiven {
  name: string
  rows: Pick<CollegeRows, 'terms' | 'sessions' | 'courses' | 'sections' | 'people'>
  registered: readonly { username: string, term: string, course: string, label: string }[]
}

/** The one organisation of a roster. */
const ORG = 'college'

type Row<F extends RosterFile> = Partial<Record<(typeof ROSTER_FILES)[F][number], string>> & { sourcedId: string }

/**
 * Writes the college as a roster, version 1.1, all files in bulk: status and date of the last change stay empty then, as the standard has
 * it. The same college gives the same bytes. A person is given by the name to sign in with; advisors, for whom the standard has no role of
 * their own, are aides. Only courses and classes of terms with sections, and what students are registered for.
 */
export function writeRoster({ name, rows: { terms, sessions, courses, sections, people }, registered }: RosterGiven): Record<string,
  string> {
  const open = sections.filter(section => !section.cancelled)
  const offered = new Set(open.map(section => section.course))
  const codes = new Set(open.map(section => section.term))
  const classId = ({ term, course, label }: { term: string, course: string, label: string }) => `${term}-${course}-${label}`
  return {
    'manifest.csv': csv('manifest.csv', [
      ['manifest.version', '1.0'], ['oneroster.version', ROSTER_VERSION],
      ...['academicSessions', 'classes', 'courses', 'enrollments', 'orgs', 'users'].map(file => [`file.${file}`, 'bulk']),
      ...OTHER_FILES.map(file => [`file.${file}`, 'absent']),
      ['source.systemName', 'Ridgeway'], ['source.systemCode', 'ridgeway'],
    ].sort(([a], [b]) => a! < b! ? -1 : 1)),
    'orgs.csv': table('orgs.csv', [{ sourcedId: ORG, name, type: 'school' }]),
    'academicSessions.csv': table('academicSessions.csv', terms.filter(term => codes.has(term.code)).flatMap(term => [
      { sourcedId: term.code, title: term.name, type: 'term', startDate: term.start, endDate: term.end, schoolYear: schoolYear(term.code) },
      ...sessions.filter(session => session.term === term.code && (session.start !== term.start || session.end !== term.end))
        .map(session => ({ sourcedId: `${term.code}-${session.code}`, title: `${term.name}, ${session.name}`, type: 'gradingPeriod',
          startDate: session.start, endDate: session.end, parentSourcedId: term.code, schoolYear: schoolYear(term.code) })),
    ])),
    'courses.csv': table('courses.csv', courses.filter(course => offered.has(course.code)).map(course => ({ sourcedId: course.code,
      title: course.title, courseCode: course.code, orgSourcedId: ORG, subjects: course.code.split(' ')[0]! }))),
    'classes.csv': table('classes.csv', open.map(section => ({ sourcedId: classId(section),
      title: section.topic || courses.find(course => course.code === section.course)?.title || section.course,
      courseSourcedId: section.course, classCode: `${section.course}-${section.label}`, classType: 'scheduled',
      location: section.meets[0]?.room ?? '', schoolSourcedId: ORG, termSourcedIds: section.term,
      subjects: section.course.split(' ')[0]! }))),
    'users.csv': table('users.csv', people.map(person => ({ sourcedId: person.username, enabledUser: 'true', orgSourcedIds: ORG,
      role: { student: 'student', advisor: 'aide', office: 'administrator' }[person.role], username: person.username,
      ...nameParts(person.name),
      email: person.email }))),
    'enrollments.csv': table('enrollments.csv', registered.map(one => ({ sourcedId: `${one.username}-${classId(one)}`,
      classSourcedId: classId(one), schoolSourcedId: ORG, userSourcedId: one.username, role: 'student', primary: 'false' }))),
  }
}

/** The year in which the school year ends that a term is of: autumn begins it. */
const schoolYear = (term: string) => String(Number(term.slice(0, 4)) + (term.endsWith('FA') ? 1 : 0))

/** The last word is the family name: a roster has no field for a name as one writes it. */
function nameParts(name: string) {
  const words = name.split(' ')
  return { givenName: words.slice(0, -1).join(' ') || words[0]!, familyName: words.length > 1 ? words.at(-1)! : '-' }
}

function table<F extends RosterFile>(file: F, rows: readonly Row<F>[]): string {
  const sorted = [...rows].sort((a, b) => a.sourcedId < b.sourcedId ? -1 : 1)
  return csv(file, sorted.map(row => ROSTER_FILES[file].map(column => (row as Record<string, string | undefined>)[column] ?? '')))
}

function csv(file: RosterFile, rows: readonly string[][]): string {
  const text = Papa.unparse({ fields: [...ROSTER_FILES[file]], data: rows.map(row => row.map(harmless)) })
  return text.endsWith('\r\n') ? text : `${text}\r\n`
}
