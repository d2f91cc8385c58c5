import { parseCsv } from '../../formats/csv';
import { decodeText } from '../../formats/encoding';
import { isZip, parseSheet } from '../../formats/sheet';
import { readShape, type CustomLabel, type TableShape } from './columns';

export interface TableReading {
  rows: string[][];
  shape: TableShape;
  encoding: string;
  separator: string | null;
  problems: { row: number; text: string }[];
}

/**
 * Opens a table: CSV in any encoding and with any separator, XLSX, or rows that were pasted.
 * @throws UnsafeWorkbook for a workbook that is none, damaged, or a bomb
 */
export async function readTable(
  bytes: Uint8Array,
  custom: readonly CustomLabel[] = [],
): Promise<TableReading> {
  if (isZip(bytes)) {
    const rows = withoutBlank(await parseSheet(bytes));
    return { rows, shape: readShape(rows, custom), encoding: 'xlsx', separator: null, problems: [] };
  }
  const { text, encoding } = decodeText(bytes);
  const { rows: all, separator, problems } = parseCsv(text);
  const rows = withoutBlank(all);
  return { rows, shape: readShape(rows, custom), encoding, separator, problems };
}

const withoutBlank = (rows: string[][]): string[][] =>
  rows.filter((row) => row.some((cell) => cell.trim() !== ''));

/** The shape of a table as a key under which its mapping can be found again: its headings, folded, in their order. */
export const shapeKey = (shape: TableShape): string =>
  shape.columns.map((column) => column.heading.trim().toLowerCase()).join('\u001f');
