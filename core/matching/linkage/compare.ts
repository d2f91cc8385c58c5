import type { FeatureField, Features } from './features';
import type { Kind } from './plan';
import { isOneSlip, packedJaroWinkler, type PackedStrings } from './strings';

const NAME = [
  'missing',
  'agrees',
  'short for the same',
  'initial agrees',
  'nearly agrees',
  'in part',
  'differs',
  'swapped',
];
/** What comparing one field can come to, by kind; the first is always "one side says nothing". */
export const LEVELS: Record<Kind, readonly string[]> = {
  given: NAME,
  family: NAME,
  email: [
    'missing',
    'same address',
    'same shared mailbox',
    'same before the @',
    'nearly the same',
    'same firm',
    'another',
  ],
  phone: ['missing', 'same number', 'one digit off', 'another'],
  company: ['missing', 'same', 'nearly the same', 'another'],
  title: ['missing', 'same', 'nearly the same', 'another'],
  street: ['missing', 'same', 'nearly the same', 'another'],
  postcode: ['missing', 'same', 'nearly the same', 'another'],
  city: ['missing', 'same', 'nearly the same', 'another'],
  date: ['missing', 'same', 'nearly the same', 'another'],
  number: ['missing', 'same', 'nearly the same', 'another'],
  text: ['missing', 'same', 'nearly the same', 'another'],
};
export const MISSING = 0;
export const AGREES = 1;
const NEAR_NAME = 0.9;
const NEAR_TEXT = 0.9;
const NEAR_LOCAL = 0.94;
const SWAPPED = 7;
/** Quicker compared than looked up. */
const SHORT_KINDS: ReadonlySet<Kind> = new Set(['phone', 'date', 'postcode', 'number']);
const KINDS = Object.keys(LEVELS) as Kind[];
/** The square of this many strings, for each kind, stays below 2^53. */
const STRINGS = 2 ** 24;
/** So many comparisons are remembered at the most. */
const KEPT = 2 ** 19;

function startsAlike({ units, starts }: PackedStrings, a: number, b: number): boolean {
  const one = starts[a] as number;
  const two = starts[b] as number;
  const lengthA = (starts[a + 1] as number) - one;
  const lengthB = (starts[b + 1] as number) - two;
  return (lengthA === 1 || lengthB === 1) && units[one] === units[two];
}

const SPACE = 32;
/** Whether one of the two is a whole word of the other: "harrow" and "harrow fairweather". */
function isPart({ units, starts }: PackedStrings, a: number, b: number): boolean {
  const lengthA = (starts[a + 1] as number) - (starts[a] as number);
  const lengthB = (starts[b + 1] as number) - (starts[b] as number);
  const few = lengthA <= lengthB ? a : b;
  const many = few === a ? b : a;
  const size = Math.min(lengthA, lengthB);
  if (size < 3 || Math.max(lengthA, lengthB) < size + 2) return false;
  const from = starts[few] as number;
  const begin = starts[many] as number;
  const end = starts[many + 1] as number;
  for (let start = begin; start + size <= end; start++) {
    if (start > begin && units[start - 1] !== SPACE) continue;
    if (start + size < end && units[start + size] !== SPACE) continue;
    let same = 0;
    while (same < size && units[start + same] === units[from + same]) same++;
    if (same === size) return true;
  }
  return false;
}

/** Two days with the day and the month changed about, both as eight digits. */
function isTurned({ units, starts }: PackedStrings, a: number, b: number): boolean {
  const one = starts[a] as number;
  const two = starts[b] as number;
  if ((starts[a + 1] as number) - one !== 8 || (starts[b + 1] as number) - two !== 8) return false;
  for (let index = 0; index < 8; index++) {
    const other = index < 4 ? index : index < 6 ? index + 2 : index - 2;
    if (units[one + index] !== units[two + other]) return false;
  }
  return true;
}

function plainLevel(strings: PackedStrings, kind: Kind, a: number, b: number): number {
  if (a === b) return 1;
  if (isOneSlip(strings, a, b)) return 2;
  if (kind === 'phone' || kind === 'postcode' || kind === 'number') return 3;
  if (kind === 'date') return isTurned(strings, a, b) ? 2 : 3;
  if (packedJaroWinkler(strings, a, b) >= NEAR_TEXT) return 2;
  return kind === 'company' && isPart(strings, a, b) ? 2 : 3;
}

/** Compares rows field by field. What two strings come to is kept, since names and firms come again and again. */
export class Comparer {
  /** A table with one place for each remainder: the newest of those that fall together stays. */
  private readonly kept = new Float64Array(KEPT);
  private readonly levels = new Uint8Array(KEPT);
  private readonly given: number;
  private readonly family: number;

  constructor(private readonly features: Features) {
    this.given = features.fields.findIndex((field) => field.kind === 'given');
    this.family = features.fields.findIndex((field) => field.kind === 'family');
  }

