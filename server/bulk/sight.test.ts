import { delegating } from '../testing/delegating';
import { useHouse, type Client } from '../testing/harness';
import { saying } from '../testing/saying';

const { house, pell, ines, mara } = useHouse();
const { person } = saying(pell);
const { idOf } = delegating;

const prepare = (steps: object[], ids: readonly string[], by: Client = pell) =>
  by.call('POST /api/bulk-changes', { body: { kind: 'person', on: { ids }, steps } });
const run = async (id: string, by: Client = pell) => {
  await by.call('POST /api/bulk-changes/:id/start', { params: { id } });
  await house.work();
  return (await by.call('GET /api/bulk-changes/:id', { params: { id } })).body;
};
const sees = async (by: Client, id: string): Promise<boolean> =>
  (await by.call('GET /api/people/:id', { params: { id } })).status === 200;

it('who would no longer see them is said before, comes true, and is taken back by the one undo', async () => {
  const ids = [await person('Ana Silva'), await person('Rui Costa')];
  const { body } = await prepare([{ do: 'visible', to: 'owner' }], ids);
  expect([body.preview.change, body.preview.unseen]).toEqual([
    2,
    [{ id: await idOf(ines), name: 'Ines Tolland', count: 2 }],
  ]);
  // A preview changes nothing.
  expect(await sees(ines, ids[0]!)).toBe(true);
  const done = await run(body.change.id);
  expect([done.state, done.counts.changed]).toEqual(['done', 2]);
  expect([await sees(ines, ids[0]!), await sees(pell, ids[0]!), await sees(mara, ids[1]!)]).toEqual([
    false,
    true,
    true,
  ]);
  await pell.call('POST /api/bulk-changes/:id/undo', { params: { id: body.change.id } });
  await house.work();
  expect([await sees(ines, ids[0]!), await sees(ines, ids[1]!)]).toEqual([true, true]);
});

it('named colleagues see them, and the preview names whoever is left out', async () => {
  const ids = [await person('Caio Lima')];
  const only = [await idOf(ines)];
  const { body } = await prepare([{ do: 'visible', to: 'named', only }], ids);
  expect(body.preview.unseen.map(({ name }) => name)).toEqual(['Mara Quill']);
  await run(body.change.id);
  expect(await sees(ines, ids[0]!)).toBe(true);
  const back = await prepare([{ do: 'visible', to: 'owner' }], ids);
  expect(back.body.preview.unseen).toEqual([{ id: only[0], name: 'Ines Tolland', count: 1 }]);
});

it('a change of owner says who loses sight of what only its owner sees', async () => {
  const ids = [await person('Dora Nunes')];
  await run((await prepare([{ do: 'visible', to: 'owner' }], ids)).body.change.id);
  const { body } = await prepare([{ do: 'owner', to: await idOf(ines) }], ids);
  expect(body.preview.unseen).toEqual([{ id: await idOf(pell), name: 'Pell Garrick', count: 1 }]);
});

it.each([
  [{ do: 'visible', to: 'named', only: [] }, 422],
  [{ do: 'visible', to: 'team', only: [] }, 422],
  [{ do: 'visible', to: 'everybody', only: ['00000000-0000-4000-8000-000000000000'] }, 422],
  [{ do: 'erase', note: '' }, 403],
])(
  'what makes no sense, or is not theirs to do, is refused before anything is previewed: %j',
  async (step, status) => {
    const id = await person('Eva Pinto');
    expect((await prepare([step], [id])).status).toBe(status);
  },
);

it('many are erased at once, each whole; those that something stands in the way of are left and named', async () => {
  const ids = [await person('Fay Mendes'), await person('Gil Mota'), await person('Hugo Reis')];
  const [fay, gil, hugo] = ids as [string, string, string];
  await pell.call('POST /api/people/:id/contacts', {
    params: { id: hugo },
    body: { kind: 'email', value: 'hugo@reis.example' },
  });
  // Being sent: what is about Fay, and what is about Fay and goes to Hugo.
  for (const to of ['', 'hugo@reis.example'])
    await house.sequelize.query(
      `INSERT INTO outbox (id, kind, payload, about_table, about_id, state, created_at, deadline)
       VALUES (gen_random_uuid(), 'mail', '{"to": "${to}"}', 'people', '${fay}', 'sending', now(), now())`,
    );
  const both = [
    { do: 'erase', note: '' },
    { do: 'active', to: false },
  ];
  expect((await prepare(both, ids, mara)).status).toBe(422);
  const { body } = await prepare([{ do: 'erase', note: 'Asked by letter' }], ids, mara);
  expect([body.preview.change, body.change.label]).toEqual([3, 'erased for good']);
  const done = await run(body.change.id, mara);
  expect([done.state, done.counts.changed, done.counts.refused]).toEqual(['done', 1, 2]);
  const { items } = (
    await mara.call('GET /api/bulk-changes/:id/rows', {
      params: { id: body.change.id },
      query: { outcome: 'refused' },
    })
  ).body;
  const beingSent = expect.stringContaining('something is being sent to them');
  expect(items.map(({ name, why }) => [name, why]).sort()).toEqual([
    ['Fay Mendes', beingSent],
    ['Hugo Reis', beingSent],
  ]);
  expect([await sees(mara, fay), await sees(mara, gil), await sees(mara, hugo)]).toEqual([true, false, true]);
  const undo = await mara.call('POST /api/bulk-changes/:id/undo', { params: { id: body.change.id } });
  expect([undo.status, undo.body.detail]).toEqual([409, 'What was erased cannot be brought back.']);
});
