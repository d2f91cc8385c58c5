import { json } from 'node:stream/consumers';
import { Webhook } from 'standardwebhooks';
import { openExchange } from '../outside/exchange';
import { openHouse, type Client, type House } from '../testing/harness';
import { openSite, type Site } from '../testing/site';

const LINE = '+442079460100';
const BUSY = '+447700900000';
const CUT = '+447700900001';
const EAGER = '+447700900002';
const SECRET = 'whsec_c2VjcmV0';
let isBusy = true;
/** Who was rung for whom, in order. */
const placed: [string, string][] = [];
let site: Site;
let house: House;
let pell: Client;

/** What the exchange tells when the phone rings. */
function tellRinging(to: string): Promise<unknown> {
  const body = JSON.stringify({
    type: 'call.ringing',
    data: { id: `placed-${to}`, direction: 'out', from: LINE, to, startedAt: new Date().toISOString() },
  });
  const [id, at] = [`msg-${to}`, new Date()];
  return house.anonymous.call('POST /api/exchange/events', {
    raw: body,
    type: 'application/json',
    headers: {
      'webhook-id': id,
      'webhook-timestamp': String(Math.floor(at.getTime() / 1000)),
      'webhook-signature': new Webhook(SECRET).sign(id, at, body),
    },
  });
}

beforeAll(async () => {
  site = await openSite((request, response) => {
    void json(request).then((body) => {
      const { from, to } = body as { from: string; to: string };
      if (to === BUSY && isBusy) return response.writeHead(503).end();
      placed.push([from, to]);
      if (to === CUT) return response.destroy();
      if (to === EAGER)
        return void tellRinging(to).then(() =>
          response.writeHead(201).end(JSON.stringify({ id: `placed-${to}` })),
        );
      return response.writeHead(201).end(JSON.stringify({ id: `placed-${to}` }));
    });
  });
  house = await openHouse({ exchange: openExchange(`http://${site.address}`, SECRET) });
  pell = await house.as('pell@wharfside.example');
  await pell.call('PUT /api/line', { body: { number: LINE } });
});
afterAll(async () => {
  await house.close();
  await site.stop();
});

const delivery = async (id: string) =>
  (await pell.call('GET /api/calls/:id', { params: { id } })).body.delivery;
/** Waits are for people; the test does not. */
const workAtOnce = async (): Promise<void> => {
  await house.sequelize.query('UPDATE graphile_worker._private_jobs SET run_at = now()');
  await house.work();
};

it('a call rings once for one key, knows who is called, and is kept with the line', async () => {
  const { person } = (
    await pell.call('POST /api/people', { body: { fullName: 'Cy Called', phone: '+44 7700 900 321' } })
  ).body;
  const request = { body: { to: '+447700900321' }, headers: { 'idempotency-key': 'call-cy' } };
  const first = await pell.call('POST /api/calls', request);
  expect(first.status).toBe(201);
  expect(first.body.call).toMatchObject({
    direction: 'out',
    state: 'placing',
    number: '+447700900321',
    person: { id: person.id },
  });
  expect(placed).toEqual([]);
  const again = await pell.call('POST /api/calls', request);
  await house.work();
  await house.work();
  expect([again.body.call.id, placed]).toEqual([first.body.call.id, [[LINE, '+447700900321']]]);
  const { id } = first.body.call;
  expect((await pell.call('GET /api/calls/:id', { params: { id } })).body).toMatchObject({
    state: 'ringing',
    delivery: { state: 'sent', tries: 1 },
  });
  // What rang cannot be taken back, neither the wish nor its outcome.
  const undo = await pell.call('POST /api/events/:id/undo', { params: { id: first.body.eventId ?? '' } });
  expect(undo.status).toBe(409);
});

it('a call can be taken back before it is placed, and then rings nowhere', async () => {
  const before = placed.length;
  const { body } = await pell.call('POST /api/calls', { body: { to: '+447700900322' } });
  expect((await pell.call('POST /api/calls', { body: { to: '+447700900323' } })).body.detail).toMatch(
    /already making a call/,
  );
  expect((await pell.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } })).status).toBe(
    200,
  );
  await house.work();
  expect([placed.length, await house.count("calls WHERE to_number = '+447700900322'")]).toEqual([before, 0]);
});

