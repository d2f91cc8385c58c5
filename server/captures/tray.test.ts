import { mail, useHouse } from '../testing/harness';
import { openSite, type Site } from '../testing/site';

const door: { allowed: string[] } = { allowed: [] };
const { pell } = useHouse({ door });
let site: Site;
beforeAll(async () => {
  site = await openSite((_request, response) => {
    response.writeHead(200, { 'content-type': 'text/html' });
    response.end(
      '<html><body><h1>Ines Duarte</h1><p>Buyer at Padaria Sol</p><a href="mailto:ines@padariasol.example">ines@padariasol.example</a></body></html>',
    );
  });
  door.allowed.push(site.address);
});
afterAll(() => site.stop());

const capture = async (over: Parameters<typeof mail>[0] = {}) =>
  (await pell.call('POST /api/captures', { raw: mail(over) })).body;
const get = async (id: string) => (await pell.call('GET /api/captures/:id', { params: { id } })).body;
const undo = (id: string | null) => pell.call('POST /api/events/:id/undo', { params: { id: id ?? '' } });
const arrivals = async () => (await pell.call('GET /api/counts')).body.arrivals;

it('a page is fetched by its address, read, and kept with where it came from', async () => {
  const fetched = await pell.call('POST /api/captures/fetch', {
    body: { url: `http://${site.address}/ines` },
  });
  expect(fetched.status).toBe(201);
  expect(fetched.body).toMatchObject({
    cameBy: 'fetch',
    state: 'waiting',
    page: { url: `http://${site.address}/ines` },
  });
  expect(fetched.body.claims.map((claim) => [claim.field, claim.value])).toEqual(
    expect.arrayContaining([['email', 'ines@padariasol.example']]),
  );
  const refused = await pell.call('POST /api/captures/fetch', { body: { url: 'http://127.0.0.1:9/' } });
  expect(refused.status).toBe(422);
});

it('what is set aside leaves Arrivals and its count, cannot be set aside twice, and comes back by undo', async () => {
  const { id } = await capture();
  const before = await arrivals();
  const setAside = () => pell.call('POST /api/captures/:id/set-aside', { params: { id } });
  const { status, body } = await setAside();
  expect(status).toBe(200);
  expect([(await get(id)).state, await arrivals()]).toEqual(['set aside', before - 1]);
  expect((await setAside()).status).toBe(409);
  expect((await undo(body.eventId)).status).toBe(200);
  expect([(await get(id)).state, await arrivals()]).toEqual(['waiting', before]);
});

it('several are set aside at once and brought back, all of them or none', async () => {
  const ids = [(await capture()).id, (await capture()).id, (await capture()).id];
  const before = await arrivals();
  const aside = await pell.call('POST /api/captures/set-aside', { body: { ids: [...ids, ids[0] ?? ''] } });
  expect([aside.status, await arrivals()]).toEqual([200, Number(before) - 3]);
  const listed = (await pell.call('GET /api/captures', { query: { state: 'set aside', limit: '100' } })).body
    .items;
  expect(listed.map(({ id }) => id)).toEqual(expect.arrayContaining(ids));
  const other = (await capture()).id;
  expect(
    (await pell.call('POST /api/captures/bring-back', { body: { ids: [ids[0] ?? '', other] } })).status,
  ).toBe(409);
  expect((await get(ids[0] ?? '')).state).toBe('set aside');
  const back = await pell.call('POST /api/captures/bring-back', { body: { ids } });
  expect([back.status, await arrivals()]).toEqual([200, Number(before) + 1]);
  expect((await undo(back.body.eventId)).status).toBe(200);
  expect((await get(ids[2] ?? '')).state).toBe('set aside');
  expect((await pell.call('POST /api/captures/set-aside', { body: { ids: [] } })).status).toBe(422);
});

it('a claim the reader missed is added by hand, reaches the record and is said to be by hand', async () => {
  const { id } = await capture({ from: 'Rui Reis <rui@mesa.example>', sign: 'Rui' });
  const add = (body: object) => pell.call('POST /api/captures/:id/claims', { params: { id }, body });
  const added = await add({ field: 'phone', value: '07700 900 321', type: 'mobile' });
  expect(added.status).toBe(201);
  expect(added.body).toMatchObject({
    field: 'phone',
    normalized: '+447700900321',
    type: 'mobile',
    confidence: 1,
  });
  expect((await add({ field: 'custom:unheard_of', value: 'x' })).status).toBe(422);
  const { body: filed } = await pell.call('POST /api/captures/:id/filing', {
    params: { id },
    body: {},
  });
  const { body: person } = await pell.call('GET /api/people/:id', { params: { id: filed.person.id } });
  expect(person.contacts.find((contact) => contact.normalized === '+447700900321')?.claim).toMatchObject({
    source: 'added by hand',
  });
});

it('an intent is refused and taken back in; a refused one proposes no next move', async () => {
  const seen = await capture({
    from: 'Ada Holm <ada@holmbakeri.example>',
    body: 'Could you call me on Thursday at 10:00?',
    sign: 'Ada Holm',
  });
  const asks = seen.intents.filter((intent) => intent.kind === 'ask');
  expect([asks.length > 0, seen.proposedMove !== null]).toEqual([true, true]);
  for (const { id } of seen.intents)
    expect(
      (await pell.call('PATCH /api/intents/:id', { params: { id }, body: { fate: 'rejected' } })).status,
    ).toBe(200);
  const refused = await get(seen.id);
  expect(refused.intents.map((intent) => intent.fate)).toEqual(seen.intents.map(() => 'rejected'));
  expect(refused.proposedMove).toBeNull();
  for (const { id } of seen.intents)
    await pell.call('PATCH /api/intents/:id', { params: { id }, body: { fate: 'proposed' } });
  expect((await get(seen.id)).proposedMove).toEqual(seen.proposedMove);
});

it('somebody is recognised from what is known so far, with what we have with them', async () => {
  await pell.call('POST /api/people', {
    body: { fullName: 'Wyn Hale', email: 'wyn@haleworks.example', companyName: 'Hale Works' },
  });
  const ask = async (body: object) => (await pell.call('POST /api/recognise', { body })).body;
  const known = await ask({ emails: ['WYN@haleworks.example'] });
  expect(known.person.kind).toBe('same');
  expect(known.callers).toMatchObject([{ person: { name: 'Wyn Hale' }, company: { name: 'Hale Works' } }]);
  expect(await ask({ fullName: 'Nobody Atall' })).toMatchObject({ person: { kind: 'new' }, callers: [] });
  const hale = { person: { kind: 'new' }, callers: [{ person: { name: 'Wyn Hale' } }], byPart: true };
  for (const part of ['hal', 'Wyn', 'haleworks.ex']) expect(await ask({ part })).toMatchObject(hale);
  // What is known for sure is asked first.
  expect(await ask({ emails: ['wyn@haleworks.example'], part: 'nobody' })).toMatchObject({ byPart: false });
  expect(await ask({ part: 'xq' })).toMatchObject({ callers: [], byPart: false });
});
