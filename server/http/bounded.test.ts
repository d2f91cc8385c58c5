import type { RouteName } from '@emporikon/contract';
import { QueryTypes } from 'sequelize';
import { useHouse } from '../testing/harness';

const { house, pell, ines } = useHouse();

const run = (sql: string): Promise<unknown> => house.sequelize.query(sql);
const ask = <Row extends object>(sql: string): Promise<Row[]> =>
  house.sequelize.query<Row>(sql, { type: QueryTypes.SELECT });
const idsOf = async (sql: string): Promise<string[]> => (await ask<{ id: string }>(sql)).map(({ id }) => id);

const PELL = "(SELECT id FROM users WHERE email LIKE 'pell@%')";
const INES = "(SELECT id FROM users WHERE email LIKE 'ines@%')";
const STAGE = (name: string) => `(SELECT id FROM stages WHERE name = '${name}')`;
const [PEOPLE, DEALS] = [90, 260];
let company = '';
let list = '';

/** Many at the same moment, so that only their ids tell them apart, and moments between whole milliseconds. */
beforeAll(async () => {
  company = (await pell.call('POST /api/companies', { body: { name: 'Reed Mills', domain: null } })).body
    .company.id;
  list = (await pell.call('POST /api/lists', { body: { name: 'Everybody' } })).body.list.id;
  await run(`INSERT INTO people (id, full_name, given_name, family_name, name_key, company_id, inactive_since, tags, created_at, updated_at)
    SELECT gen_random_uuid(), g || ' Reedsmith', g, 'Reedsmith', lower(g) || ' reedsmith', CASE WHEN n % 2 = 0 THEN '${company}'::uuid END,
           CASE WHEN n % 9 = 0 THEN now() END, CASE WHEN n % 3 = 0 THEN ARRAY['miller'] ELSE '{}'::text[] END, now(), now()
      FROM generate_series(1, ${PEOPLE}) n, LATERAL (SELECT (ARRAY['Ann', 'Bo', 'Cas'])[1 + n % 3] AS g) names`);
  await run(`INSERT INTO deals (id, title, company_id, stage_id, stage_since, amount_minor, currency, probability, owner_id, tags, closed_at, created_at, updated_at)
    SELECT gen_random_uuid(), 'Deal ' || n, '${company}', CASE WHEN n % 10 = 0 THEN ${STAGE('Signed')} WHEN n % 3 = 0 THEN ${STAGE('Proposal')} ELSE ${STAGE('Heard out')} END,
           timestamptz '2026-11-01 10:00:00.000123' - (n / 5) * interval '1 hour', CASE WHEN n % 7 > 0 THEN n * 100 END, CASE WHEN n % 4 = 0 THEN 'GBP' ELSE 'EUR' END,
           n % 100, CASE WHEN n % 2 = 0 THEN ${PELL} ELSE ${INES} END, CASE WHEN n % 6 = 0 THEN ARRAY['mill'] ELSE '{}'::text[] END, CASE WHEN n % 10 = 0 THEN now() END, now(), now()
      FROM generate_series(1, ${DEALS}) n`);
  await run(`INSERT INTO leads (id, title, person_id, status, status_since, source, owner_id, drop_reason, created_at, updated_at)
    SELECT gen_random_uuid(), 'Lead ' || row_number() OVER (), p.id, (ARRAY['new', 'working', 'qualified', 'dropped'])[1 + row_number() OVER () % 4], now(), 'call', ${PELL}, 'none',
           timestamptz '2026-11-02 10:00:00.000321' - (row_number() OVER () / 4) * interval '1 minute', now() FROM people p WHERE full_name LIKE '%Reedsmith'`);
  await run(
    "INSERT INTO lead_scores (lead_id, fit, warmth, completeness, chance, scored_at) SELECT id, 1, 1, 1, 0.125 * (abs(hashtext(title)) % 7), now() FROM leads WHERE title NOT LIKE '%5'",
  );
  await run(`INSERT INTO ledger_entries (id, at, side, kind, headline, created_at)
    SELECT gen_random_uuid(), timestamptz '2026-10-01 09:00:00.000777' + (n / 3) * interval '1 minute', 'ours', (ARRAY['call', 'mail'])[1 + n % 2], 'Said ' || n, now() FROM generate_series(1, 60) n`);
  await run(`INSERT INTO ledger_links (id, entry_id, person_id)
    SELECT gen_random_uuid(), e.id, p.id FROM ledger_entries e, LATERAL (SELECT id FROM people WHERE company_id = '${company}' ORDER BY md5(e.headline || id::text) LIMIT 2) p`);
  await run(`INSERT INTO tasks (id, title, kind, due_at, all_day, assignee_id, created_at)
    SELECT gen_random_uuid(), 'Move ' || n, 'task', timestamptz '2026-11-01 09:00:00.000555' + (n / 4) * interval '1 hour', false, ${PELL}, now() FROM generate_series(1, 40) n`);
  await run(
    `INSERT INTO list_members (id, list_id, person_id, created_at) SELECT gen_random_uuid(), '${list}', id, now() FROM people WHERE full_name LIKE '%Reedsmith'`,
  );
});

