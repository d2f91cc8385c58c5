import { consenting } from '../testing/consenting';
import { lettering } from '../testing/lettering';
import { useHouse } from '../testing/harness';

const { house, pell, mara, ines } = useHouse();
const { reachable: add } = lettering(house);
const { consentOf, statesOf, idOf, note } = consenting(house);
let serial = 0;
const reachable = (name = 'Ana Reis'): Promise<string> => add(pell, name, `c${++serial}@consent.example`);

describe('purposes and topics', () => {
  it('ship as service, news and offers, and are the organisation’s to change', async () => {
    const shipped = (await pell.call('GET /api/purposes')).body.items;
    expect(shipped.map(({ name, isDefault }) => [name, isDefault])).toEqual([
      ['Service', false],
      ['News', true],
      ['Offers', false],
      ['Opens and clicks', false],
    ]);
    expect(shipped[1]?.translations.pt).toEqual({
      name: 'Novidades',
      words: 'Enviem-me novidades de vez em quando.',
    });
    const made = await mara.call('POST /api/purposes', {
      body: { name: 'Invitations', words: 'Invite me to test rides.' },
    });
    expect(made.status).toBe(201);
    const [params, name] = [{ id: made.body.id }, 'Events'];
    expect((await mara.call('PATCH /api/purposes/:id', { params, body: { version: 1, name } })).status).toBe(
      200,
    );
    expect(
      (await mara.call('PATCH /api/purposes/:id', { params, body: { version: 1, name: 'X' } })).status,
    ).toBe(409);
    const taken = await mara.call('PATCH /api/purposes/:id', { params, body: { version: 2, name: 'news' } });
    expect([taken.status, taken.body.fields]).toEqual([409, { name: 'is taken' }]);
    const topic = await mara.call('POST /api/topics', {
      body: { purposeId: params.id, name: 'Test rides', byArea: true },
    });
    expect(
      (await mara.call('POST /api/topics', { body: { purposeId: params.id, name: 'TEST rides' } })).status,
    ).toBe(409);
    const renamed = await mara.call('PATCH /api/topics/:id', {
      params: { id: topic.body.id },
      body: { version: 1, name: 'Rides', translations: { de: { name: 'Probefahrten', words: '' } } },
    });
    expect(renamed.status).toBe(200);
    const listed = (await pell.call('GET /api/purposes')).body.items.find(({ id }) => id === params.id);
    expect(listed?.topics).toMatchObject([
      { name: 'Rides', byArea: true, translations: { de: { name: 'Probefahrten', words: '' } }, agreed: 0 },
    ]);
    expect((await mara.call('DELETE /api/topics/:id', { params: { id: topic.body.id } })).status).toBe(200);
    expect((await mara.call('DELETE /api/purposes/:id', { params })).status).toBe(200);
    expect((await mara.call('DELETE /api/purposes/:id', { params })).status).toBe(404);
    expect(await statesOf(pell, await reachable())).toEqual({});
  });

  it('are changed by whoever may change channels', async () => {
    const body = { name: 'Gossip' };
    expect((await pell.call('POST /api/purposes', { body })).status).toBe(403);
    const area = { name: 'North', corners: [0, 0, 1, 0, 1, 1] };
    expect((await pell.call('POST /api/areas', { body: area })).status).toBe(403);
  });
});

