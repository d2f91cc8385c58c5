import type { Cell } from '@emporikon/core/outgoing/cells';
import { PassThrough } from 'node:stream';
import { buffer } from 'node:stream/consumers';

/** A sheet has so many rows and no more (ECMA-376); what is beyond goes into the next. */
const MOST_ROWS = 1_048_576;
/** So many rows are written before others have their turn. */
const AT_ONCE = 500;
const WIDEST = 48;

/**
 * A workbook of rows, one sheet, its heads bold and in view.
 * @param text a row a line, in JSON, the heads first
 */
export async function makeWorkbook(text: string): Promise<Buffer> {
  // Loaded with the first workbook: most processes never write one, and it takes 27 MB.
  const { default: ExcelJs } = await import('exceljs');
  const stream = new PassThrough();
  const all = buffer(stream);
  const workbook = new ExcelJs.stream.xlsx.WorkbookWriter({ stream, useStyles: true });
  const rows = text.split('\n').filter(Boolean);
  const read = (row: string): Cell[] => JSON.parse(row) as Cell[];
  const head = read(rows[0] ?? '[]');
  const sample = rows.slice(0, 100).map(read);
  for (let from = 1; from === 1 || from < rows.length; from += MOST_ROWS - 1) {
    const sheet = workbook.addWorksheet(from === 1 ? 'Export' : `Export ${from}`, {
      views: [{ state: 'frozen', ySplit: 1 }],
    });
    sheet.columns = head.map((_, at) => ({
      width: Math.min(WIDEST, 2 + Math.max(8, ...sample.map((row) => String(row[at] ?? '').length))),
    }));
    const heads = sheet.addRow(head);
    heads.font = { bold: true };
    heads.commit();
    for (const [at, row] of rows.slice(from, from + MOST_ROWS - 1).entries()) {
      sheet.addRow(read(row)).commit();
      if (at % AT_ONCE === 0) await new Promise((done) => setImmediate(done));
    }
    sheet.commit();
  }
  await workbook.commit();
  return all;
}
