import { fold } from '../../people/text';

/** A telephone number that was said word by word. */
export interface Dictated {
  digits: string;
  start: number;
  end: number;
  /** What was said up to each word, the last first; where the number ends is not said. */
  shorter?: readonly { digits: string; end: number }[];
}

const ONES = ['un', 'deux', 'trois', 'quatre', 'cinq', 'six', 'sept', 'huit', 'neuf'];
const TEENS = [
  'dix',
  'onze',
  'douze',
  'treize',
  'quatorze',
  'quinze',
  'seize',
  'dix sept',
  'dix huit',
  'dix neuf',
];
const TENS: Readonly<Record<string, number>> = {
  vingt: 20,
  trente: 30,
  quarante: 40,
  cinquante: 50,
  soixante: 60,
  septante: 70,
  huitante: 80,
  octante: 80,
  nonante: 90,
};

/** Every way in which two figures are said in French, folded, and what they are. */
const PAIRS = new Map<string, string>();
const say = (words: string, value: number): void => {
  PAIRS.set(words, String(value).padStart(2, '0'));
};
for (const nought of ['zero', 'o'])
  for (const [at, one] of ['zero', ...ONES].entries()) say(`${nought} ${one}`, at);
for (const [at, teen] of TEENS.entries()) {
  say(teen, 10 + at);
  for (const eighty of ['quatre vingt', 'quatre vingts']) say(`${eighty} ${teen}`, 90 + at);
  for (const and of ['', 'et ']) say(`soixante ${and}${teen}`, 70 + at);
}
for (const eighty of ['quatre vingt', 'quatre vingts']) {
  say(eighty, 80);
  for (const [at, one] of ONES.entries()) say(`${eighty} ${one}`, 81 + at);
}
for (const [ten, value] of Object.entries(TENS)) {
  say(ten, value);
  for (const [at, one] of ONES.entries())
    for (const and of ['', 'et ']) say(`${ten} ${and}${one}`, value + 1 + at);
}
/** Of how many words a pair is made, the longest first: "quatre vingt dix sept". */
const SIZES = [4, 3, 2, 1];
/** A French number is ten figures, said as five pairs (the numbering plan of the regulator, common practice). */
const PAIRS_OF_A_NUMBER = 5;

const WORD = /[\p{L}\p{M}]+/gu;

/** The numbers that a note spells out in pairs, as the French do: "zéro six, soixante-dix-sept, vingt et un, …". */
export function frenchNumbers(text: string): Dictated[] {
  const words = [...text.matchAll(WORD)].map((match) => ({
    folded: fold(match[0]),
    start: match.index,
    end: match.index + match[0].length,
  }));
  const found: Dictated[] = [];
  let run: { digits: string; pairs: number; start: number; end: number } | null = null;
  const end = (): void => {
    if (run?.pairs === PAIRS_OF_A_NUMBER && run.digits.startsWith('0'))
      found.push({ digits: run.digits, start: run.start, end: run.end });
    run = null;
  };
  for (let at = 0; at < words.length;) {
    const size = SIZES.find((count) => PAIRS.has(phrase(words, at, count)));
    const first = words[at];
    if (!size || !first) {
      end();
      at++;
      continue;
    }
    if (run?.pairs === PAIRS_OF_A_NUMBER) end();
    run ??= { digits: '', pairs: 0, start: first.start, end: first.end };
    run.digits += PAIRS.get(phrase(words, at, size)) ?? '';
    run.pairs++;
    run.end = words[at + size - 1]?.end ?? run.end;
    at += size;
  }
  end();
  return found;
}

const phrase = (words: readonly { folded: string }[], at: number, count: number): string =>
  words
    .slice(at, at + count)
    .map(({ folded }) => folded)
    .join(' ');
