import { readFileSync, writeFileSync } from 'node:fs';
import { Worker } from 'node:worker_threads';

/**
 * Asks a server how it is, again and again, from a thread of its own, so that what the test does meanwhile counts for nothing.
 * A wait counts as far as the server's main thread was at work during it (schedstat of proc(5), in ns): on a machine with more to
 * do than it has cores for, every thread waits for its turn, and that says nothing about the server.
 */
const ASK = `
const { parentPort, workerData } = require('node:worker_threads');
const { get } = require('node:http');
const { readFileSync } = require('node:fs');
const { url, pid } = workerData;
let isOver = false;
const times = [];
const worked = () => Number(readFileSync('/proc/' + pid + '/task/' + pid + '/schedstat', 'utf8').split(' ')[0]) / 1e6;
const ask = () => new Promise((resolve) => {
  const [at, before] = [performance.now(), worked()];
  get(url + '/healthz', (response) => {
    response.resume();
    response.on('end', () => resolve(Math.min(performance.now() - at, worked() - before)));
  }).on('error', () => resolve(Infinity));
});
parentPort.on('message', () => (isOver = true));
(async () => {
  while (!isOver) { times.push(await ask()); await new Promise((done) => setTimeout(done, 20)); }
  parentPort.postMessage(times);
})();`;

/** @returns a function that ends the watch and gives how long the server's own work kept each answer of /healthz waiting, in ms */
export function watchHealth(url: string, pid: number): () => Promise<number[]> {
  const worker = new Worker(ASK, { eval: true, workerData: { url, pid } });
  return () =>
    new Promise((resolve) => {
      worker.once('message', (times: number[]) => {
        void worker.terminate();
        resolve(times);
      });
      worker.postMessage('end');
    });
}

/** Lets the most memory of a process be measured anew (proc(5), clear_refs). */
export const forgetMostMemory = (pid: number): void => writeFileSync(`/proc/${pid}/clear_refs`, '5');

const megabytesOf = (pid: number, line: 'VmHWM' | 'VmRSS'): number =>
  Number(new RegExp(`${line}:\\s+(\\d+)`).exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;

/** The most memory a process has had at once, in MB (VmHWM of proc(5)). */
export const mostMemory = (pid: number): number => megabytesOf(pid, 'VmHWM');

const RESTED_MEGABYTES = 350;
const REST_MS = 12_000;
/** Waits until a process that has nothing to do has given memory back, or until it had its time to (VmRSS of proc(5)). */
export async function waitForRest(pid: number): Promise<void> {
  for (const end = Date.now() + REST_MS; Date.now() < end;) {
    if (megabytesOf(pid, 'VmRSS') < RESTED_MEGABYTES) return;
    await new Promise((resolve) => setTimeout(resolve, 250));
  }
}
