import { monitorEventLoopDelay, performance } from 'node:perf_hooks';
import { pick, randomFrom, slip, type Random } from './crowd/errors';
import { quantile, serveBook, type Served } from './book/serve';
import { sized } from './size';

const REPS = sized(50, 3);
const SECONDS = Number(process.argv[2] ?? sized(120, 8));
/** A rep reads and thinks between two things: two seconds at least, eight at most. */
const LEAST_PAUSE = 2000;
const MORE_PAUSE = 6000;
/** The reps come in over so long; what is called meanwhile is not counted: a program that runs has what is asked often in memory. */
const RISE = sized(20_000, 1000);

interface Taken {
  what: string;
  ms: number;
  status: number;
}
interface Pair {
  a: string;
  b: string;
}
type Call = (method: string, path: string, body?: unknown, type?: string) => Promise<unknown>;

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

let serial = 0;
/** A mail by somebody who may be known. */
function mailOf(random: Random, name: string, address: string): string {
  serial++;
  return [
    `From: ${name} <${address}>`,
    'To: rep1@wharfside.example',
    `Subject: ${pick(random, ['Two long bikes', 'A trailer', 'Service plan'])} ${serial}`,
    'Date: Mon, 23 Nov 2026 16:40:00 +0000',
    `Message-ID: <load-${process.pid}-${serial}@bench.example>`,
    '',
    'Could you send a quote before Thursday?',
    '',
    name,
    '',
  ].join('\r\n');
}

/** One rep at work: finds, opens, files what came in, and makes doubles one. */
async function rep(
  random: Random,
  names: readonly string[],
  pairs: Pair[],
  call: Call,
  until: number,
): Promise<void> {
  await pause(random() * RISE);
  while (performance.now() < until) {
    const name = pick(random, names);
    const what = random();
    if (what < 0.7) {
      // Typed letter by letter, as the field asks: at three, at six, and when it stands.
      for (const length of [3, 6, name.length]) {
        const typed = random() < 0.15 ? slip(random, name.slice(0, length)) : name.slice(0, length);
        const found = (await call('GET', `/api/search?q=${encodeURIComponent(typed)}`)) as {
          items: { kind: string; id: string }[];
        };
        await pause(120);
        const hit = found.items.find((one) => one.kind === 'person');
        if (length === name.length && hit) await call('GET', `/api/people/${hit.id}`);
      }
    } else if (what < 0.9) {
      const key = Math.floor(Date.now() * 1000 + random() * 1e6).toString(36);
      const address = `${name.toLowerCase().replace(/[^a-z]+/g, '')}@firm-${key}.example`;
      const capture = (await call(
        'POST',
        '/api/captures',
        mailOf(random, name, address),
        'message/rfc822',
      )) as {
        id: string;
      };
      await call('POST', `/api/captures/${capture.id}/filing`, { person: 'new', lead: 'new' });
    } else {
      const pair = pairs.pop();
      if (pair) {
        await call('POST', '/api/merges/compare', { kind: 'person', ids: [pair.a, pair.b] });
        await call('POST', '/api/merges', { kind: 'person', survivorId: pair.a, mergedIds: [pair.b] });
      }
    }
    await pause(LEAST_PAUSE + random() * MORE_PAUSE);
  }
}

const memory = (): number => process.memoryUsage().rss / 2 ** 20;

async function pairsOf({ bare }: Served): Promise<Pair[]> {
  const { rows } = await bare.query<Pair>(
    `SELECT DISTINCT ON (p.id) p.id AS a, q.id AS b FROM people p TABLESAMPLE SYSTEM (0.5) JOIN people q ON q.name_key = p.name_key AND q.id > p.id AND q.company_id = p.company_id LIMIT 1500`,
  );
  const seen = new Set<string>();
  return rows.filter(({ a, b }) => {
    const fresh = !seen.has(a) && !seen.has(b);
    seen.add(a).add(b);
    return fresh;
  });
}

async function main(): Promise<void> {
  const served = await serveBook(24);
  const { base, bare, signIn } = served;
  const { rows } = await bare.query<{ full_name: string }>(
    `SELECT full_name FROM people TABLESAMPLE SYSTEM (${sized(0.2, 100)}) REPEATABLE (3) LIMIT 2000`,
  );
  const names = rows.map((row) => row.full_name);
  const pairs = await pairsOf(served);
  const cookies: string[] = [];
  for (let at = 0; at < REPS; at++) cookies.push(await signIn(at));
  const taken: Taken[] = [];
  let counted = Infinity;
  const callAs =
    (cookie: string): Call =>
    async (method, path, body, type = 'application/json') => {
      const began = performance.now();
      const answer = await fetch(`${base}${path}`, {
        method,
        headers: { cookie, ...(body === undefined ? {} : { 'content-type': type }) },
        ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
      });
      const json: unknown = await answer.json();
      const what = `${method} ${path.replace(/\?.*/, '').replace(/[0-9a-f-]{36}/g, ':id')}`;
      if (began > counted) taken.push({ what, ms: performance.now() - began, status: answer.status });
      if (answer.status >= 400)
        process.stdout.write(`${answer.status} ${what} ${JSON.stringify(json).slice(0, 200)}\n`);
      return json;
    };
  const memories: number[] = [];
  const watch = setInterval(() => memories.push(memory()), 1000);
  const began = performance.now();
  counted = began + RISE;
  const delay = monitorEventLoopDelay({ resolution: 10 });
  delay.enable();
  await Promise.all(
    cookies.map((cookie, at) =>
      rep(randomFrom(1000 + at), names, pairs, callAs(cookie), began + RISE + SECONDS * 1000),
    ),
  );
  clearInterval(watch);
  for (const what of [...new Set(taken.map((one) => one.what))].sort()) {
    const mine = taken.filter((one) => one.what === what).map((one) => one.ms);
    process.stdout.write(
      `${what.padEnd(34)} ${String(mine.length).padStart(6)}  median ${quantile(mine, 0.5).toFixed(0).padStart(5)} ms  p95 ${quantile(mine, 0.95).toFixed(0).padStart(5)} ms\n`,
    );
  }
  const all = taken.map((one) => one.ms);
  const errors = taken.filter((one) => one.status >= 400).length;
  const third = Math.floor(memories.length / 3);
  const mean = (list: readonly number[]): number => list.reduce((sum, one) => sum + one, 0) / list.length;
  process.stdout.write(
    `${REPS} reps, ${SECONDS} s: ${all.length} calls, ${errors} errors, p95 ${quantile(all, 0.95).toFixed(0)} ms; memory of the server and the bench together ${mean(memories.slice(third, 2 * third)).toFixed(0)} MB in the second third, ${mean(memories.slice(-third)).toFixed(0)} MB in the last\n`,
  );
  process.stdout.write(
    `the event loop was late by ${(delay.percentile(50) / 1e6).toFixed(0)} ms in the median, ${(delay.percentile(99) / 1e6).toFixed(0)} ms in the 99th percentile\n`,
  );
  await served.close();
}

void main();
