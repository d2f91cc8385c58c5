import { performance } from 'node:perf_hooks';
import pg from 'pg';
import { knownCompany } from '@emporikon/server/companies/candidates';
import { formsOf } from '@emporikon/core/people/naming/nicknames';
import { fold } from '@emporikon/core/people/text';
import { runInTransaction } from '@emporikon/server/commands/context';
import { knownPerson } from '@emporikon/server/people/candidates';
import { quantile, serveBook, type Served } from './book/serve';
import { pick, randomFrom, slip, type Random } from './crowd/errors';
import { sized } from './size';

const ASKED = sized(40, 3);
const WARMING = sized(60, 1);

interface Somebody {
  full_name: string;
  email: string | null;
  phone: string | null;
  company: string | null;
}

/** What a letter of a name may be by another scheme. */
const other = (letters: string): string =>
  ({ ch: 'tch', sh: 'sch', zh: 'j', i: 'y', y: 'i', u: 'ou' })[letters] ?? letters;

/** The ways in which people look for somebody; each gives what is typed. */
const WAYS: Record<string, (random: Random, one: Somebody) => string> = {
  'whole name': (_, one) => one.full_name,
  'family, given': (_, one) => one.full_name.split(' ').reverse().join(' '),
  'beginning of a name': (_, one) => one.full_name.slice(0, 3),
  'two beginnings': (_, one) =>
    one.full_name
      .split(' ')
      .map((word) => word.slice(0, 3))
      .join(' '),
  'in another spelling': (_, one) => one.full_name.replace(/[csz]h|[iyu](?![aeiou])/g, other),
  'short form': (_, one) => {
    const [given = '', ...rest] = one.full_name.split(' ');
    return [formsOf(fold(given)).at(-1) ?? given, ...rest].join(' ');
  },
  'short form alone': (_, one) => formsOf(fold(one.full_name.split(' ')[0] ?? '')).at(-1) ?? '',
  'one letter': (_, one) => one.full_name.slice(0, 1),
  'inside a name': (_, one) => (one.full_name.split(' ').at(-1) ?? '').slice(2, 7),
  'a slip': (random, one) => slip(random, one.full_name),
  address: (_, one) => one.email ?? one.full_name,
  'beginning of an address': (_, one) => (one.email ?? one.full_name).slice(0, 9),
  domain: (_, one) => (one.email ?? 'x@freemail.example').split('@')[1] ?? '',
  number: (_, one) => one.phone ?? '+9997712',
  'number as at home': (_, one) => `0${(one.phone ?? '+9997712345').slice(4)}`,
  company: (_, one) => one.company ?? 'Smith Bakery',
  'name and company': (_, one) => `${one.full_name.split(' ')[0] ?? ''} ${one.company ?? ''}`,
  tag: (random) => pick(random, ['bakery', 'courier', 'fair 2026', 'newsletter']),
  deal: (_, one) => `eight long bikes ${one.company?.split(' ')[0] ?? ''}`,
  nobody: (random) => `${slip(random, 'quixotmanz')} ${slip(random, 'vlerkenstok')}`,
};

const ms = (value: number): string => value.toFixed(1).padStart(7);

async function people(client: pg.Client, seed: number): Promise<Somebody[]> {
  const { rows } = await client.query<Somebody>(
    `SELECT p.full_name, c.name AS company,
            (SELECT normalized FROM contact_points k WHERE k.person_id = p.id AND kind = 'email' LIMIT 1) AS email,
            (SELECT normalized FROM contact_points k WHERE k.person_id = p.id AND kind = 'phone' LIMIT 1) AS phone
       FROM people p TABLESAMPLE SYSTEM (0.2) REPEATABLE (${seed}) LEFT JOIN companies c ON c.id = p.company_id LIMIT 2000`,
  );
  return rows;
}

