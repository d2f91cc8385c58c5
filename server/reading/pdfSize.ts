import { constants, inflateSync } from 'node:zlib';

/** As much as the streams of an honest PDF of words come to. */
const MOST_INFLATED_BYTES = 64 * 1024 * 1024;
/** Filters in filters, as a file can name them. */
const DEEPEST = 3;
/** What is unpacked here and so can be measured, and pictures, which are not unpacked for the words. */
const KNOWN_FILTERS = new Set([
  'FlateDecode',
  'Fl',
  'DCTDecode',
  'JPXDecode',
  'CCITTFaxDecode',
  'JBIG2Decode',
  'Crypt',
]);
const NAME = String.raw`\/([^\s/<>[\](){}%]{1,60})`;

/** A name as it is meant: `F#69lter` is `Filter` (ISO 32000-1, 7.3.5). */
const meant = (name: string): string =>
  name.replace(/#([0-9a-f]{2})/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)));

/** Whether everything that packs its streams can be measured. */
function isMeasurable(text: string): boolean {
  for (const [, name = ''] of text.matchAll(new RegExp(NAME, 'g')))
    if (name === 'Encrypt' || (name.includes('#') && ['Filter', 'Encrypt'].includes(meant(name))))
      return false;
  for (const [, value = ''] of text.matchAll(/\/Filter\s*(\[[^\]]{0,300}\]|\/[^\s/<>[\](){}%]+|\S)/g)) {
    const names = [...value.matchAll(new RegExp(NAME, 'g'))].map(([, name = '']) => meant(name));
    if (!names.length || names.some((name) => !KNOWN_FILTERS.has(name))) return false;
  }
  return true;
}

/** How much bytes come to when they are unpacked; infinite for more than `most`. */
function unpackedSize(bytes: Uint8Array, most: number, depth = 0): number {
  const [first = 0, second = 0] = bytes;
  if ((first & 0x0f) !== 8 || ((first << 8) + second) % 31 !== 0 || most <= 0)
    return most <= 0 ? Infinity : 0;
  try {
    const inner = inflateSync(bytes, { maxOutputLength: most, finishFlush: constants.Z_SYNC_FLUSH });
    return inner.length + (depth < DEEPEST ? unpackedSize(inner, most - inner.length, depth + 1) : Infinity);
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'ERR_BUFFER_TOO_LARGE' ? Infinity : 0;
  }
}

/**
 * Whether a PDF can be read without it growing beyond all measure: a file of some kilobytes can unpack to gigabytes. A
 * stream is looked at from where it begins to wherever its own data end, whatever length the file gives it.
 */
export function isReadablePdf(raw: Uint8Array): boolean {
  const bytes = Buffer.from(raw.buffer, raw.byteOffset, raw.byteLength);
  if (!isMeasurable(bytes.toString('latin1'))) return false;
  let left = MOST_INFLATED_BYTES;
  for (let at = bytes.indexOf('stream'); at >= 0; at = bytes.indexOf('stream', at + 6)) {
    let start = at + 6;
    while (start < bytes.length && bytes[start] !== 10 && bytes[start] !== 13) start++;
    start += bytes[start] === 13 && bytes[start + 1] === 10 ? 2 : 1;
    left -= unpackedSize(bytes.subarray(start), left);
    if (left <= 0) return false;
  }
  return true;
}
