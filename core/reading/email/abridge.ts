const LONGEST_PART = 384 * 1024;
const KEPT_TAIL = 64 * 1024;
const LF = 10;
const DASH = 45;

/**
 * Shortens what a reader never looks at: every run of more than 384 kB between two lines that begin with `--` (a body
 * or an attachment) keeps its beginning and its end, cut at line ends so that base64 stays in step. One pass over the
 * bytes; this is what keeps a 2 MB message under half a second, because the MIME parser pays for every line.
 * @param raw the whole message
 * @returns the same bytes, or a shorter message that reads the same
 */
export function abridge(raw: Uint8Array): { bytes: Uint8Array; shortened: boolean } {
  if (raw.length <= LONGEST_PART + KEPT_TAIL) return { bytes: raw, shortened: false };
  const kept: Uint8Array[] = [];
  let runStart = 0;
  let shortened = false;
  const close = (end: number): void => {
    if (end - runStart <= LONGEST_PART + KEPT_TAIL) {
      kept.push(raw.subarray(runStart, end));
      return;
    }
    let head = raw.indexOf(LF, runStart + LONGEST_PART - KEPT_TAIL) + 1;
    const tail = raw.indexOf(LF, end - KEPT_TAIL) + 1;
    if (head === 0 || head > tail) head = runStart + LONGEST_PART - KEPT_TAIL;
    kept.push(
      raw.subarray(runStart, head),
      raw.subarray(Math.max(head, tail > 0 && tail < end ? tail : end - KEPT_TAIL), end),
    );
    shortened = true;
  };
  for (let at = raw.indexOf(LF); at >= 0 && at + 2 < raw.length; at = raw.indexOf(LF, at + 1)) {
    if (raw[at + 1] === DASH && raw[at + 2] === DASH) {
      close(at + 1);
      runStart = at + 1;
    }
  }
  close(raw.length);
  if (!shortened) return { bytes: raw, shortened };
  const bytes = new Uint8Array(kept.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of kept) {
    bytes.set(piece, at);
    at += piece.length;
  }
  return { bytes, shortened };
}
