import { KEEPING_KINDS } from '@emporikon/contract/privacy';
import { KeepingTimeRow } from '../db/models/privacy';
import { mail, useHouse } from '../testing/harness';
import { saying } from '../testing/saying';
import { keepTimesJob } from './keeping';

const { house, pell, ines, mara } = useHouse();
const { person, enter } = saying(pell);
const NOW = new Date('2026-11-25T09:00:00Z');
/** Long before and shortly before the end of a year's keeping time. */
const [LONG_AGO, LATELY] = ['2025-03-02T10:00:00Z', '2026-02-02T10:00:00Z'];

beforeEach(() => {
  house.tools.now = () => NOW;
});
const at = async <Result>(time: string, run: () => Promise<Result>): Promise<Result> => {
  house.tools.now = () => new Date(time);
  const result = await run();
  house.tools.now = () => NOW;
  return result;
};
const preview = (kind: string, months = 12, by = mara) =>
  by.call('GET /api/keeping-times/preview', { query: { kind, months: String(months) } });
const set = async (kind: string, months: number | null, by = ines) => {
  const { items } = (await pell.call('GET /api/keeping-times')).body;
  const version = items.find((item) => item.kind === kind)?.version ?? 1;
  return by.call('PATCH /api/keeping-times', { body: { kind, version, months } });
};
const night = async (): Promise<void> => {
  await keepTimesJob.run(house.tools, {});
  await house.work();
};
const namesLeft = async (): Promise<string[]> => {
  const [rows] = await house.sequelize.query(
    'SELECT full_name FROM people WHERE erased_at IS NULL ORDER BY 1',
  );
  return (rows as { full_name: string }[]).map(({ full_name }) => full_name);
};

beforeAll(async () => {
  await house.sequelize.query("UPDATE users SET role = 'admin' WHERE email = 'ines@wharfside.example'");
});

it('nothing has a keeping time until an admin sets one, and whoever may not is refused', async () => {
  expect((await pell.call('GET /api/keeping-times')).body.items.map(({ months }) => months)).toEqual(
    KEEPING_KINDS.map(() => null),
  );
  expect((await set('quiet', 12, mara)).status).toBe(403);
  expect((await preview('quiet', 12, pell)).status).toBe(403);
  expect((await set('quiet', 0)).status).toBe(422);
});

it('strangers nobody spoke to for so long go; whoever is a customer, has a task, a lead or a deal, or was in touch stays', async () => {
  const made = await at(LONG_AGO, async () => ({
    gone: await person('Ada Gone'),
    customer: await person('Ben Customer'),
    task: await person('Cai Task'),
    lead: await person('Dot Lead'),
    deal: await person('Eva Deal'),
    spoken: await person('Fay Spoken'),
    quiet: await person('Gus Quiet'),
  }));
  await at(LATELY, () => person('Hal Lately'));
  await house.sequelize.query(`UPDATE people SET standing = 'customer' WHERE id = '${made.customer}'`);
  await pell.call('POST /api/tasks', { body: { title: 'Call', dueAt: LATELY, personId: made.task } });
  await pell.call('POST /api/leads', { body: { title: 'Bikes', personId: made.lead } });
  await pell.call('POST /api/deals', { body: { title: 'Bikes', personId: made.deal } });
  const call = { kind: 'call', side: 'theirs', headline: 'Rang' };
  await enter(pell, { ...call, at: LATELY }, { personId: made.spoken });
  await enter(pell, { ...call, at: LONG_AGO }, { personId: made.quiet });
  await house.work();
  const strangers = (await preview('strangers')).body;
  expect([strangers.count, strangers.samples.map(({ name }) => name)]).toEqual([1, ['Ada Gone']]);
  const quiet = (await preview('quiet')).body;
  expect([quiet.count, quiet.samples[0]?.name, quiet.oldest]).toEqual([
    1,
    'Gus Quiet',
    '2025-03-02T10:00:00.000Z',
  ]);
  // Without a keeping time nothing goes, whatever its age.
  await night();
  expect(await namesLeft()).toHaveLength(8);
  await set('strangers', 12);
  await night();
  expect(await namesLeft()).not.toContain('Ada Gone');
  await set('quiet', 12);
  await night();
  expect(await namesLeft()).toEqual([
    'Ben Customer',
    'Cai Task',
    'Dot Lead',
    'Eva Deal',
    'Fay Spoken',
    'Hal Lately',
  ]);
  const [last] = (await mara.call('GET /api/erasures')).body.items;
  expect([last?.by, last?.reason]).toEqual([null, 'time']);
});

