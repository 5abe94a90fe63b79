import Papa from 'papaparse'

/**
 * Rows as CSV (RFC 4180), the names of the first row's fields on top. A cell that a spreadsheet would run as a formula begins with an
 * apostrophe. Every line ends as the standard has it.
 */
export const writeTable = (rows: readonly Record<string, string>[]): string =>
  `${Papa.unparse([...rows], { escapeFormulae: true })}\r\n`
