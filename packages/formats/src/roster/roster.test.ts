import { parse } from 'csv-parse/sync'
import { describe, expect, it } from 'vitest'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import { COLLEGE_ROWS, INSTITUTION } from '../../../../tests/builders/college-rows'
import { type KnownCollege, readCollege } from '../college/college'
import { toCourse } from '../college/convert'
import { compareCollege } from '../college/difference'
import { isRoster, ROSTER_FILES } from './columns'
import { readRoster } from './read'
import { writeRoster } from './write'

const REGISTERED = [{ username: 'joss', term: '2027SP', course: 'HYD 110', label: '01' }]
const ROSTER = writeRoster({ name: INSTITUTION.name, rows: COLLEGE_ROWS, registered: REGISTERED })
const known: KnownCollege = { sites: new Set(COLLEGE_ROWS.sites.map(row => row.code)),
  terms: new Map(COLLEGE_ROWS.terms.map(row => [row.code, row])),
  sessions: new Set(COLLEGE_ROWS.sessions.map(row => `${row.term} ${row.code}`)),
  courses: new Map(COLLEGE_ROWS.courses.map(row => [row.code, toCourse(row)])), programs: new Map([['WSC-BS-2025', {} as never]]),
  people: new Map(COLLEGE_ROWS.people.map(row => [row.username, row.role])), sections: new Set(['2027SP HYD 110 01']), scale: LETTER_SCALE }
const registered = new Set(REGISTERED.map(one => `${one.username} ${one.term} ${one.course}`))

/** Reads a roster all the way: what it would change, or every problem as one line. */
function come(files: Record<string, string>, has = registered) {
  const read = readRoster(files, COLLEGE_ROWS, has)
  const say = (problems: { file: string, row: number | null, column: string | null, message: string }[]) =>
    ({ problems: problems.map(one => [one.file, one.row, one.column, one.message].filter(part => part !== null).join(' | ')) })
  if (!read.ok) return say(read.problems)
  const checked = readCollege({}, known, read.elsewhere)
  return checked.ok ? { difference: compareCollege(COLLEGE_ROWS, checked.college), asides: read.asides } : say(checked.problems)
}

/** A file of the roster with some rows more, given by their columns. */
function more(file: keyof typeof ROSTER_FILES, ...rows: Record<string, string>[]): Record<string, string> {
  const lines = rows.map(row => ROSTER_FILES[file].map(column => `"${(row[column] ?? '').replaceAll('"', '""')}"`).join(','))
  return { ...ROSTER, [file]: `${ROSTER[file]}${lines.join('\r\n')}\r\n` }
}
const user = (sourcedId: string, values: Record<string, string> = {}) => ({ sourcedId, enabledUser: 'true', orgSourcedIds: 'college',
  role: 'student', username: sourcedId, givenName: 'Ada', familyName: 'Brook', email: `${sourcedId}@larkmoor.example`, ...values })

