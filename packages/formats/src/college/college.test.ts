import { readFileSync } from 'node:fs'
import { parse } from 'csv-parse/sync'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { PROGRAMS } from '../../../../demo/programs'
import { COLLEGE_ROWS as ROWS, INSTITUTION, NOTHING } from '../../../../tests/builders/college-rows'
import { casesJsonSchema } from '../case-schema'
import { collegeJsonSchema, readCollege, writeCollege } from './college'
import { describeTables } from './describe'
import { compareCollege, sayDifference } from './difference'
import { readRows, type Table, writeRows } from './table'
import { type CollegeRows, TABLES } from './tables'

const FOLDER = writeCollege({ institution: INSTITUTION, rows: ROWS, programs: PROGRAMS })

describe('a college as a folder', () => {
  it('reads as the college that was written, and is written again to the byte', () => {
    const read = readCollege(FOLDER, NOTHING)
    if (!read.ok) throw new Error(JSON.stringify(read.problems.slice(0, 3)))
    expect(read.college.institution).toEqual(INSTITUTION)
    expect(writeCollege({ institution: INSTITUTION, rows: read.college.rows as CollegeRows,
      programs: read.college.programs })).toEqual(FOLDER)
  })

  it('is read the same by an independent reader of CSV', () => {
    for (const { file } of Object.values(TABLES)) {
      const rows = parse(FOLDER[file]!, { relax_column_count: false }) as string[][]
      const own = TABLES[(Object.keys(TABLES) as (keyof typeof TABLES)[]).find(name => TABLES[name].file === file)!]
      expect(rows[0]).toEqual(own.columns.map(column => column.title))
      expect(rows.length - 1).toBe(readRows(own as unknown as Table<unknown>, FOLDER[file]!).rows.length)
    }
    const [, ...people] = parse(FOLDER['people.csv']!) as string[][]
    expect(people.map(cells => cells[1])).toEqual(['Hollis Marr', 'Joss "Jay" Penhale'])
  })

  it('tells what would change: new rows, changed cells, and what stays', () => {
    const read = readCollege({ 'courses.csv': FOLDER['courses.csv']!.replace('HYD 110,', 'HYD 111,') }, NOTHING)
    // What other courses name has gone from this file: every place is told.
    expect(read.ok).toBe(false)
    const sites = readCollege({ 'sites.csv': 'site,name,online\r\nhigh,High House,\r\nnew,New House,no\r\n' }, NOTHING)
    if (!sites.ok) throw new Error('not read')
    const difference = compareCollege(ROWS, sites.college)
    expect(difference.sites).toMatchObject({ same: 0, left: 3, added: [{ code: 'new' }] })
    expect(sayDifference(difference, 10)).toEqual([
      { file: 'sites.csv', key: 'high', columns: [{ title: 'name', from: 'High Station', to: 'High House' }] },
      { file: 'sites.csv', key: 'new', columns: null }])
  })

  it('is described as it is read, and its schema is the one that is documented', () => {
    expect(readFileSync('docs/formats/college.md', 'utf8')).toBe(describeTables())
    expect(JSON.parse(readFileSync('docs/formats/college.schema.json', 'utf8'))).toEqual(JSON.parse(JSON.stringify(collegeJsonSchema())))
    expect(casesJsonSchema()).toBeTruthy()
  })
})

/** Texts that a spreadsheet, a script or a person in a hurry could put into a cell. */
const anyText = fc.oneof(fc.string({ maxLength: 40 }),
  fc.constantFrom('=HYPERLINK("x")', '+1', '-1', '@SUM(A1)', '\'=1', '\'\'=1', 'a, b', 'a "b" c', 'two\nlines', ' ', '"', '\t=1',
    'Ünïcödé', '´'))
  .map(text => text.replace(/[\0\uFFFD;]|\r\n?/g, '').trim())

