import { parentPort, workerData } from 'node:worker_threads';
import { likelyEdges } from '@emporikon/core/matching/linkage/link';
import type { Answer, Work } from './match';

/** A thread of `emporikon match`: scores its part of the pairs and ends. */
const { features, pairs, from, to } = workerData as Work;
const found = likelyEdges(features, pairs.subarray(from, to));
const edges = new Float64Array(found.length * 3);
for (const [index, { a, b, logOdds }] of found.entries()) edges.set([a, b, logOdds], index * 3);
parentPort?.postMessage({ edges } satisfies Answer, [edges.buffer]);
