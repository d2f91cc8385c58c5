import type { FeatureField, Features } from './features';
import { IS, JOINED, ROOTS, SPELLINGS, WORDS } from './nameTable';
import type { Kind } from './plan';

/** Rows that share a key are compared; a row may have several of one kind. */
interface Key {
  name: string;
  /** Writes the keys of a row, and says how many. */
  of: (row: number, into: Int32Array) => number;
}

/** A block of more rows than this is parted by a second key instead. */
const LARGEST = 20;
/** How many pairs one kind of key may bring, for each row. */
const PAIRS_A_ROW = 12;

/** A key of 31 bits and a row together stay below 2^53. */
export const ROWS_AT_MOST = 2 ** 22;

/** A column tells rows apart if it has more than this share of different values; a gender or a land does not. */
const TELLING = 0.1;
/** So many keys of one kind a row may have. */
const KEYS_A_ROW = 48;

function distinct({ counts }: FeatureField): number {
  let values = 0;
  for (let id = 1; id < counts.length; id++) if (counts[id]) values++;
  return values;
}

const mix = (a: number, b: number): number => {
  if (!a || !b) return 0;
  let hash = Math.imul(a ^ 0x9e3779b9, 0x85ebca6b) ^ Math.imul(b + 0x7f4a7c15, 0xc2b2ae35);
  hash = Math.imul(hash ^ (hash >>> 15), 0x27d4eb2f);
  return (hash ^ (hash >>> 13)) | 1;
};
const unordered = (a: number, b: number): number => (a < b ? mix(a, b) : mix(b, a));

/** What a word of a name may be found under. */
type Faces = (word: number) => readonly number[];

