import { performance } from 'node:perf_hooks';
import type { FitRule } from '@emporikon/core/qualifying/fit';
import { trainWinModel, type Closed } from '@emporikon/core/qualifying/winChance';
import { runInTransaction } from '@emporikon/server/commands/context';
import { scoreLeads } from '@emporikon/server/qualifying/score';
import { openHouse } from './house';
import { sized } from './size';

const LEADS = sized(1_000_000, 2000);

const SHEET: FitRule[] = (
  [
    ['industry', 'is', 'Bakeries, Couriers', 30],
    ['employees', 'at least', '5', 15],
    ['country', 'is not', 'US', 10],
    ['jobTitle', 'contains', 'head, owner', 15],
    ['technologies', 'is', 'route planner', 5],
  ] as const
).map(([field, condition, value, points], at) => ({ id: String(at), field, condition, value, points }));

/** Closed leads of which a model with all its features can be learnt. */
const closed: Closed[] = Array.from({ length: 400 }, (_, at) => ({
  facts: {
    fit: (at * 37) % 100,
    warmth: (at * 53) % 100,
    completeness: (at * 17) % 100,
    daysOpen: at % 30,
    answered: (at % 4) / 4,
    responseHours: at % 50,
    hasAmount: at % 3 === 0,
    source: at % 2 ? 'email' : 'form',
    stage: '',
  },
  won: (at * 37) % 100 > 40 !== (at % 7 === 0),
  at: new Date(Date.UTC(2026, 0, 1) + at * 3_600_000).toISOString(),
}));

/** Scores a million leads, with what was said by each, in the database. The floor is writing as many bare rows there. */
async function main(): Promise<void> {
  const { sequelize, tools, user } = await openHouse();
  const run = async (sql: string): Promise<number> => {
    const began = performance.now();
    await sequelize.query(sql);
    return (performance.now() - began) / 1000;
  };
  const filled = await run(`
    SET session_replication_role = replica;
    INSERT INTO companies (id, name, name_key, industry, employees, country, technologies, created_at, updated_at)
      SELECT gen_random_uuid(), 'Firm ' || n, 'firm ' || n, (ARRAY['Bakeries','Couriers','Florists','Shipping'])[1 + n % 4], n % 300,
             (ARRAY['GB','PT','US','NL'])[1 + n % 4], CASE WHEN n % 3 = 0 THEN ARRAY['web shop','route planner'] ELSE '{}' END, now(), now()
        FROM generate_series(1, 100000) n;
    CREATE TEMP TABLE firm AS SELECT id, row_number() OVER () - 1 AS n FROM companies;
    INSERT INTO people (id, full_name, name_key, job_title, company_id, standing, created_at, updated_at)
      SELECT gen_random_uuid(), 'Ada ' || g.n, 'ada ' || g.n, (ARRAY['Owner','Head of Operations','Clerk'])[1 + g.n % 3], f.id, 'prospect', now(), now()
        FROM generate_series(1, ${LEADS}) g (n) JOIN firm f ON f.n = g.n % 100000;
    INSERT INTO leads (id, title, person_id, company_id, status, status_since, source, owner_id, created_at, updated_at)
      SELECT gen_random_uuid(), 'Lead', id, company_id, 'new', now() - interval '9 days', CASE WHEN random() < 0.5 THEN 'email' ELSE 'form' END, '${user.id}', now() - interval '9 days', now() FROM people;
    CREATE TEMP TABLE said AS SELECT gen_random_uuid() AS entry_id, person_id, id AS lead_id, random() * 60 AS days FROM leads;
    INSERT INTO ledger_entries (id, at, side, kind, headline, created_at) SELECT entry_id, now() - days * interval '1 day', 'theirs', 'mail', 'Wrote', now() FROM said;
    INSERT INTO ledger_links (id, entry_id, person_id, at) SELECT gen_random_uuid(), entry_id, person_id, now() - days * interval '1 day' FROM said;
    INSERT INTO ledger_links (id, entry_id, lead_id, at) SELECT gen_random_uuid(), entry_id, lead_id, now() - days * interval '1 day' FROM said;
    INSERT INTO contact_points (id, person_id, kind, value, normalized, created_at) SELECT gen_random_uuid(), id, 'email', 'x', id || '@x.example', now() FROM people;
    SET session_replication_role = DEFAULT;
    ANALYZE`);
  process.stdout.write(`filled with ${LEADS} leads in ${filled.toFixed(0)} s\n`);
  const floor = await run(`
    CREATE TABLE bare (LIKE lead_scores INCLUDING ALL);
    INSERT INTO bare SELECT id, 50, 50, 50, 0.5, now() FROM leads`);
  const measure = { fit: SHEET, warmth: { halfLifeDays: 14, points: {} }, model: trainWinModel(closed) };
  const began = performance.now();
  await runInTransaction(tools, null, (context) => scoreLeads(context, undefined, {}, measure));
  const seconds = (performance.now() - began) / 1000;
  const [rows] = await sequelize.query(
    'SELECT count(*)::int AS n, min(fit), max(fit), avg(chance)::float8 AS chance FROM lead_scores',
  );
  process.stdout.write(
    `${measure.model.kind} model, ${JSON.stringify(rows[0])}\nscored in ${seconds.toFixed(1)} s, ${Math.round(LEADS / seconds)} a second; writing bare rows ${floor.toFixed(1)} s; ratio ${(seconds / floor).toFixed(1)}\n`,
  );
  await sequelize.close();
}

await main();