describe('what somebody said', () => {
  it('is kept with who, when, how and the words, and stands in their history', async () => {
    const id = await reachable('Bea Amado');
    const news = await idOf(pell, 'News');
    const bare = await note(pell, id, { purposeId: news, state: 'agreed' });
    expect([bare.status, bare.body.fields]).toEqual([422, { words: 'is missing' }]);
    await note(pell, id, { purposeId: news, state: 'agreed', words: 'on the phone, “yes, do write”' });
    await note(ines, id, { purposeId: news, state: 'withdrawn', words: 'at the fair' });
    const { history } = await consentOf(pell, id);
    expect(history).toMatchObject([
      { purpose: 'News', state: 'withdrawn', how: 'by hand', words: 'at the fair', by: 'Ines Tolland' },
      { state: 'agreed', words: 'on the phone, “yes, do write”', by: 'Pell Garrick' },
    ]);
    const ledger = (await pell.call('GET /api/ledger', { query: { personId: id } })).body.items;
    expect(ledger.map(({ headline }) => headline)).toEqual(['Withdrew consent: News', 'Agreed to: News']);
    expect((await pell.call('GET /api/people/:id', { params: { id } })).body.consents).toEqual([
      { purpose: 'News', state: 'withdrawn' },
    ]);
  });

  it('said twice in the same moment, the later word holds', async () => {
    const id = await reachable();
    const news = await idOf(pell, 'News');
    const { now } = house.tools;
    const then = now();
    house.tools.now = () => then;
    for (let round = 0; round < 6; round++)
      await note(pell, id, { purposeId: news, state: round % 2 ? 'withdrawn' : 'agreed', words: `${round}` });
    house.tools.now = now;
    expect(await statesOf(pell, id)).toEqual({ News: 'withdrawn' });
    expect(await house.count(`consents WHERE person_id = '${id}'`)).toBe(6);
  });

  it('is taken back by undo where it was noted by mistake', async () => {
    const id = await reachable();
    const offers = await idOf(pell, 'Offers');
    const { body } = await note(pell, id, { purposeId: offers, state: 'agreed', words: 'by phone' });
    expect(
      (await pell.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } })).status,
    ).toBe(200);
    expect(await statesOf(pell, id)).toEqual({});
  });

  it('is the last word of either where two records become one', async () => {
    const [first, second] = [await reachable('Rui Nunes'), await reachable('Rui Nunes')];
    const news = await idOf(pell, 'News');
    await note(pell, first, { purposeId: news, state: 'withdrawn' });
    await note(pell, second, { purposeId: news, state: 'agreed', words: 'by mail' });
    await note(pell, second, { purposeId: news, state: 'withdrawn' });
    await note(pell, first, { purposeId: news, state: 'agreed', words: 'at the counter' });
    const merged = await pell.call('POST /api/merges', {
      body: { kind: 'person', survivorId: second, mergedIds: [first], choices: {} },
    });
    expect(merged.status).toBe(201);
    expect(await statesOf(pell, second)).toEqual({ News: 'agreed' });
    expect((await consentOf(pell, second)).history).toHaveLength(4);
  });

  it('of a purpose takes its topics along, and agreeing again does not bring them back', async () => {
    const id = await reachable();
    const service = await idOf(pell, 'Service');
    const topic = await mara.call('POST /api/topics', { body: { purposeId: service, name: 'Workshop' } });
    const about = { purposeId: service, topicId: topic.body.id };
    await note(pell, id, { ...about, state: 'agreed', words: 'by phone' });
    expect(await statesOf(pell, id)).toEqual({ Service: 'agreed', Workshop: 'agreed' });
    await note(pell, id, { purposeId: service, state: 'withdrawn' });
    await note(pell, id, { purposeId: service, state: 'agreed', words: 'again' });
    expect(await statesOf(pell, id)).toEqual({ Service: 'agreed', Workshop: 'withdrawn' });
    const unknown = await note(pell, id, {
      ...about,
      purposeId: await idOf(pell, 'News'),
      state: 'withdrawn',
    });
    expect([unknown.status, unknown.body.fields]).toEqual([422, { topicId: 'does not exist' }]);
  });

  it('is not overruled by a list that says of everybody that they agreed', async () => {
    const id = await reachable('Ola Vik');
    const { address = '' } = (await consentOf(pell, id)).addresses[0] ?? {};
    await note(pell, id, { purposeId: await idOf(pell, 'News'), state: 'withdrawn' });
    const { status } = await pell.call('POST /api/people', { body: { fullName: 'Nils', consent: 'agreed' } });
    expect([status, address]).toEqual([201, expect.stringContaining('@consent.example')]);
    const csv = `Name,Email\nOla Vik,${address}\nKari Moe,kari@consent.example\n`;
    const put = await pell.call('POST /api/imports', {
      raw: csv,
      type: 'text/csv',
      query: { name: 'fair.csv' },
    });
    await house.work();
    const params = { id: put.body.id };
    const choices = {
      consent: 'agreed',
      purposeIds: [await idOf(pell, 'News'), await idOf(pell, 'Offers')],
    };
    const bench = (await pell.call('GET /api/imports/:id', { params })).body;
    await pell.call('PUT /api/imports/:id/mapping', {
      params,
      body: { version: bench.version, mapping: bench.mapping, choices },
    });
    await house.work();
    await pell.call('POST /api/imports/:id/start', { params });
    await house.work();
    expect(await statesOf(pell, id)).toEqual({ News: 'withdrawn', Offers: 'agreed' });
    const kari = (await pell.call('GET /api/people', { query: { q: 'Kari Moe' } })).body.items[0]?.id ?? '';
    expect((await consentOf(pell, kari)).history).toMatchObject([
      { state: 'agreed', how: 'import', source: 'fair.csv', address: 'kari@consent.example', by: null },
      { state: 'agreed', how: 'import' },
    ]);
    await pell.call('POST /api/imports/:id/undo', { params });
    await house.work();
    expect(await statesOf(pell, id)).toEqual({ News: 'withdrawn' });
    expect((await pell.call('GET /api/people/:id', { params: { id: kari } })).status).toBe(404);
  });

  it('goes out as a table, with formulas made harmless', async () => {
    const id = await reachable('Eva Sands');
    await note(pell, id, { purposeId: await idOf(pell, 'News'), state: 'agreed', words: '=HYPERLINK("x")' });
    const one = await pell.raw('GET', `/api/people/${id}/consent.csv`);
    expect([one.status, one.text.split('\r\n')[1]]).toEqual([
      200,
      expect.stringMatching(/^[\d-]+T[\d:.]+Z,Eva Sands,News,,agreed,by hand,"'=HYPERLINK/),
    ]);
    const all = await pell.raw('GET', '/api/consents.csv?from=2000-01-01&to=2999-01-01');
    expect(all.text.split('\r\n').length - 2).toBe(await house.count('consents'));
    expect((await pell.raw('GET', '/api/consents.csv?to=2000-01-01')).text.trim().split('\r\n')).toHaveLength(
      1,
    );
  });
});

