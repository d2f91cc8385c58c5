const LF = 10;
const DASH = 45;
const LONGEST_HEADER = 100;
/** Encodings whose lines the MIME parser joins as it reads; every line of any other stays an object until the end. */
const JOINED = /^content-transfer-encoding:\s*"?(?:base64|quoted-printable)/i;

/**
 * How many lines of a message the MIME parser would hold one by one: those of parts in neither base64 nor
 * quoted-printable. Each costs it some 1.4 kB and 20 µs, so a small message of very many costs more than a large one.
 * One pass over the bytes.
 * @param raw the whole message
 */
export function countSeparateLines(raw: Uint8Array): number {
  const decoder = new TextDecoder('latin1');
  let lines = 0;
  let isHead = true;
  let isJoined = false;
  for (let start = 0; start < raw.length;) {
    const found = raw.indexOf(LF, start);
    const end = found < 0 ? raw.length : found;
    const isBlank = end - start === 0 || (end - start === 1 && raw[start] === 13);
    if (raw[start] === DASH && raw[start + 1] === DASH) [isHead, isJoined] = [true, false];
    else if (isHead && isBlank) isHead = false;
    else if (isHead && (raw[start] === 67 || raw[start] === 99))
      isJoined ||= JOINED.test(decoder.decode(raw.subarray(start, Math.min(end, start + LONGEST_HEADER))));
    if (!isJoined) lines++;
    start = end + 1;
  }
  return lines;
}
