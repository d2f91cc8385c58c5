import { useHouse } from '../testing/harness';

const use = useHouse();
const LETTERS = 'qzjxv';
/** A value that is found nowhere else, so that any answer in which it stands gives it away. */
const SECRET = `${LETTERS}-secret`;

const added = async (label: string, more: object) =>
  (await use.mara.call('POST /api/fields', { body: { label, ...more } })).body.field;
const dossier = async (id: string, by = use.pell) =>
  (await by.call('GET /api/people/:id', { params: { id } })).body;
const patch = async (id: string, custom: object, by = use.mara) =>
  by.call('PATCH /api/people/:id', {
    params: { id },
    body: { version: (await dossier(id, use.mara)).version, custom },
  });

it('a field that somebody may not see is in no answer to them, by whatever way it is asked for', async () => {
  const field = await added('Credit limit', { seenBy: 'managers', changedBy: 'managers' });
  const worth = await added('Doubled', {
    kind: 'formula',
    formula: `if filled("Credit limit") then 'Credit limit' else ""`,
  });
  const { person } = (await use.pell.call('POST /api/people', { body: { fullName: 'Cleo Stray' } })).body;
  const saved = await patch(person.id, { [field.key]: SECRET });
  expect(saved.status).toBe(200);
  expect((await dossier(person.id, use.mara)).custom.find(({ key }) => key === worth.key)?.value).toBe(
    SECRET,
  );

  const paths = [
    `/api/people/${person.id}`,
    `/api/records/person/${person.id}/fields`,
    `/api/changes?recordId=${person.id}`,
    '/api/changes',
    '/api/history',
    `/api/ledger?personId=${person.id}`,
    '/api/people',
    `/api/search?q=${LETTERS}`,
    `/api/people/${person.id}/summary.pdf`,
    `/api/people/${person.id}/suggestions`,
    '/api/queries.jsonl?query=' + encodeURIComponent(JSON.stringify({ kind: 'person' })),
  ];
  for (const path of paths) {
    const { text } = await use.pell.raw('GET', path);
    expect([path, text.includes(SECRET)]).toEqual([path, false]);
  }
  const { items: known } = (await use.pell.call('GET /api/fields')).body;
  expect(known.map(({ label }) => label)).not.toContain('Credit limit');
  const ofPell = (await dossier(person.id)).custom;
  expect(ofPell.find(({ key }) => key === worth.key)).toMatchObject({ value: '', why: null });
  const key = `custom.${field.key}`;
  for (const query of [
    { kind: 'person', filter: { field: key, op: 'is', value: SECRET } },
    { kind: 'person', groups: [{ field: key }] },
    { kind: 'person', order: [{ field: key, direction: 'asc' }] },
    { kind: 'deal', filter: { relation: 'person', has: 'any', where: { field: key, op: 'filled' } } },
  ]) {
    const { status, text } = await use.pell.raw('POST', '/api/queries', { query });
    expect([status, text.includes(SECRET)]).toEqual([422, false]);
    const totals = await use.pell.raw('POST', '/api/queries/totals', { query });
    expect(totals.status).toBe(422);
  }
  const sees = { kind: 'person', filter: { field: key, op: 'is', value: SECRET } };
  const { body } = await use.mara.call('POST /api/queries', { body: { query: sees } });
  expect(body.items?.map(({ id }) => id)).toEqual([person.id]);
});

it('somebody who saved over an older version is not told what they may not see, and is told the rest by its key', async () => {
  const hidden = await added('Margin', { seenBy: 'managers', changedBy: 'managers' });
  const open = await added('Route', {});
  const { person } = (await use.pell.call('POST /api/people', { body: { fullName: 'Dot Stray' } })).body;
  await patch(person.id, { [hidden.key]: SECRET, [open.key]: 'North' });
  const stale = await use.pell.call('PATCH /api/people/:id', {
    params: { id: person.id },
    body: { version: 1, custom: { [open.key]: 'South' } },
  });
  expect(stale.status).toBe(409);
  expect(JSON.stringify(stale.body)).not.toContain(SECRET);
  expect(stale.body.current).toMatchObject({ [`custom.${open.key}`]: 'North' });
  const other = await use.pell.call('PATCH /api/people/:id', {
    params: { id: person.id },
    body: { version: 1, jobTitle: 'Buyer' },
  });
  expect([other.status, JSON.stringify(other.body).includes(SECRET)]).toEqual([409, false]);
});

it('nobody changes what they may not, by hand, in bulk, or by putting it back; what they keep is not lost by their saving', async () => {
  const hidden = await added('Rating', { seenBy: 'admins', changedBy: 'admins' });
  const fixed = await added('Contract', { changedBy: 'managers' });
  const open = await added('Nickname', {});
  const { person } = (await use.pell.call('POST /api/people', { body: { fullName: 'Eve Stray' } })).body;
  const refused = await patch(person.id, { [fixed.key]: 'C-1' }, use.pell);
  expect([refused.status, refused.body.fields]).toEqual([422, { [fixed.key]: 'may not be changed by you' }]);
  expect((await patch(person.id, { [hidden.key]: 'A' }, use.pell)).body.fields).toEqual({
    [hidden.key]: 'does not exist',
  });
  const first = await patch(person.id, { [fixed.key]: 'C-1' });
  await patch(person.id, { [fixed.key]: 'C-2' });
  expect((await patch(person.id, { [open.key]: 'Evie' }, use.pell)).status).toBe(200);
  const seen = (await dossier(person.id)).custom;
  expect(seen.find(({ key }) => key === fixed.key)).toMatchObject({ value: 'C-2', mayChange: false });
  expect(seen.find(({ key }) => key === open.key)).toMatchObject({ value: 'Evie', mayChange: true });
  const { items } = (await use.pell.call('GET /api/changes', { query: { recordId: person.id } })).body;
  expect(items.some(({ caption }) => caption === 'Contract')).toBe(true);
  const restored = await use.pell.call('POST /api/changes/restore', {
    body: { eventId: first.body.eventId, recordId: person.id, field: `custom.${fixed.key}` },
  });
  expect(restored.status).toBe(422);
  for (const key of [fixed.key, hidden.key]) {
    const bulk = await use.pell.call('POST /api/bulk-changes', {
      body: { kind: 'person', on: { ids: [person.id] }, steps: [{ do: 'field', key, to: 'X' }] },
    });
    expect(bulk.status).toBe(422);
  }
  const wrong = await use.mara.call('POST /api/fields', {
    body: { label: 'Odd', seenBy: 'admins', changedBy: 'everybody' },
  });
  expect(Object.keys(wrong.body.fields as object)).toEqual(['changedBy']);
});
