import { parseCsv } from '../../formats/csv';
import { decodeText } from '../../formats/encoding';
import { isZip, parseSheet } from '../../formats/sheet';
import { readShape, type CustomLabel, type TableShape } from './columns';

export interface TableReading {
  rows: string[][];
  shape: TableShape;
  encoding: string;
  separator: string | null;
  /** The names of all sheets of a workbook; empty for any other table. */
  sheets: string[];
  problems: { row: number; text: string }[];
}

/**
 * Opens a table: CSV in any encoding and with any separator, XLSX, or rows that were pasted.
 * @param sheet which sheet of a workbook, from 0
 * @throws UnreadableTable for a workbook that is none or damaged, and for far more than a table would be
 */
export async function readTable(
  bytes: Uint8Array,
  custom: readonly CustomLabel[] = [],
  sheet = 0,
): Promise<TableReading> {
  if (isZip(bytes)) {
    const book = await parseSheet(bytes, sheet);
    const rows = withoutBlank(book.rows);
    const { sheets } = book;
    return { rows, shape: readShape(rows, custom), encoding: 'xlsx', separator: null, sheets, problems: [] };
  }
  const { text, encoding } = decodeText(bytes);
  const { rows: all, separator, problems } = parseCsv(text);
  const rows = withoutBlank(all);
  return { rows, shape: readShape(rows, custom), encoding, separator, sheets: [], problems };
}

const withoutBlank = (rows: string[][]): string[][] =>
  rows.filter((row) => row.some((cell) => cell.trim() !== ''));

/** The shape of a table as a key under which its mapping can be found again: its headings, folded, in their order. */
export const shapeKey = (shape: TableShape): string =>
  shape.columns.map((column) => column.heading.trim().toLowerCase()).join('\u001f');