/** A list read page by page to its end. */
async function walk(
  name: RouteName,
  query: Record<string, string> = {},
  params: Record<string, string> = {},
): Promise<string[]> {
  const seen: string[] = [];
  let cursor: string | null = null;
  do {
    const { status, body } = await pell.call(name, {
      params,
      query: { ...query, limit: '7', ...(cursor ? { cursor } : {}) },
    });
    expect([name, status]).toEqual([name, 200]);
    const page = body as unknown as { items: { id: string }[]; next: string | null };
    expect(page.items.length).toBeLessThanOrEqual(7);
    seen.push(...page.items.map(({ id }) => id));
    cursor = page.next;
  } while (cursor);
  expect([name, new Set(seen).size]).toEqual([name, seen.length]);
  return seen;
}
const whole = async (name: RouteName, query: Record<string, string> = {}): Promise<string[]> =>
  (
    (await pell.call(name, { query: { ...query, limit: '200' } })).body as unknown as {
      items: { id: string }[];
    }
  ).items.map(({ id }) => id);

describe('a list read page by page', () => {
  it('of deals gives each once, in one order, whatever it is narrowed by', async () => {
    for (const query of [
      {},
      { state: 'open' },
      { state: 'won' },
      { tag: 'mill' },
      { team: 'none' },
    ] as Record<string, string>[]) {
      const seen = await walk('GET /api/deals', query);
      expect(seen.slice(0, 200)).toEqual(await whole('GET /api/deals', query));
    }
    expect(await walk('GET /api/deals')).toEqual(
      await idsOf('SELECT id FROM deals ORDER BY stage_since DESC, id DESC'),
    );
    const [stage = ''] = await idsOf("SELECT id FROM stages WHERE name = 'Proposal'");
    expect(await walk('GET /api/deals', { stage })).toEqual(
      await idsOf(`SELECT id FROM deals WHERE stage_id = '${stage}' ORDER BY stage_since DESC, id DESC`),
    );
  });

  it('of leads gives each once, by status and by chance', async () => {
    const everyLead = await idsOf('SELECT id FROM leads ORDER BY id');
    for (const sort of ['status', 'chance']) {
      const seen = await walk('GET /api/leads', { sort });
      expect([...seen].sort()).toEqual(everyLead);
      expect(seen).toEqual(await whole('GET /api/leads', { sort }));
    }
    const byChance = await walk('GET /api/leads', { sort: 'chance' });
    const open = await idsOf(
      "SELECT l.id FROM leads l JOIN lead_scores s ON s.lead_id = l.id WHERE status <> 'dropped' ORDER BY chance DESC, l.id DESC",
    );
    expect(byChance.slice(0, open.length)).toEqual(open);
    expect(await walk('GET /api/leads', { sort: 'chance', status: 'qualified' })).toHaveLength(
      (await idsOf("SELECT id FROM leads WHERE status = 'qualified'")).length,
    );
  });

  it('of people by a word that many have is in the order of names, without the inactive', async () => {
    const order = "WHERE full_name LIKE '%Reedsmith' AND inactive_since IS NULL";
    expect(await walk('GET /api/people', { q: 'reeds' })).toEqual(
      await idsOf(`SELECT id FROM people ${order} ORDER BY full_name, id`),
    );
    expect(await walk('GET /api/people', { q: 'smith bo' })).toEqual(
      await idsOf(`SELECT id FROM people ${order} AND given_name = 'Bo' ORDER BY full_name, id`),
    );
    expect(await walk('GET /api/people', { q: 'reedsmith', inactive: 'only' })).toEqual(
      await idsOf(
        "SELECT id FROM people WHERE full_name LIKE '%Reedsmith' AND inactive_since IS NOT NULL ORDER BY full_name, id",
      ),
    );
    expect(await walk('GET /api/people', { q: 'reedsmith nobody' })).toEqual([]);
    // A name that is changed is found under its new one, in its new place.
    const [first = ''] = await walk('GET /api/people', { q: 'reeds' });
    const { body } = await pell.call('GET /api/people/:id', { params: { id: first } });
    await pell.call('PATCH /api/people/:id', {
      params: { id: first },
      body: { version: body.version, fullName: 'Zoe Reedsmith' },
    });
    expect((await walk('GET /api/people', { q: 'reeds' })).at(-1)).toBe(first);
  });

  it('of what was said with a company gives each entry once, though several of its people were there', async () => {
    const said = `SELECT DISTINCT e.id, e.at FROM ledger_entries e JOIN ledger_links k ON k.entry_id = e.id JOIN people p ON p.id = k.person_id WHERE p.company_id = '${company}'`;
    expect(await walk('GET /api/ledger', { companyId: company })).toEqual(
      await idsOf(`SELECT id FROM (${said}) x ORDER BY at DESC, id DESC`),
    );
    expect(await walk('GET /api/ledger', { companyId: company, kind: 'mail' })).toEqual(
      await idsOf(`SELECT id FROM (${said} AND e.kind = 'mail') x ORDER BY at DESC, id DESC`),
    );
    // An entry that is dated otherwise moves to its place.
    const [newest = ''] = await walk('GET /api/ledger', { companyId: company });
    await run(`UPDATE ledger_entries SET at = '2020-01-01' WHERE id = '${newest}'`);
    expect((await walk('GET /api/ledger', { companyId: company })).at(-1)).toBe(newest);
  });

  it('of next moves gives each once and says how many there are', async () => {
    expect(await walk('GET /api/tasks')).toHaveLength(40);
    expect((await pell.call('GET /api/tasks', { query: { limit: '5' } })).body.total).toBe(40);
    expect((await ines.call('GET /api/tasks')).body).toMatchObject({ items: [], total: 0 });
  });

  it('refuses a cursor that is not one of ours', async () => {
    for (const name of [
      'GET /api/deals',
      'GET /api/leads',
      'GET /api/people',
      'GET /api/tasks',
      'GET /api/outbox',
    ] as const)
      expect([name, (await pell.call(name, { query: { cursor: 'WyJhIiwiYiJd.AAAA' } })).status]).toEqual([
        name,
        422,
      ]);
  });
});

