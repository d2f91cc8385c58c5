import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { openGeocoder } from '../outside/geocoder';
import { buildApp } from '../http/app';
import { rooms } from '../rooms';
import { openHouse, type House } from '../testing/harness';
import { loadTowns } from './towns';

/** Answers as a geocoder does that speaks GeoJSON; by what stands in the address it fails in one way or another. */
const asked: string[] = [];
let server: Server;
let house: House;
let isDown = false;
beforeAll(async () => {
  server = createServer((request, response) => {
    const { searchParams } = new URL(request.url ?? '', 'http://geocoder.example');
    const address = searchParams.get('q') ?? '';
    asked.push(`${address} | ${searchParams.get('in') ?? ''}`);
    if (isDown) return void response.writeHead(503).end();
    const point = (lon: number, lat: number) => ({
      type: 'Feature',
      properties: {},
      geometry: { type: 'Point', coordinates: [lon, lat, 12] },
    });
    const features = address.includes('Unknown')
      ? []
      : address.includes('Nonsense')
        ? [point(400, 0)]
        : [{ type: 'Feature', properties: {}, geometry: null }, point(-6.2733, 53.3441)];
    response
      .setHeader('content-type', 'application/geo+json')
      .end(JSON.stringify({ type: 'FeatureCollection', features }));
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  house = await openHouse({
    geocoder: openGeocoder(`http://127.0.0.1:${port}/find?q={address}&in={country}`),
  });
  await house.sequelize.query('DELETE FROM gazetteer');
  await loadTowns(house.tools);
}, 120_000);
afterAll(async () => {
  await house.close();
  await new Promise((resolve) => server.close(resolve));
});

async function company(name: string, address: string): Promise<string> {
  const pell = await house.as('pell@wharfside.example');
  const { id } = (await pell.call('POST /api/companies', { body: { name } })).body.company;
  const { version } = (await pell.call('GET /api/companies/:id', { params: { id } })).body;
  await pell.call('PATCH /api/companies/:id', { params: { id }, body: { version, address } });
  return id;
}
const placeOf = async (kind: 'companies' | 'people', id: string) => {
  const pell = await house.as('pell@wharfside.example');
  return (await pell.call(`GET /api/${kind}/:id`, { params: { id } })).body.place;
};

it('a street is asked for and placed where it is, and the people of a company with it; a town alone is not asked for', async () => {
  const pell = await house.as('pell@wharfside.example');
  const id = await company('Street Ovens', '14 Forge Lane, Dublin 8, Ireland');
  const town = await company('Town Ovens', 'Cork, Ireland');
  const person = (await pell.call('POST /api/people', { body: { fullName: 'Ann Street', companyId: id } }))
    .body.person.id;
  await house.work();
  await house.work();
  expect(await placeOf('companies', id)).toMatchObject({
    lon: -6.2733,
    lat: 53.3441,
    precision: 'address',
    country: 'IE',
  });
  expect(await placeOf('people', person)).toMatchObject({
    lon: -6.2733,
    precision: 'address',
    ofCompany: true,
  });
  expect(await placeOf('companies', town)).toMatchObject({ precision: 'town', town: 'Cork' });
  expect(asked).toEqual(['14 Forge Lane, Dublin 8, Ireland | IE']);
  expect(await house.count('places_asked')).toBe(0);
});

it('what the geocoder does not know stays in its town, and is not asked for again', async () => {
  const id = await company('Unknown Ovens', '2 Unknown Street, Galway, Ireland');
  await house.work();
  expect(await placeOf('companies', id)).toMatchObject({ precision: 'town', town: 'Gaillimh' });
  expect(await house.count('places_asked')).toBe(0);
});

it('while it fails, or answers nonsense, records stay in their town; it is asked again later, five times in all', async () => {
  isDown = true;
  const id = await company('Patient Ovens', '3 Patient Street, Limerick, Ireland');
  const nonsense = await company('Nonsense Ovens', '3 Nonsense Street, Limerick, Ireland');
  const start = Date.now();
  let hours = 0;
  house.tools.now = () => new Date(start + hours * 3_600_000);
  const again = async (): Promise<void> => {
    hours += 12;
    await house.sequelize.query("SELECT queue_job('geocodeRecords', '{}', null, 1, now())");
    await house.work();
  };
  await house.work();
  expect(await placeOf('companies', id)).toMatchObject({ precision: 'town' });
  expect(await house.count('places_asked')).toBe(2);
  isDown = false;
  await again();
  expect(await placeOf('companies', id)).toMatchObject({ precision: 'address' });
  for (let times = 0; times < 5; times++) await again();
  expect(asked.filter((one) => one.includes('Nonsense'))).toHaveLength(5);
  expect(await placeOf('companies', nonsense)).toMatchObject({ precision: 'town' });
  expect(await house.count('places_asked')).toBe(0);
}, 60_000);

it('pictures of the map may come from the server that is set up for them, and from no other', async () => {
  const policyOf = async (mapTiles: { url: string; words: string } | null): Promise<string> => {
    const live = { subscribe: () => () => undefined, lastHeard: () => 0 };
    const app = await buildApp({
      tools: { ...house.tools, house: { ...house.tools.house, mapTiles } },
      rooms,
      live: live as never,
      webRoot: null,
    });
    const { headers } = await app.inject({ method: 'GET', url: '/healthz' });
    await app.close();
    return /img-src ([^;]+)/.exec(String(headers['content-security-policy']))?.[1] ?? '';
  };
  expect(await policyOf({ url: 'https://tiles.elsewhere.example/{z}/{x}/{y}.png', words: 'Elsewhere' })).toBe(
    "'self' data: https://tiles.elsewhere.example",
  );
  expect(await policyOf(null)).toBe("'self' data:");
});
