import { areaOfBox, kmBetween } from '@emporikon/core/places/area';
import { useHouse } from '../testing/harness';
import { placeDue } from './place';
import { loadTowns } from './towns';

const { house, pell, ines, mara } = useHouse();
beforeAll(async () => {
  await house.sequelize.query('DELETE FROM gazetteer');
  await loadTowns(house.tools);
}, 120_000);

const person = async (fullName: string, body: object = {}) =>
  (await pell.call('POST /api/people', { body: { fullName, ...body } })).body.person.id;
const company = async (name: string, body: object = {}) => {
  const { id } = (await pell.call('POST /api/companies', { body: { name } })).body.company;
  await change('companies', id, body);
  return id;
};
async function change(kind: 'people' | 'companies', id: string, body: object): Promise<void> {
  const params = { id };
  const { version } = (await pell.call(`GET /api/${kind}/:id`, { params })).body;
  const { status } = await pell.call(`PATCH /api/${kind}/:id`, { params, body: { version, ...body } });
  expect(status).toBe(200);
}
const placeOf = async (kind: 'people' | 'companies', id: string, by = pell) => {
  const { place } = (await by.call(`GET /api/${kind}/:id`, { params: { id } })).body;
  return place && `${place.precision}: ${place.town} ${place.country}${place.ofCompany ? ', company' : ''}`;
};
const PORTUGAL = [-10, 36.8, -6, 42.3] as const;
const inArea = (area: readonly number[]) => ({ field: 'place', op: 'inside', value: [...area] });
const find = async (kind: string, filter: object, by = pell) =>
  (await by.call('POST /api/queries', { body: { query: { kind, filter } as never } })).body.items.map(
    ({ id }) => id,
  );

it('the whole gazetteer is loaded, once', async () => {
  expect(await house.count("towns WHERE name <> ''")).toBeGreaterThan(130_000);
  expect(await house.count("towns WHERE name = ''")).toBeGreaterThan(200);
  const before = await house.count('town_names');
  await loadTowns(house.tools);
  expect(await house.count('town_names')).toBe(before);
  const towns = async (query: object) =>
    (await pell.call('GET /api/places/towns', { query: query as never })).body.items.map(({ name }) => name);
  // By the name people there give it, and by its beginning.
  expect(await towns({ name: 'lisboa' })).toEqual(expect.arrayContaining(['Lisbon']));
  expect((await towns({ name: 'Münch' }))[0]).toBe('Munich');
  expect((await towns({ box: '-9.6,38.5,-8.9,38.9', limit: '3' }))[0]).toBe('Lisbon');
  expect((await pell.call('GET /api/places/towns', { query: { name: '--' } as never })).status).toBe(422);
  expect((await pell.call('GET /api/places/tiles')).body).toEqual({ tiles: null });
  expect((await pell.call('GET /api/places/towns', { query: { box: '1,2,0,4' } as never })).status).toBe(422);
}, 60_000);

it('an address is placed right after it was written, follows what it is changed to, and goes with it', async () => {
  const id = await person('Ines Placed');
  await change('people', id, { address: 'Rua Nova 7, 1200-045 Lisboa, Portugal' });
  await house.work();
  expect(await placeOf('people', id)).toBe('town: Lisbon PT');
  expect(await find('person', inArea(areaOfBox(PORTUGAL)))).toContain(id);
  await change('people', id, { address: '14 Forge Lane, Dublin' });
  await house.work();
  expect(await placeOf('people', id)).toBe('town: Dublin IE');
  expect(await find('person', inArea(areaOfBox(PORTUGAL)))).not.toContain(id);
  await change('people', id, { address: null });
  await house.work();
  expect(await placeOf('people', id)).toBeNull();
  expect(await house.count(`places_due WHERE record_id = '${id}'`)).toBe(0);
});

