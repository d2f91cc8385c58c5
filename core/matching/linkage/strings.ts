/** A list of distinct strings as UTF-16 units in typed arrays, so that worker threads can share it without copying. */
export interface PackedStrings {
  units: Uint16Array;
  /** Where string `id` begins; one more entry than there are strings. */
  starts: Uint32Array;
  /** Which letters string `id` has: a bit for each, of which letters far apart share one. */
  letters: Uint32Array;
}

/** An array of fewer numbers is sooner copied than shared. */
const SHARED_FROM = 65_536;
/** An array of numbers that worker threads can share without copying. */
export const shared = <T>(
  kind: { new (buffer: ArrayBuffer | SharedArrayBuffer): T; BYTES_PER_ELEMENT: number },
  length: number,
): T => {
  const size = kind.BYTES_PER_ELEMENT * Math.max(1, length);
  return new kind(length < SHARED_FROM ? new ArrayBuffer(size) : new SharedArrayBuffer(size));
};

/** Gives equal strings one number; 0 is the empty string, which stands for "nothing known". */
export class Dictionary {
  private readonly ids = new Map<string, number>([['', 0]]);
  private readonly list: string[] = [''];

  add(text: string): number {
    const known = this.ids.get(text);
    if (known !== undefined) return known;
    this.list.push(text);
    this.ids.set(text, this.list.length - 1);
    return this.list.length - 1;
  }

  get size(): number {
    return this.list.length;
  }

  textOf(id: number): string {
    return this.list[id] ?? '';
  }

  pack(): PackedStrings {
    const starts = shared(Uint32Array, this.list.length + 1);
    let length = 0;
    for (const [id, text] of this.list.entries()) {
      starts[id] = length;
      length += text.length;
    }
    starts[this.list.length] = length;
    const units = shared(Uint16Array, length);
    const letters = shared(Uint32Array, this.list.length);
    let at = 0;
    for (const [id, text] of this.list.entries()) {
      let mask = 0;
      for (let index = 0; index < text.length; index++) {
        const unit = text.charCodeAt(index);
        units[at++] = unit;
        mask |= 1 << (unit & 31);
      }
      letters[id] = mask;
    }
    return { units, starts, letters };
  }
}

const LONGEST = 64;
/** In fewer letters a slip is another word. */
const SHORTEST = 3;
const taken = new Uint8Array(LONGEST);
const common = new Uint16Array(LONGEST);

/**
 * Jaro–Winkler similarity (Winkler 1990) of two strings of one list, without making either.
 * @returns 0 to 1; beyond 64 units the rest of a string is not looked at
 */
function packedJaroWinkler({ units, starts }: PackedStrings, a: number, b: number): number {
  if (a === b) return 1;
  const [fromA, fromB] = [starts[a] ?? 0, starts[b] ?? 0];
  const lengthA = Math.min(LONGEST, (starts[a + 1] ?? 0) - fromA);
  const lengthB = Math.min(LONGEST, (starts[b + 1] ?? 0) - fromB);
  if (!lengthA || !lengthB) return 0;
  const reach = Math.max(0, (Math.max(lengthA, lengthB) >> 1) - 1);
  taken.fill(0, 0, lengthB);
  let matches = 0;
  for (let i = 0; i < lengthA; i++) {
    const unit = units[fromA + i] as number;
    const until = Math.min(lengthB, i + reach + 1);
    for (let j = Math.max(0, i - reach); j < until; j++) {
      if (taken[j] || units[fromB + j] !== unit) continue;
      taken[j] = 1;
      common[matches++] = unit;
      break;
    }
  }
  if (!matches) return 0;
  let transposed = 0;
  for (let j = 0, at = 0; j < lengthB; j++) {
    if (!taken[j]) continue;
    if (units[fromB + j] !== common[at++]) transposed++;
  }
  const jaro = (matches / lengthA + matches / lengthB + (matches - (transposed >> 1)) / matches) / 3;
  let prefix = 0;
  const most = Math.min(4, lengthA, lengthB);
  while (prefix < most && units[fromA + prefix] === units[fromB + prefix]) prefix++;
  return jaro + prefix * 0.1 * (1 - jaro);
}

/** How many bits of a number are set. */
function bitsOf(mask: number): number {
  let rest = mask - ((mask >>> 1) & 0x55555555);
  rest = (rest & 0x33333333) + ((rest >>> 2) & 0x33333333);
  return Math.imul((rest + (rest >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
}

/**
 * Whether two strings are at least so alike by Jaro–Winkler. Most are not, and their lengths and letters tell so: what one
 * has of letters that the other lacks cannot be matched.
 */
export function isAsAlike(strings: PackedStrings, a: number, b: number, least: number): boolean {
  if (a === b) return true;
  const { units, starts, letters } = strings;
  const [fromA, fromB] = [starts[a] as number, starts[b] as number];
  const [lengthA, lengthB] = [(starts[a + 1] as number) - fromA, (starts[b + 1] as number) - fromB];
  if (lengthA <= LONGEST && lengthB <= LONGEST) {
    const [mine, theirs] = [letters[a] as number, letters[b] as number];
    const most = Math.min(lengthA - bitsOf(mine & ~theirs), lengthB - bitsOf(theirs & ~mine));
    if (most <= 0) return false;
    let prefix = 0;
    const reach = Math.min(4, lengthA, lengthB);
    while (prefix < reach && units[fromA + prefix] === units[fromB + prefix]) prefix++;
    const jaro = (most / lengthA + most / lengthB + 1) / 3;
    if (jaro + prefix * 0.1 * (1 - jaro) < least) return false;
  }
  return packedJaroWinkler(strings, a, b) >= least;
}

/** Whether two strings are one insertion, deletion, substitution or neighbouring transposition apart (Damerau 1964). */
export function isOneSlip({ units, starts }: PackedStrings, a: number, b: number): boolean {
  let [fromA, fromB] = [starts[a] ?? 0, starts[b] ?? 0];
  let [toA, toB] = [starts[a + 1] ?? 0, starts[b + 1] ?? 0];
  const [lengthA, lengthB] = [toA - fromA, toB - fromB];
  if (Math.abs(lengthA - lengthB) > 1 || Math.min(lengthA, lengthB) < SHORTEST) return false;
  while (fromA < toA && fromB < toB && units[fromA] === units[fromB]) {
    fromA++;
    fromB++;
  }
  while (toA > fromA && toB > fromB && units[toA - 1] === units[toB - 1]) {
    toA--;
    toB--;
  }
  const [leftA, leftB] = [toA - fromA, toB - fromB];
  if (leftA <= 1 && leftB <= 1) return true;
  return leftA === 2 && leftB === 2 && units[fromA] === units[fromB + 1] && units[fromA + 1] === units[fromB];
}