async function main(): Promise<void> {
  const { tools, base, bare, signIn, close } = await serveBook(6);
  const cookie = await signIn(0);
  let said: { name: string | undefined; text: string; values: unknown[] }[] = [];
  // What the API asks is written down once, and asked again without the API, as PostgreSQL's own client does.
  const query = pg.Client.prototype.query;
  pg.Client.prototype.query = function (this: pg.Client, ...args: unknown[]) {
    const [one, values] = args as [string | pg.QueryConfig, unknown[]?];
    const [text, bound, name] =
      typeof one === 'string' ? [one, values, undefined] : [one.text, one.values, one.name];
    if (
      this !== bare &&
      /find_words|find_records|find_vocabulary|find_spellings|contact_points k WHERE/.test(text ?? '')
    )
      said.push({ name, text: text ?? '', values: bound ?? [] });
    return (query as (...all: unknown[]) => unknown).apply(this, args);
  } as never;
  const random = randomFrom(5);
  const everybody = await people(bare, 7);
  // A program that runs has what is asked often in memory; so has the bench, after a round that is not counted.
  for (const typed of Object.values(WAYS))
    for (let count = 0; count < WARMING; count++)
      await fetch(`${base}/api/search?q=${encodeURIComponent(typed(random, pick(random, everybody)))}`, {
        headers: { cookie },
      });
  const all = { api: [] as number[], sql: [] as number[] };
  let missed = 0;
  for (const [way, typed] of Object.entries(WAYS)) {
    const api: number[] = [];
    const sql: number[] = [];
    let found = 0;
    for (let count = 0; count < ASKED; count++) {
      const q = typed(random, pick(random, everybody));
      said = [];
      let began = performance.now();
      const answer = await fetch(`${base}/api/search?q=${encodeURIComponent(q)}`, { headers: { cookie } });
      const { items } = (await answer.json()) as { items: unknown[] };
      api.push(performance.now() - began);
      if (items.length) found++;
      began = performance.now();
      for (const one of said) await bare.query(one);
      sql.push(performance.now() - began);
    }
    if (way !== 'nobody') missed += ASKED - found;
    all.api.push(...api);
    all.sql.push(...sql);
    process.stdout.write(
      `${way.padEnd(24)} API median ${ms(quantile(api, 0.5))} p95 ${ms(quantile(api, 0.95))} ms   bare SQL median ${ms(quantile(sql, 0.5))} p95 ${ms(quantile(sql, 0.95))} ms   found ${found} of ${ASKED}\n`,
    );
  }
  const [api, sql] = [quantile(all.api, 0.95), quantile(all.sql, 0.95)];
  process.stdout.write(
    `all: API p95 ${ms(api)} ms, bare SQL p95 ${ms(sql)} ms, ratio ${(api / sql).toFixed(2)}, of medians ${(quantile(all.api, 0.5) / quantile(all.sql, 0.5)).toFixed(2)}; ${missed} found nothing\n`,
  );
  pg.Client.prototype.query = query;
  await verdicts({ tools, bare }, everybody);
  await close();
}

const VERDICTS = sized(400, 10);

/** Whether somebody told of in a capture is known, person and company, against the whole book. */
async function verdicts(
  { tools, bare }: Pick<Served, 'tools' | 'bare'>,
  everybody: Somebody[],
): Promise<void> {
  const random = randomFrom(12);
  const times: number[] = [];
  const floors: number[] = [];
  const kinds: Record<string, number> = {};
  for (let count = -WARMING; count < VERDICTS; count++) {
    const one = pick(random, everybody);
    const facts = {
      fullName: random() < 0.3 ? slip(random, one.full_name) : one.full_name,
      emails: random() < 0.5 && one.email ? [one.email] : ['new.address@elsewhere.example'],
      phones: random() < 0.6 && one.phone ? [one.phone] : [],
      companyName: one.company ?? '',
      profiles: [],
    };
    let began = performance.now();
    const verdict = await runInTransaction(tools, null, async (context) => {
      if (one.company) await knownCompany(context, { name: one.company, domain: null });
      return knownPerson(context, facts);
    });
    if (count < 0) continue;
    times.push(performance.now() - began);
    kinds[verdict.kind] = (kinds[verdict.kind] ?? 0) + 1;
    began = performance.now();
    await bare.query(
      "SELECT person_id FROM contact_points WHERE kind = 'email' AND normalized = ANY ($1::text[])",
      [facts.emails],
    );
    floors.push(performance.now() - began);
  }
  process.stdout.write(
    `verdict on a capture, person and company: median ${ms(quantile(times, 0.5))} p95 ${ms(quantile(times, 0.95))} ms, ratio ${(quantile(times, 0.5) / quantile(floors, 0.5)).toFixed(0)} to one look-up by address (${quantile(floors, 0.5).toFixed(1)} ms); ${JSON.stringify(kinds)}\n`,
  );
}

void main();
