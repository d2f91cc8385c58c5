import { performance } from 'node:perf_hooks';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type pg from 'pg';
import pgCopy from 'pg-copy-streams';
import { companyKey } from '@emporikon/core/people/companies';
import { migrate } from '@emporikon/server/db/migrate';
import { copyText } from '@emporikon/server/imports/copy';
import { hashPassword } from '@emporikon/server/session/secrets';
import type { connect } from '@emporikon/server/db/connect';
import { pick, randomFrom } from '../crowd/errors';
import { CITIES } from '../crowd/names';
import { crowdOf } from '../crowd/people';
import { fillHistory, type History } from './history';
import { CONTACTS, contactsOf, idFrom, PEOPLE, peopleOf, type Cells, type Made } from './rows';

/** How much is put in, and the seed it comes of. */
export interface Size {
  people: number;
  companies: number;
  deals: number;
  history: History;
  seed: number;
}
export const MILLION: Size = {
  people: 1_000_000,
  companies: 100_000,
  deals: 300_000,
  history: {
    entries: 10_000_000,
    leads: 200_000,
    tasks: 2_000_000,
    waiting: 3000,
    cases: 50_000,
    changes: 1_000_000,
  },
  seed: 20261124,
};
/** So that the crowd fits into memory, it is made in parts. */
const PART = 100_000;
export const REPS = 50;
export const PASSWORD = 'long-bikes-carry';
export const repMail = (at: number): string => `rep${at + 1}@wharfside.example`;

async function copy(client: pg.Client, table: string, columns: string, rows: Iterable<Cells>): Promise<void> {
  const text = function* (): Generator<string> {
    const lines: string[] = [];
    for (const row of rows) {
      lines.push(`${row.map(copyText).join('\t')}\n`);
      if (lines.length === 2000) yield lines.splice(0).join('');
    }
    yield lines.join('');
  };
  await pipeline(Readable.from(text()), client.query(pgCopy.from(`COPY ${table} (${columns}) FROM STDIN`)));
}

/** What of the book is dropped while it is filled and made again afterwards: words and indexes that triggers keep. */
const TABLES = [
  'people',
  'contact_points',
  'companies',
  'deals',
  'leads',
  'find_records',
  'find_words',
  'find_vocabulary',
];

async function withoutUpkeep(client: pg.Client, fill: () => Promise<void>): Promise<void> {
  const { rows: indexes } = await client.query<{ name: string; made: string }>(
    `SELECT i.indexrelid::regclass::text AS name, pg_get_indexdef(i.indexrelid) AS made FROM pg_index i
      WHERE i.indrelid = ANY ($1::regclass[]) AND NOT EXISTS (SELECT 1 FROM pg_constraint c WHERE c.conindid = i.indexrelid)`,
    [TABLES],
  );
  for (const one of indexes) await client.query(`DROP INDEX ${one.name}`);
  for (const table of TABLES) await client.query(`ALTER TABLE ${table} DISABLE TRIGGER ALL`);
  await fill();
  for (const table of TABLES) await client.query(`ALTER TABLE ${table} ENABLE TRIGGER ALL`);
  await client.query("SET maintenance_work_mem = '1GB'");
  const first = indexes.filter(
    (index) => !index.name.startsWith('find_') || index.name === 'find_vocabulary_word',
  );
  for (const one of first) await client.query(one.made);
  for (const [kind, table] of [
    ['p', 'people'],
    ['c', 'companies'],
    ['d', 'deals'],
  ])
    await client.query(`SELECT find_refresh('${kind}', array_agg(id)) FROM ${table}`);
  for (const one of indexes.filter((index) => !first.includes(index))) await client.query(one.made);
  await client.query('SELECT counts_refresh()');
}

/**
 * Fills an empty database with a made-up book: people with firms, families, namesakes and doubles among them, companies
 * and deals, and fifty reps who have worked with some of them.
 * @param said is told how far it is
 */
