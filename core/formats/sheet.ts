import { Unzip, UnzipInflate, zipSync } from 'fflate';
import { readSheet } from 'read-excel-file/universal';
import { checkTableSize, UnreadableTable } from './limits';

/** A workbook is a zip of XML, and both can be made to blow up: what really comes out is counted, not what it says of itself. */
export const MOST_UNPACKED_BYTES = 80 * 1024 * 1024;
const MOST_FILES = 1000;
const PIECE_BYTES = 64 * 1024;

/** Whether bytes begin as a zip does. */
export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

const TOO_LARGE =
  'This workbook unpacks to far more than a table would; it was not opened. Save the sheet as CSV and import that.';

/** The parts of a workbook that hold words and numbers, unpacked piece by piece and never beyond the limit. */
function unpack(bytes: Uint8Array): Map<string, Uint8Array> {
  const parts = new Map<string, Uint8Array[]>();
  let unpacked = 0;
  let files = 0;
  const unzip = new Unzip((file) => {
    if (++files > MOST_FILES) throw new UnreadableTable(TOO_LARGE);
    if (/(?:^|[/\\])\.\.(?:[/\\]|$)|^[/\\]/.test(file.name))
      throw new UnreadableTable('This workbook holds a path it should not.');
    if (!/\.(?:xml|rels)$/i.test(file.name)) return;
    const pieces: Uint8Array[] = [];
    parts.set(file.name, pieces);
    file.ondata = (error, piece) => {
      if (error) throw error;
      unpacked += piece.length;
      if (unpacked > MOST_UNPACKED_BYTES) throw new UnreadableTable(TOO_LARGE);
      pieces.push(piece);
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  // In small pieces, so that the limit is felt before a bomb has gone off.
  for (let at = 0; at < bytes.length; at += PIECE_BYTES)
    unzip.push(bytes.subarray(at, at + PIECE_BYTES), at + PIECE_BYTES >= bytes.length);
  if (!parts.size) throw new UnreadableTable('This is not a workbook: there is no sheet in it.');
  return new Map([...parts].map(([name, pieces]) => [name, joined(pieces)]));
}

function joined(pieces: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}

const columnNumber = (letters: string): number =>
  [...letters].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0);

/** How far the cells of a sheet reach: a cell far away makes a table of everything before it. */
function checkReach(sheet: Uint8Array): void {
  const text = new TextDecoder('latin1').decode(sheet);
  let [rows, columns, written] = [0, 0, 0];
  for (const [, letters = '', row = ''] of text.matchAll(/<c\s[^>]{0,200}?\br="([A-Z]{1,4})(\d{1,9})"/g)) {
    rows = Math.max(rows, Number(row));
    columns = Math.max(columns, columnNumber(letters));
    written++;
  }
  for (const [, row = ''] of text.matchAll(/<row\s[^>]{0,200}?\br="(\d{1,9})"/g))
    rows = Math.max(rows, Number(row));
  checkTableSize(rows, Math.max(written, rows * columns));
}

const ENTITIES: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };

function sheetNames(parts: ReadonlyMap<string, Uint8Array>): string[] {
  const workbook = parts.get('xl/workbook.xml');
  if (!workbook) return [];
  return [...new TextDecoder().decode(workbook).matchAll(/<sheet\s[^>]{0,400}?\bname="([^"]{0,200})"/g)].map(
    ([, name = '']) =>
      name.replace(/&(amp|lt|gt|quot|apos);/g, (_, entity: string) => ENTITIES[entity] ?? ''),
  );
}

const pad = (part: number): string => String(part).padStart(2, '0');

function asText(value: unknown): string {
  if (value === null || value === undefined) return '';
  if (value instanceof Date) {
    const day = `${value.getUTCFullYear()}-${pad(value.getUTCMonth() + 1)}-${pad(value.getUTCDate())}`;
    const time = `${pad(value.getUTCHours())}:${pad(value.getUTCMinutes())}`;
    return time === '00:00' ? day : `${day}T${time}`;
  }
  return String(value);
}

/**
 * The rows of one sheet of an XLSX workbook as text; days in ISO 8601.
 * @param sheet which of its sheets, from 0
 * @returns the rows, and the names of all its sheets
 * @throws UnreadableTable for what is no workbook, or far more than a table
 */
export async function parseSheet(
  bytes: Uint8Array,
  sheet = 0,
): Promise<{ rows: string[][]; sheets: string[] }> {
  try {
    const parts = unpack(bytes);
    for (const [name, part] of parts) if (/^xl\/worksheets\/[^/]+\.xml$/i.test(name)) checkReach(part);
    const sheets = sheetNames(parts);
    const plain = zipSync(Object.fromEntries(parts), { level: 0 });
    parts.clear();
    const rows = await readSheet(plain.buffer as ArrayBuffer, sheet + 1);
    return { rows: rows.map((row) => row.map(asText)), sheets };
  } catch (error) {
    if (error instanceof UnreadableTable) throw error;
    throw new UnreadableTable(
      'This workbook is damaged and cannot be read. Save it anew, or save the sheet as CSV.',
    );
  }
}
