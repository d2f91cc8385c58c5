import { useHouse } from '../testing/harness';

const { pell, mara } = useHouse();
const products = async () => (await pell.call('GET /api/products')).body;
const addList = async (name: string, currency: string): Promise<string> =>
  (await mara.call('POST /api/price-lists', { body: { name, currency } })).body.id;
const addProduct = async (code: string): Promise<string> =>
  (
    await mara.call('POST /api/products', {
      body: { code, name: `Bike ${code}`, taxPercent: '20', charged: 'once' },
    })
  ).body.id;
const setPrice = (id: string, productId: string, unitMinor: number | null) =>
  mara.call('PUT /api/price-lists/:id/prices/:productId', {
    params: { id, productId },
    body: { unitMinor },
  });
const priceOf = async (id: string, query: Record<string, string>) =>
  (await pell.call('GET /api/products/:id/price', { params: { id }, query })).body;

it('a product is listed with its price in each list; lists are renamed and retired at the version that was seen', async () => {
  const [euro, pound] = [await addList('Europe', 'EUR'), await addList('Britain', 'GBP')];
  const id = await addProduct('LB1');
  await setPrice(euro, id, 490_000);
  await setPrice(pound, id, 420_000);
  expect((await products()).items).toMatchObject([
    {
      id,
      code: 'LB1',
      taxPercent: '20',
      prices: expect.arrayContaining([
        { listId: euro, unitMinor: 490_000 },
        { listId: pound, unitMinor: 420_000 },
      ]),
    },
  ]);
  const patch = (body: object, who = mara) =>
    who.call('PATCH /api/price-lists/:id', { params: { id: pound }, body });
  expect((await patch({ version: 1, name: 'Isles' }, pell)).status).toBe(403);
  expect((await patch({ version: 1, name: 'Europe' })).status).toBe(422);
  expect((await patch({ version: 1, name: 'Isles' })).status).toBe(200);
  expect((await patch({ version: 1, active: false })).status).toBe(409);
  expect((await products()).lists.map(({ name, active }) => [name, active])).toEqual([
    ['Europe', true],
    ['Isles', true],
  ]);
});

it('a price is that of the list asked for, else of one in the currency, else converted at the rate of the day', async () => {
  const id = await addProduct('LB2');
  const [one, two] = [await addList('Euro one', 'EUR'), await addList('Euro two', 'EUR')];
  await setPrice(one, id, 100_00);
  await setPrice(two, id, 90_00);
  expect(await priceOf(id, { currency: 'EUR', list: two })).toMatchObject({
    unitMinor: 90_00,
    list: 'Euro two',
  });
  expect(await priceOf(id, { currency: 'EUR', list: one })).toMatchObject({ unitMinor: 100_00, rate: null });
  expect((await priceOf(id, { currency: 'SEK' })).unitMinor).toBeNull();
  for (const [day, perHouse] of [
    ['2026-01-01', '11'],
    ['2026-06-01', '12'],
  ])
    await mara.call('PUT /api/rates', { body: { currency: 'SEK', day, perHouse } });
  expect((await priceOf(id, { currency: 'SEK', list: one, day: '2026-03-01' })).unitMinor).toBe(1_100_00);
  expect((await priceOf(id, { currency: 'SEK', list: one, day: '2026-06-01' })).unitMinor).toBe(1_200_00);
});

it('rates are listed newest first and removed by a manager; a rate removed counts no more and comes back by undo', async () => {
  const rates = async () =>
    (await pell.call('GET /api/rates')).body.items.filter(({ currency }) => currency === 'NOK');
  for (const day of ['2026-01-01', '2026-02-01'])
    await mara.call('PUT /api/rates', { body: { currency: 'NOK', day, perHouse: '11.5' } });
  const [newest] = await rates();
  expect(await rates()).toMatchObject([
    { day: '2026-02-01', perHouse: '11.5' },
    { day: '2026-01-01', perHouse: '11.5' },
  ]);
  const remove = (who = mara) => who.call('DELETE /api/rates/:id', { params: { id: newest?.id ?? '' } });
  expect((await remove(pell)).status).toBe(403);
  const removed = await remove();
  expect([removed.status, (await rates()).map(({ day }) => day)]).toEqual([200, ['2026-01-01']]);
  expect((await remove()).status).toBe(404);
  const undone = await mara.call('POST /api/events/:id/undo', {
    params: { id: removed.body.eventId ?? '' },
  });
  expect([undone.status, (await rates()).length]).toEqual([200, 2]);
});

it('what every quote prints is read by all and changed by a manager at the version that was seen', async () => {
  const settings = async () => (await pell.call('GET /api/quote-settings')).body;
  const { version } = await settings();
  const patch = (body: object, who = mara) => who.call('PATCH /api/quote-settings', { body });
  expect((await patch({ version, prefix: 'W' }, pell)).status).toBe(403);
  expect((await patch({ version, prefix: 'no spaces' })).status).toBe(422);
  expect((await patch({ version, prefix: 'WCC', validDays: 14 })).status).toBe(200);
  expect((await patch({ version, prefix: 'OLD' })).status).toBe(409);
  expect(await settings()).toMatchObject({ prefix: 'WCC', validDays: 14, version: version + 1 });
});
