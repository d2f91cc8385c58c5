import { json } from 'node:stream/consumers';
import { openExchange } from '../outside/exchange';
import { openHouse, type Client, type House } from '../testing/harness';
import { openSite, type Site } from '../testing/site';

const LINE = '+442079460100';
const BUSY = '+447700900000';
/** Who was rung for whom, in order. */
const placed: [string, string][] = [];
let site: Site;
let house: House;
let pell: Client;
beforeAll(async () => {
  site = await openSite((request, response) => {
    void json(request).then((body) => {
      const { from, to } = body as { from: string; to: string };
      if (to === BUSY) return response.writeHead(503).end();
      placed.push([from, to]);
      return response.writeHead(201).end(JSON.stringify({ id: `placed-${to}` }));
    });
  });
  house = await openHouse({ exchange: openExchange(`http://${site.address}`, 'whsec_c2VjcmV0') });
  pell = await house.as('pell@wharfside.example');
  await pell.call('PUT /api/line', { body: { number: LINE } });
});
afterAll(async () => {
  await house.close();
  await site.stop();
});

it('a call rings once for one key, knows who is called, and is kept with the line', async () => {
  const { person } = (
    await pell.call('POST /api/people', { body: { fullName: 'Cy Called', phone: '+44 7700 900 321' } })
  ).body;
  const request = { body: { to: '+447700900321' }, headers: { 'idempotency-key': 'call-cy' } };
  const first = await pell.call('POST /api/calls', request);
  expect(first.status).toBe(201);
  expect(first.body.call).toMatchObject({
    direction: 'out',
    state: 'ringing',
    number: '+447700900321',
    person: { id: person.id },
  });
  const again = await pell.call('POST /api/calls', request);
  expect([again.body.call.id, placed]).toEqual([first.body.call.id, [[LINE, '+447700900321']]]);
});

it('no call is kept when the exchange refuses, or when whoever calls has no line', async () => {
  const before = await house.count('calls');
  const { status, body } = await pell.call('POST /api/calls', { body: { to: BUSY } });
  expect([status, body.detail]).toEqual([409, expect.stringContaining('Nobody was called')]);
  const ines = await house.as('ines@wharfside.example');
  expect((await ines.call('POST /api/calls', { body: { to: '+447700900321' } })).status).toBe(409);
  expect([await house.count('calls'), placed.length]).toEqual([before, 1]);
});
