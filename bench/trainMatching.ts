import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { PairComparer } from '@emporikon/core/matching/linkage/pairs';
import { FEATURES } from '@emporikon/core/matching/linkage/vector';
import type { Examples } from '@emporikon/core/matching/linkage/learn';
import { learn, stored } from './matching/learn';
import { carded, compared, easyTable, truthOf, wildTable, type Table } from './matching/tables';

/** Crowds of other sizes, habits and layouts; names that the test part has stand in none of them. */
const TABLES: readonly (() => Table)[] = [
  () => wildTable(10_000, 2, 'tuning'),
  ...[1500, 3000, 4000, 2500, 5000, 6000, 4000, 3500, 2000, 8000].map(
    (size, at) => () => wildTable(size, 100 + at, 'tuning', false),
  ),
  () => easyTable(1000, 3),
  () => easyTable(2500, 13),
  () => easyTable(8000, 4),
  () => easyTable(5000, 5, 0.2),
  () => carded(easyTable(3000, 7), 7),
  () => carded(wildTable(3000, 130, 'tuning', false), 8),
  () => easyTable(20_000, 6),
  () => wildTable(14_000, 120, 'tuning', false),
];

function main(): void {
  const examples: Examples = { vectors: [], same: [], before: [] };
  for (const make of TABLES) {
    const table = make();
    const { features, pairs } = compared(table);
    const { who } = table;
    const comparer = new PairComparer(features);
    const before = Math.log(truthOf(who) / features.rows) - Math.log(features.rows);
    for (const code of pairs) {
      const a = Math.floor(code / features.rows);
      const b = code - a * features.rows;
      const vector = new Float64Array(FEATURES);
      comparer.compare(a, b, vector);
      examples.vectors.push(vector);
      examples.same.push(who[a] === who[b] ? 1 : 0);
      examples.before.push(before);
    }
    console.log(`${features.rows} rows, ${pairs.length} pairs`);
  }
  const model = stored(learn(examples));
  writeFileSync(join(process.cwd(), 'core/matching/linkage/model.json'), `${JSON.stringify(model)}\n`);
  console.log(
    `${examples.vectors.length} pairs learnt from, ${model.splits.length / 3} questions in ${model.trees} trees`,
  );
}

main();
