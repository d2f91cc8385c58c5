import { mail, useHouse } from '../testing/harness';

const { house, pell, mara } = useHouse();
const fields = async () => (await pell.call('GET /api/fields')).body.items;
const lists = async () => (await pell.call('GET /api/lists')).body;

it('fields of our own are added, renamed at the version they were seen in, retired and never shared by key', async () => {
  const add = async (label: string) => (await mara.call('POST /api/fields', { body: { label } })).body.field;
  const [first, second] = [await add('Delivery days'), await add('Delivery days')];
  expect([first.key, second.key]).toEqual(['delivery_days', 'delivery_days_2']);
  const patch = (body: object) => mara.call('PATCH /api/fields/:id', { params: { id: first.id }, body });
  expect((await patch({ version: first.version, label: 'Delivers on' })).status).toBe(200);
  expect((await patch({ version: first.version, active: false })).status).toBe(409);
  expect((await patch({ version: first.version + 1, active: false })).status).toBe(200);
  const ownFields = (await fields()).filter(({ isPersonal }) => !isPersonal);
  expect(ownFields.map(({ label, active }) => [label, active])).toEqual([
    ['Delivers on', false],
    ['Delivery days', true],
  ]);
});

it('what is personal has fields from the start, takes more, and each value keeps who said it', async () => {
  const personal = (await fields()).filter(({ isPersonal }) => isPersonal);
  expect(personal.map(({ label }) => label)).toEqual([
    'Interests',
    'Favourite things',
    'Family',
    'Assistant',
    'Anniversary',
  ]);
  const { field } = (
    await mara.call('POST /api/fields', {
      body: { label: 'Opened the shop', kind: 'date', isPersonal: true },
    })
  ).body;
  const { person } = (await pell.call('POST /api/people', { body: { fullName: 'Cleo Stray' } })).body;
  const at = { params: { id: person.id } };
  const dossier = async () => (await pell.call('GET /api/people/:id', at)).body;
  const put = async (custom: object) =>
    (
      await pell.call('PATCH /api/people/:id', {
        ...at,
        body: { version: (await dossier()).version, custom },
      })
    ).status;
  expect(await put({ interests: 'Sea swimming', [field.key]: '2019-03-02' })).toBe(200);
  const known = (await dossier()).custom.filter(({ value }) => value);
  expect(known).toMatchObject([
    { key: field.key, value: '2019-03-02', isPersonal: true, kind: 'date' },
    { key: 'interests', value: 'Sea swimming', isPersonal: true, claim: { source: 'entered by hand' } },
  ]);
  const moved = { version: field.version, isPersonal: false };
  await mara.call('PATCH /api/fields/:id', { params: { id: field.id }, body: moved });
  expect((await dossier()).custom.find(({ key }) => key === field.key)).toMatchObject({ isPersonal: false });
  await mara.call('PATCH /api/fields/:id', {
    params: { id: personal[2]?.id ?? '' },
    body: { version: personal[2]?.version, active: false },
  });
  expect((await dossier()).custom.map(({ label }) => label)).not.toContain('Family');
});

it('a mapping is listed for every field and says where what is read goes', async () => {
  const mappings = async () =>
    Object.fromEntries(
      (await pell.call('GET /api/field-mappings')).body.items.map(({ field, target }) => [field, target]),
    );
  expect(await mappings()).toMatchObject({ fullName: 'own', jobTitle: 'own', note: 'background' });
  await mara.call('PUT /api/field-mappings', { body: { field: 'jobTitle', target: 'nowhere' } });
  expect((await mappings()).jobTitle).toBe('nowhere');
  const { body } = await pell.call('POST /api/captures', { raw: mail() });
  const filed = await pell.call('POST /api/captures/:id/filing', { params: { id: body.id }, body: {} });
  const { body: person } = await pell.call('GET /api/people/:id', {
    params: { id: filed.body.person.id },
  });
  expect([person.fullName.value, person.jobTitle.value]).toEqual(['Ines Duarte', null]);
});

it('lists are added once each, counted, and people narrow to one', async () => {
  const add = (name: string) => pell.call('POST /api/lists', { body: { name } });
  const { list } = (await add('Spring fair')).body;
  expect((await add('Spring fair')).status).toBe(409);
  const { list: other } = (await add('Autumn fair')).body;
  await pell.call('POST /api/people', { body: { fullName: 'Cleo Stray' } });
  const { body: table } = await pell.call('POST /api/imports', {
    raw: 'Name;E-mail\nBea Lund;bea@lund.example\n',
    type: 'text/csv',
  });
  const at = { params: { id: table.id } };
  await pell.call('PUT /api/imports/:id/mapping', {
    ...at,
    body: { version: table.version, mapping: table.mapping, choices: { listId: list.id, tags: ['fair'] } },
  });
  await house.work();
  await pell.call('POST /api/imports/:id/start', at);
  await house.work();
  expect(await lists()).toMatchObject({
    items: [
      { name: 'Autumn fair', people: 0 },
      { name: 'Spring fair', people: 1 },
    ],
    tags: [{ tag: 'fair', people: 1 }],
  });
  const names = async (id: string) =>
    (await pell.call('GET /api/people', { query: { list: id } })).body.items.map(({ fullName }) => fullName);
  expect([await names(list.id), await names(other.id)]).toEqual([['Bea Lund'], []]);
});

it('words that an import put where an id belongs are shown as they stand, and keep no record from opening', async () => {
  const { field } = (
    await mara.call('POST /api/fields', { body: { label: 'Introduced by', kind: 'person' } })
  ).body;
  const { person } = (await pell.call('POST /api/people', { body: { fullName: 'Cleo Stray' } })).body;
  await house.sequelize.query(
    'UPDATE people SET custom = jsonb_build_object($key::text, $value::text) WHERE id = $id',
    {
      bind: { key: field.key, value: 'Ann from the fair', id: person.id },
    },
  );
  const { status, body } = await pell.call('GET /api/people/:id', { params: { id: person.id } });
  expect(status).toBe(200);
  expect(body.custom.find(({ key }) => key === field.key)).toMatchObject({
    ...{ value: 'Ann from the fair', shown: null },
  });
  const filter = { field: `custom.${field.key}`, op: 'empty' };
  expect((await pell.call('POST /api/queries', { body: { query: { kind: 'person', filter } } })).status).toBe(
    200,
  );
});
