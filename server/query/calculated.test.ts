import { useHouse, type Client } from '../testing/harness';

const { pell, mara } = useHouse();
const person = async (fullName: string): Promise<string> =>
  (await pell.call('POST /api/people', { body: { fullName, tags: ['formula'] } })).body.person.id;

it('shows what a formula comes to, for whoever sees what it is made of, and asks nobody by it', async () => {
  const field = async (body: object) => (await mara.call('POST /api/fields', { body })).status;
  expect([
    await field({ label: 'Loaves', kind: 'number' }),
    await field({ label: 'Ovens', kind: 'number', seenBy: 'managers', changedBy: 'managers' }),
    await field({ label: 'Per oven', kind: 'formula', formula: 'Loaves / Ovens' }),
    await field({ label: 'Twice', kind: 'formula', formula: 'Loaves * 2' }),
  ]).toEqual([201, 201, 201, 201]);
  const id = await person('Ana Forno');
  await person('Rui Vazio');
  const { version } = (await mara.call('GET /api/people/:id', { params: { id } })).body;
  await mara.call('PATCH /api/people/:id', {
    params: { id },
    body: { version, custom: { loaves: '90', ovens: '4' } },
  });
  const columns = ['custom.per_oven', 'custom.twice'];
  const query = { kind: 'person', filter: { field: 'tags', op: 'hasAny', value: ['formula'] }, columns };
  const shown = async (by: Client) =>
    (await by.call('POST /api/queries', { body: { query } })).body.items.map(({ values }) =>
      columns.map((column) => values[column]),
    );
  expect(await shown(mara)).toEqual([
    ['22.5', '180'],
    [null, null],
  ]);
  expect((await shown(pell))[0]).toEqual([null, '180']);
  const file = await mara.raw('GET', `/api/queries.csv?query=${encodeURIComponent(JSON.stringify(query))}`);
  expect(file.text).toContain('22.5,180');
  for (const asked of [
    { filter: { field: 'custom.twice', op: 'is', value: ['180'] } },
    { groups: [{ field: 'custom.twice' }] },
    { order: [{ field: 'custom.twice', direction: 'asc' }] },
  ]) {
    const refused = await mara.call('POST /api/queries', {
      body: { query: { kind: 'person', ...asked } },
    });
    expect([refused.status, JSON.stringify(refused.body)]).toEqual([422, expect.stringContaining('Twice')]);
  }
});
