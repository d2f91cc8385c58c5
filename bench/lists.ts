import { performance } from 'node:perf_hooks';
import type pg from 'pg';
import { allRoutes } from '@emporikon/contract';
import { listen, type Statement } from './book/listen';
import { quantile, serveBook, type Served } from './book/serve';
import { sized } from './size';

const ASKED = sized(40, 2);
const WARMING = sized(5, 1);
/** An answer that takes longer is asked fewer times. */
const SLOW_MS = 1500;

interface Asked {
  name: string;
  url: string;
}
/** Ids of records that there is much to say of, and the words that lists are narrowed by. */
async function samples(bare: pg.Client): Promise<Record<string, string>> {
  const one = async (sql: string): Promise<string> => {
    const { rows } = await bare.query<{ id: string }>(sql);
    return rows[0]?.id ?? '';
  };
  return {
    person: await one(
      'SELECT person_id AS id FROM ledger_links WHERE person_id IS NOT NULL GROUP BY 1 ORDER BY count(*) DESC, 1 LIMIT 1',
    ),
    task: await one('SELECT id FROM tasks WHERE done_at IS NULL ORDER BY id LIMIT 1'),
    case: await one('SELECT id FROM cases WHERE solved_at IS NULL ORDER BY id LIMIT 1'),
    project: await one('SELECT id FROM projects WHERE closed_at IS NULL ORDER BY id LIMIT 1'),
    company: await one(
      'SELECT company_id AS id FROM people WHERE company_id IS NOT NULL GROUP BY 1 ORDER BY count(*) DESC, 1 LIMIT 1',
    ),
    lead: await one("SELECT id FROM leads WHERE status = 'working' ORDER BY id LIMIT 1"),
    deal: await one(
      'SELECT deal_id AS id FROM ledger_links WHERE deal_id IS NOT NULL GROUP BY 1 ORDER BY count(*) DESC, 1 LIMIT 1',
    ),
    pipeline: await one('SELECT id FROM pipelines ORDER BY position LIMIT 1'),
    stage: await one("SELECT id FROM stages WHERE kind = 'open' ORDER BY position LIMIT 1"),
    owner: await one('SELECT id FROM users ORDER BY email LIMIT 1'),
    capture: await one("SELECT id FROM captures WHERE state = 'waiting' ORDER BY received_at DESC LIMIT 1"),
    list: await one('SELECT id FROM lists LIMIT 1'),
  };
}

const sorts = (...columns: string[]): string[] =>
  columns.flatMap((column) => [`sort=${column}&direction=asc`, `sort=${column}&direction=desc`]);

