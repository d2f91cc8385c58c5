import { simulate } from '@emporikon/core/lifecycle/forecast';
import { parentPort, workerData } from 'node:worker_threads';
import type { Play } from './forecast/aside';

/** The thread that plays a forecast through while its process does other work. */
const { deals, ...options } = workerData as Play;
parentPort?.postMessage(simulate(deals, options));
