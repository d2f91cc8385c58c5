import { performance } from 'node:perf_hooks';
import { runInTransaction, type Actor } from '@emporikon/server/commands/context';
import { Company, Person } from '@emporikon/server/db/models/people';
import { runJob, startRun } from '@emporikon/server/lookups/runs';
import { openLookUps } from '@emporikon/server/outside/lookups/open';
import { KEYS, openLookUpSources } from '@emporikon/standins/look-ups/sources';
import { openHouse } from './house';
import { sized } from './size';

const LEADS = sized(1000, 10);

/** Looks up a thousand people by name and domain at the sources' own rates. The floor is what those rates allow. */
async function main(): Promise<void> {
  const site = await openLookUpSources('127.0.0.1', 0);
  const at = (name: keyof typeof KEYS) => ({ url: `http://127.0.0.1:${site.port}/${name}`, key: KEYS[name] });
  const lookUps = openLookUps({ register: at('register'), finder: at('finder'), directory: at('directory') });
  const { sequelize, tools: bare, user } = await openHouse();
  const tools = { ...bare, outside: { ...bare.outside, lookUps } };
  const now = new Date();
  const letters = (n: number): string =>
    String(n).replace(/\d/g, (digit) => 'abcdefghij'.charAt(Number(digit)));
  const rows = Array.from({ length: LEADS }, (_, n) => ({
    name: letters(n),
    companyId: crypto.randomUUID(),
    id: crypto.randomUUID(),
  }));
  await Company.bulkCreate(
    rows.map(({ name, companyId }) => ({
      id: companyId,
      name: `Firm ${name}`,
      nameKey: `firm ${name}`,
      domain: `firm${name}.example`,
      url: null,
      phone: null,
      address: null,
      ownerId: null,
      createdAt: now,
      updatedAt: now,
    })),
  );
  await Person.bulkCreate(
    rows.map(({ name, companyId, id }) => ({
      id,
      fullName: `Ada ${name}`,
      givenName: 'Ada',
      familyName: name,
      nameKey: `ada ${name}`,
      jobTitle: null,
      address: null,
      timeZone: null,
      companyId,
      standing: 'prospect' as const,
      ownerId: null,
      createdAt: now,
      updatedAt: now,
    })),
  );
  await sequelize.query('UPDATE look_up_rules SET allowance = 100000000');
  const actor: Actor = { id: user.id, name: user.name, email: user.email, role: user.role, timeZone: 'UTC' };
  const { id } = await runInTransaction(tools, actor, (context) =>
    startRun(context, { people: rows.map((row) => row.id), companies: [], leads: [] }),
  );
  const began = performance.now();
  await runJob.run(tools, { id });
  const seconds = (performance.now() - began) / 1000;
  const [counts] = await sequelize.query(
    "SELECT source, count(*)::int AS asked, sum(tries)::int AS tries, count(*) FILTER (WHERE state = 'failed')::int AS failed, sum(price)::int AS spent FROM look_ups GROUP BY source ORDER BY source",
  );
  const [run] = await sequelize.query('SELECT done, filled, suggested FROM look_up_runs');
  const asked = counts as { source: string; asked: number; tries: number; failed: number; spent: number }[];
  const floor = Math.max(
    ...asked.map((one) => one.tries / (lookUps.find((source) => source.key === one.source)?.perSecond ?? 1)),
  );
  for (const one of asked)
    process.stdout.write(
      `${one.source}: ${one.asked} questions, ${one.tries} tries, ${one.failed} failed, ${(one.spent / 100).toFixed(2)} EUR\n`,
    );
  process.stdout.write(
    `${LEADS} leads in ${seconds.toFixed(1)} s; the slowest source's own rate allows ${floor.toFixed(1)} s; ratio ${(seconds / floor).toFixed(2)}\n${JSON.stringify(run[0])}\n`,
  );
  await sequelize.close();
  await site.stop();
}

await main();
