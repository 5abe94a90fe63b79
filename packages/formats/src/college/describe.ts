import type { Table } from './table'
import { TABLES } from './tables'

const HEAD = `# A college as a folder

What \`./ridgeway export FOLDER\` writes and \`./ridgeway import FOLDER\` reads, and what the office brings in under *The college's tables*:
tables (CSV), programs (JSON, see [program.md](program.md)) in \`programs/\`, and \`college.json\` ([its schema](college.schema.json)) with
the name, the time zone, the repeat policy and the terms that students accept. Any part may be left out: what is not there changes nothing.

- Tables are as RFC 4180 has them, in UTF-8, with the columns' names in the first row, in any order. A semicolon or a tab between the cells
  is read too. Several values in one cell have a semicolon between them, and the cell stands in quotation marks where the file itself parts
  its cells by semicolons.
- A column that may be left out says what an empty cell stands for. Credits and amounts have at most two decimals.
- A cell that a spreadsheet would run as a formula is written with an apostrophe before it; reading takes exactly that back.
- Rows are known by their key. A row whose key is there already changes that row, another is added, and rows that are not in the file stay.
- All of it is right and put in force in one step, or every problem is named by file, row (the first row is 1) and column, and nothing
  changes. Seats that somebody has cannot be taken away, and what somebody is (student, advisor, office) does not change by a file.
- The same college gives the same bytes.
- Moments are in UTC. Registrations, waitlists, plans, money and the ledger are no part of a folder.

`

/** The documentation of the tables, made from their declarations. */
export const describeTables = (): string => HEAD + Object.values(TABLES).map(one => describe(one as unknown as Table<never>)).join('\n')

function describe({ file, words, columns, key }: Table<never>): string {
  const cell = (text: string) => text.replaceAll('|', '\\|')
  const rows = columns.map(({ title, cell: { words: expected, write }, preset }) =>
    `| ${key.includes(title) ? `**${title}**` : title} | ${cell(expected)} | ${
      preset === undefined ? 'must be there' : write(preset) === '' ? 'nothing' : write(preset)
    } |`)
  return `## ${file}\n\n${words} Key: ${key.join(', ')}.\n\n| column | is | empty means |\n|---|---|---|\n${rows.join('\n')}\n`
}