it('a busy exchange is asked again, and given up in time; then the call is made anew by hand only', async () => {
  const { body } = await pell.call('POST /api/calls', { body: { to: BUSY } });
  const { id } = body.call;
  await house.work();
  expect(await delivery(id)).toMatchObject({
    state: 'waiting',
    tries: 1,
    trouble: 'the exchange does not answer',
  });
  await workAtOnce();
  expect(await delivery(id)).toMatchObject({ state: 'waiting', tries: 2 });
  const rowId = (await delivery(id))?.id ?? '';
  const tooEarly = await pell.call('POST /api/outbox/:id/retry', { params: { id: rowId } });
  expect([tooEarly.status, tooEarly.body.detail]).toEqual([409, 'This is still being tried.']);
  await house.sequelize.query(
    `UPDATE outbox SET deadline = now() - interval '1 second' WHERE id = '${rowId}'`,
  );
  await workAtOnce();
  expect((await pell.call('GET /api/calls/:id', { params: { id } })).body).toMatchObject({
    state: 'failed',
    delivery: { state: 'expired', trouble: 'the exchange does not answer' },
  });
  expect((await pell.call('GET /api/outbox', { query: { limit: '1' } })).body.items).toMatchObject([
    { id: rowId, kind: 'placeCall', aboutTable: 'calls', aboutId: id },
  ]);
  const ines = await house.as('ines@wharfside.example');
  expect((await ines.call('POST /api/outbox/:id/retry', { params: { id: rowId } })).status).toBe(403);
  expect((await pell.call('POST /api/outbox/:id/retry', { params: { id: rowId } })).status).toBe(200);
  expect((await pell.call('GET /api/calls/:id', { params: { id } })).body.state).toBe('placing');
  isBusy = false;
  await house.work();
  expect(await delivery(id)).toMatchObject({ state: 'sent', trouble: null });
  expect(placed.filter(([, to]) => to === BUSY)).toHaveLength(1);
});

it('a call whose end nobody saw is not placed again by itself', async () => {
  for (const cut of ['worker', 'line'] as const) {
    const to = cut === 'worker' ? '+447700900331' : CUT;
    const { body } = await pell.call('POST /api/calls', { body: { to } });
    if (cut === 'worker')
      await house.sequelize.query(`UPDATE outbox SET state = 'sending' WHERE about_id = '${body.call.id}'`);
    const before = placed.length;
    await house.work();
    await workAtOnce();
    expect([(await delivery(body.call.id))?.state, placed.length - before]).toEqual([
      'unsure',
      cut === 'worker' ? 0 : 1,
    ]);
  }
});

it('a call that the exchange tells of before it answers is the one we asked for', async () => {
  const { body } = await pell.call('POST /api/calls', { body: { to: EAGER } });
  const before = await house.count('calls');
  await house.work();
  expect((await pell.call('GET /api/calls/:id', { params: { id: body.call.id } })).body).toMatchObject({
    state: 'ringing',
    delivery: { state: 'sent' },
  });
  expect(await house.count('calls')).toBe(before);
});

it('a call whose answer was lost, and which rings all the same, is the one that was asked for', async () => {
  const { body } = await pell.call('GET /api/calls');
  const cut = body.items.find(({ number }) => number === CUT);
  expect(cut?.state).toBe('failed');
  await tellRinging(CUT);
  const after = (await pell.call('GET /api/calls')).body.items;
  expect([after.length, after.find(({ id }) => id === cut?.id)?.state]).toEqual([
    body.items.length,
    'ringing',
  ]);
});

it('nobody is called without a line', async () => {
  const ines = await house.as('ines@wharfside.example');
  expect((await ines.call('POST /api/calls', { body: { to: '+447700900321' } })).status).toBe(409);
});
