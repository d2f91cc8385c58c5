import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { useHouse } from '../testing/harness';

const { house, pell, mara } = useHouse();

const person = async (fullName: string, jobTitle: string | null = null, companyName?: string) =>
  (await pell.call('POST /api/people', { body: { fullName, jobTitle, companyName } })).body.person;
const add = async (body: object) => (await pell.call('POST /api/deals', { body })).body.deal;
const deal = async (id: string) => (await pell.call('GET /api/deals/:id', { params: { id } })).body;
const undo = (id: string | null) => pell.call('POST /api/events/:id/undo', { params: { id: id ?? '' } });
const line = (given: object) => ({
  name: 'Long bike',
  quantity: 4,
  unitMinor: 450_000,
  taxPercent: 20,
  ...given,
});
const putLines = async (id: string, lines: object[]) =>
  pell.call('PUT /api/deals/:id/lines', {
    params: { id },
    body: { version: (await deal(id)).version, lines },
  });

describe('lines', () => {
  it('make the amount, with tax by rate and what recurs', async () => {
    const { id } = await add({ title: 'Lined', amountMinor: 1 });
    const { status, body } = await putLines(id, [
      line({ discountPercent: '7.5' }),
      line({ name: 'Plan', unitMinor: 1999, charged: 'month', periods: 24 }),
    ]);
    expect(status).toBe(200);
    expect(body.totals).toMatchObject({ netMinor: 1_856_904, taxMinor: 371_381, monthMinor: 7996 });
    expect(await deal(id)).toMatchObject({
      amountMinor: 1_856_904,
      lines: [{ quantity: '4' }, { periods: 24 }],
    });
    const { version } = await deal(id);
    const refused = await pell.call('PATCH /api/deals/:id', {
      params: { id },
      body: { version, amountMinor: 5 },
    });
    expect([refused.status, refused.body.fields]).toEqual([422, { amountMinor: 'comes from the lines' }]);
    expect((await undo(body.eventId)).status).toBe(200);
    expect(await deal(id)).toMatchObject({ amountMinor: 1, lines: [] });
  });

  it('are changed by one of two who change them at once, and the other is told', async () => {
    const { id, version } = await add({ title: 'Two at once' });
    const put = (name: string) =>
      pell.call('PUT /api/deals/:id/lines', { params: { id }, body: { version, lines: [line({ name })] } });
    const answers = await Promise.all([put('A'), put('B')]);
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 409]);
  });

  it.each([
    [{ quantity: 0 }],
    [{ quantity: '1.0001' }],
    [{ discountPercent: 101 }],
    [{ taxPercent: '1e1' }],
    [{ unitMinor: -1 }],
    [{ unitMinor: 1.5 }],
    [{ periods: 0 }],
  ])('refuse %j', async (bad) => {
    const { id } = await add({ title: 'Bad line' });
    expect((await putLines(id, [line(bad)])).status).toBe(422);
  });
});

it('lines that come to more than can be reckoned with are refused, saved or not', async () => {
  const { id } = await add({ title: 'Too much' });
  const huge = [line({ quantity: 999_999_999, unitMinor: 100_000_000_000 })];
  expect((await putLines(id, huge)).status).toBe(422);
  expect((await pell.call('POST /api/totals', { body: { lines: huge } })).status).toBe(422);
  const { body } = await pell.call('POST /api/totals', { body: { lines: [line({})] } });
  expect(body).toMatchObject({ netMinor: 1_800_000, grossMinor: 2_160_000 });
});

