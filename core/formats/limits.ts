/** A table is at most this large. More rows than a team imports in a year; beyond it a file was made to do harm. */
export const MOST_ROWS = 250_000;
export const MOST_CELLS = 4_000_000;

/** A file that is no table, or one that takes far more work than any honest one. Its words are for people. */
export class UnreadableTable extends Error {}

/** @throws UnreadableTable when a table would have more rows or cells than can be held */
export function checkTableSize(rows: number, cells: number): void {
  if (rows > MOST_ROWS)
    throw new UnreadableTable(
      `This table has more than ${MOST_ROWS.toLocaleString('en')} rows. Split it into smaller files and import them one after the other.`,
    );
  if (cells > MOST_CELLS)
    throw new UnreadableTable(
      `This table has more than ${MOST_CELLS.toLocaleString('en')} cells. Delete empty rows and columns at its end, or split it into smaller files.`,
    );
}
