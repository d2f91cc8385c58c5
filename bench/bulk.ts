import { performance } from 'node:perf_hooks';
import { actorOf } from '@emporikon/server/session/identify';
import { runBulk } from '@emporikon/server/bulk/run';
import { prepareBulk } from '@emporikon/server/bulk/prepare';
import { undoBulk } from '@emporikon/server/bulk/undo';
import { runInTransaction } from '@emporikon/server/commands/context';
import { BulkChangeRow } from '@emporikon/server/db/models/bulk';
import { User } from '@emporikon/server/db/models/users';
import { openHouse } from './house';
import { sized } from './size';

const PEOPLE = sized(100_000, 1500);
const GOAL_S = 60;

/** People with a company, tags, an owner and an entry in their ledger each. */
const FILL = `
WITH firms AS (
  INSERT INTO companies (id, name, name_key, created_at, updated_at)
  SELECT gen_random_uuid(), 'Firm ' || n, 'firm ' || n, now(), now() FROM generate_series(1, 9000) n RETURNING id),
numbered AS (SELECT id, row_number() OVER () AS n FROM firms),
made AS (
  INSERT INTO people (id, full_name, given_name, family_name, name_key, job_title, standing, company_id, owner_id, tags, created_at, updated_at)
  SELECT gen_random_uuid(), 'Alba Arkwright ' || n, 'Alba', 'Arkwright ' || n, 'alba arkwright ' || n, 'Buyer', 'prospect',
         (SELECT id FROM numbered WHERE numbered.n = 1 + g.n % 9000), $user::uuid, ARRAY['fair'], now(), now()
    FROM generate_series(1, $people::int) AS g (n) RETURNING id),
entries AS (
  INSERT INTO ledger_entries (id, at, side, kind, headline, body, actor_id, created_at)
  SELECT gen_random_uuid(), now() - interval '40 days', 'ours', 'call', 'Called about spring', '', $user::uuid, now() FROM made RETURNING id)
INSERT INTO ledger_links (id, entry_id, person_id)
SELECT gen_random_uuid(), e.id, m.id FROM (SELECT id, row_number() OVER () AS n FROM entries) e JOIN (SELECT id, row_number() OVER () AS n FROM made) m USING (n)`;

/** A hundred thousand people given to a colleague and tagged, and taken back, beside one UPDATE of the same columns. */
async function main(): Promise<void> {
  const { sequelize, tools, user } = await openHouse();
  const other = await User.create({
    ...(user.get() as User),
    id: crypto.randomUUID(),
    name: 'Other',
    email: 'other@wharfside.example',
  });
  await sequelize.query(FILL, { bind: { user: user.id, people: PEOPLE } });
  await sequelize.query('ANALYZE');
  const actor = await actorOf(user);
  const timed = async <Result>(work: () => Promise<Result>): Promise<[Result, number]> => {
    const began = performance.now();
    const result = await work();
    return [result, (performance.now() - began) / 1000];
  };
  const [prepared, previewed] = await timed(() =>
    runInTransaction(tools, actor, (context) =>
      prepareBulk(context, {
        kind: 'person',
        on: { query: { kind: 'person' } },
        steps: [
          { do: 'owner', to: other.id },
          { do: 'tag', tags: ['handed over'] },
        ],
      }),
    ),
  );
  const { id } = prepared.change;
  const turn = (state: 'running' | 'undoing') => BulkChangeRow.update({ state }, { where: { id } });
  await turn('running');
  const [, ran] = await timed(() => runBulk(tools, id, actor));
  const [changed] = await sequelize.query(
    "SELECT count(*)::int AS n FROM people WHERE owner_id = $other AND tags @> ARRAY['handed over']",
    { bind: { other: other.id } },
  );
  await turn('undoing');
  const [, undone] = await timed(() => undoBulk(tools, id, actor));
  const [, floor] = await timed(() =>
    sequelize.query(
      "UPDATE people SET owner_id = $other, tags = tags || ARRAY['handed over'], version = version + 1, updated_at = now()",
      { bind: { other: other.id } },
    ),
  );
  const per = (seconds: number): string => `${Math.round(PEOPLE / seconds).toLocaleString('en-GB')}/s`;
  console.log(
    `${PEOPLE.toLocaleString('en-GB')} people, each with a company and a ledger: ${JSON.stringify(changed)} changed`,
  );
  console.log(`preview            ${previewed.toFixed(1)} s`);
  console.log(`changed            ${ran.toFixed(1)} s, ${per(ran)} (goal for 100,000: ${GOAL_S} s)`);
  console.log(`taken back         ${undone.toFixed(1)} s, ${per(undone)}`);
  console.log(`floor: one UPDATE  ${floor.toFixed(1)} s; ratio ${(ran / floor).toFixed(1)}`);
  await sequelize.close();
}

await main();
