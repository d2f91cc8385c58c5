import chardet from 'chardet';

/** What 0x80 to 0x9F mean in Windows-1252 (WHATWG Encoding, index windows-1252); some platforms take them for controls. */
const HIGH = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';

const decode = (bytes: Uint8Array, label: string): string | null => {
  try {
    const text = new TextDecoder(label, { fatal: label === 'utf-8' }).decode(bytes);
    return label === 'windows-1252'
      ? text.replace(/[\u0080-\u009f]/g, (char) => HIGH[char.charCodeAt(0) - 0x80] ?? char)
      : text;
  } catch {
    return null;
  }
};

const ENOUGH_HIGH = 24;
const OTHER_SCRIPTS =
  /^(?:iso-8859-(?:2|5|7)|windows-125[0138]|koi8-r|shift_jis|big5|euc-jp|euc-kr|gb18030)$/;

/**
 * Finds out in which encoding a file is written: by its mark, else UTF-8 where it is valid, else UTF-16 by its zeros,
 * else by the frequency of letters (chardet), else Windows-1252, which is what old office programs write.
 * @returns the text without the mark, and the encoding by its WHATWG name
 */
export function decodeText(bytes: Uint8Array): { text: string; encoding: string } {
  const [a, b, c] = bytes;
  if (a === 0xef && b === 0xbb && c === 0xbf) return named(bytes.subarray(3), 'utf-8');
  if (a === 0xff && b === 0xfe) return named(bytes.subarray(2), 'utf-16le');
  if (a === 0xfe && b === 0xff) return named(bytes.subarray(2), 'utf-16be');
  const sample = bytes.subarray(0, 4096);
  const zeros = (from: number): number => sample.filter((byte, at) => at % 2 === from && byte === 0).length;
  if (zeros(1) > sample.length * 0.3) return named(bytes, 'utf-16le');
  if (zeros(0) > sample.length * 0.3) return named(bytes, 'utf-16be');
  const utf8 = decode(bytes, 'utf-8');
  if (utf8 !== null) return { text: utf8, encoding: 'utf-8' };
  const guess = chardet.detect(bytes.subarray(0, 65_536))?.toLowerCase() ?? '';
  // A few letters beyond ASCII tell no more than the most common reading of them; other scripts have many.
  const high = bytes.subarray(0, 65_536).filter((byte) => byte >= 0x80).length;
  const isTold = high >= ENOUGH_HIGH && OTHER_SCRIPTS.test(guess);
  const label = isTold ? guess : 'windows-1252';
  return named(bytes, likely(label));
}

/** Windows-1250 and its kin are told from 1252 by letters only they have; a guess without many is not worth it. */
const likely = (label: string): string => (label === 'iso-8859-2' ? 'windows-1250' : label);

const named = (bytes: Uint8Array, encoding: string): { text: string; encoding: string } => ({
  text: decode(bytes, encoding) ?? new TextDecoder('windows-1252').decode(bytes),
  encoding,
});