describe('cells of a table', () => {
  it('come back as they were written, whatever stands in them', () => fc.assert(fc.property(
    fc.array(fc.record({ name: anyText, notes: anyText }), { maxLength: 8 }), (given) => {
      const rows = given.map(({ name, notes }, i) => ({ ...ROWS.sections[0]!, label: `A${i}`, topic: name, notes,
        instructors: name === '' ? [] : [name] }))
      const text = writeRows(TABLES.sections, rows)
      const read = readRows(TABLES.sections, text)
      expect(read.problems).toEqual([])
      expect(read.rows).toEqual(rows)
      // No spreadsheet runs any of it.
      for (const cell of (parse(text) as string[][]).flat()) expect(cell).not.toMatch(/^[=+@-]/)
    })))

  it('follow the standard\'s own examples (RFC 4180, section 2)', () => {
    const titles = 'site,name\r\n'
    const read = (text: string) => readRows(TABLES.sites, `${titles}${text}`).rows.map(row => [row.code, row.name])
    expect(read('aaa,bbb\r\nzzz,yyy\r\n')).toEqual([['aaa', 'bbb'], ['zzz', 'yyy']])
    expect(read('aaa,bbb\r\nzzz,yyy')).toEqual([['aaa', 'bbb'], ['zzz', 'yyy']])
    expect(read('"aaa","bbb"\r\nzzz,yyy')).toEqual([['aaa', 'bbb'], ['zzz', 'yyy']])
    expect(read('"aaa","b\r\nbb"\r\nzzz,yyy')).toEqual([['aaa', 'b\nbb'], ['zzz', 'yyy']])
    expect(read('"aaa","b""bb"')).toEqual([['aaa', 'b"bb']])
    expect(read('"aaa","b, bb"')).toEqual([['aaa', 'b, bb']])
  })

  it.each<[string, string, object]>([
    ['a file that is not in UTF-8', 'site,name\r\nx,Caf\uFFFD\r\n', { row: null,
      message: 'The file is not in UTF-8. Save it again as "CSV UTF-8".' }],
    ['what is no text', 'PK\u0003\u0004\0\0', { row: null, message: 'This is no text file. Save the table as CSV.' }],
    ['a quotation mark that stays open', 'site,name\r\nx,"Hill\r\n', { message: expect.stringContaining('quotation mark is not closed') }],
    ['a column that is missing', 'site\r\nx\r\n', { row: 1, column: 'name', message: expect.stringContaining('is missing') }],
    ['a column that is none', 'site,name,colour\r\n', { row: 1, column: 'colour', message: expect.stringContaining('no such column') }],
    ['a column twice', 'site,name,name\r\n', { row: 1, column: 'name', message: 'This column stands there twice.' }],
    ['a row with too many cells', 'site,name\r\nx,Hill,House\r\n', { row: 2,
      message: expect.stringContaining('3 cells, and there are 2 columns') }],
    ['a row twice', 'site,name\r\nx,Hill\r\n\r\nx,House\r\n', { row: 4, message: 'x stands in row 2 already.' }],
    ['an empty cell that must be filled', 'site,name\r\nx,\r\n', { row: 2, column: 'name',
      message: expect.stringContaining('This is empty') }],
    ['what is no value of the column', 'site,name,online\r\nx,Hill,maybe\r\n', { row: 2, column: 'online',
      message: '"maybe" is not yes or no.' }],
    ['an empty file', '', { row: 1, column: 'site', message: expect.stringContaining('is missing') }],
  ])('say of %s where it is and what to do', (_, text, problem) =>
    expect(readRows(TABLES.sites, text).problems).toContainEqual(expect.objectContaining({ file: 'sites.csv', ...problem })))

  it('says of very many problems the first ones, and that there are more', () => {
    const { problems } = readRows(TABLES.sites, `site,name\r\n${Array.from({ length: 5000 }, (_, i) => `x${i},\r\n`).join('')}`)
    expect(problems).toHaveLength(101)
    expect(problems.at(-1)!.message).toContain('There are more problems')
  })
})

