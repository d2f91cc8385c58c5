import { mail, useHouse } from '../testing/harness';
import { saying } from '../testing/saying';

const { house, pell, mara } = useHouse();
const { enter, ledger } = saying(pell);
const SWITCHBOARD = '+44 20 7946 0321';

const add = async (fullName: string, more: object = {}): Promise<string> =>
  (
    await pell.call('POST /api/people', {
      body: { fullName, phone: SWITCHBOARD, companyName: 'Harbour Bakes', ...more },
    })
  ).body.person.id;
const erase = (id: string) => mara.call('POST /api/people/:id/erasure', { params: { id }, body: {} });
const importOf = async (rows: string) => {
  const bench = (
    await pell.call('POST /api/imports', { raw: rows, type: 'text/csv', query: { name: 'r.csv' } })
  ).body;
  await pell.call('PUT /api/imports/:id/mapping', {
    params: { id: bench.id },
    body: { version: bench.version, mapping: bench.mapping, choices: {} },
  });
  await house.work();
  return (await pell.call('GET /api/imports/:id', { params: { id: bench.id } })).body;
};
const HEAD = 'Name,Email,Phone,Company\n';

it('who shares a number, a firm or a first name with somebody erased keeps all that is theirs', async () => {
  const gone = await add('Nadia Crowe', { email: 'nadia@harbour.example' });
  const stays = await add('Nadia Bright', { email: 'bright@harbour.example' });
  const bench = await importOf(
    `${HEAD}Nadia Bright,bright@harbour.example,${SWITCHBOARD},Harbour Bakes\nNadia Crowe,,,\n`,
  );
  await pell.call('POST /api/imports/:id/start', { params: { id: bench.id } });
  const waiting = await pell.call('POST /api/captures', {
    raw: mail({
      from: 'Omar Vale <omar@harbour.example>',
      sign: `Omar Vale\nHarbour Bakes\nT ${SWITCHBOARD}`,
    }),
    type: 'message/rfc822',
  });
  const theirs = await enter(
    pell,
    { headline: 'Nadia wants a trailer', body: 'Nadia Crowe told her.' },
    { personId: stays },
  );
  await house.work();
  const card = async () => (await pell.call('GET /api/people/:id', { params: { id: stays } })).body;
  const before = await card();
  expect((await erase(gone)).status).toBe(200);
  const after = await card();
  expect([after.fullName.value, after.contacts.map(({ value }) => value)]).toEqual([
    'Nadia Bright',
    before.contacts.map(({ value }) => value),
  ]);
  expect((await pell.call('GET /api/captures/:id', { params: { id: waiting.body.id } })).status).toBe(200);
  // A note on somebody else alone is theirs, and is not looked through.
  expect((await ledger({ personId: stays })).items.find(({ id }) => id === theirs.body.id)?.headline).toBe(
    'Nadia wants a trailer',
  );
  const [rows] = await house.sequelize.query(
    `SELECT data ->> 'name' AS name FROM import_rows WHERE import_id = '${bench.id}'`,
  );
  expect(rows).toEqual([{ name: 'Nadia Bright' }]);
});

it('a colleague with the same number is imported, the erased one with it is not; nor by name and firm alone', async () => {
  const gone = await add('Piet Marsh', { email: 'piet@harbour.example' });
  await erase(gone);
  const seen = await importOf(
    `${HEAD}Quinn Harrow,,${SWITCHBOARD},\nPiet Marsh,,${SWITCHBOARD},\nPiet Marsh,,,Harbour Bakes\nPiet Marsh,,,Another Firm\n`,
  );
  expect(seen.counts).toMatchObject({ unusable: 2 });
  const [rows] = await house.sequelize.query(
    `SELECT row, reason LIKE 'erased on%' AS is_erased FROM import_rows WHERE import_id = '${seen.id}' AND verdict = 'unusable' ORDER BY row`,
  );
  expect(rows).toEqual([
    { row: 1, is_erased: true },
    { row: 2, is_erased: true },
  ]);
});
