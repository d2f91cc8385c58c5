import { useHouse } from '../testing/harness';
import { saying } from '../testing/saying';

const use = useHouse();
const { pell, ines, mara } = use;
const { person, company, enter, ledger } = saying(pell);

it('is seen by its writer alone, until it is shared as a note', async () => {
  const id = await person('Eva Holm');
  const entry = (await enter(ines, { headline: 'Called her back' }, { personId: id })).body.id;
  const annotate = (by: typeof pell, words: string) =>
    by.call('PUT /api/ledger/:id/annotation', { params: { id: entry }, body: { words } });
  const done = await annotate(pell, 'Sounded cross\nabout the invoice');
  const seen = async (by: typeof pell) =>
    (await by.call('GET /api/ledger/:id', { params: { id: entry } })).body.annotation;
  expect([await seen(pell), await seen(ines), await seen(mara)]).toEqual([
    'Sounded cross\nabout the invoice',
    null,
    null,
  ]);
  expect((await ledger({ personId: id })).items[0]?.isAnnotated).toBe(true);
  expect((await ledger({ personId: id }, mara)).items[0]?.isAnnotated).toBe(false);
  const taken = await mara.call('POST /api/events/:id/undo', { params: { id: done.body.eventId ?? '' } });
  expect(taken.status).toBe(404);
  const share = (by: typeof pell) =>
    by.call('POST /api/ledger/:id/annotation/share', { params: { id: entry } });
  expect((await share(ines)).status).toBe(404);
  expect((await share(pell)).status).toBe(201);
  expect(await seen(pell)).toBeNull();
  expect(
    (await ledger({ personId: id }, mara)).items.map((one) => [one.kind, one.headline, one.body]),
  ).toEqual([
    ['note', 'Sounded cross', 'about the invoice'],
    ['note', 'Called her back', ''],
  ]);
});

it("outlives the entry it was beside as a private note on the same records, and goes with its own writer's entry", async () => {
  const firm = await company('Holm Florists');
  const id = await person('Eva Holm', firm);
  const entry = (await enter(ines, { headline: 'Called her back' }, { personId: id })).body.id;
  const annotate = (by: typeof pell, words: string) =>
    by.call('PUT /api/ledger/:id/annotation', { params: { id: entry }, body: { words } });
  await annotate(pell, 'Sounded cross\nabout the invoice');
  await annotate(ines, 'I promised too much');
  const gone = await ines.call('DELETE /api/ledger/:id', { params: { id: entry } });
  await use.house.work();
  const lines = async (by: typeof pell, about: Record<string, string>) =>
    (await ledger(about, by)).items.map((one) => [one.kind, one.headline, one.body, one.actor]);
  const kept = ['note', 'Sounded cross', 'about the invoice', 'Pell Garrick'];
  for (const about of [{ personId: id }, { companyId: firm }] as Record<string, string>[]) {
    expect(await lines(pell, about)).toEqual([kept]);
    expect([await lines(ines, about), await lines(mara, about)]).toEqual([[], []]);
  }

  await ines.call('POST /api/events/:id/undo', { params: { id: gone.body.eventId ?? '' } });
  const beside = async (by: typeof pell) =>
    (await by.call('GET /api/ledger/:id', { params: { id: entry } })).body.annotation;
  expect([await beside(ines), await beside(pell)]).toEqual(['I promised too much', null]);
  expect(await lines(pell, { personId: id })).toContainEqual(kept);
});
