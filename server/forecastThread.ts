import { playMonths } from '@emporikon/core/lifecycle/play';
import { parentPort, workerData } from 'node:worker_threads';
import type { Play } from './forecast/thread';

/** The thread that plays a forecast through while its process does other work. */
const { months, ...options } = workerData as Play;
parentPort?.postMessage(playMonths(months, options));
