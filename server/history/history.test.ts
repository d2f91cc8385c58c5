import { parseCsv } from '@emporikon/core/formats/csv';
import { delegating } from '../testing/delegating';
import { useHouse } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
const { idOf } = delegating;

const dossier = async (id: string) => (await pell.call('GET /api/people/:id', { params: { id } })).body;
const change = async (by: typeof pell, id: string, body: object) => {
  const { version } = await dossier(id);
  return by.call('PATCH /api/people/:id', { params: { id }, body: { version, ...body } });
};
const history = async (by: typeof pell, query: Record<string, string> = {}) =>
  (await by.call('GET /api/changes', { query })).body;
const lines = async (by: typeof pell, query: Record<string, string> = {}) =>
  (await history(by, query)).items.map(({ caption, from, to }) => [caption, from, to]);
async function makePerson(fullName = 'Ann Reed', over: object = {}): Promise<string> {
  return (await pell.call('POST /api/people', { body: { fullName, ...over } })).body.person.id;
}
const restore = (by: typeof pell, body: object) => by.call('POST /api/changes/restore', { body });

it('tells who changed which field from what to what, newest first, with what it was part of', async () => {
  const id = await makePerson('Ann Reed', { email: 'ann@history.example' });
  await change(pell, id, { jobTitle: 'Buyer' });
  await change(ines, id, { jobTitle: 'Head of Buying', standing: 'customer', ownerId: await idOf(ines) });
  const { items } = await history(pell, { recordId: id });
  expect(items.slice(0, 4).map(({ caption, from, to, actor }) => [caption, from, to, actor?.name])).toEqual([
    ['Job title', 'Buyer', 'Head of Buying', 'Ines Tolland'],
    ['Standing', 'stranger', 'customer', 'Ines Tolland'],
    ['Owner', 'Pell Garrick', 'Ines Tolland', 'Ines Tolland'],
    ['Job title', null, 'Buyer', 'Pell Garrick'],
  ]);
  expect(items[0]).toMatchObject({ source: 'Changed Ann Reed', isUndone: false, canRestore: true });
  expect(await lines(pell, { recordId: id })).toContainEqual(['Contact detail', null, 'ann@history.example']);
  expect(await lines(pell, { recordId: id })).toContainEqual(['Name', null, 'Ann Reed']);
  // Of what was made with them only what is theirs, and nothing to put back.
  const made = items.filter(({ eventId }) => eventId === items.at(-1)?.eventId);
  expect(made.some(({ canRestore }) => canRestore)).toBe(false);
  await pell.call('POST /api/leads', { body: { title: 'Eight bikes', personId: id } });
  expect(JSON.stringify(await lines(pell, { recordId: id }))).not.toContain('Eight bikes');
});

it('puts a value back whatever was changed since, as a change of its own that can be taken back', async () => {
  const id = await makePerson('Bea Reed');
  await change(pell, id, { jobTitle: 'Buyer', tags: ['fair'] });
  const { body } = await change(ines, id, { jobTitle: 'Owner', tags: ['fair', 'vip'] });
  await change(pell, id, { background: 'Two ovens' });
  const back = await restore(mara, { eventId: body.eventId, recordId: id, field: 'jobTitle' });
  expect(back.status).toBe(200);
  expect((await dossier(id)).jobTitle.value).toBe('Buyer');
  expect((await dossier(id)).background.value).toBe('Two ovens');
  await restore(mara, { eventId: body.eventId, recordId: id, field: 'tags' });
  expect((await dossier(id)).tags).toEqual(['fair']);
  await mara.call('POST /api/events/:id/undo', { params: { id: back.body.eventId ?? '' } });
  expect((await dossier(id)).jobTitle.value).toBe('Owner');
  const { items } = await history(pell, { recordId: id });
  expect(items.find(({ eventId }) => eventId === back.body.eventId)).toMatchObject({
    isUndone: true,
    actor: { name: 'Mara Quill' },
  });
});

it('puts back what was empty, a stage, an amount, and whether somebody is active', async () => {
  const id = await makePerson('Cas Reed');
  const first = await change(pell, id, { jobTitle: 'Buyer' });
  await restore(pell, { eventId: first.body.eventId, recordId: id, field: 'jobTitle' });
  expect((await dossier(id)).jobTitle.value).toBeNull();
  const gone = await change(pell, id, { active: false });
  await restore(pell, { eventId: gone.body.eventId, recordId: id, field: 'inactiveSince' });
  expect((await dossier(id)).inactiveSince).toBeNull();
  const { deal } = (
    await pell.call('POST /api/deals', {
      body: { title: 'Bikes', amountMinor: 5000, currency: 'EUR', personId: id },
    })
  ).body;
  const [, proposal] = (await pell.call('GET /api/stages')).body.items;
  const moved = await pell.call('PATCH /api/deals/:id', {
    params: { id: deal.id },
    body: { version: deal.version, stageId: proposal?.id, amountMinor: 7000 },
  });
  const told = (await history(pell, { recordId: deal.id })).items;
  expect(told.find(({ field, from }) => field === 'amountMinor' && from)).toMatchObject({
    type: 'money',
    from: '5000',
    to: '7000',
    currency: 'EUR',
  });
  expect(told.map(({ caption, from, to }) => [caption, from, to])).toContainEqual([
    'Stage',
    'Heard out',
    'Proposal',
  ]);
  for (const field of ['stageId', 'amountMinor'])
    expect((await restore(pell, { eventId: moved.body.eventId, recordId: deal.id, field })).status).toBe(200);
  const now = (await pell.call('GET /api/deals/:id', { params: { id: deal.id } })).body;
  expect([now.stage.name, now.amountMinor]).toEqual(['Heard out', 5000]);
});

