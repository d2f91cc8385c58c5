import {
  playMonths,
  prepareMonths,
  type ForecastDeal,
  type MonthToPlay,
  type Simulated,
} from '@emporikon/core/lifecycle/play';
import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';

export interface Play {
  months: MonthToPlay[];
  runs: number;
  seed: number;
}

/** Fewer draws than these are done sooner than a thread is started. */
const THREADED_FROM = 300_000;

/** Plays a forecast through in a thread of its own, so that the process answers others meanwhile. */
export async function simulateInThread(
  deals: readonly ForecastDeal[],
  { runs, seed }: { runs: number; seed: number },
): Promise<Simulated> {
  const file = fileURLToPath(new URL('./forecastThread.js', import.meta.url));
  const months = prepareMonths(deals, runs);
  if (deals.length * runs < THREADED_FROM || !existsSync(file)) return playMonths(months, { runs, seed });
  const thread = new Worker(file, { workerData: { months, runs, seed } satisfies Play });
  try {
    return await new Promise<Simulated>((resolve, reject) => {
      thread.once('message', resolve);
      thread.once('error', reject);
      thread.once('exit', (code) => reject(new Error(`the thread ended with ${code}`)));
    });
  } finally {
    await thread.terminate();
  }
}
