/** A cell that a spreadsheet would run as a formula, or one made harmless already, gets an apostrophe before it. */
export const harmless = (cell: string) => /^'*[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell
/** Takes exactly that back. */
export const plainCell = (cell: string) => /^'+[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell

/** What parts the cells, as the first row has it most often: what stands in a cell below says nothing about that. */
export function delimiterOf(text: string): string {
  const [header = ''] = text.split(/\r?\n/, 1)
  return [',', ';', '\t'].sort((a, b) => header.split(b).length - header.split(a).length)[0]!
}
