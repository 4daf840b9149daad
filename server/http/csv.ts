import papaparse from 'papaparse';

/** What a spreadsheet would run; a number with its sign, such as a telephone's in E.164, is none. */
const FORMULA = /^(?:[=@\t\r]|[+-](?!\d+(?:[.,]\d+)?$))/;

/**
 * Rows as lines of CSV (RFC 4180): values that a spreadsheet would take for formulas are defused, and all are quoted,
 * since some programs split at other signs than the comma.
 */
export const csv = (rows: string[][]): string =>
  `${papaparse.unparse(rows, { escapeFormulae: FORMULA, quotes: true, newline: '\r\n', header: false })}\r\n`;
