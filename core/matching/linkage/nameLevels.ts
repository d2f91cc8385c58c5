import { IS, JOINED, ROOTS, SPELLINGS, WORDS, type NameTable } from './nameTable';
import { isAsAlike, isOneSlip, type PackedStrings } from './strings';

/** What comparing a half of two names can come to; `part` where one has words that the other lacks, `partly` where both have. */
export const LEVEL = {
  missing: 0,
  same: 1,
  spelling: 2,
  short: 3,
  initial: 4,
  near: 5,
  differs: 6,
  part: 7,
  partly: 8,
} as const;
export const LEVELS_OF_NAME = 9;

export interface NameRelation {
  given: number;
  family: number;
  /** The halves agree crosswise. */
  isSwapped: boolean;
  /** The words that agree, of either name, for how rare they are; 0 where none does. */
  givenWords: Agreeing;
  familyWords: Agreeing;
}
export type Agreeing = [number, number];
export const noRelation = (): NameRelation => ({
  given: 0,
  family: 0,
  isSwapped: false,
  givenWords: [0, 0],
  familyWords: [0, 0],
});

const NEAR = 0.92;
const KEPT = 2 ** 18;

/** Compares names of one table, remembering what two words come to. */
export class NameComparer {
  private readonly kept: Float64Array;
  private readonly levels: Uint8Array;

  /** @param remembered of how many pairs of words it is remembered what they come to; a power of two */
  constructor(
    private readonly table: NameTable,
    private readonly strings: PackedStrings,
    private readonly remembered = KEPT,
  ) {
    this.kept = new Float64Array(remembered);
    this.levels = new Uint8Array(remembered);
  }

