import { saying } from '../testing/saying';
import { useHouse, type Client } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
const { person, company, headlines } = saying(pell);

let serial = 0;
/** A term of its own for each test, whose name and key no other has. */
async function ownTerm(list: string, name: string, countsAs: string) {
  const called = `${name} ${String(++serial)}`;
  const { status, body } = await mara.call('POST /api/terms', { body: { list, name: called, countsAs } });
  expect(status).toBe(201);
  return { ...body, name: called };
}
const terms = async (list: string) =>
  (await pell.call('GET /api/terms')).body.items.filter((term) => term.list === list);
const termOf = async (id: string) =>
  (await pell.call('GET /api/terms')).body.items.find((term) => term.id === id)!;
const people = async (id: string) => (await pell.call('GET /api/people/:id', { params: { id } })).body;
const stand = async (id: string, standing: string) =>
  pell.call('PATCH /api/people/:id', {
    params: { id },
    body: { version: (await people(id)).version, standing },
  });
const retire = (id: string, to: string | null, by: Client = mara) =>
  by.call('POST /api/terms/:id/retirement', { params: { id }, body: { to } });
const undo = (id: string | null, by: Client = pell) =>
  by.call('POST /api/events/:id/undo', { params: { id: id ?? '' } });
const found = async (kind: string, field: string, value: string[]) =>
  (
    await pell.call('POST /api/queries', {
      body: { query: { kind, filter: { field, op: 'is', value }, columns: [field] } },
    })
  ).body.items.map(({ id }) => id);

describe('a standing of our own', () => {
  it('is a prospect to the program and hot to us: on the page, in history, lists, questions and plain words', async () => {
    const hot = await ownTerm('standing', 'Hot', 'prospect');
    expect((await terms('standing')).map(({ key }) => key)).toEqual([
      ...['stranger', 'prospect', hot.key],
      ...['customer', 'past customer', 'partner', 'personal'],
    ]);
    const id = await person('Ana Silva');
    const set = await stand(id, hot.key);
    expect(await people(id)).toMatchObject({ standing: 'prospect', standingTerm: hot.key });
    expect(await headlines({ personId: id })).toContain(`Standing: stranger → ${hot.name}`);
    const changes = await pell.call('GET /api/changes', { query: { recordId: id } });
    expect(changes.body.items[0]).toMatchObject({ caption: 'Standing', from: 'stranger', to: hot.name });
    expect([
      await found('person', 'standing', [hot.key]),
      await found('person', 'standing', ['prospect']),
    ]).toEqual([[id], []]);
    const words = await pell.call('POST /api/queries/words', { body: { words: `${hot.name} in Portugal` } });
    expect(words.body.conditions[0]).toEqual({ field: 'standing', op: 'is', value: [hot.key] });
    const all = await pell.call('POST /api/queries/words', { body: { words: 'prospects' } });
    expect(all.body.conditions).toEqual([{ field: 'standing', op: 'is', value: ['prospect', hot.key] }]);
    await undo(set.body.eventId);
    expect(await people(id)).toMatchObject({ standing: 'stranger', standingTerm: null });
  });

  it('gives way where something else follows, and comes back when that is undone', async () => {
    const hot = await ownTerm('standing', 'Keen', 'prospect');
    const id = await person('Rui Costa');
    await stand(id, hot.key);
    const next = await stand(id, 'customer');
    expect(await people(id)).toMatchObject({ standing: 'customer', standingTerm: null });
    await undo(next.body.eventId);
    expect(await people(id)).toMatchObject({ standing: 'prospect', standingTerm: hot.key });
    // What a change was is put back by itself too.
    const again = await stand(id, 'partner');
    const restored = await pell.call('POST /api/changes/restore', {
      body: { eventId: again.body.eventId ?? '', recordId: id, field: 'standing' },
    });
    expect([restored.status, (await people(id)).standingTerm]).toEqual([200, hot.key]);
  });

  it('stays when two become one, with the one it was taken from', async () => {
    const hot = await ownTerm('standing', 'Warm', 'customer');
    const [stays, goes] = [await person('Eva Pinto'), await person('Eva Pinto')];
    await stand(goes, hot.key);
    const merged = await mara.call('POST /api/merges', {
      body: { kind: 'person', survivorId: stays, mergedIds: [goes] },
    });
    expect(merged.status).toBe(201);
    expect(await people(stays)).toMatchObject({ standing: 'customer', standingTerm: hot.key });
    // One that counts as the same, and says less, gives way.
    const plain = await person('Eva Pinto');
    await stand(plain, 'customer');
    await mara.call('POST /api/merges', {
      body: { kind: 'person', survivorId: plain, mergedIds: [stays] },
    });
    expect((await people(plain)).standingTerm).toBe(hot.key);
  });

  it('is chosen for many, and the preview and history call it by its name', async () => {
    const hot = await ownTerm('standing', 'Tepid', 'prospect');
    const ids = [await person('Gil Mota'), await person('Fay Mendes')];
    const { body } = await pell.call('POST /api/bulk-changes', {
      body: { kind: 'person', on: { ids }, steps: [{ do: 'standing', to: hot.key }] },
    });
    expect([body.change.label, body.preview.samples[0]?.said]).toEqual([
      `standing to ${hot.name}`,
      `Standing: stranger → ${hot.name}`,
    ]);
    await pell.call('POST /api/bulk-changes/:id/start', { params: { id: body.change.id } });
    await house.work();
    expect(await people(ids[1]!)).toMatchObject({ standing: 'prospect', standingTerm: hot.key });
    await pell.call('POST /api/bulk-changes/:id/undo', { params: { id: body.change.id } });
    await house.work();
    expect(await people(ids[1]!)).toMatchObject({ standing: 'stranger', standingTerm: null });
  });
});