/** The keys of a table: each finds pairs that a slip in another field hides from the rest. */
function keysOf(features: Features): { main: Key[]; parting: Key[] } {
  const { names } = features;
  const { units, starts } = features.strings;
  const field = (kind: Kind): FeatureField | undefined =>
    features.fields.find((field) => field.kind === kind);
  const value = (one: FeatureField | undefined, row: number): number => one?.values[0]?.[row] ?? 0;
  const [email, phone, company] = [field('email'), field('phone'), field('company')];
  const [street, postcode, city] = [field('street'), field('postcode'), field('city')];
  const dates = features.fields.filter((field) => field.kind === 'date');
  const others = features.fields.filter((field) => field.kind === 'number' || field.kind === 'text');
  const list = (from: Int32Array, width: number, most: number): Faces => {
    const kept = new Map<number, number[]>();
    return (word) => {
      let faces = kept.get(word);
      if (!faces) {
        faces = [...new Set(from.subarray(word * width, word * width + most))].filter(Boolean);
        kept.set(word, faces);
      }
      return faces;
    };
  };
  const spelt = list(names.keys, SPELLINGS, 3);
  const roots = list(names.roots, ROOTS, 3);
  const sounds = list(names.sounds, 1, 1);
  const bones = list(names.bones, 1, 1);
  const eastern = list(names.eastern, 1, 1);
  const initial = (word: number): number => {
    const string = names.spellings[word * SPELLINGS] as number;
    return string ? -(units[starts[string] as number] as number) - 1 : 0;
  };
  const start = (word: number): number => {
    const string = names.spellings[word * SPELLINGS] as number;
    let hash = 7;
    const from = starts[string] as number;
    for (let index = from; index < Math.min(from + 3, starts[string + 1] as number); index++)
      hash = Math.imul(hash, 31) + (units[index] as number);
    return string ? hash | 1 : 0;
  };
  const wordAt = (row: number, at: number): number =>
    names.words[(names.of[row] as number) * 2 * WORDS + at] as number;
  const main: Key[] = [];
  const add = (name: string, of: Key['of']): void => void main.push({ name, of });
  const one = (name: string, of: (row: number) => number): void =>
    add(name, (row, into) => {
      into[0] = of(row);
      return into[0] ? 1 : 0;
    });
  /** Every two words of a name that are no initials, in either order. */
  const everyTwo = (name: string, left: Faces, right: Faces): void =>
    add(name, (row, into) => {
      let count = 0;
      for (let i = 0; i < 2 * WORDS; i++)
        for (let j = 0; j < 2 * WORDS; j++) {
          const [a, b] = [wordAt(row, i), wordAt(row, j)];
          if (!a || !b || i === j || (left === right && j < i)) continue;
          if (((names.is[a] as number) | (names.is[b] as number)) & IS.initial) continue;
          for (const x of left(a))
            for (const y of right(b)) if (count < KEYS_A_ROW) into[count++] = unordered(x, y);
        }
      return count;
    });
  /** Every word of a name with something else that is known of the row. */
  const everyWord = (name: string, faces: Faces, of: (row: number) => number): void =>
    add(name, (row, into) => {
      const with_ = of(row);
      let count = 0;
      if (with_)
        for (let i = 0; i < 2 * WORDS; i++) {
          const word = wordAt(row, i);
          if (!word || (names.is[word] as number) & IS.initial) continue;
          for (const face of faces(word)) if (count < KEYS_A_ROW) into[count++] = mix(face, with_);
        }
      return count;
    });
  for (const column of email?.values ?? []) one('email', (row) => column[row] as number);
  one('local part', (row) => email?.derived[0]?.[row] ?? 0);
  for (const column of phone?.values ?? []) one('phone', (row) => column[row] as number);
  everyTwo('two words', spelt, spelt);
  everyTwo('a word and a root', roots, spelt);
  everyTwo('two sounds', sounds, sounds);
  everyTwo('two bones', bones, bones);
  everyTwo('two of the east', eastern, eastern);
  one('joined', (row) => {
    const at = (names.of[row] as number) * JOINED;
    return unordered(names.joined[at] as number, names.joined[at + 2] as number);
  });
  add('joined, of the east, and a root', (row, into) => {
    const given = names.joined[(names.of[row] as number) * JOINED + 1] as number;
    const family = names.joined[(names.of[row] as number) * JOINED + 3] as number;
    let count = 0;
    for (const [whole, from] of [
      [given, WORDS],
      [family, 0],
    ] as const) {
      const word = wordAt(row, from);
      if (whole && word) for (const root of roots(word)) into[count++] = mix(whole, root);
    }
    return count;
  });
  everyWord('a word and an initial', spelt, (row) => initial(wordAt(row, 0)));
  everyWord('a word and an initial of the family', spelt, (row) => start(wordAt(row, WORDS)));
  const firm = (row: number): number => company?.derived[0]?.[row] ?? 0;
  const firmStart = (row: number): number => company?.derived[1]?.[row] ?? 0;
  const initials = (row: number): number => company?.derived[2]?.[row] ?? 0;
  const domain = (row: number): number => email?.derived[1]?.[row] ?? 0;
  for (const [name, of] of [
    ['firm', firm],
    ['start of firm', firmStart],
    ['initials of firm', initials],
    ['domain', domain],
  ] as const) {
    everyWord(`a word at the ${name}`, spelt, of);
    everyWord(`a root at the ${name}`, roots, of);
    if (name !== 'domain') everyWord(`a sound at the ${name}`, sounds, of);
    if (name === 'firm') everyWord('bones at the firm', bones, of);
    if (name === 'firm') everyWord('of the east at the firm', eastern, of);
  }
  for (const place of [postcode, street])
    if (place) everyWord(place.name, sounds, (row) => value(place, row));
  if (city && !postcode)
    everyWord('a root in town', roots, (row) => mix(value(city, row), initial(wordAt(row, WORDS))));
  for (const date of dates)
    everyWord(
      'day',
      (word) => [initial(word)],
      (row) => value(date, row),
    );
  for (const other of others)
    if (distinct(other) > features.rows * TELLING) one(other.name, (row) => value(other, row));
  const parting: Key[] = [company, postcode, city, street, ...dates, phone, email, ...others]
    .filter((field) => field !== undefined)
    .map((field) => ({
      name: field.name,
      of: (row, into) => {
        into[0] = field.kind === 'company' ? (field.derived[0]?.[row] ?? 0) : value(field, row);
        return into[0] ? 1 : 0;
      },
    }));
  // Rows that agree in a common name and have nothing else are told apart by the other half of the name.
  parting.push({
    name: 'initials',
    of: (row, into) => {
      into[0] = mix(initial(wordAt(row, 0)), initial(wordAt(row, WORDS)));
      return into[0] ? 1 : 0;
    },
  });
  return { main, parting };
}