it('somebody without an address is where their company is, and moves with it, and from one to the other', async () => {
  const [porto, leeds] = [await company('Porto Ovens', { country: 'PT' }), await company('Leeds Ovens')];
  await change('companies', porto, { address: 'Rua da Ponte 3, 4050-123 Porto' });
  await change('companies', leeds, { address: '3 Mill Lane, Leeds LS1 4AP' });
  const id = await person('Rui Employed', { companyId: porto });
  await house.work();
  expect(await placeOf('people', id)).toBe('town: Porto PT, company');
  await change('companies', porto, { address: 'Av. Central 45, 4710-229 Braga' });
  await house.work();
  expect(await placeOf('people', id)).toBe('town: Braga PT, company');
  await change('people', id, { companyId: leeds });
  await house.work();
  expect(await placeOf('people', id)).toBe('town: Leeds GB, company');
  // An address of their own goes before it, and the company does not take it back.
  await change('people', id, { address: 'Am Markt 3, 28195 Bremen, Germany' });
  await house.work();
  await change('companies', leeds, { address: '5 Mill Lane, York' });
  await house.work();
  expect(await placeOf('people', id)).toBe('town: Bremen DE');
});

it('what is written without any event, as by an import, is placed by the clock', async () => {
  await house.sequelize.query(
    `INSERT INTO companies (id, name, name_key, kind, country, created_at, updated_at)
     SELECT gen_random_uuid(), 'Row ' || n, 'row ' || n, 'firm', 'NO', now(), now() FROM generate_series(1, 1200) n`,
  );
  expect(await house.count("places_due WHERE kind = 'company'")).toBe(1200);
  await placeDue(house.tools);
  expect([
    await house.count('places_due'),
    await house.count("places WHERE country = 'NO' AND precision = 'country'"),
  ]).toEqual([0, 1200]);
  await house.sequelize.query("DELETE FROM companies WHERE name LIKE 'Row %'");
  expect(await house.count("places WHERE country = 'NO'")).toBe(0);
});

it('near ones stand together on the map, each once, and what is without a place is counted', async () => {
  const ids: string[] = [];
  for (const [name, address] of [
    ['Ada Mapped', 'Paris, France'],
    ['Bea Mapped', 'Paris, France'],
    ['Cid Mapped', 'Versailles, France'],
    ['Dan Mapped', 'Auckland, New Zealand'],
    ['Eva Mapped', ''],
  ] as const) {
    const id = await person(name, { tags: ['mapped'] });
    if (address) await change('people', id, { address });
    ids.push(id);
  }
  await house.work();
  const query = { kind: 'person', filter: { field: 'tags', op: 'hasAny', value: ['mapped'] } } as never;
  const map = async (box: [number, number, number, number], across = 16) =>
    (await pell.call('POST /api/queries/map', { body: { query, box, across } })).body;
  const world = await map([-180, -85, 180, 85], 8);
  expect([world.count, world.placed]).toEqual([5, 4]);
  expect(world.items.map(({ count, name }) => [count, name])).toEqual([
    [3, ''],
    [1, 'Dan Mapped'],
  ]);
  const near = await map([1.5, 48.5, 3, 49.1], 40);
  expect(near.items.map(({ count, name }) => [count, name])).toEqual([
    [2, ''],
    [1, 'Cid Mapped'],
  ]);
  // Across the 180th meridian, New Zealand is west and America east of it.
  const pacific = await map([160, -60, 250, 60]);
  expect(pacific.items.map(({ id }) => id)).toEqual([ids[3]]);
  expect(pacific.items[0]?.lon).toBeCloseTo(174.76, 1);
  const nearest = await pell.call('POST /api/queries/nearest', {
    body: { query, at: [2.35, 48.85], km: 100, limit: 10 },
  });
  const found = nearest.body.items;
  expect(found.map(({ name }) => name).sort()).toEqual(['Ada Mapped', 'Bea Mapped', 'Cid Mapped']);
  expect(found[2]?.name).toBe('Cid Mapped');
  // Versailles as GeoNames has it (48.80359, 2.13424).
  expect(found[2]?.km).toBeCloseTo(kmBetween([2.35, 48.85], [2.13424, 48.80359]), 1);
  expect(
    (
      await pell.call('POST /api/queries/map', {
        body: { query: { kind: 'task' } as never, box: [0, 0, 1, 1], across: 4 },
      })
    ).status,
  ).toBe(422);
  expect(
    (await pell.call('POST /api/queries/map', { body: { query, box: [5, 0, 1, 1], across: 4 } })).status,
  ).toBe(422);
});

