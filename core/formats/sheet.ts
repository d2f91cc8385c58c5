import { readSheet } from 'read-excel-file/universal';

/** A workbook is a zip of XML; both can be made to blow up, so both are measured before they are opened. */
export const MOST_UNPACKED_BYTES = 300 * 1024 * 1024;
const MOST_FILES = 1000;
/** Deflate cannot do better than about 1,030 to 1; a table never comes near it. */
const HIGHEST_RATIO = 200;

export class UnsafeWorkbook extends Error {}

/** Sums up what a zip says of itself in its central directory (PKWARE APPNOTE 4.3.12). */
function measureZip(bytes: Uint8Array): { files: number; unpacked: number } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let end = -1;
  for (let at = bytes.length - 22; at >= Math.max(0, bytes.length - 65_557); at--)
    if (view.getUint32(at, true) === 0x06054b50) {
      end = at;
      break;
    }
  if (end < 0) throw new UnsafeWorkbook('This is not a workbook: it is no zip file.');
  const files = view.getUint16(end + 10, true);
  let at = view.getUint32(end + 16, true);
  let unpacked = 0;
  for (let count = 0; count < files; count++) {
    if (at + 46 > bytes.length || view.getUint32(at, true) !== 0x02014b50)
      throw new UnsafeWorkbook('This workbook is damaged.');
    const packed = view.getUint32(at + 20, true);
    const size = view.getUint32(at + 24, true);
    const name = new TextDecoder().decode(bytes.subarray(at + 46, at + 46 + view.getUint16(at + 28, true)));
    if (/(?:^|[/\\])\.\.(?:[/\\]|$)|^[/\\]/.test(name))
      throw new UnsafeWorkbook('This workbook holds a path it should not.');
    if (size > 1_000_000 && size > packed * HIGHEST_RATIO)
      throw new UnsafeWorkbook('This workbook unpacks to far more than a table would; it was not opened.');
    unpacked += size;
    at += 46 + view.getUint16(at + 28, true) + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
  }
  return { files, unpacked };
}

/** Whether bytes begin as a zip does. */
export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

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
 * The rows of the first sheet of an XLSX workbook as text; days in ISO 8601.
 * @throws UnsafeWorkbook for what is no workbook, or a bomb
 */
export async function parseSheet(bytes: Uint8Array): Promise<string[][]> {
  const { files, unpacked } = measureZip(bytes);
  if (files > MOST_FILES || unpacked > MOST_UNPACKED_BYTES)
    throw new UnsafeWorkbook('This workbook unpacks to far more than a table would; it was not opened.');
  const copy = bytes.slice().buffer;
  try {
    return (await readSheet(copy)).map((row) => row.map(asText));
  } catch (error) {
    throw new UnsafeWorkbook(
      `This workbook cannot be read: ${error instanceof Error ? error.message : 'it is damaged'}.`,
    );
  }
}