describe('subscribers of a topic', () => {
  it('are those of a place: by post code, by an area, or everywhere', async () => {
    const news = await idOf(pell, 'News');
    const lisbon = await mara.call('POST /api/areas', {
      body: { name: 'Lisbon', corners: [-9.3, 38.6, -9, 38.6, -9, 38.9, -9.3, 38.9] },
    });
    const topic = await mara.call('POST /api/topics', {
      body: { purposeId: news, name: 'Test rides near you', byArea: true },
    });
    const about = { purposeId: news, topicId: topic.body.id, state: 'agreed', words: 'by phone' };
    const by = {
      code: await reachable('By Code'),
      area: await reachable('By Area'),
      all: await reachable('By All'),
    };
    const codes = [{ country: 'PT', code: '1100' }];
    await note(pell, by.code, { ...about, places: { codes, areas: [] } });
    await note(pell, by.area, { ...about, places: { codes: [], areas: [lisbon.body.id] } });
    await note(pell, by.all, about);
    const wrong = await note(pell, by.all, { ...about, places: { codes: [], areas: [topic.body.id] } });
    expect([wrong.status, wrong.body.fields]).toEqual([422, { places: 'does not exist' }]);
    const params = { id: topic.body.id };
    const of = async (query: Record<string, string>): Promise<string[]> =>
      (await pell.call('GET /api/topics/:id/subscribers', { params, query })).body.items
        .map(({ name }) => name)
        .sort();
    expect(await of({})).toEqual(['By All', 'By Area', 'By Code']);
    expect(await of({ country: 'PT', postCode: '1100-042' })).toEqual(['By All', 'By Code']);
    expect(await of({ country: 'ES', postCode: '1100-042' })).toEqual(['By All']);
    expect(await of({ lon: '-9.14', lat: '38.72' })).toEqual(['By All', 'By Area']);
    expect(await of({ lon: '2.1', lat: '41.4' })).toEqual(['By All']);
    const half = await pell.call('GET /api/topics/:id/subscribers', { params, query: { lon: '2' } });
    expect(half.status).toBe(422);
    const first = (await pell.call('GET /api/topics/:id/subscribers', { params, query: { limit: '2' } }))
      .body;
    const rest = await pell.call('GET /api/topics/:id/subscribers', {
      params,
      query: { limit: '2', cursor: first.next ?? '' },
    });
    expect([first.items.length, rest.body.items.length, rest.body.next]).toEqual([2, 1, null]);
    await note(pell, by.all, { purposeId: news, state: 'withdrawn' });
    expect(await of({})).toEqual(['By Area', 'By Code']);
    const area = { id: lisbon.body.id };
    await mara.call('PATCH /api/areas/:id', { params: area, body: { version: 1, name: 'Greater Lisbon' } });
    expect((await pell.call('GET /api/areas')).body.items.map(({ name }) => name)).toEqual([
      'Greater Lisbon',
    ]);
    await mara.call('DELETE /api/areas/:id', { params: area });
    expect(await of({ lon: '-9.14', lat: '38.72' })).toEqual([]);
  });
});

it('is asked for in views, by purpose', async () => {
  const id = await reachable('Question Asked');
  const news = await idOf(pell, 'News');
  await note(pell, id, { purposeId: news, state: 'agreed', words: 'by phone' });
  const find = async (filter: object): Promise<unknown[]> =>
    (
      await pell.call('POST /api/queries', { body: { query: { kind: 'person', filter }, limit: 200 } })
    ).body.items.map((item) => item.id);
  expect(await find({ field: 'agreedTo', op: 'hasAny', value: [news] })).toContain(id);
  expect(await find({ field: 'withdrewFrom', op: 'hasAny', value: [news] })).not.toContain(id);
  expect(await find({ field: 'consent', op: 'is', value: ['agreed'] })).toContain(id);
  expect(await find({ field: 'emailState', op: 'is', value: ['gone'] })).not.toContain(id);
});