it('an area that is none is refused with what is wrong, and one is kept in a view', async () => {
  const wrong = await pell.call('POST /api/queries', {
    body: { query: { kind: 'person', filter: inArea([0, 0, 1, 1]) } as never },
  });
  expect([wrong.status, JSON.stringify(wrong.body)]).toEqual([422, expect.stringContaining('corners')]);
  const query = { kind: 'company', filter: inArea(areaOfBox(PORTUGAL)), columns: ['companyName'] } as never;
  const view = await pell.call('POST /api/views', {
    body: { name: 'In Portugal', kind: 'company', query, layout: { as: 'map' }, shared: 'me' } as never,
  });
  expect([view.status, view.body.view?.layout]).toEqual([201, { as: 'map' }]);
  const tasks = await pell.call('POST /api/views', {
    body: { name: 'No map', query: { kind: 'task' }, layout: { as: 'map' }, shared: 'me' } as never,
  });
  expect(tasks.status).toBe(422);
});

it('nobody learns where somebody is whom they cannot see, nor where a company is that they cannot see', async () => {
  const firm = await company('Secret Ovens');
  await change('companies', firm, { address: 'Reykjavík, Iceland' });
  const id = await person('Open Employee', { companyId: firm, tags: ['hush'] });
  const hidden = await person('Hid Den', { tags: ['hush'] });
  await change('people', hidden, { address: 'Reykjavík, Iceland' });
  await house.work();
  const pellId = (await pell.call('GET /api/session')).body.id;
  for (const [kind, record] of [
    ['people', hidden],
    ['companies', firm],
  ] as const) {
    await change(kind, record, { ownerId: pellId });
    const body = { visibility: 'owner' } as never;
    expect(
      (await pell.call('PUT /api/visibility/:kind/:id', { params: { kind, id: record }, body })).status,
    ).toBe(200);
  }
  const iceland = inArea(areaOfBox([-25, 62, -13, 67]));
  const query = { kind: 'person', filter: { field: 'tags', op: 'hasAny', value: ['hush'] } } as never;
  const seen = async (by: typeof pell) => {
    const map = (
      await by.call('POST /api/queries/map', { body: { query, box: [-180, -85, 180, 85], across: 4 } })
    ).body;
    const nearest = await by.call('POST /api/queries/nearest', {
      body: { query, at: [-21.9, 64.1], km: 50, limit: 9 },
    });
    return {
      found: (await find('person', iceland, by)).length,
      filled: (
        await find(
          'person',
          {
            all: [
              { field: 'tags', op: 'hasAny', value: ['hush'] },
              { field: 'place', op: 'filled' },
            ],
          },
          by,
        )
      ).length,
      map: [map.count, map.placed, map.items.length],
      nearest: nearest.body.items.length,
      place: await placeOf('people', id, by),
    };
  };
  expect(await seen(pell)).toEqual({
    found: 2,
    filled: 2,
    map: [2, 2, 1],
    nearest: 2,
    place: 'town: Reykjavík IS, company',
  });
  // Who works at a hidden company is hidden with it.
  expect(await seen(ines)).toEqual({ found: 0, filled: 0, map: [0, 0, 0], nearest: 0, place: undefined });
  expect((await seen(mara)).found).toBe(2);
});
