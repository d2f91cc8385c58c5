import { parentPort, workerData } from 'node:worker_threads';
import { look, type Task } from './lookalikes/search';

/** The thread that looks for look-alikes while its process does other work. */
parentPort?.postMessage(look(workerData as Task));
