/** A header field is at most this long with all its folded lines; of one that is longer the beginning is read. */
const LONGEST_FIELD = 16 * 1024;
/** All fields of one part together. */
const LONGEST_BLOCK = 256 * 1024;
const LF = 10;
const DASH = 45;

const isFolded = (byte: number | undefined): boolean => byte === 32 || byte === 9;
const isBlank = (raw: Uint8Array, at: number): boolean =>
  raw[at] === LF || (raw[at] === 13 && raw[at + 1] === LF);

/**
 * Cuts header fields that are far longer than any honest one, in the message and in each of its parts: a parser of
 * addresses, encoded words or parameters pays for their length more than once. One pass over the bytes.
 * @returns the same bytes where nothing was cut
 */
export function boundHeaders(raw: Uint8Array): { bytes: Uint8Array; shortened: boolean } {
  const kept: Uint8Array[] = [];
  let keptUntil = 0;
  let isHeader = true;
  let [field, block] = [0, 0];
  const drop = (from: number, to: number): void => {
    kept.push(raw.subarray(keptUntil, from));
    keptUntil = to;
  };
  for (let at = 0; at < raw.length;) {
    const found = raw.indexOf(LF, at);
    const end = found < 0 ? raw.length : found + 1;
    if (raw[at] === DASH && raw[at + 1] === DASH) [isHeader, field, block] = [true, 0, 0];
    else if (isHeader && isBlank(raw, at)) isHeader = false;
    else if (isHeader) {
      if (!isFolded(raw[at])) field = 0;
      const room = Math.max(0, Math.min(LONGEST_FIELD - field, LONGEST_BLOCK - block));
      // The line end stays, so that the next field still begins a line.
      if (end - at > room) drop(at + room, isFolded(raw[at]) && room === 0 ? end : end - 1);
      field += end - at;
      block += Math.min(end - at, room);
    }
    at = end;
  }
  if (!kept.length) return { bytes: raw, shortened: false };
  kept.push(raw.subarray(keptUntil));
  const bytes = new Uint8Array(kept.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of kept) {
    bytes.set(piece, at);
    at += piece.length;
  }
  return { bytes, shortened: true };
}
