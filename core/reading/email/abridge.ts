const LONGEST_RUN = 288 * 1024;
const HEAD_BYTES = 192 * 1024;
const TAIL_BYTES = 64 * 1024;
const MOST_LINES = 9_000;
const HEAD_LINES = 6_000;
const TAIL_LINES = 1_000;
/** Lines kept of the whole message; later runs keep their first few, in which a part says what it is, then nothing. */
const ALL_LINES = 60_000;
const SPARE_LINES = 20_000;
const FIRST_FEW = 60;
const LF = 10;
const DASH = 45;

/** One stretch between two lines that begin with `--`. */
interface Run {
  start: number;
  lines: number;
  /** Where its head ends, once it is longer than a head. */
  headEnd: number;
  fewEnd: number;
}

/**
 * Shortens what a reader never looks at: of every run of more than 288 kB or 9,000 lines between two lines that begin
 * with `--` (a body or an attachment) it keeps the beginning and the end, cut at line ends so that base64 stays in
 * step, and of very many lines only the first parts. One pass over the bytes; this is what keeps a 2 MB message under
 * half a second and a spiteful one from hanging, because the MIME parser pays for every line.
 * @param raw the whole message
 * @returns the same bytes, or a shorter message that reads the same
 */
export function abridge(raw: Uint8Array): { bytes: Uint8Array; shortened: boolean } {
  const kept: Uint8Array[] = [];
  let keptLines = 0;
  let shortened = false;
  const begin = (start: number): Run => ({ start, lines: 0, headEnd: 0, fewEnd: 0 });
  const close = (run: Run, end: number): void => {
    const isSpent = keptLines > ALL_LINES;
    if (isSpent) {
      shortened = true;
      if (keptLines < ALL_LINES + SPARE_LINES) kept.push(raw.subarray(run.start, run.fewEnd || end));
      keptLines += Math.min(run.lines, FIRST_FEW) + 1;
    } else if (end - run.start <= LONGEST_RUN && run.lines <= MOST_LINES) {
      kept.push(raw.subarray(run.start, end));
      keptLines += run.lines + 1;
    } else {
      shortened = true;
      const head = run.headEnd || Math.min(end, run.start + HEAD_BYTES);
      kept.push(raw.subarray(run.start, head), raw.subarray(Math.max(head, tailStart(raw, end)), end));
      keptLines += Math.min(run.lines, HEAD_LINES + TAIL_LINES) + 1;
    }
  };
  let run = begin(0);
  for (let at = raw.indexOf(LF); at >= 0 && at + 2 < raw.length; at = raw.indexOf(LF, at + 1)) {
    run.lines++;
    if (run.lines === FIRST_FEW) run.fewEnd = at + 1;
    if (!run.headEnd && (run.lines >= HEAD_LINES || at - run.start > HEAD_BYTES)) run.headEnd = at + 1;
    if (raw[at + 1] === DASH && raw[at + 2] === DASH) {
      close(run, at + 1);
      run = begin(at + 1);
    }
  }
  close(run, raw.length);
  if (!shortened) return { bytes: raw, shortened };
  const bytes = new Uint8Array(kept.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of kept) {
    bytes.set(piece, at);
    at += piece.length;
  }
  return { bytes, shortened };
}

/** Where the last lines of a run begin. */
function tailStart(raw: Uint8Array, end: number): number {
  const earliest = end - TAIL_BYTES;
  let start = end;
  for (let lines = 0; lines < TAIL_LINES; lines++) {
    const at = raw.lastIndexOf(LF, start - 2);
    if (at < earliest) break;
    start = at + 1;
  }
  return start === end ? earliest : start;
}
