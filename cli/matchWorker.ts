import { parentPort, workerData } from 'node:worker_threads';
import { likelyEdges } from '@emporikon/core/matching/linkage/link';
import type { Model } from '@emporikon/core/matching/linkage/mixture';
import { compareAll, type Compared } from '@emporikon/core/matching/linkage/patterns';
import type { Answer, Work } from './match';

/** A thread of `emporikon match`: told nothing it compares its pairs, told the model it scores them. */
const { features, pairs, from, to } = workerData as Work;
const mine = pairs.subarray(from, to);
let compared: Compared | null = null;

parentPort?.on('message', (model: Model | null) => {
  compared ??= compareAll(features, mine);
  if (!model) {
    const { levels, counts, size } = compared.patterns;
    const patterns = {
      levels: levels.slice(0, size * features.fields.length),
      counts: counts.slice(0, size),
      size,
    };
    parentPort?.postMessage({ patterns } satisfies Answer);
    return;
  }
  const found = likelyEdges(features, model, mine, compared);
  const edges = new Float64Array(found.length * 3);
  for (const [index, { a, b, logOdds }] of found.entries()) edges.set([a, b, logOdds], index * 3);
  parentPort?.postMessage({ edges } satisfies Answer, [edges.buffer]);
});