it('a preview counts what its reader cannot see and names only what they can', async () => {
  const hidden = await at(LONG_AGO, () => person('Ivy Hidden'));
  await pell.call('PUT /api/visibility/:kind/:id', {
    params: { kind: 'people', id: hidden },
    body: { visibility: 'owner' },
  });
  const seen = (await preview('strangers', 12, ines)).body;
  expect([seen.count, seen.samples]).toEqual([1, []]);
});

it('what was set aside goes after its time, with what was read in it, in the log as well', async () => {
  const raw = mail({ subject: 'The marzipan letter' });
  const { body } = await at(LONG_AGO, () => pell.call('POST /api/captures', { raw, type: 'message/rfc822' }));
  const kept = mail({ subject: 'Filed and kept' });
  const filed = (
    await at(LONG_AGO, () => pell.call('POST /api/captures', { raw: kept, type: 'message/rfc822' }))
  ).body;
  await pell.call('POST /api/captures/:id/filing', { params: { id: filed.id }, body: {} });
  const logged = async () =>
    (
      (
        await house.sequelize.query(
          "SELECT count(*)::int AS n FROM events WHERE changes::text || label LIKE '%marzipan%'",
        )
      )[0][0] as { n: number }
    ).n;
  expect(await logged()).toBe(1);
  expect((await preview('set aside')).body.samples.map(({ name }) => name)).toEqual(['The marzipan letter']);
  await set('set aside', 12);
  await night();
  expect((await pell.call('GET /api/captures/:id', { params: { id: body.id } })).status).toBe(404);
  expect((await pell.call('GET /api/captures/:id', { params: { id: filed.id } })).status).toBe(200);
  expect(await logged()).toBe(0);
});

it('files of imports go, and what was imported stays', async () => {
  const bench = await at(LONG_AGO, async () => {
    const one = (
      await pell.call('POST /api/imports', {
        raw: 'Name\nJan Import\n',
        type: 'text/csv',
        query: { name: 'old.csv' },
      })
    ).body;
    await pell.call('PUT /api/imports/:id/mapping', {
      params: { id: one.id },
      body: { version: one.version, mapping: one.mapping, choices: {} },
    });
    await house.work();
    await pell.call('POST /api/imports/:id/start', { params: { id: one.id } });
    await house.work();
    return one;
  });
  expect(await house.count('import_parts')).toBe(1);
  expect((await preview('import files')).body.count).toBe(1);
  await set('import files', 12);
  await set('strangers', null);
  await night();
  expect([await house.count('import_parts'), (await namesLeft()).includes('Jan Import')]).toEqual([0, true]);
  expect((await pell.call('GET /api/imports/:id', { params: { id: bench.id } })).body.state).toBe('done');
});

it('the words of calls go, and the call stays', async () => {
  await house.sequelize.query(
    `INSERT INTO calls (id, direction, from_number, to_number, state, started_at, transcript) VALUES
       (gen_random_uuid(), 'in', '+442079460001', '+442079460002', 'ended', '${LONG_AGO}', 'the marzipan talk'),
       (gen_random_uuid(), 'in', '+442079460001', '+442079460002', 'ended', '${LATELY}', 'kept')`,
  );
  await set('call texts', 12);
  await night();
  const [rows] = await house.sequelize.query('SELECT transcript FROM calls ORDER BY started_at');
  expect(rows).toEqual([{ transcript: null }, { transcript: 'kept' }]);
});

it('a stale change of a keeping time is refused', async () => {
  await KeepingTimeRow.update({ months: 24 }, { where: { kind: 'quiet' } });
  const { status } = await ines.call('PATCH /api/keeping-times', {
    body: { kind: 'quiet', version: 99, months: 6 },
  });
  expect(status).toBe(409);
});