  /** What two words of a half come to. */
  wordLevel(a: number, b: number): number {
    if (a === b) return LEVEL.same;
    const [low, high] = a < b ? [a, b] : [b, a];
    const key = low * 2 ** 26 + high;
    const place = (Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b)) & (this.remembered - 1);
    if (this.kept[place] === key) return this.levels[place] as number;
    const level = this.workOut(low, high);
    this.kept[place] = key;
    this.levels[place] = level;
    return level;
  }

  private workOut(a: number, b: number): number {
    const { spellings, keys, roots, bones, eastern, is } = this.table;
    const one = spellings[a * SPELLINGS] as number;
    const two = spellings[b * SPELLINGS] as number;
    if (one === two) return LEVEL.same;
    if ((is[a] as number) & IS.initial || (is[b] as number) & IS.initial) {
      const { units, starts } = this.strings;
      return units[starts[one] as number] === units[starts[two] as number] ? LEVEL.initial : LEVEL.differs;
    }
    if (
      meet(spellings, a * SPELLINGS, b * SPELLINGS, SPELLINGS) ||
      meet(keys, a * SPELLINGS, b * SPELLINGS, SPELLINGS)
    )
      return LEVEL.spelling;
    if (((is[a] as number) | (is[b] as number)) & IS.arabic && bones[a] === bones[b]) return LEVEL.spelling;
    if (meet(roots, a * ROOTS, b * ROOTS, ROOTS)) return LEVEL.short;
    if (eastern[a] && eastern[a] === eastern[b]) return LEVEL.short;
    for (let i = 0; i < SPELLINGS; i++) {
      const left = spellings[a * SPELLINGS + i] as number;
      if (!left) break;
      for (let j = 0; j < SPELLINGS; j++) {
        const right = spellings[b * SPELLINGS + j] as number;
        if (!right) break;
        if (isOneSlip(this.strings, left, right) || isAsAlike(this.strings, left, right, NEAR))
          return LEVEL.near;
      }
    }
    return LEVEL.differs;
  }

  /** A half of one name against a half of another; which of their words agree is written into `found`. */
  private half(a: number, as: Half, b: number, to: Half, found: Agreeing): number {
    const { words, joined } = this.table;
    const [fromA, fromB] = [a * 2 * WORDS + as.words, b * 2 * WORDS + to.words];
    found[0] = found[1] = 0;
    const firstA = words[fromA] as number;
    const firstB = words[fromB] as number;
    if (!firstA || !firstB) return LEVEL.missing;
    found[0] = firstA;
    found[1] = firstB;
    if (fromA === fromB) return LEVEL.same;
    const first = this.wordLevel(firstA, firstB);
    const sizeA = sizeOf(words, fromA);
    const sizeB = sizeOf(words, fromB);
    if (sizeA === 1 && sizeB === 1 && first < LEVEL.initial) return first;
    for (let at = 0; at < 2; at++) {
      const [one, two] = [joined[a * JOINED + as.joined + at], joined[b * JOINED + to.joined + at]];
      if (one && one === two) return first === LEVEL.same ? LEVEL.same : at ? LEVEL.short : LEVEL.spelling;
    }
    const whole = joined[a * JOINED + WHOLE];
    if (as === FAMILY && to === FAMILY && whole && whole === joined[b * JOINED + WHOLE])
      return LEVEL.spelling;
    if (sizeA === 1 && sizeB === 1) return first;
    let [matched, best] = [0, first];
    for (let i = 0; i < sizeA; i++) {
      let mine: number = LEVEL.differs;
      let other = 0;
      for (let j = 0; j < sizeB; j++) {
        const level = this.wordLevel(words[fromA + i] as number, words[fromB + j] as number);
        if (level < mine) {
          mine = level;
          other = words[fromB + j] as number;
        }
      }
      if (mine < best) {
        best = mine;
        found[0] = words[fromA + i] as number;
        found[1] = other;
      }
      if (mine <= LEVEL.near) matched++;
    }
    if (!matched) return LEVEL.differs;
    if (best > LEVEL.short) return best;
    if (matched < Math.min(sizeA, sizeB)) return LEVEL.partly;
    return sizeA === sizeB || (as === GIVEN && to === GIVEN && first === best) ? best : LEVEL.part;
  }

  /** Two names, by their numbers. */
  compare(a: number, b: number, into: NameRelation): void {
    into.isSwapped = false;
    if (!a || !b) {
      into.given = into.family = LEVEL.missing;
      return;
    }
    into.given = this.half(a, GIVEN, b, GIVEN, into.givenWords);
    into.family = this.half(a, FAMILY, b, FAMILY, into.familyWords);
    if (agrees(into.given) && (agrees(into.family) || into.family === LEVEL.missing)) return;
    const one = this.half(a, GIVEN, b, FAMILY, across);
    const two = this.half(a, FAMILY, b, GIVEN, acrossToo);
    const isBoth = agrees(one) && agrees(two);
    const isOne =
      Math.max(one, two) < LEVEL.initial &&
      (one === 0) !== (two === 0) &&
      !agrees(into.given) &&
      !agrees(into.family);
    if (!isBoth && !isOne) return;
    into.isSwapped = true;
    // Which of the two words is the given name is told by what they are in the other rows, in whichever order the two are asked.
    const [asGiven, asGivenToo] = [this.givenness(across), this.givenness(acrossToo)];
    const isFirst =
      one && two
        ? asGiven > asGivenToo || (asGiven === asGivenToo && one < two)
        : one
          ? asGiven > 0
          : asGivenToo <= 0;
    into.given = isFirst ? one : two;
    into.family = isFirst ? two : one;
    copy(isFirst ? across : acrossToo, into.givenWords);
    copy(isFirst ? acrossToo : across, into.familyWords);
  }

  /** By how much more rows two words stand in as a given name than as a family name. */
  private givenness([one, two]: Agreeing): number {
    const { keys, counts } = this.table;
    return [one, two].reduce((sum, word) => {
      const key = keys[word * SPELLINGS] as number;
      return sum + (counts[2 * key] as number) - (counts[2 * key + 1] as number);
    }, 0);
  }
}
const copy = (from: Agreeing, to: Agreeing): void => {
  [to[0], to[1]] = from;
};
const across: Agreeing = [0, 0];
const acrossToo: Agreeing = [0, 0];

/** Where the words of a half of a name stand, and where they stand as one. */
interface Half {
  words: number;
  joined: number;
}
const GIVEN: Half = { words: 0, joined: 0 };
const FAMILY: Half = { words: WORDS, joined: 2 };
const WHOLE = 4;

export const agrees = (level: number): boolean =>
  level !== LEVEL.missing && level !== LEVEL.differs && level !== LEVEL.partly;

function sizeOf(words: Int32Array, at: number): number {
  let size = 1;
  while (size < WORDS && words[at + size]) size++;
  return size;
}

/** Whether two short lists of numbers have one in common; 0 ends a list. */
function meet(list: Int32Array, a: number, b: number, width: number): boolean {
  for (let i = 0; i < width; i++) {
    const one = list[a + i] as number;
    if (!one) return false;
    for (let j = 0; j < width; j++) {
      const two = list[b + j] as number;
      if (!two) break;
      if (one === two) return true;
    }
  }
  return false;
}