it('a lead has a status of our own, is as open as what that counts as, and goes from it where that may go', async () => {
  const demo = await ownTerm('leadStatus', 'Demo booked', 'working');
  const later = await ownTerm('leadStatus', 'Next season', 'parked');
  const { body } = await pell.call('POST /api/leads', { body: { title: 'Bikes', personName: 'Ivo Reis' } });
  const { id } = body.lead;
  const lead = async () => (await pell.call('GET /api/leads/:id', { params: { id } })).body;
  const set = async (given: object) =>
    pell.call('PATCH /api/leads/:id', {
      params: { id },
      body: { version: (await lead()).version, ...given },
    });
  expect((await lead()).nextStatuses).toEqual(expect.arrayContaining([demo.key, later.key]));
  await set({ status: demo.key });
  expect(await lead()).toMatchObject({ status: 'working', statusTerm: demo.key });
  expect((await lead()).nextStatuses).toEqual(expect.arrayContaining(['working', 'new']));
  const listed = async (status: string) =>
    (await pell.call('GET /api/leads', { query: { status } })).body.items.map((item) => item.id);
  expect([await listed(demo.key), await listed('working')]).toEqual([[id], []]);
  expect((await set({ status: later.key })).status).toBe(422);
  await set({ status: later.key, parkedUntil: '2027-01-15' });
  expect(await lead()).toMatchObject({ status: 'parked', statusTerm: later.key, parkedUntil: '2027-01-15' });
  expect(await headlines({ leadId: id })).toEqual(
    expect.arrayContaining([`Status: new → ${demo.name}`, `Status: ${demo.name} → ${later.name}`]),
  );
  await set({ status: 'qualified' });
  const converted = await pell.call('POST /api/leads/:id/conversion', { params: { id } });
  expect([converted.status, (await lead()).status, (await lead()).statusTerm]).toEqual([
    201,
    'converted',
    null,
  ]);
  expect((await lead()).nextStatuses).toEqual([]);
});

it('two companies become one of the kind that somebody gave either; a copy is of the kind of the first', async () => {
  const council = await ownTerm('companyKind', 'Museum', 'firm');
  const [stays, goes] = [await company('Museu do Mar'), await company('Museu do Mar Lda')];
  const patch = { params: { id: goes }, body: { version: 1, kind: council.key } };
  expect((await pell.call('PATCH /api/companies/:id', patch)).status).toBe(200);
  const compared = await mara.call('POST /api/merges/compare', {
    body: { kind: 'company', ids: [stays, goes] },
  });
  expect(compared.body.fields.find(({ field }) => field === 'kind')).toMatchObject({
    proposed: goes,
    values: expect.arrayContaining([expect.objectContaining({ value: council.name })]),
  });
  const copied = await pell.call('POST /api/clones/:kind/:id', {
    params: { kind: 'company', id: goes },
    body: { name: 'Museu da Terra', with: ['facts'] },
  });
  const of = async (id: string) =>
    (await pell.call('GET /api/companies/:id', { params: { id } })).body.kindTerm;
  expect(await of(copied.body.id)).toBe(council.key);
  await mara.call('POST /api/merges', { body: { kind: 'company', survivorId: stays, mergedIds: [goes] } });
  expect(await of(stays)).toBe(council.key);
});

it('a company is of a kind of our own, and its change stands in its history', async () => {
  const council = await ownTerm('companyKind', 'Council', 'firm');
  const id = await company('Porto Novo');
  const dossier = async () => (await pell.call('GET /api/companies/:id', { params: { id } })).body;
  const { version } = await dossier();
  await pell.call('PATCH /api/companies/:id', { params: { id }, body: { version, kind: council.key } });
  expect(await dossier()).toMatchObject({ kind: 'firm', kindTerm: council.key });
  expect(await found('company', 'companyKind', [council.key])).toEqual([id]);
  expect(await headlines({ companyId: id })).toContain(`Kind: company → ${council.name}`);
});