export async function fillBook(
  sequelize: ReturnType<typeof connect>,
  size: Size,
  said: (text: string) => void,
): Promise<void> {
  const began = performance.now();
  const lap = (text: string): void => said(`${((performance.now() - began) / 1000).toFixed(0)} s  ${text}`);
  await sequelize.query('DROP SCHEMA public CASCADE; CREATE SCHEMA public;');
  await migrate(sequelize);
  const client = (await sequelize.connectionManager.getConnection({ type: 'write' })) as unknown as pg.Client;
  await client.query('SET synchronous_commit = off');
  const random = randomFrom(size.seed);
  const owners = Array.from({ length: REPS }, () => idFrom(random));
  const hash = await hashPassword(PASSWORD);
  await copy(
    client,
    'users',
    'id, email, name, role, time_zone, password_hash, active, created_at',
    owners.map((id, at) => [
      id,
      repMail(at),
      `Rep ${at + 1}`,
      at ? 'rep' : 'admin',
      'UTC',
      hash,
      true,
      '2026-01-05',
    ]),
  );
  const stages = Array.from({ length: 4 }, () => idFrom(random));
  const { rows: pipelines } = await client.query<{ id: string }>('SELECT id FROM pipelines');
  await copy(
    client,
    'stages',
    'id, pipeline_id, name, position, kind, probability, typical_days',
    stages.map((id, at) => [
      id,
      pipelines[0]?.id ?? '',
      ['Heard out', 'Tried', 'Proposal', 'Signed'][at] ?? '',
      at,
      at === 3 ? 'won' : 'open',
      [15, 35, 55, 100][at] ?? 0,
      10,
    ]),
  );
  const made: Made = { firms: new Map(), taken: new Set() };
  const everybody: string[] = [];
  await withoutUpkeep(client, async () => {
    for (let from = 0; from < size.people; from += PART) {
      const { rows } = crowdOf(Math.min(PART, size.people - from), size.seed + from);
      rows.length = Math.min(rows.length, PART, size.people - from);
      for (const row of rows) {
        const key = companyKey(row.company);
        if (!key || made.firms.has(key)) continue;
        const domain = row.email.split('@')[1] ?? '';
        const fits = domain.replace('.example', '').startsWith(key.replace(/ /g, '').slice(0, 6));
        made.firms.set(key, {
          id: idFrom(random),
          name: row.company,
          domain: fits ? domain : '',
          street: row.street,
        });
      }
      const ids = rows.map(() => idFrom(random));
      everybody.push(...ids);
      await client.query('BEGIN');
      await copy(client, 'people', PEOPLE, peopleOf(rows, ids, random, made, owners));
      await copy(client, 'contact_points', CONTACTS, contactsOf(rows, ids, random, made));
      await client.query('COMMIT');
      lap(`${everybody.length} people`);
    }
    const domains = new Set<string>();
    const own = [...made.firms.values()];
    const firms = own.slice(0, size.companies);
    // The rest are branches of those, named after their towns.
    for (let at = 0; firms.length < size.companies; at++) {
      const name = `${own[at % own.length]?.name ?? ''} ${CITIES[Math.floor(at / own.length + at) % CITIES.length] ?? ''}`;
      firms.push({ id: idFrom(random), name, domain: '', street: '' });
    }
    await copy(
      client,
      'companies',
      'id, name, name_key, domain, address, created_at, updated_at',
      firms.map((firm) => {
        const domain = firm.domain && !domains.has(firm.domain) ? firm.domain : null;
        if (domain) domains.add(domain);
        return [
          firm.id,
          firm.name,
          companyKey(firm.name),
          domain,
          firm.street || null,
          '2026-01-05',
          '2026-01-05',
        ];
      }),
    );
    lap(`${firms.length} companies`);
    const deal = (): Cells => {
      const firm = pick(random, firms);
      const title = `${pick(random, ['Eight', 'Two', 'Twelve', 'Three', 'Forty'])} ${pick(random, ['long bikes', 'trailers', 'service plans', 'short bikes', 'boxes'])} for ${firm.name}`;
      return [
        idFrom(random),
        title,
        firm.id,
        pick(random, stages),
        '2026-10-01',
        Math.floor(random() * 4_000_000),
        'EUR',
        35,
        pick(random, owners),
        '2026-09-01',
        '2026-10-01',
      ];
    };
    await copy(
      client,
      'deals',
      'id, title, company_id, stage_id, stage_since, amount_minor, currency, probability, owner_id, created_at, updated_at',
      (function* () {
        for (let at = 0; at < size.deals; at++) yield deal();
      })(),
    );
    lap(`${size.deals} deals`);
  });
  lap('indexes and words');
  await copy(
    client,
    'worked_with',
    'user_id, record_id, times, last_at, score',
    (function* () {
      for (const owner of owners) {
        const mine = new Set(
          Array.from({ length: Math.min(600, everybody.length >> 2) }, () => pick(random, everybody)),
        );
        for (const id of mine) yield [owner, id, 1, '2026-10-20', 691 + random() * 2];
      }
    })(),
  );
  await fillHistory(client, size.history, lap);
  await client.query('VACUUM ANALYZE');
  sequelize.connectionManager.releaseConnection(client as never);
  lap('ready');
}
