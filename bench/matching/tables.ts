import { candidatePairs } from '@emporikon/core/matching/linkage/blocks';
import { FeatureBuilder, type Features } from '@emporikon/core/matching/linkage/features';
import { planOf } from '@emporikon/core/matching/linkage/plan';
import { randomFrom, slip } from '../crowd/errors';
import { crowdOf } from '../crowd/people';
import { wildCrowd } from '../crowd/wild/people';
import type { Part } from '../crowd/wild/names';

/** A table whose truth is known. */
export interface Table {
  rows: Record<string, string>[];
  /** Whom each row is of. */
  who: Int32Array;
  /** What was done to each row when it was written down; nothing where that is not kept. */
  how: readonly (readonly string[])[];
}

/** Columns that a house may not have. */
const LEFT_OUT: readonly (readonly string[])[] = [
  [],
  ['mobile'],
  ['phone', 'city'],
  ['city'],
  ['email'],
  ['company', 'mobile', 'phone', 'city'],
];

/** A table of another layout for every seed: columns left out, or the whole name in one. */
function laidOut(rows: readonly Record<string, string>[], seed: number): Record<string, string>[] {
  const layout = seed % (LEFT_OUT.length + 1);
  const out = LEFT_OUT[layout];
  return rows.map((row) => {
    if (out) return Object.fromEntries(Object.entries(row).filter(([name]) => !out.includes(name)));
    const { id = '', given = '', family = '', ...rest } = row;
    return { id, name: `${given} ${family}`.trim(), ...rest };
  });
}

export function wildTable(size: number, seed: number, part: Part, isUsual = true): Table {
  const { rows, who, how } = wildCrowd(size, seed, part, { isUsual });
  const plain = rows.map((row) => ({ ...row }) as Record<string, string>);
  return { rows: isUsual ? plain : laidOut(plain, seed), who, how };
}

export function easyTable(size: number, seed: number, care?: number): Table {
  const { rows, who } = crowdOf(size, seed, care);
  return { rows: rows.map((row) => ({ ...row }) as Record<string, string>), who, how: [] };
}

const LOST = 0.2;
const SLIPPED = 0.08;
/** The same with the number of a card, which a table may have: lost now and then, and mistyped. */
export function carded(table: Table, seed: number): Table {
  const random = randomFrom(seed);
  const numbers = new Map<number, string>();
  const rows = table.rows.map((row, at) => {
    const who = table.who[at] ?? 0;
    const number = numbers.get(who) ?? String(1e8 + Math.floor(random() * 9e8));
    numbers.set(who, number);
    const card = random() < LOST ? '' : random() < SLIPPED ? slip(random, number) : number;
    return { ...row, card };
  });
  return { ...table, rows };
}

const SAMPLE = 500;
/** The features of a table and the pairs worth comparing. */
export function compared({ rows }: Table): { features: Features; pairs: Float64Array } {
  const head = Object.keys(rows[0] ?? {});
  const cells = rows.map((row) => head.map((name) => row[name] ?? ''));
  const builder = new FeatureBuilder(planOf(head, cells.slice(0, SAMPLE)));
  for (const row of cells) builder.add(row);
  const features = builder.finish();
  return { features, pairs: candidatePairs(features) };
}

/** How many pairs of rows are of one person. */
export function truthOf(who: Int32Array): number {
  const sizes = new Map<number, number>();
  for (const one of who) sizes.set(one, (sizes.get(one) ?? 0) + 1);
  return [...sizes.values()].reduce((sum, size) => sum + (size * (size - 1)) / 2, 0);
}
