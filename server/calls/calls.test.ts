import { Webhook } from 'standardwebhooks';
import { openExchange } from '../outside/exchange';
import { useHouse } from '../testing/harness';

const SECRET = `whsec_${Buffer.from('a secret for the tests of calls').toString('base64')}`;
const LINE = '+442079460100';
const { house, pell } = useHouse({ exchange: openExchange('http://127.0.0.1:9', SECRET) });
beforeAll(async () => {
  await pell.call('PUT /api/line', { body: { number: LINE } });
});

const data = (id: string, over: object = {}) => ({
  id,
  direction: 'in',
  from: '+351910555014',
  to: LINE,
  startedAt: new Date().toISOString(),
  ...over,
});
let serial = 0;
async function tell(
  type: string,
  what: object,
  {
    id = `msg_${++serial}`,
    at = new Date(),
    secret = SECRET,
  }: { id?: string; at?: Date; secret?: string } = {},
) {
  const body = JSON.stringify({ type, data: what });
  return house.anonymous.call('POST /api/exchange/events', {
    raw: body,
    type: 'application/json',
    headers: {
      'webhook-id': id,
      'webhook-timestamp': String(Math.floor(at.getTime() / 1000)),
      'webhook-signature': new Webhook(secret).sign(id, at, body),
    },
  });
}
const calls = async () => (await pell.call('GET /api/calls')).body.items;

describe('webhooks of the exchange', () => {
  // Source: Standard Webhooks specification, the test vector of its reference libraries.
  it('are signed as the specification signs its own example', () => {
    const webhook = new Webhook('whsec_MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw');
    expect(
      webhook.sign('msg_p5jXN8AQM9LWM0D4loKWxJek', new Date(1614265330 * 1000), '{"test": 2432232314}'),
    ).toBe('v1,g0hM9SsE+OTPJTGt/tmIKtSyZlE3uFJELVlNIOLJ1OE=');
  });
  it('are refused forged, changed, too old, too early and unsigned', async () => {
    const other = `whsec_${Buffer.from('another secret altogether').toString('base64')}`;
    expect((await tell('call.ringing', data('x'), { secret: other })).status).toBe(403);
    expect((await tell('call.ringing', data('x'), { at: new Date(Date.now() - 6 * 60_000) })).status).toBe(
      403,
    );
    expect((await tell('call.ringing', data('x'), { at: new Date(Date.now() + 6 * 60_000) })).status).toBe(
      403,
    );
    const bare = await house.app.inject({
      method: 'POST',
      url: '/api/exchange/events',
      headers: { 'content-type': 'application/json' },
      payload: '{}',
    });
    expect(bare.statusCode).toBe(403);
    expect(await calls()).toEqual([]);
  });
  it('told twice are one call', async () => {
    const call = data('once');
    for (let count = 0; count < 3; count++)
      expect((await tell('call.ringing', call, { id: 'msg_same' })).status).toBe(200);
    expect((await calls()).filter((call) => call.state === 'ringing')).toHaveLength(1);
    await tell('call.ended', { ...call, endedAt: new Date().toISOString() });
  });
  it('may come in another order', async () => {
    const call = data('order', {
      from: '+447700900777',
      answeredAt: new Date().toISOString(),
      endedAt: new Date().toISOString(),
    });
    await tell('call.ended', call);
    await tell('call.answered', call);
    await tell('call.ringing', call);
    expect((await calls()).find((call) => call.number === '+447700900777')?.state).toBe('ended');
  });
});