  /** Writes the level of each field into `out`. Symmetric in the rows. */
  compare(rowA: number, rowB: number, out: Uint8Array): void {
    const { fields } = this.features;
    for (let index = 0; index < fields.length; index++) {
      const field = fields[index] as FeatureField;
      out[index] =
        field.kind === 'email'
          ? this.emailLevel(field, rowA, rowB)
          : field.kind === 'given' || field.kind === 'family'
            ? this.nameLevel(field, rowA, rowB)
            : this.bestLevel(field, rowA, rowB);
    }
    const { given, family } = this;
    if (given < 0 || family < 0 || (out[given] as number) <= 2 || (out[family] as number) <= 2) return;
    const first = (fields[given] as FeatureField).values[0] as Int32Array;
    const last = (fields[family] as FeatureField).values[0] as Int32Array;
    if (
      this.isLike(first[rowA] as number, last[rowB] as number) &&
      this.isLike(last[rowA] as number, first[rowB] as number)
    ) {
      out[given] = SWAPPED;
      out[family] = MISSING;
    }
  }

  private isLike(a: number, b: number): boolean {
    const { strings } = this.features;
    return a === b || isOneSlip(strings, a, b) || packedJaroWinkler(strings, a, b) >= NEAR_NAME;
  }

  /** What a computation of two strings gave before, or gives now; in either order. */
  private remembered(kind: Kind, a: number, b: number): number {
    const key = (a < b ? a * STRINGS + b : b * STRINGS + a) * KINDS.length + KINDS.indexOf(kind);
    const place = (Math.imul(a + b, 0x9e3779b1) ^ Math.imul(a ^ b, 0x85ebca6b)) & (KEPT - 1);
    if (this.kept[place] === key) return this.levels[place] as number;
    const level =
      kind === 'given' || kind === 'family'
        ? this.wordLevel(a, b)
        : plainLevel(this.features.strings, kind, a, b);
    this.kept[place] = key;
    this.levels[place] = level;
    return level;
  }

  private wordLevel(a: number, b: number): number {
    const { strings, sounds } = this.features;
    if (startsAlike(strings, a, b)) return 3;
    if (isOneSlip(strings, a, b) || packedJaroWinkler(strings, a, b) >= NEAR_NAME) return 4;
    if (sounds[a] && sounds[a] === sounds[b]) return 4;
    return isPart(strings, a, b) ? 5 : 6;
  }

  private nameLevel(field: FeatureField, rowA: number, rowB: number): number {
    const values = field.values[0] as Int32Array;
    const a = values[rowA] as number;
    const b = values[rowB] as number;
    if (!a || !b) return MISSING;
    if (a === b) return 1;
    const { derived } = field;
    for (let i = 0; i < derived.length; i++) {
      const root = (derived[i] as Int32Array)[rowA] as number;
      if (!root) break;
      for (let j = 0; j < derived.length; j++) if ((derived[j] as Int32Array)[rowB] === root) return 2;
    }
    return this.remembered(field.kind, a, b);
  }

  private emailLevel(field: FeatureField, rowA: number, rowB: number): number {
    let isThere = false;
    const { values, derived } = field;
    for (let i = 0; i < values.length; i++)
      for (let j = 0; j < values.length; j++) {
        const a = (values[i] as Int32Array)[rowA] as number;
        const b = (values[j] as Int32Array)[rowB] as number;
        if (!a || !b) continue;
        isThere = true;
        if (a === b) return (derived[2] as Int32Array)[rowA] ? 2 : 1;
      }
    if (!isThere) return MISSING;
    const [local, domain] = derived as [Int32Array, Int32Array];
    const localA = local[rowA] as number;
    const localB = local[rowB] as number;
    if (localA && localA === localB) return 3;
    const a = (values[0] as Int32Array)[rowA] as number;
    const b = (values[0] as Int32Array)[rowB] as number;
    const { strings } = this.features;
    if (a && b && isOneSlip(strings, a, b)) return 4;
    if (localA && localB && packedJaroWinkler(strings, localA, localB) >= NEAR_LOCAL) return 4;
    return domain[rowA] && domain[rowA] === domain[rowB] ? 5 : 6;
  }

  private bestLevel({ kind, values }: FeatureField, rowA: number, rowB: number): number {
    let best = MISSING;
    for (let i = 0; i < values.length; i++)
      for (let j = 0; j < values.length; j++) {
        const a = (values[i] as Int32Array)[rowA] as number;
        const b = (values[j] as Int32Array)[rowB] as number;
        if (!a || !b) continue;
        const level =
          a === b
            ? 1
            : SHORT_KINDS.has(kind)
              ? plainLevel(this.features.strings, kind, a, b)
              : this.remembered(kind, a, b);
        if (best === MISSING || level < best) best = level;
        if (best === 1) return 1;
      }
    return best;
  }
}
