const NEWLINE = 10;
const FROM_LINE = [...'From '].map((letter) => letter.charCodeAt(0));
const QUOTE = '>'.charCodeAt(0);

const isFromLine = (bytes: Uint8Array, at: number): boolean =>
  FROM_LINE.every((code, offset) => bytes[at + offset] === code);

/**
 * Parts a mailbox file into its messages: each begins after a line "From …" that stands at the beginning or after an empty
 * line (RFC 4155, appendix A), and a quoted ">From " within it loses its quote. Reads every byte once.
 * @returns the messages as they were sent, in their order; none where the file is no mailbox
 */
export function splitMbox(bytes: Uint8Array): Uint8Array[] {
  const messages: Uint8Array[] = [];
  let kept: number[] = [];
  let isIn = false;
  let isAfterEmpty = true;
  const close = (): void => {
    if (isIn) messages.push(Uint8Array.from(kept));
    kept = [];
  };
  for (let at = 0; at < bytes.length;) {
    const found = bytes.indexOf(NEWLINE, at);
    const end = found < 0 ? bytes.length : found + 1;
    if (isAfterEmpty && isFromLine(bytes, at)) {
      close();
      isIn = true;
    } else if (isIn) {
      let from = at;
      while (bytes[from] === QUOTE) from++;
      const isQuoted = from > at && isFromLine(bytes, from);
      for (let one = isQuoted ? at + 1 : at; one < end; one++) kept.push(bytes[one] ?? 0);
    }
    const length = end - at;
    isAfterEmpty = length === 1 || (length === 2 && bytes[at] === 13);
    at = end;
  }
  close();
  return messages;
}