it('puts nothing back that there was not, or that may not stand there any more', async () => {
  const id = await makePerson('Dot Reed');
  const { body } = await change(pell, id, { jobTitle: 'Buyer' });
  const other = await makePerson('Eve Reed');
  const made = await history(pell, { recordId: id });
  for (const wrong of [
    { eventId: crypto.randomUUID(), recordId: id, field: 'jobTitle' },
    { eventId: body.eventId, recordId: other, field: 'jobTitle' },
    { eventId: body.eventId, recordId: id, field: 'version' },
    { eventId: body.eventId, recordId: id, field: '__proto__' },
    { eventId: made.items.at(-1)?.eventId, recordId: id, field: 'fullName' },
  ])
    expect((await restore(pell, wrong)).status).toBe(404);
  const renamed = await change(pell, id, { fullName: 'Dot Rowe' });
  await house.sequelize.query(
    `ALTER TABLE events DISABLE TRIGGER events_append_only; UPDATE events SET changes = replace(changes::text, '"Dot Reed"', '" "')::jsonb WHERE id = '${renamed.body.eventId ?? ''}'; ALTER TABLE events ENABLE TRIGGER events_append_only`,
  );
  const refused = await restore(pell, { eventId: renamed.body.eventId, recordId: id, field: 'fullName' });
  expect([refused.status, (await dossier(id)).fullName.value]).toEqual([422, 'Dot Rowe']);
});

it('over everything is looked through by managers, and by a rep of what they did themselves', async () => {
  const id = await makePerson('Fay Zimmer');
  await change(ines, id, { jobTitle: 'Glazier' });
  await change(pell, id, { jobTitle: 'Glazier of Bristol' });
  expect((await lines(mara, { q: 'glazier' })).length).toBe(2);
  expect((await lines(mara, { q: 'glazier bristol' })).length).toBe(1);
  expect((await lines(mara, { q: 'glazier', by: await idOf(ines) })).length).toBe(1);
  expect((await lines(ines, { q: 'glazier' })).length).toBe(1);
  expect((await lines(ines, { q: 'glazier', by: await idOf(pell) })).length).toBe(1);
  expect(await lines(mara, { q: 'glazier', table: 'deals' })).toEqual([]);
  expect(await lines(mara, { q: 'glazier', until: '2020-01-01T00:00:00Z' })).toEqual([]);
  expect((await lines(mara, { q: 'glazier', from: '2020-01-01T00:00:00Z' })).length).toBe(2);
});

it('comes page after page, each change whole, and nothing twice', async () => {
  const id = await makePerson('Gil Paged');
  for (let at = 0; at < 7; at++) await change(pell, id, { jobTitle: `Job ${at}`, address: `Quay ${at}` });
  const all: string[] = [];
  let cursor: string | null = '';
  while (cursor !== null) {
    const page = await history(pell, { recordId: id, limit: '3', ...(cursor ? { cursor } : {}) });
    all.push(...page.items.map(({ key }) => key));
    cursor = page.next;
  }
  const whole = (await history(pell, { recordId: id, limit: '200' })).items.map(({ key }) => key);
  expect(all).toEqual(whole);
  expect(whole.length).toBeGreaterThanOrEqual(15);
});

it('tells nobody of what they may not see', async () => {
  const id = await makePerson('Hal Hidden');
  await change(pell, id, { jobTitle: 'Secretkeeper' });
  await pell.call('PUT /api/visibility/:kind/:id', {
    params: { kind: 'people', id },
    body: { visibility: 'named', peopleIds: [await idOf(pell)] },
  });
  expect((await ines.call('GET /api/changes', { query: { recordId: id } })).status).toBe(404);
  expect(JSON.stringify(await history(mara, { q: 'secretkeeper' }))).not.toContain('Secretkeeper');
  expect((await lines(pell, { q: 'secretkeeper' })).length).toBe(1);
  const { items } = await history(pell, { recordId: id });
  const refused = await restore(ines, {
    eventId: items[0]?.eventId,
    recordId: id,
    field: 'jobTitle',
  });
  expect(refused.status).toBe(404);
});

it('is exported as a table, formulas made harmless, and nobody changes what happened', async () => {
  const id = await makePerson('Ivy Export');
  await change(pell, id, { jobTitle: '=1+1' });
  const { text } = await pell.raw('GET', `/api/changes.csv?recordId=${id}`);
  const { rows } = parseCsv(text.replace('\ufeff', ''));
  expect(rows[0]).toEqual(['When', 'Who', 'Record', 'Kind', 'Field', 'From', 'To', 'Part of', 'Undone']);
  expect(rows[1]?.slice(1, 7)).toEqual(['Pell Garrick', 'Ivy Export', 'people', 'Job title', '', "'=1+1"]);
  expect((await pell.raw('GET', '/api/changes.csv?recordId=nonsense')).status).toBe(422);
  await expect(house.sequelize.query("UPDATE events SET label = 'x'")).rejects.toThrow(/append/);
  await expect(house.sequelize.query('DELETE FROM events')).rejects.toThrow(/append/);
});
