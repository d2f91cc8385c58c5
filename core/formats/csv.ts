import Papa from 'papaparse';
import { checkTableSize, MOST_ROWS } from './limits';

export interface Table {
  rows: string[][];
  separator: string;
  /** Problems of the file itself, such as a quote that is never closed, by line. */
  problems: { row: number; text: string }[];
}

const SEPARATORS = [',', ';', '\t', '|'];

/** The separator that parts the first lines most evenly; quoted stretches do not count. */
export function separatorOf(text: string): string {
  const told = /^sep=(.)\r?\n/i.exec(text)?.[1];
  if (told) return told;
  const sample = text
    .slice(0, 20_000)
    .replace(/"(?:[^"]|"")*"/g, 'q')
    .split(/\r\n|\n|\r/)
    .filter((line) => line.trim())
    .slice(0, 30);
  let best = ',';
  let bestScore = 0;
  for (const separator of SEPARATORS) {
    const counts = sample.map((line) => line.split(separator).length - 1);
    const [head = 0] = counts;
    const even = counts.filter((count) => count === head).length / Math.max(1, counts.length);
    const score = head > 0 ? even * (1 + Math.min(head, 20) / 20) : 0;
    if (score > bestScore) [best, bestScore] = [separator, score];
  }
  return best;
}

/** Counts line ends and separators before anything is taken apart; what stands in quotes is counted too. */
function checkSize(text: string, separator: string): void {
  let rows = 1;
  let cells = 1;
  const parting = separator.charCodeAt(0);
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (code === parting) cells++;
    else if (code === 0x0a || (code === 0x0d && text.charCodeAt(at + 1) !== 0x0a)) {
      rows++;
      cells++;
    }
  }
  // Line ends within quotes are no rows, so the rows may seem more than they are; the cells bound both.
  checkTableSize(Math.min(rows, MOST_ROWS), cells);
}

/**
 * Rows of a table as text (RFC 4180, and the separators other lands use).
 * @param text the file, decoded
 */
export function parseCsv(text: string, separator = separatorOf(text)): Table {
  const body = text.replace(/^sep=.\r?\n/i, '');
  checkSize(body, separator);
  const { data, errors } = Papa.parse<string[]>(body, {
    delimiter: separator,
    skipEmptyLines: false,
    preview: MOST_ROWS + 2,
  });
  checkTableSize(data.length - 1, 0);
  const rows = data.filter((row, index) => index < data.length - 1 || row.length > 1 || row[0] !== '');
  return {
    rows,
    separator,
    problems: errors
      .filter((error) => error.type === 'Quotes')
      .map((error) => ({
        row: error.row ?? 0,
        text: 'a quote is opened and never closed, or closed too early',
      })),
  };
}

/** What a spreadsheet would run as a formula when it opens the file, the full-width signs of East Asian keyboards too. */
const FORMULA = /^[=+\-@\t\r\n\uff1d\uff0b\uff0d\uff20]/;

/** One cell, quoted where it must be, and with an apostrophe before what a spreadsheet would run. */
function cell(value: string): string {
  const isNumber = /^[+-]?\d[\d .,()/-]*$/.test(value);
  const safe = FORMULA.test(value) && !isNumber ? `'${value}` : value;
  return /[",;\r\n\t]/.test(safe) || safe !== safe.trim() ? `"${safe.replace(/"/g, '""')}"` : safe;
}

/** Rows as CSV (RFC 4180), formulas made harmless. */
export const writeCsv = (rows: readonly (readonly string[])[]): string =>
  rows.map((row) => `${row.map(cell).join(',')}\r\n`).join('');
