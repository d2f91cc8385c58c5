import { parseCards } from '@emporikon/core/formats/vcard';
import type { CustomLabel, TableShape } from '@emporikon/core/reading/table/columns';
import { invalid } from '../http/problems';
import { openTable } from '../imports/source';

export interface BenchOptions {
  raw: Uint8Array;
  custom: CustomLabel[];
  /** Which sheet of a workbook, from 0. */
  sheet: number;
}
export type BenchReading =
  | { kind: 'cards'; total: number }
  | {
      kind: 'table';
      shape: TableShape;
      encoding: string;
      separator: string | null;
      /** The names of all sheets of a workbook; empty for any other table. */
      sheets: string[];
      total: number;
    };

/** Whether bytes are a file of cards; a byte order mark and blank lines may stand before the first. */
const isCardFile = (raw: Uint8Array): boolean =>
  /^(?:\u00ef\u00bb\u00bf)?\s*BEGIN:VCARD/i.test(new TextDecoder('latin1').decode(raw.subarray(0, 200)));

/**
 * Looks through a file that is to be imported: what its columns hold and how many rows it has.
 * @throws 422 for a file in which there is nothing to import, or too much
 */
export async function readBench({ raw, custom, sheet }: BenchOptions): Promise<BenchReading> {
  if (isCardFile(raw)) {
    const { cards } = parseCards(raw);
    if (!cards.length) throw invalid('There is no card in it that could be read; nothing was imported.');
    return { kind: 'cards', total: cards.length };
  }
  const { rows, shape, encoding, separator, sheets } = await openTable(raw, custom, sheet);
  if (!rows.length) throw invalid('There are no rows in it; nothing was imported.');
  return {
    kind: 'table',
    shape,
    encoding,
    separator,
    sheets,
    total: rows.length - (shape.hasHead ? 1 : 0),
  };
}
