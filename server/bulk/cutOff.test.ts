import type { BulkChange } from '@emporikon/contract/bulk';
import { QueryTypes } from 'sequelize';
import { breakConnections, CUT, spread, workUntil, type Breaker } from '../testing/faults';
import { useHouse } from '../testing/harness';

const { house, pell } = useHouse();
let breaker: Breaker;
beforeAll(() => {
  breaker = breakConnections();
  house.expectFailure(CUT);
});
afterAll(() => breaker.restore());

/** So many that each lane takes two chunks; and so many that there is time to pause in between. */
const [PEOPLE, MANY] = [2100, 8000];

async function prepare(round: string, count = PEOPLE): Promise<string> {
  await house.sequelize.query(
    `INSERT INTO people (id, full_name, given_name, family_name, name_key, standing, owner_id, created_at, updated_at)
     SELECT gen_random_uuid(), $round || ' ' || n, '', '', lower($round) || n, 'stranger', NULL, now(), now() FROM generate_series(1, ${count}) n`,
    { bind: { round } },
  );
  const filter = { field: 'fullName', op: 'startsWith', value: `${round} ` };
  const { body } = await pell.call('POST /api/bulk-changes', {
    body: {
      kind: 'person',
      on: { query: { kind: 'person', filter } },
      steps: [
        { do: 'standing', to: 'prospect' },
        { do: 'tag', tags: ['cut'] },
      ],
    },
  });
  expect(body.preview.change).toBe(count);
  return body.change.id;
}
const get = async (id: string): Promise<BulkChange> =>
  (await pell.call('GET /api/bulk-changes/:id', { params: { id } })).body;
const start = (id: string) => pell.call('POST /api/bulk-changes/:id/start', { params: { id } });
const undo = (id: string) => pell.call('POST /api/bulk-changes/:id/undo', { params: { id } });

/** What the change left in the records, the ledgers and the history. */
async function left(round: string, id: string) {
  const [row] = await house.sequelize.query<Record<string, number>>(
    `SELECT count(*) FILTER (WHERE p.standing = 'prospect' AND p.tags = ARRAY['cut'])::int AS changed, max(p.version) AS version,
            (SELECT count(*)::int FROM ledger_links k JOIN people q ON q.id = k.person_id WHERE q.full_name LIKE $names) AS lines,
            (SELECT count(*)::int FROM bulk_rows b WHERE b.bulk_id = $id AND b.outcome = 'changed') AS rows,
            (SELECT count(DISTINCT c ->> 'id')::int FROM events e, jsonb_array_elements(e.changes) c
              WHERE e.command = 'change many' AND c -> 'after' ->> 'fullName' LIKE $names) AS told
       FROM people p WHERE p.full_name LIKE $names`,
    { bind: { names: `${round} %`, id }, type: QueryTypes.SELECT },
  );
  const { state, done, counts } = await get(id);
  return { ...row, state, done, counts };
}

it('each record is changed once and taken back once, whichever statement is cut', async () => {
  const first = await prepare('Whole');
  await start(first);
  breaker.arm(Infinity);
  await house.work();
  const statements = breaker.counted();
  const whole = await left('Whole', first);
  expect(whole).toMatchObject({ changed: PEOPLE, version: 2, lines: PEOPLE, rows: PEOPLE, told: PEOPLE });
  await undo(first);
  breaker.arm(Infinity);
  await house.work();
  const undoing = breaker.counted();
  const back = await left('Whole', first);
  expect(back).toMatchObject({ changed: 0, version: 3, lines: 0, rows: 0, state: 'undone', done: 0 });
  for (const at of spread(statements, 4)) {
    const round = `Cut${at}x`;
    const id = await prepare(round);
    await start(id);
    breaker.arm(at);
    await workUntil(house, breaker, async () => (await get(id)).state === 'done');
    expect([at, await left(round, id)]).toEqual([at, whole]);
    await undo(id);
    breaker.arm(Math.min(at, undoing));
    await workUntil(house, breaker, async () => (await get(id)).state === 'undone');
    expect([at, await left(round, id)]).toEqual([at, back]);
  }
}, 120_000);

it('stops where it is paused, goes on from there, and what was done until then can be taken back', async () => {
  const id = await prepare('Paused', MANY);
  await start(id);
  // The first chunk is over as soon as some are done; that is when it is paused.
  const working = house.work();
  while ((await get(id)).done === 0) await new Promise((resolve) => setTimeout(resolve, 5));
  await pell.call('POST /api/bulk-changes/:id/pause', { params: { id } });
  await working;
  const paused = await get(id);
  expect(paused.state).toBe('paused');
  expect(paused.done).toBeLessThan(MANY);
  await start(id);
  await house.work();
  expect(await get(id)).toMatchObject({ state: 'done', done: MANY });
});
