import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import { mustHoldNoConnection } from '../db/connect';
import { busy, ProblemError, tooMuch, type Problem } from '../http/problems';
import type { Tasks } from './tasks';

export interface Question<Name extends keyof Tasks> {
  name: Name;
  input: Parameters<Tasks[Name]>[0];
}
export type Answer = { result: unknown } | { problem: Problem };

/** What a thread may use. A file that wants more is one that was made to, and costs nobody but itself. */
const LANES = {
  light: {
    megabytes: 128,
    seconds: 5,
    threads: Math.min(2, availableParallelism()),
    stays: 1,
    idleMs: 1000,
  },
  // It ends with each file and gives its memory back: what lies outside its heap is collected late, and one file's would come on top of another's.
  heavy: { megabytes: 160, seconds: 20, threads: 1, stays: 0, idleMs: 20 },
} as const;
type Lane = keyof typeof LANES;
/** What is as large is copied once and handed over, instead of being copied on both sides. */
const HANDED_OVER_FROM_BYTES = 1024 * 1024;
const LIGHT_UP_TO_BYTES = 256 * 1024;
/** How many may wait for a thread before a further one is asked to come again. */
const MOST_WAITING = 200;

/** Beside the bundle of the process, above that of a bench, or in the build that a test or the demo runs with. */
const threadFile = (): string => {
  const found = [
    './readingThread.js',
    '../readingThread.js',
    '../dist/readingThread.js',
    '../../server/dist/readingThread.js',
  ]
    .map((path) => fileURLToPath(new URL(path, import.meta.url)))
    .find((path) => existsSync(path));
  if (!found) throw new Error('The thread that reads files is not built; run `npm run build`.');
  return found;
};

/** Messages are light unless they are large; a table, a card file or a page can be small and still be much. */
const laneOf = (name: keyof Tasks, input: { raw: Uint8Array; mediaType?: string }): Lane =>
  name !== 'readBench' && name !== 'readFileWords' && input.raw.length <= LIGHT_UP_TO_BYTES
    ? 'light'
    : 'heavy';

const isOutOfMemory = (error: unknown): boolean =>
  error instanceof Error && 'code' in error && error.code === 'ERR_WORKER_OUT_OF_MEMORY';
const isOutOfTime = (error: unknown): boolean => error instanceof Error && error.name === 'AbortError';

interface Threads {
  pool: Piscina;
  free: number;
  waiting: (() => void)[];
}

function handedOver(
  name: keyof Tasks,
  input: { raw: Uint8Array },
  signal: AbortSignal,
): Parameters<Piscina['run']> {
  const isShared = input.raw.buffer instanceof SharedArrayBuffer;
  if (isShared || input.raw.length < HANDED_OVER_FROM_BYTES) return [{ name, input }, { signal }];
  const raw = new Uint8Array(input.raw);
  return [
    { name, input: { ...input, raw } },
    { signal, transferList: [raw.buffer] },
  ];
}

/** Reads files beside the process's own work, so that none of them keeps others waiting or brings it down. */
export class Readers {
  private readonly lanes = new Map<Lane, Threads>();

  private lane(name: Lane): Threads {
    const known = this.lanes.get(name);
    if (known) return known;
    const { megabytes, threads, stays, idleMs } = LANES[name];
    const pool = new Piscina({
      filename: threadFile(),
      minThreads: stays,
      maxThreads: threads,
      idleTimeout: idleMs,
      resourceLimits: { maxOldGenerationSizeMb: megabytes, maxYoungGenerationSizeMb: 32 },
    });
    // What a thread fails with is told by its task; without a listener it would end the process.
    pool.on('error', () => undefined);
    const made: Threads = { pool, free: threads, waiting: [] };
    this.lanes.set(name, made);
    return made;
  }

  /**
   * @throws 422 `too-much` for a file that takes more memory or time than any honest one, the task's own problem, or 503
   *   when too many wait
   */
  async run<Name extends keyof Tasks>(
    name: Name,
    input: Question<Name>['input'],
  ): Promise<Awaited<ReturnType<Tasks[Name]>>> {
    mustHoldNoConnection('reading a file');
    const laneName = laneOf(name, input);
    const lane = this.lane(laneName);
    await this.takeThread(lane);
    try {
      // The time begins when a thread is free and loaded: nobody pays for the files before theirs, nor for a busy machine.
      await lane.pool.run(null).catch(() => undefined);
      const signal = AbortSignal.timeout(LANES[laneName].seconds * 1000);
      const answer = (await lane.pool.run(...handedOver(name, input, signal))) as Answer;
      if ('problem' in answer) throw new ProblemError(answer.problem);
      return answer.result as Awaited<ReturnType<Tasks[Name]>>;
    } catch (error) {
      if (isOutOfMemory(error) || isOutOfTime(error))
        throw tooMuch(
          'This file takes far more work to read than a file of its kind should; it was not read. Send its text, or a smaller part of it.',
        );
      throw error;
    } finally {
      const next = lane.waiting.shift();
      if (next) next();
      else lane.free++;
    }
  }

  private async takeThread(lane: Threads): Promise<void> {
    if (lane.free > 0) {
      lane.free--;
      return;
    }
    if (lane.waiting.length >= MOST_WAITING)
      throw busy(
        'Many files are being read at this moment. Nothing was kept; send it again in a moment.',
        10,
      );
    await new Promise<void>((resolve) => lane.waiting.push(resolve));
  }

  async close(): Promise<void> {
    await Promise.all([...this.lanes.values()].map(({ pool }) => pool.destroy()));
    this.lanes.clear();
  }
}
