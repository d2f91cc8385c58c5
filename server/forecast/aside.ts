import { simulate, type ForecastDeal, type Simulated } from '@emporikon/core/lifecycle/forecast';
import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';

export interface Play {
  deals: ForecastDeal[];
  runs: number;
  seed: number;
}

/** Fewer draws than these are done sooner than a thread is started. */
const THREADED_FROM = 300_000;

/** Plays a forecast through in a thread of its own, so that the process answers others meanwhile. */
export async function simulateAside({ deals, runs, seed }: Play): Promise<Simulated> {
  const file = fileURLToPath(new URL('./forecastThread.js', import.meta.url));
  if (deals.length * runs < THREADED_FROM || !existsSync(file)) return simulate(deals, { runs, seed });
  const thread = new Worker(file, { workerData: { deals, runs, seed } satisfies Play });
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
