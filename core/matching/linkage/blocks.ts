import type { FeatureField, Features } from './features';
import type { Kind } from './plan';

/** Rows that share a key are compared; a key gives 0 where it says nothing. */
interface Key {
  name: string;
  of: (row: number) => number;
}

/** A block of more rows than this is parted by a second key instead. */
const LARGEST = 20;
/** How many pairs one key may bring, for each row. */
const PAIRS_A_ROW = 12;

/** A key of 31 bits and a row together stay below 2^53. */
export const ROWS_AT_MOST = 2 ** 22;

/** A column tells rows apart if it has more than this share of different values; a gender or a land does not. */
const TELLING = 0.1;

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

/** The keys of a table: each finds pairs that a slip in another field hides from the rest. */
function keysOf(features: Features): { main: Key[]; parting: Key[] } {
  const { units, starts } = features.strings;
  const field = (kind: Kind): FeatureField | undefined =>
    features.fields.find((field) => field.kind === kind);
  const value = (one: FeatureField | undefined, row: number): number => one?.values[0]?.[row] ?? 0;
  const [given, family, email, phone, company] = [
    field('given'),
    field('family'),
    field('email'),
    field('phone'),
    field('company'),
  ];
  const [street, postcode, city] = [field('street'), field('postcode'), field('city')];
  const dates = features.fields.filter((field) => field.kind === 'date');
  const others = features.fields.filter((field) => field.kind === 'number' || field.kind === 'text');
  const soundOf = (id: number): number => features.sounds[id] || id;
  const initial = (id: number): number => (id ? (units[starts[id] ?? 0] ?? 0) + 1 : 0);
  const start = (id: number, length: number): number => {
    if (!id) return 0;
    let hash = 7;
    const from = starts[id] ?? 0;
    const to = Math.min(from + length, starts[id + 1] ?? 0);
    for (let index = from; index < to; index++) hash = Math.imul(hash, 31) + (units[index] ?? 0);
    return hash | 1;
  };
  const root = (row: number): number => given?.derived[0]?.[row] ?? 0;
  const unordered = (a: number, b: number): number => (a < b ? mix(a, b) : mix(b, a));
  const main: Key[] = [];
  const add = (name: string, of: Key['of'], ...needs: (FeatureField | undefined)[]): void => {
    if (needs.every((need) => need !== undefined)) main.push({ name, of });
  };
  for (const one of email?.values ?? []) add('email', (row) => one[row] ?? 0, email);
  add('local part', (row) => email?.derived[0]?.[row] ?? 0, email);
  for (const one of phone?.values ?? []) add('phone', (row) => one[row] ?? 0, phone);
  add(
    'names by sound',
    (row) => unordered(soundOf(value(given, row)), soundOf(value(family, row))),
    given,
    family,
  );
  add('root and family', (row) => mix(root(row), soundOf(value(family, row))), given, family);
  add('family and initial', (row) => mix(value(family, row), initial(value(given, row))), given, family);
  add(
    'given and start of family',
    (row) => mix(value(given, row), start(value(family, row), 3)),
    given,
    family,
  );
  add('given at firm', (row) => mix(root(row), start(value(company, row), 5)), given, company);
  add(
    'family at firm',
    (row) => mix(soundOf(value(family, row)), start(value(company, row), 5)),
    family,
    company,
  );
  add('given at domain', (row) => mix(root(row), email?.derived[1]?.[row] ?? 0), given, email);
  add(
    'family at domain',
    (row) => mix(soundOf(value(family, row)), email?.derived[1]?.[row] ?? 0),
    family,
    email,
  );
  add('family in place', (row) => mix(soundOf(value(family, row)), value(postcode, row)), family, postcode);
  add('given in place', (row) => mix(root(row), value(postcode, row)), given, postcode);
  add('given in street', (row) => mix(root(row), value(street, row)), given, street);
  add('family in street', (row) => mix(soundOf(value(family, row)), value(street, row)), family, street);
  for (const date of dates) {
    add('day and given', (row) => mix(value(date, row), initial(root(row))), date, given);
    add('day and family', (row) => mix(value(date, row), initial(value(family, row))), date, family);
  }
  for (const other of others)
    if (distinct(other) > features.rows * TELLING) add(other.name, (row) => value(other, row), other);
  const parting: Key[] = [company, postcode, city, street, ...dates, phone, email, ...others]
    .filter((one) => one !== undefined)
    .map((one) => ({ name: one.name, of: (row) => value(one, row) }));
  return { main, parting };
}

/** Rows in the order of a key, those without one left out. */
function sorted(rows: Int32Array, of: Key['of']): { keys: Int32Array; rows: Int32Array } {
  let count = 0;
  const packed = new Float64Array(rows.length);
  for (const row of rows) {
    const key = of(row);
    if (key) packed[count++] = (key & 0x7fffffff) * ROWS_AT_MOST + row;
  }
  const list = packed.subarray(0, count).sort();
  const keys = new Int32Array(count);
  const order = new Int32Array(count);
  for (let index = 0; index < count; index++) {
    const one = list[index] as number;
    keys[index] = Math.floor(one / ROWS_AT_MOST);
    order[index] = one % ROWS_AT_MOST;
  }
  return { keys, rows: order };
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
