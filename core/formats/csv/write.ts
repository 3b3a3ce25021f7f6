import Papa from 'papaparse'

/** One line of CSV (RFC 4180), CRLF at its end. A cell that a spreadsheet would take for a formula gets an apostrophe in front. */
export function csvLine(cells: readonly string[]): string {
  return Papa.unparse([[...cells]], { newline: '\r\n', escapeFormulae: true }) + '\r\n'
}
