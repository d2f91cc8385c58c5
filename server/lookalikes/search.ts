import type { CompanyFacts } from '@emporikon/core/matching/firms';
import type { Features } from '@emporikon/core/matching/linkage/features';
import type { Examples } from '@emporikon/core/matching/linkage/learn';
import { findCompanies, findPeople, type PeopleFound } from '@emporikon/core/matching/lookAlikes';
import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';

/** What is handed to whoever looks. */
export interface Task {
  /** The book of people; null when it is companies that are looked through. */
  features: Features | null;
  companies: CompanyFacts[];
  judged: Examples | null;
  /** Pairs told apart, as `lower × rows + higher`. */
  apart: number[];
}

/** The looking itself, wherever it runs. */
export function look(task: Task): PeopleFound {
  const apart = new Set(task.apart);
  return task.features
    ? findPeople(task.features, task.judged, apart)
    : { groups: findCompanies(task.companies, apart), weights: null };
}

/** Fewer rows are looked through sooner than a thread is started. */
const THREADED_FROM = 3000;

/** Looks in a thread of its own, so that the other jobs of the process go on meanwhile. */
export async function searchInThread(task: Task): Promise<PeopleFound> {
  const file = fileURLToPath(new URL('./lookAlikeThread.js', import.meta.url));
  const rows = task.features?.rows ?? task.companies.length;
  if (rows < THREADED_FROM || !existsSync(file)) return look(task);
  const thread = new Worker(file, { workerData: task });
  try {
    return await new Promise<PeopleFound>((resolve, reject) => {
      thread.once('message', resolve);
      thread.once('error', reject);
      thread.once('exit', (code) => reject(new Error(`the thread ended with ${code}`)));
    });
  } finally {
    await thread.terminate();
  }
}
