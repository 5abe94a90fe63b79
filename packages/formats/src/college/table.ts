import Papa from 'papaparse'
import { delimiterOf, harmless, plainCell } from '../spreadsheet'
import type { Cell } from './cells'

/** The row of a table, one value a column. */
export type RowOf<T> = T extends Table<infer Row> ? Row : never

/** A table of a college's folder: its file, its columns, and what tells its rows apart. */
export interface Table<Row> {
  file: string
  words: string
  columns: { name: keyof Row & string, title: string, cell: Cell<unknown>, preset: unknown }[]
  /** The titles of the columns that make the key. */
  key: string[]
  keyOf: (row: Row) => string
}

/** Something wrong in a file: the row as a spreadsheet counts it (the header is row 1), the column, and what to do. */
export interface CollegeProblem {
  file: string
  row: number | null
  column: string | null
  message: string
}

/** Where in which file a row was said. */
export interface RowPlace { file: string, row: number | null }

/** A column with what an empty or missing one stands for; without `preset` it must be there and filled. */
export interface Column<T> { title: string, cell: Cell<T>, preset?: T }
type RowFrom<C> = { [K in keyof C]: C[K] extends Column<infer T> ? T : never }

/** Declares a table; the key's columns name a row in problems and previews. */
export function table<C extends Record<string, Column<unknown>>>(file: string, words: string, columns: C,
  key: readonly (keyof C & string)[]): Table<RowFrom<C>> {
  const all = Object.entries<Column<unknown>>(columns)
  const cells = new Map(all.map(([name, { cell }]) => [name, cell]))
  return {
    file, words,
    columns: all.map(([name, { title, cell, preset }]) => ({ name: name as never, title, cell, preset })),
    key: key.map(name => columns[name]!.title),
    keyOf: row => key.map(name => cells.get(name)!.write(row[name])).join(' '),
  }
}

/** Rows of one file are told apart from more than so many problems only by their number: the rest is counted. */
const MOST_PROBLEMS = 100
/** Far more than any college has; a file beyond it is refused before it is read through. */
const MOST_ROWS = 1_000_000

export interface ReadRows<Row> {
  rows: Row[]
  /** The spreadsheet's number of each row. */
  at: number[]
  problems: CollegeProblem[]
}

/**
 * The cells of a table, line by line (RFC 4180, UTF-8 with or without its mark, comma or semicolon or tab); null where it is none, and why
 * is said.
 */
export function readCells(content: string, say: (row: number | null, message: string) => void): string[][] | null {
  const clean = content.replace(/^\uFEFF/, '')
  if (clean.includes('\uFFFD')) {
    say(null, 'The file is not in UTF-8. Save it again as "CSV UTF-8".')
    return null
  }
  if (clean.includes('\0')) {
    say(null, 'This is no text file. Save the table as CSV.')
    return null
  }
  const { data, errors } = Papa.parse<string[]>(clean, { delimiter: delimiterOf(clean), skipEmptyLines: false })
  const broken = errors.find(error => error.type === 'Quotes')
  if (broken) {
    say((broken.row ?? 0) + 1, 'A quotation mark is not closed, or stands inside a cell without a second one before it.')
    return null
  }
  return data
}

/**
 * Reads a table (RFC 4180, UTF-8 with or without its mark, comma or semicolon or tab). Every problem names its row and column; rows with
 * a problem are left out, so that what they would refer to is not blamed as well.
 */
export function readRows<Row>({ file, columns, keyOf }: Table<Row>, content: string): ReadRows<Row> {
  const result: ReadRows<Row> = { rows: [], at: [], problems: [] }
  const say = (row: number | null, column: string | null, message: string) => {
    if (result.problems.length < MOST_PROBLEMS) result.problems.push({ file, row, column, message })
    else if (result.problems.length === MOST_PROBLEMS)
      result.problems.push({ file, row: null, column: null, message: 'There are more problems; mend these first, then check it again.' })
  }
  const data = readCells(content, (row, message) => say(row, null, message))
  if (!data) return result
  const titles = (data[0] ?? []).map(title => title.trim().toLowerCase())
  const repeated = titles.find((title, i) => title !== '' && titles.indexOf(title) !== i)
  if (repeated) say(1, repeated, 'This column stands there twice.')
  for (const title of titles)
    if (title !== '' && !columns.some(column => column.title === title))
      say(1, title, `There is no such column. The columns are: ${columns.map(column => column.title).join(', ')}.`)
  for (const { title, preset } of columns)
    if (preset === undefined && !titles.includes(title)) say(1, title, 'This column is missing; the first row names the columns.')
  if (data.length > MOST_ROWS) say(null, null, `There are more than ${MOST_ROWS} rows. Send them in several files.`)
  if (result.problems.length > 0) return result
  const at = columns.map(column => titles.indexOf(column.title))
  const known = new Map<string, number>()
  for (let index = 1; index < data.length; index++) {
    const cells = data[index]!
    if (cells.every(cell => cell.trim() === '')) continue
    const number = index + 1
    if (cells.length > titles.length) {
      say(number, null, `This row has ${cells.length} cells, and there are ${titles.length} columns. Put quotation marks around commas.`)
      continue
    }
    const row = readRow<Row>(columns, at, cells, (column, message) => say(number, column, message))
    if (!row) continue
    const key = keyOf(row)
    const before = known.get(key)
    if (before !== undefined) say(number, null, `${key} stands in row ${before} already.`)
    else {
      known.set(key, number)
      result.rows.push(row)
      result.at.push(number)
    }
  }
  return result
}

function readRow<Row>(columns: Table<Row>['columns'], at: readonly number[], cells: readonly string[],
  say: (column: string, message: string) => void): Row | null {
  const row: Record<string, unknown> = {}
  let isFine = true
  columns.forEach(({ name, title, cell, preset }, c) => {
    const written = plainCell((cells[at[c]!] ?? '').replace(/\r\n/g, '\n')).trim()
    const value = written === '' && preset !== undefined ? preset : cell.read(written)
    if (value === undefined) {
      isFine = false
      say(title, written === '' ? `This is empty; write ${cell.words}.` : `"${written.slice(0, 60)}" is not ${cell.words}.`)
    }
    else row[name] = value
  })
  return isFine ? row as Row : null
}

/** Writes a table, its rows in the order of their keys, so that the same rows give the same bytes. */
export function writeRows<Row>({ columns, keyOf }: Table<Row>, rows: readonly Row[]): string {
  const cells = (row: Row) => columns.map(({ name, cell }) => harmless(cell.write(row[name])))
  const sorted = rows.map(row => ({ row, key: keyOf(row) })).sort((a, b) => a.key < b.key ? -1 : a.key > b.key ? 1 : 0)
  const text = Papa.unparse({ fields: columns.map(column => column.title), data: sorted.map(({ row }) => cells(row)) })
  // A table without rows ends its header's line already.
  return text.endsWith('\r\n') ? text : `${text}\r\n`
}

/** Whether two rows say the same. */
export const sameRow = <Row>({ columns }: Table<Row>, a: Row, b: Row): boolean =>
  columns.every(({ name, cell }) => cell.write(a[name]) === cell.write(b[name]))