/** Every GET of the contract once, and those of lists in the ways they are narrowed. */
function questions(ids: Record<string, string>): Asked[] {
  const paths: Record<string, string | undefined> = {
    captures: ids.capture,
    companies: ids.company,
    deals: ids.deal,
    leads: ids.lead,
    people: ids.person,
    pipelines: ids.pipeline,
    tasks: ids.task,
    cases: ids.case,
    projects: ids.project,
  };
  const day = (days: number): string => new Date(Date.now() + days * 86_400_000).toISOString();
  const month = `from=${day(-10)}&until=${day(25)}`;
  const queries: Record<string, string[]> = {
    'GET /api/ledger': [`personId=${ids.person}`, `companyId=${ids.company}`, `dealId=${ids.deal}`],
    'GET /api/ledger/months': [`personId=${ids.person}`],
    'GET /api/search': ['q=mar'],
    'GET /api/gaps': [`personId=${ids.person}`],
    'GET /api/merges': [`recordId=${ids.person}`],
    'GET /api/quotes': [`dealId=${ids.deal}`],
    'GET /api/history': [`table=people&id=${ids.person}`],
    'GET /api/people': [
      '',
      'q=smith',
      'tag=florist',
      `list=${ids.list}`,
      'inactive=only',
      'limit=200',
      ...sorts('name', 'jobTitle', 'company', 'standing'),
    ],
    'GET /api/companies': [
      '',
      'q=bakery',
      'limit=200',
      ...sorts('domain', 'industry', 'country', 'employees'),
    ],
    'GET /api/leads': [
      '',
      'status=working',
      `owner=${ids.owner}`,
      'sort=chance',
      'q=bakery',
      ...sorts('title', 'fit', 'warmth', 'created'),
      `sort=chance&owner=${ids.owner}`,
    ],
    'GET /api/deals': [
      '',
      'state=won',
      `owner=${ids.owner}`,
      `company=${ids.company}`,
      'state=all&limit=200',
      'q=bakery',
      ...sorts('title', 'amount', 'expectedClose').map((query) => `${query}&state=open`),
    ],
    'GET /api/pipelines/:id/board': ['', `owner=${ids.owner}`],
    'GET /api/triage': ['limit=10', `list=${ids.list}&limit=10`, 'tag=florist&limit=10'],
    'GET /api/tasks': ['', 'whose=all'],
    'GET /api/round': ['', 'whose=team'],
    'GET /api/changes': ['', `by=${ids.owner}`, `recordId=${ids.person}`],
    'GET /api/cases': ['', 'state=all'],
    'GET /api/projects': ['', 'state=all'],
    'GET /api/calendar': [month, `${month}&who=team`],
  };
  return Object.keys(allRoutes)
    .filter((name) => name.startsWith('GET '))
    .flatMap((name) => {
      const path = name.slice(4);
      const id = path.includes(':') ? paths[path.split('/')[2] ?? ''] : '';
      if (id === undefined) return [];
      return (queries[name] ?? ['']).map((query) => ({
        name: `${path}${query ? ` ${query.replace(/=[0-9a-f-]{36}/g, '=…')}` : ''}`,
        url: `${path.replace(':stageId', ids.stage ?? '').replace(/:\w+/, id)}${query ? `?${query}` : ''}`,
      }));
    });
}

interface Measured {
  p95: number;
  bare: number;
  bytes: number;
  status: number;
}

async function measure(
  { base, bare }: Served,
  cookie: string,
  url: string,
  heard: { take: () => Statement[] },
): Promise<Measured> {
  const ask = async (): Promise<{ ms: number; bytes: number; status: number }> => {
    const began = performance.now();
    const answer = await fetch(`${base}${url}`, { headers: { cookie } });
    const { byteLength: bytes } = await answer.arrayBuffer();
    return { ms: performance.now() - began, bytes, status: answer.status };
  };
  const { status, bytes, ms } = await ask();
  for (let count = 0; count < WARMING && ms < SLOW_MS; count++) await ask();
  const times: number[] = [];
  heard.take();
  await ask();
  const statements = heard.take();
  for (let count = 0; count < (ms < SLOW_MS ? ASKED : 3); count++) times.push((await ask()).ms);
  const floors: number[] = [];
  for (let count = 0; count < (ms < SLOW_MS ? ASKED : 3); count++) {
    const began = performance.now();
    for (const { text, values } of statements) await bare.query(text, values);
    floors.push(performance.now() - began);
  }
  return { p95: quantile(times, 0.95), bare: quantile(floors, 0.95), bytes, status };
}

/** Every GET of the contract on the book, beside the SQL of its own without the program. */
async function main(): Promise<void> {
  const served = await serveBook(6);
  const cookie = await served.signIn(0);
  const heard = listen(served.bare);
  const only = process.argv[2];
  const slow: string[] = [];
  console.log('p95 ms    bare SQL    ratio        kB   question');
  for (const { name, url } of questions(await samples(served.bare))) {
    if (only && !name.includes(only)) continue;
    const { p95, bare, bytes, status } = await measure(served, cookie, url, heard);
    if (status !== 200) {
      console.log(`   answered ${status}: ${name}`);
      continue;
    }
    if (p95 > 80 || bytes > 500_000) slow.push(name);
    console.log(
      `${p95.toFixed(1).padStart(7)} ${bare.toFixed(1).padStart(10)} ${(p95 / bare).toFixed(1).padStart(8)} ${(bytes / 1000).toFixed(0).padStart(9)}   ${name}`,
    );
  }
  console.log(slow.length ? `over 80 ms or 500 kB: ${slow.join('; ')}` : 'each under 80 ms and 500 kB');
  await served.close();
}

await main();
