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
import { expectedNamesakes, FeatureBuilder, type Features } from '@emporikon/core/matching/linkage/features';
import { likelyEdges, linkedPairs, type LinkedPair } from '@emporikon/core/matching/linkage/link';
import { estimate, type Model, type Patterns } from '@emporikon/core/matching/linkage/mixture';
import { compareAll, mergePatterns } from '@emporikon/core/matching/linkage/patterns';
import type { Edge } from '@emporikon/core/matching/linkage/groups';
import { planOf, type Plan } from '@emporikon/core/matching/linkage/plan';

/** What a worker is started with, and what it answers. */
export interface Work {
  features: Features;
  pairs: Float64Array;
  from: number;
  to: number;
}
export type Answer = { patterns: Patterns } | { edges: Float64Array };

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

/** One thread that compares a part of the pairs, and later scores it. */
class Thread {
  private readonly worker: Worker;

  constructor(work: Work) {
    this.worker = new Worker(fileURLToPath(new URL('./matchWorker.js', import.meta.url)), {
      workerData: work,
    });
  }

  private ask<Kind extends 'patterns' | 'edges'>(
    kind: Kind,
    model?: Model,
  ): Promise<Extract<Answer, Record<Kind, unknown>>> {
    return new Promise((resolve, reject) => {
      this.worker.once('error', reject);
      this.worker.once('message', (answer: Answer) => {
        this.worker.off('error', reject);
        if (kind in answer) resolve(answer as Extract<Answer, Record<Kind, unknown>>);
        else reject(new Error('the thread answered something else'));
      });
      this.worker.postMessage(model ?? null);
    });
  }

  compare = async (): Promise<Patterns> => (await this.ask('patterns')).patterns;

  async score(model: Model): Promise<Edge[]> {
    const { edges } = await this.ask('edges', model);
    const list: Edge[] = [];
    for (let at = 0; at < edges.length; at += 3)
      list.push({ a: edges[at] as number, b: edges[at + 1] as number, logOdds: edges[at + 2] as number });
    return list;
  }

  stop = (): Promise<number> => this.worker.terminate();
}

/** Every pair of rows that may be one person. Pure computation on the table, spread over the cores. */
async function link({ features, plan }: Table, threads: number): Promise<LinkedPair[]> {
  const found = candidatePairs(features);
  const kinds = plan.fields.map((field) => field.kind);
  const known = { namesakes: expectedNamesakes(features) };
  if (threads === 1) {
    const compared = compareAll(features, found);
    const model = estimate(kinds, compared.patterns, known);
    return linkedPairs(features, model, likelyEdges(features, model, found, compared));
  }
  const pairs = new Float64Array(new SharedArrayBuffer(8 * found.length));
  pairs.set(found);
  const part = Math.ceil(pairs.length / threads);
  const crew = Array.from(
    { length: threads },
    (_, at) => new Thread({ features, pairs, from: at * part, to: Math.min(pairs.length, (at + 1) * part) }),
  );
  try {
    const parts = await Promise.all(crew.map((one) => one.compare()));
    const { whole } = mergePatterns(parts, features.fields.length);
    const model = estimate(kinds, whole, known);
    const edges = (await Promise.all(crew.map((one) => one.score(model)))).flat();
    return linkedPairs(features, model, edges);
  } finally {
    await Promise.all(crew.map((one) => one.stop()));
  }
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
