import { performance } from 'node:perf_hooks';
import type pg from 'pg';
import { quantile, serveBook } from './book/serve';
import { listen, type Statement } from './book/listen';
import { QUESTIONS, type Question } from './book/questions';
import { sized } from './size';

const ASKED = sized(20, 2);
const [PAGE_MS, TOTALS_MS, RATIO, LITTLE_MS] = [200, 500, 1.5, 5];
/** What answers the question, and not who asks or what can be asked. */
const IS_OURS = /^SELECT (?:r\.id|0 AS level|\S.* AS s0)/;

interface Times {
  /** The whole request. */
  program: number;
  /** Its own statements, without the program. */
  own: number;
  byHand: number;
}

/** How long the program takes, the request and all, and how long the statement by hand. p95 of both, in turns. */
async function measure(
  bare: pg.Client,
  heard: { take: () => Statement[] },
  ask: () => Promise<void>,
  byHand: () => Promise<unknown>,
): Promise<Times> {
  const [program, own, floor]: [number[], number[], number[]] = [[], [], []];
  const timed = async (into: number[], work: () => Promise<unknown>): Promise<void> => {
    const began = performance.now();
    await work();
    into.push(performance.now() - began);
  };
  for (let count = 0; count < 3; count++) {
    await ask();
    await byHand();
  }
  heard.take();
  const first = performance.now();
  await ask();
  const statements = heard.take().filter(({ text }) => IS_OURS.test(text));
  // What takes seconds is asked a few times only.
  const times = performance.now() - first > 1500 ? 3 : ASKED;
  for (let count = 0; count < times; count++) {
    await timed(program, ask);
    await timed(own, async () => {
      for (const { text, values } of statements) await bare.query(text, values);
    });
    await timed(floor, byHand);
  }
  return { program: quantile(program, 0.95), own: quantile(own, 0.95), byHand: quantile(floor, 0.95) };
}

/** Thirty typical questions on the book of a million people, each beside the SQL that somebody would write for it. */
async function main(): Promise<void> {
  const { base, bare, signIn, close } = await serveBook(6);
  const cookie = await signIn(0);
  const heard = listen(bare);
  const { rows: users } = await bare.query<{ id: string }>('SELECT id FROM users ORDER BY email LIMIT 1');
  const me = users[0]?.id ?? '';
  const post = (path: string, query: object) => async (): Promise<void> => {
    const answer = await fetch(`${base}/api/queries${path}`, {
      method: 'POST',
      headers: { cookie, 'content-type': 'application/json', origin: base },
      body: JSON.stringify({ query }),
    });
    if (answer.status !== 200) throw new Error(`${answer.status}: ${await answer.text()}`);
    await answer.arrayBuffer();
  };
  const only = process.argv[2];
  const misses: string[] = [];
  const ratios: number[] = [];
  console.log('p95 ms   own SQL   by hand    ratio   question');
  const tell = (name: string, { program, own, byHand }: Times, goal: number): void => {
    const ratio = own / byHand;
    ratios.push(ratio);
    // Of a few milliseconds a ratio says little.
    if (program > goal || (ratio > RATIO && own - byHand > LITTLE_MS)) misses.push(name);
    console.log(
      `${program.toFixed(1).padStart(7)} ${own.toFixed(1).padStart(9)} ${byHand.toFixed(1).padStart(9)} ${ratio.toFixed(1).padStart(8)}   ${name}`,
    );
  };
  for (const question of QUESTIONS) {
    if (only && !question.name.includes(only)) continue;
    const { name, query, page, totals } = question;
    if (page) tell(name, await measure(bare, heard, post('', query), () => ask(bare, page, me)), PAGE_MS);
    if (totals)
      tell(
        `${name}, totals`,
        await measure(bare, heard, post('/totals', query), () => ask(bare, totals, me)),
        TOTALS_MS,
      );
  }
  console.log(`median ratio ${quantile(ratios, 0.5).toFixed(2)}`);
  console.log(misses.length ? `beyond the goals: ${misses.join('; ')}` : 'all within the goals');
  await close();
}

const ask = (bare: pg.Client, sql: NonNullable<Question['page']>, me: string): Promise<unknown> =>
  bare.query(sql.replaceAll(':me', `'${me}'`));

await main();