/** Rows in the order of a key, those without one left out; a row with several keys stands several times. */
function sorted(rows: Int32Array, of: Key['of']): { keys: Int32Array; rows: Int32Array } {
  let count = 0;
  let packed = new Float64Array(Math.max(64, 2 * rows.length));
  const into = new Int32Array(KEYS_A_ROW);
  for (const row of rows) {
    const size = of(row, into);
    if (count + size > packed.length) {
      const larger = new Float64Array(2 * packed.length + size);
      larger.set(packed);
      packed = larger;
    }
    for (let at = 0; at < size; at++) {
      const key = into[at] as number;
      if (key) packed[count++] = (key & 0x7fffffff) * ROWS_AT_MOST + row;
    }
  }
  const list = packed.subarray(0, count).sort();
  const keys = new Int32Array(count);
  const order = new Int32Array(count);
  let kept = 0;
  for (let index = 0; index < count; index++) {
    const one = list[index] as number;
    if (index && one === list[index - 1]) continue;
    keys[kept] = Math.floor(one / ROWS_AT_MOST);
    order[kept++] = one % ROWS_AT_MOST;
  }
  return { keys: keys.subarray(0, kept), rows: order.subarray(0, kept) };
}

/** Pairs of rows, each once, as `lower row × rows + higher row`. */
class Pairs {
  private list = new Float64Array(1 << 16);
  length = 0;
  private settled = 0;

  /** Drops what stands twice once it may be half of the list. */
  tidy(): void {
    if (this.length > 2 * this.settled) this.settle();
  }

  add(code: number): void {
    if (this.length === this.list.length) {
      const larger = new Float64Array(this.list.length * 2);
      larger.set(this.list);
      this.list = larger;
    }
    this.list[this.length++] = code;
  }

  /** Sorts and drops what stands twice. */
  settle(): Float64Array {
    const list = this.list.subarray(0, this.length).sort();
    let kept = 0;
    for (let index = 0; index < list.length; index++)
      if (!index || list[index] !== list[index - 1]) list[kept++] = list[index] as number;
    this.length = kept;
    this.settled = kept;
    return list.subarray(0, kept);
  }
}

function pairUp(rows: Int32Array, from: number, to: number, total: number, into: Pairs): void {
  for (let i = from; i < to; i++)
    for (let j = i + 1; j < to; j++) {
      const [a, b] = [rows[i] as number, rows[j] as number];
      into.add(a < b ? a * total + b : b * total + a);
    }
}

/** The pairs that a key brings: small blocks whole, large ones parted by what else is known of their rows. */
function pairsOf(
  features: Features,
  rows: Int32Array,
  key: Key,
  parting: readonly Key[],
  into: Pairs,
  budget: number,
): void {
  const blocks = sorted(rows, key.of);
  const start = into.length;
  for (let from = 0; from < blocks.rows.length;) {
    let to = from + 1;
    while (to < blocks.rows.length && blocks.keys[to] === blocks.keys[from]) to++;
    if (to - from > 1 && into.length - start < budget) {
      if (to - from <= LARGEST) pairUp(blocks.rows, from, to, features.rows, into);
      else {
        const [, ...rest] = parting;
        for (const [depth, second] of parting.entries())
          pairsOf(
            features,
            blocks.rows.slice(from, to),
            second,
            depth < 2 ? rest.slice(depth, depth + 2) : [],
            into,
            budget / 4,
          );
      }
    }
    from = to;
  }
}

/**
 * The pairs of rows worth comparing: those that share one of many keys. Grows with the rows and not with their square.
 * @returns each pair once, in order, as `lower × rows + higher`
 */
export function candidatePairs(features: Features): Float64Array {
  const { main, parting } = keysOf(features);
  const all = Int32Array.from({ length: features.rows }, (_, row) => row);
  const pairs = new Pairs();
  for (const key of main) {
    pairsOf(features, all, key, parting, pairs, PAIRS_A_ROW * features.rows);
    pairs.tidy();
  }
  return pairs.settle().slice();
}