interface Summed {
  stage: string;
  count: number;
  plain: number;
}
describe('the board', () => {
  const board = async (query: Record<string, string> = {}) => {
    const [pipeline] = (await pell.call('GET /api/pipelines')).body.items;
    const { body } = await pell.call('GET /api/pipelines/:id/board', {
      params: { id: pipeline?.id ?? '' },
      query,
    });
    return body;
  };
  const summed = async (where: string): Promise<Summed[]> =>
    ask(`SELECT s.name AS stage, count(*)::int AS count, coalesce(sum(amount_minor) FILTER (WHERE currency = 'EUR'), 0)::int AS plain
           FROM deals d JOIN stages s ON s.id = d.stage_id WHERE ${where} GROUP BY s.name ORDER BY 1`);
  const shown = async (query: Record<string, string> = {}): Promise<Summed[]> =>
    (await board(query)).stages
      .filter(({ count }) => count)
      .map(({ name, count, sums }) => ({
        stage: name,
        count,
        plain: sums.find(({ currency }) => currency === 'EUR')?.plain ?? 0,
      }))
      .sort((a, b) => (a.stage < b.stage ? -1 : 1));

  it('has the counts and sums that adding up gives, kept or not', async () => {
    const [owner = ''] = await idsOf(`SELECT id FROM users WHERE id = ${PELL}`);
    for (const [query, where] of [
      [{}, 'true'],
      [{ owner }, `d.owner_id = '${owner}'`],
      [{ tag: 'mill' }, "d.tags @> '{mill}'"],
      [{ company }, `d.company_id = '${company}'`],
    ] as [Record<string, string>, string][])
      expect([query, await shown(query)]).toEqual([query, await summed(where)]);
  });

  it('keeps them right while deals are moved, changed and removed, and after they are put together', async () => {
    await run(
      `UPDATE deals SET stage_id = ${STAGE('Proposal')} WHERE title LIKE 'Deal 1%' AND closed_at IS NULL`,
    );
    await run(
      'UPDATE deals SET amount_minor = coalesce(amount_minor, 0) + 11, owner_id = ' +
        INES +
        " WHERE title LIKE 'Deal 2%'",
    );
    await run("DELETE FROM deals WHERE title = 'Deal 31'");
    expect(await shown()).toEqual(await summed('true'));
    const before = [await shown(), (await board()).tags, (await pell.call('GET /api/lists')).body.tags];
    const rows = await house.count('deal_sums');
    await run("SELECT graphile_worker.add_job('keepSums'), graphile_worker.add_job('keepTags')");
    await house.work();
    expect(await house.count('deal_sums')).toBeLessThan(rows);
    expect([await shown(), (await board()).tags, (await pell.call('GET /api/lists')).body.tags]).toEqual(
      before,
    );
  });

  it('brings the first cards of each lane, and the rest as they are asked for, in one order', async () => {
    const { pipeline, stages, deals } = await board();
    const lane = stages.find(({ name }) => name === 'Heard out');
    const first = deals.filter(({ stageId }) => stageId === lane?.id).map(({ id }) => id);
    expect([first.length, lane?.next]).toEqual([60, expect.any(String)]);
    const rest: string[] = [];
    for (let cursor = lane?.next ?? null; cursor;) {
      const { body } = await pell.call('GET /api/pipelines/:id/board/:stageId', {
        params: { id: pipeline.id, stageId: lane?.id ?? '' },
        query: { cursor, limit: '40' },
      });
      rest.push(...body.items.map(({ id }) => id));
      cursor = body.next;
    }
    expect([...first, ...rest]).toEqual(
      await idsOf(
        `SELECT id FROM deals WHERE stage_id = '${lane?.id ?? ''}' ORDER BY stage_since DESC, id DESC`,
      ),
    );
  });

  it('narrows the further cards as it narrows the first', async () => {
    const { pipeline, stages } = await board();
    const stageId = stages.find(({ name }) => name === 'Proposal')?.id ?? '';
    const [owner = ''] = await idsOf(`SELECT id FROM users WHERE id = ${PELL}`);
    for (const [query, where] of [
      [{ owner }, `owner_id = '${owner}'`],
      [{ tag: 'mill' }, "tags @> '{mill}'"],
      [{ company }, 'true'],
      [{ team: 'none' }, 'false'],
      [{ from: '2030-01-01', until: '2030-02-01' }, 'false'],
    ] as [Record<string, string>, string][])
      expect([
        query,
        await walk('GET /api/pipelines/:id/board/:stageId', query, { id: pipeline.id, stageId }),
      ]).toEqual([
        query,
        await idsOf(
          `SELECT id FROM deals WHERE stage_id = '${stageId}' AND ${where} ORDER BY stage_since DESC, id DESC`,
        ),
      ]);
    const [elsewhere = ''] = await idsOf('SELECT gen_random_uuid() AS id');
    const gone = await pell.call('GET /api/pipelines/:id/board/:stageId', {
      params: { id: pipeline.id, stageId: elsewhere },
    });
    expect(gone.status).toBe(404);
  });
});

it('counts stop where they would grow, and those of tags are kept', async () => {
  const { items, tags } = (await pell.call('GET /api/lists')).body;
  expect(items.find(({ id }) => id === list)?.people).toBe(PEOPLE);
  expect(tags).toContainEqual({ tag: 'miller', people: PEOPLE / 3 });
  await run(
    `INSERT INTO people (id, full_name, name_key, created_at, updated_at) SELECT gen_random_uuid(), 'Many ' || n, 'many', now(), now() FROM generate_series(1, 1100) n`,
  );
  await run(
    `INSERT INTO list_members (id, list_id, person_id, created_at) SELECT gen_random_uuid(), '${list}', id, now() FROM people WHERE name_key = 'many'`,
  );
  expect((await pell.call('GET /api/lists')).body.items.find(({ id }) => id === list)?.people).toBe(1001);
});