describe('a term that is no longer wanted', () => {
  it('is kept on records and chosen by nobody; or all become another, seen or not, with views that ask for it', async () => {
    const [cool, hot] = [
      await ownTerm('standing', 'Cool', 'prospect'),
      await ownTerm('standing', 'Fine', 'prospect'),
    ];
    const [seen, hidden] = [await person('Lia Neves'), await person('Mia Neves')];
    for (const id of [seen, hidden]) await stand(id, cool.key);
    await pell.call('PUT /api/visibility/:kind/:id', {
      params: { kind: 'people', id: hidden },
      body: { visibility: 'owner' },
    });
    const view = await pell.call('POST /api/views', {
      body: {
        name: 'Cool ones',
        query: { kind: 'person', filter: { field: 'standing', op: 'is', value: [cool.key] } },
      },
    });
    const uses = (by: Client) => by.call('GET /api/terms/:id/uses', { params: { id: cool.id } });
    expect((await uses(mara)).body).toEqual({ records: 2, uses: [] });
    expect((await retire(cool.id, null)).body.changes).toEqual([]);
    expect(await people(seen)).toMatchObject({ standingTerm: cool.key });
    expect((await stand(await person('Noa Luz'), cool.key)).status).toBe(422);
    expect((await stand(seen, cool.key)).status).toBe(200);

    const gone = await retire(cool.id, hot.key);
    await house.work();
    expect([gone.status, gone.body.changes[0]?.total]).toEqual([201, 2]);
    expect([(await people(seen)).standingTerm, (await people(hidden)).standingTerm]).toEqual([
      hot.key,
      hot.key,
    ]);
    expect(await headlines({ personId: seen })).toContain(`Standing: ${cool.name} → ${hot.name}`);
    const asked = await pell.call('GET /api/views/:id', { params: { id: view.body.view.id } });
    expect(asked.body.query.filter).toMatchObject({ value: [hot.key] });
    await mara.call('POST /api/bulk-changes/:id/undo', { params: { id: gone.body.changes[0]?.id ?? '' } });
    await house.work();
    expect((await people(hidden)).standingTerm).toBe(cool.key);
    const back = await mara.call('PATCH /api/terms/:id', {
      params: { id: cool.id },
      body: { version: (await termOf(cool.id)).version, isRetired: false },
    });
    expect([back.status, (await termOf(cool.id)).isRetired]).toEqual([200, false]);
  });

  it('is removed only where nothing has it, and no undo takes it from under a record', async () => {
    const odd = await ownTerm('standing', 'Odd', 'stranger');
    const id = await person('Olga Sa');
    const set = await stand(id, odd.key);
    const remove = () => mara.call('DELETE /api/terms/:id', { params: { id: odd.id } });
    expect((await remove()).status).toBe(409);
    const taken = await undo(odd.eventId, mara);
    expect([taken.status, (await people(id)).standingTerm]).toEqual([409, odd.key]);
    await undo(set.body.eventId);
    expect((await remove()).status).toBe(200);
    expect((await terms('standing')).some(({ key }) => key === odd.key)).toBe(false);
  });
});

it('built-in terms are renamed and moved, and never go; what they are called counts everywhere', async () => {
  const [built] = (await terms('standing')).filter(({ key }) => key === 'personal');
  const { id = '', version = 0 } = built ?? {};
  expect((await retire(id, null)).status).toBe(409);
  expect((await mara.call('DELETE /api/terms/:id', { params: { id } })).status).toBe(409);
  const renamed = await mara.call('PATCH /api/terms/:id', {
    params: { id },
    body: { version, name: 'friend', position: 1 },
  });
  expect((await terms('standing'))[0]).toMatchObject({ key: 'personal', name: 'friend' });
  const fields = await pell.call('GET /api/queries/fields', { query: { kind: 'person' } });
  expect(fields.body.fields.find(({ key }) => key === 'standing')?.options?.[0]).toEqual({
    value: 'personal',
    label: 'Friend',
  });
  const friend = await person('Paz Gil');
  await stand(friend, 'personal');
  expect(await headlines({ personId: friend })).toContain('Standing: stranger → friend');
  const words = await pell.call('POST /api/queries/words', { body: { words: 'friends without an email' } });
  expect(words.body.conditions[0]).toEqual({ field: 'standing', op: 'is', value: ['personal'] });
  expect((await undo(renamed.body.eventId, mara)).status).toBe(200);
});

it.each([
  [{ list: 'standing', name: 'PROSPECT', countsAs: 'customer' }, 422],
  [{ list: 'leadStatus', name: 'Signed', countsAs: 'converted' }, 422],
  [{ list: 'standing', name: 'Council', countsAs: 'firm' }, 422],
  [{ list: 'stages', name: 'Council', countsAs: 'firm' }, 422],
  [{ list: 'standing', name: ' ', countsAs: 'stranger' }, 422],
])('no term is made of %j', async (body, status) => {
  expect((await mara.call('POST /api/terms', { body })).status).toBe(status);
});

it('a rep changes no terms, and nobody chooses one of another list', async () => {
  const body = { list: 'standing', name: 'Mine', countsAs: 'stranger' };
  expect((await ines.call('POST /api/terms', { body })).status).toBe(403);
  const id = await person('Quim Rosa');
  expect([(await stand(id, 'working')).status, (await stand(id, 'firm')).status]).toEqual([422, 422]);
});