describe('an incoming call', () => {
  it('finds who it is, several who share the number, or a stranger', async () => {
    await pell.call('POST /api/people', {
      body: { fullName: 'Ines Duarte', phone: '+351 910 555 014', companyName: 'Padaria Sol' },
    });
    await tell('call.ringing', data('known'));
    const [ringing] = (await pell.call('GET /api/calls', { query: { ringing: 'true' } })).body.items;
    expect(ringing?.person?.name).toBe('Ines Duarte');
    const { body } = await pell.call('GET /api/calls/:id', { params: { id: ringing?.id ?? '' } });
    expect(body.callers).toMatchObject([
      { person: { name: 'Ines Duarte' }, company: { name: 'Padaria Sol' }, deals: [], nextMove: null },
    ]);
    await pell.call('POST /api/people', { body: { fullName: 'Rui Duarte', phone: '+351 910 555 014' } });
    await tell('call.ringing', data('shared'));
    const [shared] = (await pell.call('GET /api/calls', { query: { ringing: 'true' } })).body.items;
    expect(shared?.person).toBeNull();
    expect(
      (await pell.call('GET /api/calls/:id', { params: { id: shared?.id ?? '' } })).body.callers.map(
        (caller) => caller.person.name,
      ),
    ).toEqual(['Ines Duarte', 'Rui Duarte']);
    await tell('call.ringing', data('stranger', { from: '+447700900999' }));
    const [stranger] = (await pell.call('GET /api/calls', { query: { ringing: 'true' } })).body.items;
    expect(
      (await pell.call('GET /api/calls/:id', { params: { id: stranger?.id ?? '' } })).body.callers,
    ).toEqual([]);
  });
  it('that is missed lands in Arrivals, with whose number it is', async () => {
    const call = data('missed', { from: '+447700900888' });
    await tell('call.ringing', call);
    await tell('call.ended', { ...call, endedAt: new Date().toISOString() });
    const { body } = await pell.call('GET /api/captures');
    expect(body.items[0]).toMatchObject({ kind: 'call', from: '+44 7700 900888', subject: 'Missed call' });
  });
  it('with a withheld number is a call of nobody yet', async () => {
    await tell('call.ringing', data('withheld', { from: 'anonymous' }));
    const [ringing] = (await pell.call('GET /api/calls', { query: { ringing: 'true' } })).body.items;
    expect(ringing).toMatchObject({ number: '', written: 'a withheld number', person: null });
  });
  it('whose words are handed over is read like any other', async () => {
    const call = data('told', { from: '+447700900321', answeredAt: new Date().toISOString() });
    await tell('call.ringing', call);
    await tell('call.ended', { ...call, endedAt: new Date().toISOString() });
    await tell('call.transcribed', {
      ...call,
      text: 'Spoke to Asha Nair of Nair Florists. She asked for a quote for four bikes.',
    });
    const { body: list } = await pell.call('GET /api/captures');
    const { body } = await pell.call('GET /api/captures/:id', { params: { id: list.items[0]?.id ?? '' } });
    expect(body.claims.map((claim) => [claim.field, claim.normalized ?? claim.value])).toEqual([
      ['fullName', 'Asha Nair'],
      ['companyName', 'Nair Florists'],
      ['phone', '+447700900321'],
    ]);
  });
});

it('says so when the exchange is down, and loses nothing', async () => {
  expect((await pell.call('GET /api/line')).body).toEqual({ number: LINE, exchange: 'down' });
  const answer = await pell.call('POST /api/calls', { body: { to: '+351910555014' } });
  expect(answer.status).toBe(201);
  await house.work();
  expect((await pell.call('GET /api/calls/:id', { params: { id: answer.body.call.id } })).body).toMatchObject(
    {
      state: 'placing',
      delivery: { state: 'waiting', trouble: 'the exchange does not answer' },
    },
  );
});

