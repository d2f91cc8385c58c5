/**
 * How the same person comes to be written down differently: the error classes and their rough shares follow Christen &
 * Pudjijono, "Accurate synthetic generation of realistic personal information" (2009) — typing, phonetic, OCR-free — with
 * four in five typing slips a single insertion, deletion, substitution or transposition (Damerau 1964). The rates are ours.
 */
export type Random = () => number;

/** A small seeded generator (mulberry32, public domain). */
export function randomFrom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

export const pick = <T>(random: Random, from: readonly T[]): T =>
  from[Math.floor(random() * from.length)] as T;

const ROWS = ['qwertyuiop', 'asdfghjkl', 'zxcvbnm', '1234567890'];
function neighbour(random: Random, letter: string): string {
  const row = ROWS.find((keys) => keys.includes(letter.toLowerCase()));
  if (!row) return letter;
  const at = row.indexOf(letter.toLowerCase()) + (random() < 0.5 ? -1 : 1);
  return row[at] ?? row[1] ?? letter;
}

/** One slip of the fingers. */
export function slip(random: Random, text: string): string {
  if (text.length < 3) return text;
  const at = 1 + Math.floor(random() * (text.length - 1));
  const kind = random();
  const [before, letter, after] = [text.slice(0, at), text[at] ?? '', text.slice(at + 1)];
  if (kind < 0.25) return before + after;
  if (kind < 0.5) return before + neighbour(random, letter) + letter + after;
  if (kind < 0.75) return before + neighbour(random, letter) + after;
  return text.slice(0, at - 1) + letter + (text[at - 1] ?? '') + after;
}

const SOUNDS: readonly (readonly [RegExp, string])[] = [
  [/ph/i, 'f'],
  [/f/i, 'ph'],
  [/ck/i, 'k'],
  [/k/i, 'c'],
  [/c(?=[eiy])/i, 's'],
  [/ee/i, 'ea'],
  [/ie/i, 'y'],
  [/y$/i, 'ie'],
  [/ll/i, 'l'],
  [/tt/i, 't'],
  [/ss/i, 's'],
  [/ey$/i, 'y'],
  [/th/i, 't'],
  [/z/i, 's'],
  [/ou/i, 'u'],
  [/ei/i, 'ai'],
];
/** Written as it was heard. */
export function misheard(random: Random, text: string): string {
  const fitting = SOUNDS.filter(([sound]) => sound.test(text));
  if (!fitting.length) return slip(random, text);
  const [sound, instead] = pick(random, fitting);
  return text.replace(sound, instead);
}

export const plain = (text: string): string =>
  text.normalize('NFD').replace(/\p{M}/gu, '').replace(/ł/g, 'l').replace(/Ł/g, 'L').replace(/ø/g, 'o');
