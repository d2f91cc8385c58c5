/** Number words up to the sizes people write out, in the languages we read. */
const WORDS: Record<string, number> = {
  a: 1,
  an: 1,
  one: 1,
  two: 2,
  three: 3,
  four: 4,
  five: 5,
  six: 6,
  seven: 7,
  eight: 8,
  nine: 9,
  ten: 10,
  eleven: 11,
  twelve: 12,
  thirteen: 13,
  fourteen: 14,
  fifteen: 15,
  sixteen: 16,
  seventeen: 17,
  eighteen: 18,
  nineteen: 19,
  twenty: 20,
  thirty: 30,
  forty: 40,
  fifty: 50,
  sixty: 60,
  seventy: 70,
  eighty: 80,
  ninety: 90,
  hundred: 100,
  dozen: 12,
  couple: 2,
  pair: 2,
  ein: 1,
  eine: 1,
  einen: 1,
  zwei: 2,
  drei: 3,
  vier: 4,
  fünf: 5,
  sechs: 6,
  sieben: 7,
  acht: 8,
  neun: 9,
  zehn: 10,
  elf: 11,
  zwölf: 12,
  zwanzig: 20,
  un: 1,
  une: 1,
  deux: 2,
  trois: 3,
  quatre: 4,
  cinq: 5,
  sept: 7,
  huit: 8,
  neuf: 9,
  dix: 10,
  douze: 12,
  vingt: 20,
  um: 1,
  uma: 1,
  dois: 2,
  duas: 2,
  três: 3,
  quatro: 4,
  cinco: 5,
  seis: 6,
  sete: 7,
  oito: 8,
  nove: 9,
  dez: 10,
  doze: 12,
  vinte: 20,
  dos: 2,
  tres: 3,
  cuatro: 4,
  siete: 7,
  ocho: 8,
  nueve: 9,
  diez: 10,
  veinte: 20,
  een: 1,
  twee: 2,
  drie: 3,
  vijf: 5,
  zes: 6,
  zeven: 7,
  negen: 9,
  tien: 10,
  twaalf: 12,
  twintig: 20,
  due: 2,
  tre: 3,
  quattro: 4,
  sei: 6,
  sette: 7,
  otto: 8,
  dieci: 10,
  två: 2,
  fyra: 4,
  fem: 5,
  sex: 6,
  sju: 7,
  åtta: 8,
  nio: 9,
  tio: 10,
  tolv: 12,
  fire: 4,
  seks: 6,
  syv: 7,
  otte: 8,
  ni: 9,
  dwa: 2,
  trzy: 3,
  cztery: 4,
  pięć: 5,
};

/** Alternation of the number words for a pattern, longest first. `a` and `an` are left to the caller. */
export const NUMBER_WORDS = Object.keys(WORDS)
  .filter((word) => word.length > 2)
  .sort((a, b) => b.length - a.length)
  .join('|');

const SCALE: Record<string, number> = {
  k: 1e3,
  tsd: 1e3,
  thousand: 1e3,
  mil: 1e3,
  mille: 1e3,
  tausend: 1e3,
  duizend: 1e3,
  m: 1e6,
  mio: 1e6,
  mn: 1e6,
  million: 1e6,
};

/**
 * Reads a written number: `40,000`, `40.000`, `40 000`, `12.500,50`, `1,250.5`, `40k`, `eight`, `half a dozen`.
 * A lone separator before exactly three digits groups thousands; before one or two it is the decimal sign.
 * @returns the number, or null when the text is none
 */
export function readNumber(text: string): number | null {
  const clean = text
    .trim()
    .toLowerCase()
    .replace(/[\u00a0\u202f']/g, ' ');
  if (clean === 'half a dozen') return 6;
  if (clean === 'half a million') return 500_000;
  const word = clean.replace(/^(?:a|an) (?=dozen|couple|pair|hundred|thousand)/, '').replace(/ of$/, '');
  if (WORDS[word] !== undefined) return WORDS[word] ?? null;
  const pair = /^(\p{L}+)[- ](\p{L}+)$/u.exec(word);
  const [tens, ones] = [WORDS[pair?.[1] ?? ''], WORDS[pair?.[2] ?? '']];
  if (tens && ones) {
    if (ones === 100) return tens * 100;
    if (tens >= 20 && ones < 10) return tens + ones;
    if (ones === 12) return tens * 12;
  }
  const scaledWord = /^(\p{L}+(?:[- ]\p{L}+)?)\s(thousand|million|mil|mille|tausend)$/u.exec(word);
  if (scaledWord?.[1] && scaledWord[2]) {
    const base = readNumber(scaledWord[1]);
    return base === null ? null : base * (SCALE[scaledWord[2]] ?? 1);
  }
  const match =
    /^(\d[\d., ]*\d|\d)(?:[.,]-|,–)?\s*(k|tsd\.?|thousand|mil|mille|tausend|duizend|m|mio\.?|mn|million)?$/.exec(
      clean,
    );
  if (!match?.[1]) return null;
  const written = match[1].replace(/ /g, '');
  const lastComma = written.lastIndexOf(',');
  const lastDot = written.lastIndexOf('.');
  const decimalAt = Math.max(lastComma, lastDot);
  const both = lastComma >= 0 && lastDot >= 0;
  const digitsAfter = written.length - decimalAt - 1;
  const sign = written[decimalAt] ?? '';
  const isDecimal = decimalAt >= 0 && (both || (written.split(sign).length === 2 && digitsAfter !== 3));
  const plain = isDecimal
    ? `${written.slice(0, decimalAt).replace(/[.,]/g, '')}.${written.slice(decimalAt + 1)}`
    : written.replace(/[.,]/g, '');
  const value = Number(plain) * (SCALE[(match[2] ?? '').replace('.', '')] ?? 1);
  return Number.isFinite(value) ? value : null;
}
