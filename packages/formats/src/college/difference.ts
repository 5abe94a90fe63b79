import type { CollegeRead } from './college'
import { sameRow, type Table } from './table'
import { type CollegeRows, type TableName, TABLES } from './tables'

/** What a table that is sent would change: rows are known by their key. */
interface TableDifference<Row> {
  added: Row[]
  changed: { before: Row, after: Row }[]
  same: number
  /** Rows that stand and are not in the file: they are left as they are. */
  left: number
}
export type CollegeDifference = { [K in TableName]?: TableDifference<CollegeRows[K][number]> }

function compare<Row>(table: Table<Row>, now: readonly Row[], sent: readonly Row[]): TableDifference<Row> {
  const before = new Map(now.map(row => [table.keyOf(row), row]))
  const result: TableDifference<Row> = { added: [], changed: [], same: 0, left: 0 }
  for (const row of sent) {
    const key = table.keyOf(row)
    const known = before.get(key)
    before.delete(key)
    if (!known) result.added.push(row)
    else if (sameRow(table, known, row)) result.same++
    else result.changed.push({ before: known, after: row })
  }
  result.left = before.size
  return result
}

/** What a folder would change, table by table; tables that were not sent change nothing. */
export function compareCollege(now: CollegeRows, { rows }: Pick<CollegeRead, 'rows'>): CollegeDifference {
  return Object.fromEntries((Object.keys(TABLES) as TableName[]).flatMap(name =>
    rows[name] ? [[name, compare(TABLES[name] as Table<unknown>, now[name], rows[name])]] : [])) as CollegeDifference
}

/** One row that would be new or different, in the words of its file. */
export interface RowChange {
  file: string
  key: string
  /** Null for a new row. */
  columns: { title: string, from: string, to: string }[] | null
}

/** The first rows that would be new or different: a few of every table, changed ones before new ones. */
export function sayDifference(difference: CollegeDifference, mostOfEach: number): RowChange[] {
  return (Object.keys(difference) as TableName[]).flatMap((name) => {
    const table = TABLES[name] as Table<unknown>
    const { added, changed } = difference[name] as TableDifference<unknown>
    const rows = [
      ...changed.slice(0, mostOfEach).map(({ before, after }): RowChange => ({ file: table.file, key: table.keyOf(after),
        columns: table.columns.map(({ name: column, title, cell }) => ({ title, from: cell.write(valueOf(before, column)),
          to: cell.write(valueOf(after, column)) })).filter(({ from, to }) => from !== to) })),
      ...added.slice(0, mostOfEach).map((row): RowChange => ({ file: table.file, key: table.keyOf(row), columns: null })),
    ]
    return rows.slice(0, mostOfEach)
  })
}

const valueOf = (row: unknown, column: string) => (row as Record<string, unknown>)[column]