describe('a call sheet', () => {
  const sheet = {
    text: 'Nuno Braga, Padaria Lua, +351 910 555 222. wants 8 long bikes, decides with his sister. send quote',
    person: 'new',
    fullName: 'Nuno Braga',
    companyName: 'Padaria Lua',
    phone: '+351910555222',
    background: 'Decides with his sister.',
    said: 'Wants 8 long bikes.',
    moves: [{ title: 'Send quote', kind: 'mail', dueAt: '2026-11-26T00:00:00Z', allDay: true }],
    deal: { title: '8 long bikes', amountMinor: 4_000_000, currency: 'EUR' },
  };
  it('saves everything in one transaction and is taken back in one', async () => {
    const tables = ['people', 'companies', 'deals', 'tasks', 'ledger_entries', 'contact_points', 'captures'];
    const count = async () => Promise.all(tables.map((table) => house.count(table)));
    const before = await count();
    const { status, body } = await pell.call('POST /api/call-sheets', { body: sheet });
    expect([status, body.person.name, body.company?.name, body.deal?.name]).toEqual([
      201,
      'Nuno Braga',
      'Padaria Lua',
      '8 long bikes',
    ]);
    const { body: person } = await pell.call('GET /api/people/:id', { params: { id: body.person.id } });
    expect(person).toMatchObject({
      background: { value: 'Decides with his sister.' },
      nextMove: { title: 'Send quote' },
      standing: 'prospect',
    });
    expect(person.contacts[0]?.claim).toMatchObject({ source: 'the note', captureId: body.captureId });
    const { body: ledger } = await pell.call('GET /api/ledger', { query: { personId: body.person.id } });
    expect(ledger.items[0]).toMatchObject({ kind: 'call', side: 'ours', headline: 'Wants 8 long bikes.' });
    await pell.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } });
    expect(await count()).toEqual(before);
  });
  it('of a known person fills blanks and changes the open deal', async () => {
    const { body: made } = await pell.call('POST /api/call-sheets', {
      body: { ...sheet, text: `${sheet.text}.` },
    });
    const { body } = await pell.call('POST /api/call-sheets', {
      body: {
        text: 'budget is 44k now',
        person: made.person.id,
        email: 'nuno@padarialua.example',
        said: 'Budget is 44k now.',
        deal: { id: made.deal?.id, title: 'x', amountMinor: 4_400_000, currency: 'EUR' },
      },
    });
    expect(body.deal?.id).toBe(made.deal?.id);
    const { body: person } = await pell.call('GET /api/people/:id', { params: { id: made.person.id } });
    expect(person.deals[0]?.amountMinor).toBe(4_400_000);
    expect(person.contacts.map((contact) => contact.kind)).toContain('email');
  });
  it('keeps from when to when a meeting lasts, and moves both together', async () => {
    const lunch = {
      title: 'Lunch',
      kind: 'meeting' as const,
      dueAt: '2026-11-26T11:00:00Z',
      endAt: '2026-11-26T12:00:00Z',
      allDay: false,
    };
    const { body } = await pell.call('POST /api/call-sheets', {
      body: { text: 'lunch Thu 11-12', person: 'new', fullName: 'Lena Lunch', moves: [lunch] },
    });
    const { body: person } = await pell.call('GET /api/people/:id', { params: { id: body.person.id } });
    expect(person.nextMove).toMatchObject({
      dueAt: '2026-11-26T11:00:00.000Z',
      endAt: '2026-11-26T12:00:00.000Z',
    });
    const id = person.nextMove?.id ?? '';
    const moved = await pell.call('PATCH /api/tasks/:id', {
      params: { id },
      body: { dueAt: '2026-11-27T14:30:00Z' },
    });
    expect(moved.body.task.endAt).toBe('2026-11-27T15:30:00.000Z');
    const whole = await pell.call('PATCH /api/tasks/:id', { params: { id }, body: { allDay: true } });
    expect(whole.body.task.endAt).toBeNull();
    const before = await pell.call('POST /api/call-sheets', {
      body: { text: 'x', person: body.person.id, moves: [{ ...lunch, endAt: lunch.dueAt }] },
    });
    expect([before.status, before.body.fields]).toEqual([422, { endAt: 'is before it begins' }]);
  });
  it('of a call whose words were handed over is taken back too, and the call stays', async () => {
    const call = data('undone', { from: '+447700900654', answeredAt: new Date().toISOString() });
    await tell('call.ringing', call);
    await tell('call.ended', { ...call, endedAt: new Date().toISOString() });
    await tell('call.transcribed', { ...call, text: 'Spoke to Una Doe. She wants two trailers.' });
    const found = (await calls()).find(({ number }) => number === '+447700900654');
    const saved = await pell.call('POST /api/call-sheets', {
      body: {
        ...sheet,
        callId: found?.id,
        text: 'Una wants two trailers',
        fullName: 'Una Doe',
        email: '',
        phone: '+447700900654',
      },
    });
    expect(saved.status).toBe(201);
    const undone = await pell.call('POST /api/events/:id/undo', { params: { id: saved.body.eventId ?? '' } });
    expect([undone.status, undone.body.detail]).toEqual([200, undefined]);
    expect((await pell.call('GET /api/people', { query: { q: 'Una Doe' } })).body.items).toEqual([]);
    expect((await calls()).find(({ id }) => id === found?.id)).toMatchObject({ saved: false });
  });
  it('names what cannot be, and then saves nothing', async () => {
    const people = await house.count('people');
    const answer = await pell.call('POST /api/call-sheets', {
      body: { ...sheet, text: 'x', fullName: 'Half Saved', email: 'not an address' },
    });
    expect(answer.status).toBe(422);
    expect(
      (await pell.call('POST /api/call-sheets', { body: { ...sheet, fullName: '' } })).body.fields,
    ).toEqual({ fullName: 'is missing' });
    expect(await house.count('people')).toBe(people);
  });
});