describe('prices', () => {
  it('come from a list in the currency, else from another at the rate of the day, which is told', async () => {
    const product = (
      await mara.call('POST /api/products', { body: { code: 'LB', name: 'Long bike', taxPercent: '20' } })
    ).body.id;
    const list = (await mara.call('POST /api/price-lists', { body: { name: 'Euro', currency: 'EUR' } })).body
      .id;
    await mara.call('PUT /api/price-lists/:id/prices/:productId', {
      params: { id: list, productId: product },
      body: { unitMinor: 450_000 },
    });
    await mara.call('PUT /api/rates', { body: { currency: 'JPY', day: '2026-01-01', perHouse: 160 } });
    await mara.call('PUT /api/rates', { body: { currency: 'JPY', day: '2026-06-01', perHouse: '170.5' } });
    const price = async (query: Record<string, string>) =>
      (await pell.call('GET /api/products/:id/price', { params: { id: product }, query })).body;
    expect(await price({ currency: 'EUR' })).toEqual({ unitMinor: 450_000, list: 'Euro', rate: null });
    expect(await price({ currency: 'JPY', day: '2026-03-01' })).toEqual({
      unitMinor: 720_000,
      list: 'Euro',
      rate: '1 EUR = 160 JPY from 2026-01-01',
    });
    expect((await price({ currency: 'JPY', day: '2026-07-01' })).unitMinor).toBe(767_250);
    expect(await price({ currency: 'CHF' })).toMatchObject({ unitMinor: null, rate: 'no rate for CHF' });
    expect((await mara.call('POST /api/price-lists', { body: { name: 'X', currency: 'ZZZ' } })).status).toBe(
      422,
    );
  });
});

describe('people on a deal', () => {
  it('have roles that are changed, one may have two, and all comes back', async () => {
    const [ann, bo] = [await person('Ann Parts'), await person('Bo Parts')];
    const { id } = await add({ title: 'Parts', personId: ann.id });
    const put = (people: object[]) =>
      pell.call('PUT /api/deals/:id/people', { params: { id }, body: { people } });
    const { body } = await put([
      { personId: ann.id, role: 'pays' },
      { personId: ann.id, role: 'decides' },
      { personId: bo.id, role: 'gatekeeper' },
    ]);
    expect((await deal(id)).people.map((person) => [person.name, person.role])).toEqual([
      ['Ann Parts', 'decides'],
      ['Ann Parts', 'pays'],
      ['Bo Parts', 'gatekeeper'],
    ]);
    await undo(body.eventId);
    expect((await deal(id)).people).toHaveLength(1);
    expect((await put([{ personId: crypto.randomUUID(), role: 'pays' }])).status).toBe(422);
  });
});

describe('quotes', () => {
  it('are numbered without a gap even when made at once, and stay what they were', async () => {
    const ann = await person('Ann Quoted', 'Owner');
    const { id } = await add({ title: 'Quoted, 4 bikes', personId: ann.id });
    const make = () => pell.call('POST /api/deals/:id/quotes', { params: { id } });
    expect((await make()).status).toBe(422);
    await putLines(id, [line({})]);
    await mara.call('PATCH /api/quote-settings', {
      body: { version: 1, issuer: 'Wharfside Cargo Cycles\nCoal Quay', terms: 'Half on order.' },
    });
    const made = await Promise.all([make(), make(), make()]);
    const year = new Date().getFullYear();
    expect(made.map((one) => one.body.quote.number).sort()).toEqual(
      [1, 2, 3].map((count) => `Q-${year}-000${count}`),
    );
    await putLines(id, [line({ quantity: 9 })]);
    expect(made[0]?.body.quote).toMatchObject({
      netMinor: 1_800_000,
      grossMinor: 2_160_000,
      state: 'drafted',
    });
    const { items } = (await pell.call('GET /api/quotes', { query: { deal: id } })).body;
    expect(items.map((item) => item.netMinor)).toEqual([1_800_000, 1_800_000, 1_800_000]);
  });

  it('go from state to state, each in the ledger with whose word it was', async () => {
    const ann = await person('Ann Sends');
    const { id } = await add({ title: 'Sent', personId: ann.id });
    await putLines(id, [line({})]);
    const { quote } = (await pell.call('POST /api/deals/:id/quotes', { params: { id } })).body;
    const set = (state: string, version: number) =>
      pell.call('PATCH /api/quotes/:id', { params: { id: quote.id }, body: { version, state } });
    expect((await set('accepted', 1)).status).toBe(409);
    expect((await set('sent', 1)).status).toBe(200);
    const ledger = async () => (await pell.call('GET /api/ledger', { query: { dealId: id } })).body;
    expect((await ledger()).turn.turn).toBe('theirs');
    expect((await set('accepted', 1)).status).toBe(409);
    const { body } = await set('accepted', 2);
    expect(
      (await ledger()).items.map((item) => [item.side, item.headline.replace(quote.number, 'it')]),
    ).toEqual([
      ['theirs', 'Quote it accepted by them'],
      ['ours', 'Quote it sent'],
      ['within', 'Quote it made, EUR 21,600.00 with tax'],
    ]);
    expect((await undo(body.eventId)).status).toBe(200);
    expect((await pell.call('GET /api/ledger', { query: { personId: ann.id } })).body.items).toHaveLength(2);
  });

  it('print all that is on them, over as many pages as it takes', async () => {
    const ann = await person('Łucja Zielińska', 'Właścicielka', 'Ćma i Synowie');
    const { id } = await add({ title: 'Printed', personId: ann.id, companyId: ann.company?.id });
    await putLines(
      id,
      Array.from({ length: 60 }, (_, at) =>
        line({ name: `Thing number ${at + 1} of a long list of things` }),
      ),
    );
    const { quote } = (await pell.call('POST /api/deals/:id/quotes', { params: { id } })).body;
    const cookie = await signIn();
    const answer = await house.app.inject({ url: `/api/quotes/${quote.id}/quote.pdf`, headers: { cookie } });
    expect(answer.headers['content-type']).toBe('application/pdf');
    const pages = JSON.parse(
      execFileSync('node', [join(__dirname, '../testing/pdfText.mjs')], {
        input: answer.rawPayload,
      }).toString(),
    ) as string[];
    expect(pages.length).toBeGreaterThan(1);
    const text = pages.join(' ');
    for (const words of [quote.number, 'Łucja Zielińska', 'Ćma i Synowie', 'Thing number 60', '1,296,000.00'])
      expect(text).toContain(words);
    expect(pages.at(-1)).toContain(`page ${pages.length} of ${pages.length}`);
  });
});

