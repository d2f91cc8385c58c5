import { fork, type ChildProcess } from 'node:child_process';
import { performance } from 'node:perf_hooks';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { SHORT_QUESTIONS } from '@emporikon/server/db/connect';
import { REPS as BOOK_REPS } from './book/fill';
import { rep, type Call, type Pair } from './book/rep';
import { quantile, serveBook, signInAt, type Served } from './book/serve';
import { randomFrom } from './crowd/errors';
import { sized } from './size';

/** `npm run bench load [reps] [processes] [seconds]` */
const REPS = Number(process.argv[2] ?? sized(50, 3));
const PROCESSES = Number(process.argv[3] ?? 1);
const SECONDS = Number(process.argv[4] ?? sized(120, 8));
/** The reps come in over so long; what is called meanwhile is not counted: a program that runs has what is asked often in memory. */
const RISE = sized(20_000, 1000);
/** Connections of all the processes together. */
const CONNECTIONS = 24;

interface Taken {
  at: number;
  what: string;
  ms: number;
  status: number;
}

/** What a process of the program says to the bench: where it listens, then what it holds, in MB, each second. */
type Said = { base: string } | { memory: number };

interface Running {
  child: ChildProcess;
  base: string;
  memories: number[];
}

/** The program in a process of its own. */
const startProgram = (): Promise<Running> =>
  new Promise((resolve, reject) => {
    const child = fork(fileURLToPath(import.meta.url), { env: { ...process.env, BENCH_PROGRAM: '1' } });
    const memories: number[] = [];
    child.once('error', reject);
    child.once('exit', (code) => reject(new Error(`the program ended (${code}) before it listened`)));
    child.on('message', (said: Said) => {
      if ('base' in said) resolve({ child, base: said.base, memories });
      else memories.push(said.memory);
    });
  });

async function beProgram(): Promise<void> {
  const served = await serveBook(Math.floor(CONNECTIONS / PROCESSES));
  const say = (said: Said): void => void process.send?.(said);
  say({ base: served.base });
  const beat = setInterval(() => say({ memory: process.memoryUsage().rss / 2 ** 20 }), 1000);
  process.once('message', () => {
    clearInterval(beat);
    void served.close().then(() => process.disconnect());
  });
}

async function pairsOf({ bare }: Pick<Served, 'bare'>): Promise<Pair[]> {
  const { rows } = await bare.query<Pair>(
    `SELECT DISTINCT ON (p.id) p.id AS a, q.id AS b FROM people p TABLESAMPLE SYSTEM (0.5) JOIN people q ON q.name_key = p.name_key AND q.id > p.id AND q.company_id = p.company_id WHERE p.seen_by IS NULL AND q.seen_by IS NULL LIMIT 1500`,
  );
  const seen = new Set<string>();
  return rows.filter(({ a, b }) => {
    const fresh = !seen.has(a) && !seen.has(b);
    seen.add(a).add(b);
    return fresh;
  });
}

/** Calls one of the processes as somebody, and notes how long it took. */
const callerOf =
  (base: string, cookie: string, note: (began: number, what: string, status: number) => void): Call =>
  async (method, path, body, type = 'application/json') => {
    const began = performance.now();
    const answer = await fetch(`${base}${path}`, {
      method,
      headers: { cookie, ...(body === undefined ? {} : { 'content-type': type }) },
      ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    const json: unknown = await answer.json();
    const what = `${method} ${path.replace(/\?.*/, '').replace(/[0-9a-f-]{36}/g, ':id')}`;
    note(began, what, answer.status);
    if (answer.status >= 400)
      process.stdout.write(`${answer.status} ${what} ${JSON.stringify(json).slice(0, 200)}\n`);
    return json;
  };

const p95 = (taken: readonly Taken[]): string =>
  quantile(
    taken.map((one) => one.ms),
    0.95,
  ).toFixed(0);
const mean = (list: readonly number[]): number => list.reduce((sum, one) => sum + one, 0) / list.length;

function print(taken: readonly Taken[], programs: readonly Running[]): void {
  for (const what of [...new Set(taken.map((one) => one.what))].sort()) {
    const mine = taken.filter((one) => one.what === what);
    const median = quantile(
      mine.map((one) => one.ms),
      0.5,
    );
    process.stdout.write(
      `${what.padEnd(34)} ${String(mine.length).padStart(6)}  median ${median.toFixed(0).padStart(5)} ms  p95 ${p95(mine).padStart(5)} ms\n`,
    );
  }
  const thirds = [0, 1, 2].map((third) =>
    taken.filter((one) => Math.min(2, Math.floor((one.at / 1000 / SECONDS) * 3)) === third),
  );
  const memories = programs.map(({ memories: all }) => {
    const third = Math.floor(all.length / 3);
    return `${mean(all.slice(third, 2 * third)).toFixed(0)} MB in the second third, ${mean(all.slice(-third)).toFixed(0)} MB in the last`;
  });
  const errors = taken.filter((one) => one.status >= 400).length;
  process.stdout.write(
    `${REPS} reps, ${PROCESSES} processes, ${SECONDS} s: ${taken.length} calls, ${errors} errors, p95 ${p95(taken)} ms (by thirds ${thirds.map(p95).join(', ')}); memory of each process: ${memories.join('; ')}\n`,
  );
}

async function main(): Promise<void> {
  const programs: Running[] = [];
  // One after another: the first fills and migrates the book.
  for (let at = 0; at < PROCESSES; at++) programs.push(await startProgram());
  const bare = new pg.Client({
    connectionString: process.env.TEST_DATABASE_URL ?? '',
    options: SHORT_QUESTIONS,
  });
  await bare.connect();
  const { rows } = await bare.query<{ full_name: string }>(
    `SELECT full_name FROM people TABLESAMPLE SYSTEM (${sized(0.2, 100)}) REPEATABLE (3) LIMIT 2000`,
  );
  const names = rows.map((row) => row.full_name);
  const pairs = await pairsOf({ bare });
  await bare.end();
  const baseOf = (at: number): string => programs[at % PROCESSES]?.base ?? '';
  const cookies: string[] = [];
  for (let at = 0; at < REPS; at++) cookies.push(await signInAt(baseOf(at), at % BOOK_REPS));
  const taken: Taken[] = [];
  const counted = performance.now() + RISE;
  const note = (began: number, what: string, status: number): void => {
    if (began > counted) taken.push({ at: began - counted, what, ms: performance.now() - began, status });
  };
  await Promise.all(
    cookies.map((cookie, at) =>
      rep(
        randomFrom(1000 + at),
        names,
        pairs,
        callerOf(baseOf(at), cookie, note),
        RISE,
        counted + SECONDS * 1000,
      ),
    ),
  );
  print(taken, programs);
  for (const { child } of programs) child.send('done');
}

void (process.env.BENCH_PROGRAM ? beProgram() : main());