describe('rows that do not go together', () => {
  const change = (file: string, from: string, to: string) => {
    expect(FOLDER[file]).toContain(from)
    const read = readCollege({ ...FOLDER, [file]: FOLDER[file]!.replace(from, to) }, NOTHING)
    return read.ok ? [] : read.problems.map(problem => `${problem.file} ${problem.column}: ${problem.message}`)
  }
  it.each<[string, string, string, string]>([
    ['terms.csv', '2027-01-11,2027-04-30', '2027-01-11,2026-04-30', 'terms.csv last day: The term ends before it begins.'],
    ['sessions.csv', '2027-01-11,2027-04-30', '2027-01-11,2028-04-30', 'A session lies within its term'],
    ['travel.csv', 'high', 'low', 'There is no site low.'],
    ['openings.csv', '2027SU', '2047SU', 'There is no term 2047SU.'],
    ['sections.csv', 'larkmoor Weir', 'moor Weir', 'There is no site moor.'],
    ['sections.csv', '2027-01-11..2027-04-28', '2027-01-11..2027-06-28', 'A meeting lies within its term'],
    ['sections.csv', ',full,', ',half,', 'There is no session 2027SP half.'],
    ['people.csv', ',hollis,', ',somebody,', 'There is no advisor somebody.'],
    ['people.csv', 'WSC-BS-2025', 'WSC-BS-1999', 'There is no program WSC-BS-1999.'],
    ['records.csv', 'joss,HYD 110', 'nobody,HYD 110', 'There is no student nobody.'],
    ['records.csv', 'joss,HYD 110', 'joss,HYD 999', 'There is no course HYD 999.'],
    ['records.csv', ',B+,', ',Q,', 'Q is not on the grade scale'],
    ['records.csv', '2026SP', '2055SP', 'There is no term 2055SP.'],
    ['college.json', 'America/Denver', 'America/Larkmoor', 'time zone such as America/Denver'],
    ['college.json', '"name"', '"named"', 'college.json'],
  ])('%s with %s as %s is told', (file, from, to, told) => expect(change(file, from, to).join('\n')).toContain(told))

  const told = (values: Partial<CollegeRows>, more: Record<string, string> = {}) => {
    const read = readCollege({ ...writeCollege({ institution: INSTITUTION, rows: { ...ROWS, ...values }, programs: PROGRAMS }), ...more },
      NOTHING)
    return read.ok ? [] : read.problems.map(({ file, row, column, message }) => `${file} ${row} ${column}: ${message}`)
  }
  const first = <K extends keyof CollegeRows>(name: K, values: Partial<CollegeRows[K][number]>): Partial<CollegeRows> =>
    ({ [name]: ROWS[name].map((row, i) => i === 0 ? { ...row, ...values } : row) })
  const WRONG = 'The last days come in this order: add by, drop by, withdraw by.'
  it.each<[string, Partial<CollegeRows>, RegExp[]]>([
    ['last days out of their order', first('terms', { addBy: '2024-01-20', dropBy: '2024-01-19', withdrawBy: '2024-03-01' }),
      [new RegExp(`^terms.csv 2 drop by: ${WRONG}`)]],
    ['more for full time than may be taken', first('terms', { fullTime: 1900, loadCap: 1800 }),
      [/^terms.csv 2 full time: Full time is more than the cap/]],
    ['a range of credits that ends before it begins', first('courses', { credits: 300, creditsMax: 200 }),
      [/^courses.csv \d+ credits at most: This is less/]],
    ['an exclusion and an equivalent that are no courses', first('courses', { exclusions: ['GON 100'], equivalents: ['GON 200'] }),
      [/^courses.csv \d+ no credit beside: There is no course GON 100/, /^courses.csv \d+ same as: There is no course GON 200/]],
    ['a session of no term', first('sessions', { term: '2055SP' }),
      [/^sessions.csv \d+ term: There is no term 2055SP. Add it to terms.csv.$/]],
    ['a section of no term', first('sections', { term: '2055SP' }),
      [/^sections.csv 2 term: There is no term 2055SP. Add it to terms.csv.$/]],
    ['a section that shares the seats of itself, and has some', first('sections', { sharesWith: 'HYD 110-01', seats: 20 }),
      [/^sections.csv 2 shares seats with: There is no other section HYD 110-01 in 2027SP/, /^sections.csv 2 seats: Its seats are those/]],
    ['a section that shares those of none', first('sections', { sharesWith: 'HYD 110-77', seats: 0, reserved: [] }),
      [/^sections.csv 2 shares seats with: There is no other section HYD 110-77/]],
    ['an advisor with a program', first('people', { programs: ['WSC-BS-2025'] }),
      [/^people.csv 2 role: Only students have an advisor and programs/]],
    ['a record of no term', first('records', { term: null }), [/^records.csv 2 term: What was taken here was taken in a term/]],
    ['a record that is completed without a grade', first('records', { grade: null }),
      [/^records.csv 2 grade: What is completed has a grade/]],
    ['a record under way with one', first('records', { state: 'under way' }), [/^records.csv 2 grade: .*what is under way has none/]],
  ])('%s are told by file, row and column', (_, values, expected) => {
    const found = told(values)
    for (const one of expected) expect(found).toContainEqual(expect.stringMatching(one))
    expect(found.length).toBeLessThanOrEqual(expected.length)
  })

  it('two sections share seats where one names the other', () => {
    const [one] = ROWS.sections
    const shared = { ...one!, label: '02', number: '20002', sharesWith: 'HYD 110-01', seats: 0, reserved: [] }
    expect(told({ sections: [one!, shared] })).toEqual([])
  })

  it('what lies beside the tables is left aside, in a folder of its own as well; one program stands in one file', () => {
    expect(told({}, { 'README.md': 'x', '.DS_Store': 'x', '__MACOSX/sites.csv': 'x', 'manifest.json': '{}' })).toEqual([])
    const inside = Object.fromEntries(Object.entries(FOLDER).map(([name, text]) => [`larkmoor/${name}`, text]))
    expect(readCollege(inside, NOTHING)).toEqual(readCollege(FOLDER, NOTHING))
    const [name, text] = Object.entries(FOLDER).find(([path]) => path.startsWith('programs/'))!
    expect(told({}, { 'programs/again.json': text })).toEqual([expect.stringContaining(`stands in ${name} already.`)])
    expect(told({}, { 'programs/broken.json': '{' })).toEqual([expect.stringMatching(/^programs\/broken.json 1/)])
  })

  it('records and plans as JSON are held against the tables that come with them', () => {
    const records = (...list: object[]) => JSON.stringify({ format: 'ridgeway-records/1', records: list })
    const one = { student: 'joss', course: 'HYD 230', term: '2026FA', credits: 4, state: 'under way' }
    expect(told({}, { 'records.json': records(one) })).toEqual([])
    expect(told({}, { 'records.json': records(one, one) })).toEqual([expect.stringContaining('stands in record 1 already')])
    expect(told({}, { 'records.json': records({ ...one, student: 'nobody' }) }))
      .toEqual(['records.json 1 sign-in name: There is no student nobody. Add them to people.csv.'])
    expect(told({}, { 'records.json': records({ ...one, course: 'HYD 110', term: '2026SP', grade: 'A', state: 'completed' }) }))
      .toEqual([expect.stringContaining('stands in records.csv as well; say it in one of the two.')])
    expect(told({}, { 'records.json': '{' }).join()).toMatch(/^records.json 1/)
    const plan = { name: 'Mine', terms: [] }
    const plans = (student: string) => JSON.stringify({ format: 'ridgeway-plans/1', plans: [{ student, plan }] })
    expect(told({}, { 'plans.json': plans('hollis') }).join()).toContain('There is no student hollis. Add them to people.csv.')
    expect(told({}, { 'plans.json': '[]' }).join()).toMatch(/^plans.json/)
  })

  it('a rule of a course that cannot be read is shown from where on', () => {
    const read = readCollege({ 'courses.csv': 'course,title,credits,prerequisite\r\nHYD 110,Water,3,HYD 100 and and\r\n' }, NOTHING)
    expect(read).toMatchObject({ ok: false, problems: [{ row: 2, column: 'prerequisite',
      message: expect.stringContaining('character on') }] })
  })

  it('what somebody is does not change by a file, and a file that is none of ours is named', () => {
    const known = { ...NOTHING, people: new Map([['joss', 'office']]), programs: new Map(PROGRAMS.map(one => ['WSC-BS-2025', one])) }
    expect(readCollege({ 'people.csv': FOLDER['people.csv']! }, known)).toMatchObject({ ok: false,
      problems: [{ column: 'role', message: expect.stringContaining('joss is office here already') }] })
    expect(readCollege({ 'notes.csv': 'a,b' }, NOTHING)).toMatchObject({ ok: false, problems: [{ file: 'notes.csv' }] })
  })
})