describe('a college as a roster of the open standard', () => {
  it('has the standard\'s columns in their order, and an independent reader of CSV reads them', () => {
    expect(isRoster(ROSTER)).toBe(true)
    for (const [file, columns] of Object.entries(ROSTER_FILES)) {
      const rows = parse(ROSTER[file]!, { columns: true }) as Record<string, string>[]
      expect(Object.keys(rows[0]!), file).toEqual([...columns])
    }
    const [joss] = (parse(ROSTER['users.csv']!, { columns: true }) as Record<string, string>[]).filter(row => row.username === 'joss')
    expect(joss).toMatchObject({ role: 'student', givenName: 'Joss "Jay"', familyName: 'Penhale', status: '', dateLastModified: '' })
    const manifest = Object.fromEntries((parse(ROSTER['manifest.csv']!, { columns: true }) as { propertyName: string, value: string }[])
      .map(row => [row.propertyName, row.value]))
    expect(manifest).toMatchObject({ 'manifest.version': '1.0', 'oneroster.version': '1.1', 'file.users': 'bulk',
      'file.results': 'absent' })
  })

  it('names in every row only what another file of it has', () => {
    const ids = (file: string) => new Set((parse(ROSTER[file]!, { columns: true }) as { sourcedId: string }[]).map(row => row.sourcedId))
    const all = (file: string) => parse(ROSTER[file]!, { columns: true }) as Record<string, string>[]
    const [orgs, terms, courses, classes, users] = ['orgs.csv', 'academicSessions.csv', 'courses.csv', 'classes.csv', 'users.csv'].map(ids)
    for (const row of all('classes.csv')) {
      expect(courses).toContain(row.courseSourcedId)
      expect(terms).toContain(row.termSourcedIds)
      expect(orgs).toContain(row.schoolSourcedId)
    }
    expect(all('enrollments.csv')).toHaveLength(1)
    for (const row of all('enrollments.csv')) {
      expect(classes).toContain(row.classSourcedId)
      expect(users).toContain(row.userSourcedId)
    }
    for (const row of all('academicSessions.csv')) if (row.parentSourcedId) expect(terms).toContain(row.parentSourcedId)
  })

  it('comes back as the college that it was written from: nothing changes', () => {
    const result = come(ROSTER)
    if (!('difference' in result)) throw new Error(result.problems.join('\n'))
    for (const [table, { added, changed }] of Object.entries(result.difference)) expect({ table, added, changed })
      .toEqual({ table, added: [], changed: [] })
    expect(result.asides).toContain('1 × an enrolment that stands here already')
  })

  it('brings students with their mail, keeps what it does not say, and names teachers of a class, the primary one first', () => {
    const files = more('users.csv', user('ada'), user('t1', { role: 'teacher', givenName: 'Rhea', familyName: 'Tarn' }),
      user('t2', { role: 'teacher', givenName: 'Ivo', familyName: 'Ley' }))
    files['users.csv'] = files['users.csv']!.replace('joss@larkmoor.example', 'jay@larkmoor.example')
    files['enrollments.csv'] = more('enrollments.csv',
      { sourcedId: 'e2', classSourcedId: '2027SP-HYD 110-01', userSourcedId: 't1', role: 'teacher', primary: 'false' },
      { sourcedId: 'e3', classSourcedId: '2027SP-HYD 110-01', userSourcedId: 't2', role: 'teacher', primary: 'true' },
      { sourcedId: 'e4', classSourcedId: '2027SP-HYD 110-01', userSourcedId: 'ada', role: 'student', primary: '' })['enrollments.csv']!
    const result = come(files)
    if (!('difference' in result)) throw new Error(result.problems.join('\n'))
    const { people, sections, records } = result.difference
    expect(people!.added).toEqual([{ username: 'ada', name: 'Ada Brook', email: 'ada@larkmoor.example', role: 'student', advisor: null,
      programs: [], confirmed: false, residence: 'resident', cohorts: [], placements: [] }])
    expect(people!.changed.map(one => one.after)).toEqual([{ ...COLLEGE_ROWS.people[1]!, email: 'jay@larkmoor.example' }])
    expect(sections!.changed.map(one => one.after)).toEqual([{ ...COLLEGE_ROWS.sections[0]!, instructors: ['Ivo Ley', 'Rhea Tarn'] }])
    expect(records!.added).toEqual([expect.objectContaining({ username: 'ada', course: 'HYD 110', term: '2027SP', state: 'under way',
      grade: null, credits: 400 })])
  })

  it('takes a class that is new without seats, and leaves aside whom and what it does not take, in words', () => {
    const files = more('classes.csv', { sourcedId: 'c9', title: 'Another', courseSourcedId: 'HYD 110', classCode: 'HYD-110-02',
      termSourcedIds: '2027SP' })
    files['users.csv'] = more('users.csv', user('gone', { status: 'tobedeleted' }), user('off', { enabledUser: 'false' }),
      user('mum', { role: 'parent' }))['users.csv']!
    const result = come(files)
    if (!('difference' in result)) throw new Error(result.problems.join('\n'))
    expect(result.difference.sections!.added).toEqual([expect.objectContaining({ course: 'HYD 110', label: '02', seats: 0,
      number: '20002' })])
    expect(result.asides.join('\n')).toMatch(/new here.*seats/)
    expect(result.asides.join('\n')).toMatch(/to be deleted/)
    expect(result.asides.join('\n')).toMatch(/not enabled/)
    expect(result.difference.people!.added).toEqual([])
  })

  it.each<[string, Record<string, string>, string]>([
    ['another version', { ...ROSTER, 'manifest.csv': ROSTER['manifest.csv']!.replace('1.1', '1.2') }, 'Version 1.2 is not read here'],
    ['a file that the manifest names and that is not there', (({ 'users.csv': _, ...rest }) => rest)(ROSTER), 'names users.csv'],
    ['a column that is missing', { ...ROSTER, 'users.csv': ROSTER['users.csv']!.replace('familyName', 'lastName') },
      'users.csv | 1 | familyName | This column is missing'],
    ['one id twice', more('users.csv', user('joss')), 'joss stands in row 3 already'],
    ['a course that is not here', more('courses.csv', { sourcedId: 'x', title: 'X', courseCode: 'XYZ 999' }), 'a roster says no credits'],
    ['a class of no course', more('classes.csv', { sourcedId: 'x', courseSourcedId: 'nix', termSourcedIds: '2027SP', classCode: '01' }),
      'There is no course nix'],
    ['a class in no term', more('classes.csv', { sourcedId: 'x', courseSourcedId: 'HYD 110', termSourcedIds: 'nix', classCode: '01' }),
      'nix is no term here'],
    ['an enrolment in no class', more('enrollments.csv', { sourcedId: 'x', classSourcedId: 'nix', userSourcedId: 'joss', role: 'student' }),
      'There is no class nix'],
    ['a student without mail', more('users.csv', user('ada', { email: '' })), 'needs a mail address'],
    ['an advisor who would become a student', more('users.csv', user('hollis2', { username: 'hollis' })), 'hollis is advisor here already'],
    ['a name that nobody can sign in with', more('users.csv', user('x', { username: '=cmd()' })), 'cannot be signed in with'],
    ['a name that is too long to keep', more('users.csv', user('ada', { familyName: 'x'.repeat(200) })), 'is not text of at most 80'],
    ['quotation marks that stay open', { ...ROSTER, 'users.csv': `${ROSTER['users.csv']}"open` }, 'A quotation mark is not closed'],
    ['a file of something else', { ...ROSTER, 'sites.csv': 'site,name\r\n' }, 'This is no file of a roster'],
  ])('refuses %s, by file and row', (_, files, message) => {
    const result = come(files)
    expect('problems' in result ? result.problems.join('\n') : 'nothing was refused').toContain(message)
  })
})
