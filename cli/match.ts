import { createWriteStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { finished } from 'node:stream/promises';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import Papa from 'papaparse';
import { separatorOf } from '@emporikon/core/formats/csv';
import { decodeText } from '@emporikon/core/formats/encoding';
import { candidatePairs, ROWS_AT_MOST } from '@emporikon/core/matching/linkage/blocks';
import { FeatureBuilder, type Features } from '@emporikon/core/matching/linkage/features';
import { likelyEdges, linkedPairs, type LinkedPair } from '@emporikon/core/matching/linkage/link';
import type { Edge } from '@emporikon/core/matching/linkage/groups';
import { planOf, type Plan } from '@emporikon/core/matching/linkage/plan';

/** What a thread is started with. It answers with the pairs that may be one person, three numbers a pair. */
export interface Work {
  features: Features;
  pairs: Float64Array;
  from: number;
  to: number;
}
export interface Answer {
  edges: Float64Array;
}

const SAMPLE = 500;
/** Fewer rows are not worth starting threads for. */
const THREADED_FROM = 2000;
/** Less likely pairs are not printed. */
const PRINTED_FROM = 0.1;

interface Table {
  ids: string[];
  plan: Plan;
  features: Features;
}

/**
 * Reads a table into its features.
 * @throws Error in words, when there is nothing in it that a person could be told by
 */
async function readTable(file: string): Promise<Table> {
  const { text } = decodeText(await readFile(file));
  let head: string[] | null = null;
  const sample: string[][] = [];
  let plan: Plan | null = null;
  let builder: FeatureBuilder | null = null;
  const ids: string[] = [];
  const take = (row: string[]): void => {
    const index = plan?.idColumn ?? null;
    ids.push(index === null ? String(ids.length + 1) : (row[index] ?? '').trim());
    builder?.add(row);
  };
  const begin = (): void => {
    plan = planOf(head ?? [], sample);
    builder = new FeatureBuilder(plan);
    for (const row of sample) take(row);
  };
  Papa.parse<string[]>(text, {
    delimiter: separatorOf(text),
    skipEmptyLines: 'greedy',
    step: ({ data }) => {
      if (!head) head = data;
      else if (builder) take(data);
      else if (sample.push(data) === SAMPLE) begin();
    },
  });
  if (!head) throw new Error('there is nothing in it');
  if (!builder) begin();
  const [made, decided] = [builder as FeatureBuilder | null, plan as Plan | null];
  if (!made || !decided?.fields.length) throw new Error('no column in it tells one person from another');
  if (ids.length > ROWS_AT_MOST) throw new Error(`more than ${ROWS_AT_MOST} rows`);
  return { ids, plan: decided, features: made.finish() };
}

/** Compares a part of the pairs in a thread of its own. */
async function inThread(work: Work): Promise<Edge[]> {
  const worker = new Worker(fileURLToPath(new URL('./matchWorker.js', import.meta.url)), {
    workerData: work,
  });
  try {
    const { edges } = await new Promise<Answer>((resolve, reject) => {
      worker.once('message', resolve);
      worker.once('error', reject);
      worker.once('exit', (code) => reject(new Error(`the thread ended with ${code}`)));
    });
    return Array.from({ length: edges.length / 3 }, (_, at) => ({
      a: edges[3 * at] as number,
      b: edges[3 * at + 1] as number,
      logOdds: edges[3 * at + 2] as number,
    }));
  } finally {
    await worker.terminate();
  }
}

/** Every pair of rows that may be one person. Pure computation on the table, spread over the cores. */
async function link({ features }: Table, threads: number): Promise<LinkedPair[]> {
  const found = candidatePairs(features);
  if (threads === 1) return linkedPairs(features, likelyEdges(features, found));
  const pairs = new Float64Array(new SharedArrayBuffer(8 * found.length));
  pairs.set(found);
  const part = Math.ceil(pairs.length / threads);
  const parts = Array.from({ length: threads }, (_, at) =>
    inThread({ features, pairs, from: at * part, to: Math.min(pairs.length, (at + 1) * part) }),
  );
  return linkedPairs(features, (await Promise.all(parts)).flat());
}

const cell = (text: string): string => (/[",\r\n]/.test(text) ? `"${text.replace(/"/g, '""')}"` : text);

/**
 * Finds the rows of a table that may be the same person.
 * @param file a CSV with a header
 * @param out where the pairs go; null prints them
 * @throws Error in words
 */
export async function matchFile(file: string, out: string | null): Promise<{ rows: number; pairs: number }> {
  const table = await readTable(file);
  const threads = table.features.rows < THREADED_FROM ? 1 : Math.max(1, availableParallelism());
  const pairs = (await link(table, threads)).filter((one) => one.probability >= PRINTED_FROM);
  const stream = out ? createWriteStream(out) : process.stdout;
  const lines = ['id_a,id_b,probability'];
  for (const { a, b, probability } of pairs) {
    lines.push(`${cell(table.ids[a] ?? '')},${cell(table.ids[b] ?? '')},${probability.toFixed(6)}`);
    if (lines.length >= 10_000) stream.write(`${lines.splice(0).join('\n')}\n`);
  }
  if (lines.length) stream.write(`${lines.join('\n')}\n`);
  if (out) {
    stream.end();
    await finished(stream);
  }
  return { rows: table.features.rows, pairs: pairs.length };
}