it('a sum that is only mentioned does not replace what the lines come to', async () => {
  const { id } = await add({ title: 'Mentioned', amountMinor: 100 });
  const say = () =>
    pell.call('POST /api/ledger', { body: { line: 'They can spend 90,000 euros', about: { dealId: id } } });
  expect((await say()).body.saved).toContain('deal');
  expect((await deal(id)).amountMinor).toBe(9_000_000);
  await putLines(id, [line({})]);
  expect((await say()).body.saved).not.toContain('deal');
  expect((await deal(id)).amountMinor).toBe(1_800_000);
});

describe('what was built on', () => {
  it('a deal with a quote is not taken back, and it says why', async () => {
    const { body } = await pell.call('POST /api/deals', { body: { title: 'Kept by its quote' } });
    await putLines(body.deal.id, [line({})]);
    await pell.call('POST /api/deals/:id/quotes', { params: { id: body.deal.id } });
    const refused = await undo(body.eventId);
    expect(refused.status).toBe(409);
    expect(String(refused.body.reasons)).toMatch(/Kept by its quote/);
  });

  it('a quote lapses after its last day, and is refused one that has passed', async () => {
    const { id } = await add({ title: 'Lapses' });
    await putLines(id, [line({})]);
    const make = (validUntil: string) =>
      pell.call('POST /api/deals/:id/quotes', { params: { id }, body: { validUntil } });
    expect((await make('2020-01-01')).status).toBe(422);
    const { quote } = (await make('2999-01-01')).body;
    expect(quote.isLapsed).toBe(false);
    await house.sequelize.query(`UPDATE quotes SET valid_until = '2020-01-01' WHERE id = '${quote.id}'`);
    const { items } = (await pell.call('GET /api/quotes', { query: { deal: id } })).body;
    expect(items[0]).toMatchObject({ isLapsed: true, state: 'drafted' });
  });

  it('a product that is retired stays on the lines that have it', async () => {
    const { body } = await mara.call('POST /api/products', { body: { code: 'OLD', name: 'Old bike' } });
    const { id } = await add({ title: 'Has an old bike' });
    await putLines(id, [line({ productId: body.id, name: 'Old bike' })]);
    await mara.call('PATCH /api/products/:id', {
      params: { id: body.id },
      body: { version: 1, active: false, name: 'Renamed' },
    });
    expect((await deal(id)).lines[0]).toMatchObject({ productId: body.id, name: 'Old bike' });
    expect((await mara.call('POST /api/products', { body: { code: 'OLD', name: 'Again' } })).status).toBe(
      422,
    );
  });
});

async function signIn(): Promise<string> {
  const response = await house.app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { email: 'pell@wharfside.example', password: 'a-long-test-password' },
  });
  return String(response.headers['set-cookie']).split(';')[0] ?? '';
}
