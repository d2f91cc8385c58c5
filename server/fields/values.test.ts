import { OWN_KINDS, OWN_RECORDS, type OwnKind, type OwnRecord } from '@emporikon/core/fields/own';
import { useHouse } from '../testing/harness';

const use = useHouse();
const add = async (label: string, record: OwnRecord, kind: OwnKind, more: object = {}) =>
  use.mara.call('POST /api/fields', { body: { label, record, kind, ...more } });
const added = async (...given: Parameters<typeof add>) => {
  const { status, body } = await add(...given);
  expect([status, body.detail]).toEqual([201, undefined]);
  return body.field;
};
const deal = async (title = 'Bikes for the market', more: object = {}) =>
  (await use.pell.call('POST /api/deals', { body: { title, ...more } })).body.deal;
const shown = async (record: OwnRecord, id: string, by = use.pell) =>
  (await by.call('GET /api/records/:record/:id/fields', { params: { record, id } })).body;
const values = async (record: OwnRecord, id: string): Promise<Record<string, string>> =>
  Object.fromEntries((await shown(record, id)).items.map(({ key, value }) => [key, value]));
const put = async (record: OwnRecord, id: string, given: Record<string, string>, by = use.pell) =>
  by.call('PATCH /api/records/:record/:id/fields', {
    params: { record, id },
    body: { version: (await shown(record, id)).version, values: given },
  });
const CHOICES = { choice: ['Small', 'Large'], several: ['Mon', 'Tue', 'Fri'] } as const;
const moreFor = (kind: OwnKind): object =>
  kind === 'choice' || kind === 'several'
    ? { options: CHOICES[kind] }
    : kind === 'formula'
      ? { formula: '1 + 1' }
      : {};

const somebody = async (fullName: string) =>
  (await use.pell.call('POST /api/people', { body: { fullName } })).body.person.id;
const one: Record<OwnRecord, () => Promise<string>> = {
  person: () => somebody('Cleo Stray'),
  company: async () =>
    (await use.pell.call('POST /api/companies', { body: { name: 'Stray Bakery' } })).body.company.id,
  lead: async () => {
    const body = { title: 'A lead', source: 'call', personId: await somebody('Lea Stray') };
    return (await use.pell.call('POST /api/leads', { body })).body.lead.id;
  },
  deal: async () => (await deal()).id,
  task: async () =>
    (
      await use.pell.call('POST /api/tasks', {
        body: { title: 'Ring them', dueAt: '2026-06-01T08:00:00Z', personId: await somebody('Tia Stray') },
      })
    ).body.task.id,
  project: async () => (await use.pell.call('POST /api/projects', { body: { title: 'Fit out' } })).body.id,
  case: async () =>
    (
      await use.pell.call('POST /api/cases', {
        body: { title: 'Flat tyre', words: 'Again', personId: await somebody('Cas Stray') },
      })
    ).body.id,
};

it('a field of every kind stands on every kind of record, takes a value and is found by it', async () => {
  const { person } = (await use.pell.call('POST /api/people', { body: { fullName: 'Ada Pointed' } })).body;
  const { company } = (await use.pell.call('POST /api/companies', { body: { name: 'Pointed & Co' } })).body;
  const file = await use.pell.call('POST /api/files', {
    query: { name: 'plan.txt', personId: person.id },
    raw: 'a plan',
    type: 'application/octet-stream',
  });
  const good: Record<Exclude<OwnKind, 'formula'>, string> = {
    text: 'Route 7',
    'long text': 'two\nlines',
    number: '12.5',
    money: '125000',
    date: '2026-05-28',
    'yearly date': '--05-28',
    choice: 'Large',
    several: 'Mon\nFri',
    'yes or no': 'yes',
    person: person.id,
    company: company.id,
    link: 'https://fleet.example/plan',
    file: file.body.id,
  };
  const ask: Record<keyof typeof good, object> = {
    text: { op: 'is', value: 'route 7' },
    'long text': { op: 'contains', value: 'lines' },
    number: { op: 'over', value: 12 },
    money: { op: 'is', value: 125000 },
    date: { op: 'in', value: { day: '2026-05-28' } },
    'yearly date': { op: 'filled' },
    choice: { op: 'is', value: 'Large' },
    several: { op: 'hasAll', value: ['Fri', 'Mon'] },
    'yes or no': { op: 'is', value: true },
    person: { op: 'is', value: 'Ada Pointed' },
    company: { op: 'startsWith', value: 'Pointed' },
    link: { op: 'contains', value: 'fleet.example' },
    file: { op: 'is', value: 'plan.txt' },
  };
  for (const record of OWN_RECORDS) {
    const keys = new Map<OwnKind, string>();
    for (const kind of OWN_KINDS)
      keys.set(kind, (await added(`${record} ${kind}`, record, kind, moreFor(kind))).key);
    const given = Object.fromEntries(
      Object.entries(good).map(([kind, value]) => [keys.get(kind as OwnKind), value]),
    );
    const id = await one[record]();
    const saved =
      record === 'person'
        ? await use.pell.call('PATCH /api/people/:id', {
            params: { id },
            body: { version: (await shown(record, id)).version, custom: given },
          })
        : await put(record, id, given as Record<string, string>);
    expect([record, saved.status, saved.body.detail]).toEqual([record, 200, undefined]);
    expect(await values(record, id)).toMatchObject({ ...given, [keys.get('formula') ?? '']: '2' });
    for (const [kind, comparison] of Object.entries(ask)) {
      const filter = { field: `custom.${keys.get(kind as OwnKind)}`, ...comparison };
      const { body } = await use.pell.call('POST /api/queries', {
        body: { query: { kind: record, filter } },
      });
      expect([record, kind, body.items?.map((item) => item.id), body.detail]).toEqual([
        record,
        kind,
        [id],
        undefined,
      ]);
    }
  }
}, 120_000);

it('a value that does not fit is refused by its field, and nothing else is saved', async () => {
  const bikes = await added('Vehicles', 'deal', 'number');
  const buyer = await added('Buyer', 'deal', 'person');
  const { id } = await deal();
  const refused = await put('deal', id, { [bikes.key]: '7', [buyer.key]: 'Ann' });
  expect([refused.status, refused.body.fields]).toEqual([422, { [buyer.key]: 'must be a person' }]);
  const nobody = await put('deal', id, { [buyer.key]: crypto.randomUUID() });
  expect([nobody.status, nobody.body.fields]).toEqual([422, { [buyer.key]: 'does not exist' }]);
  expect((await put('deal', id, { nonsense: '1' })).status).toBe(422);
  expect((await put('deal', id, { __proto__: '1', constructor: '1' })).status).toBe(422);
  expect(await values('deal', id)).toMatchObject({ [bikes.key]: '', [buyer.key]: '' });
});

it('a stale value is refused, a change is one line of the history, and its undo brings back what was', async () => {
  const { key } = await added('Yard', 'deal', 'text');
  const { id } = await deal();
  const { version } = await shown('deal', id);
  const body = { version, values: { [key]: 'Small' } };
  const params = { record: 'deal', id };
  const first = await use.pell.call('PATCH /api/records/:record/:id/fields', { params, body });
  expect(first.status).toBe(200);
  const late = await use.mara.call('PATCH /api/records/:record/:id/fields', { params, body });
  expect(late.status).toBe(409);
  const second = await put('deal', id, { [key]: '' });
  expect((await values('deal', id))[key]).toBe('');
  await use.pell.call('POST /api/events/:id/undo', { params: { id: second.body.eventId ?? '' } });
  expect((await values('deal', id))[key]).toBe('Small');
  const { items } = (await use.pell.call('GET /api/changes', { query: { recordId: id } })).body;
  expect(items.map(({ caption, from, to }) => [caption, from, to]).slice(0, 3)).toEqual([
    ['Yard', null, 'Small'],
    ['Yard', 'Small', null],
    ['Yard', null, 'Small'],
  ]);
});

it('a formula follows the fields it names, through a change of their label; one that cannot be calculated is not saved', async () => {
  const bikes = await added('Bikes', 'deal', 'number');
  await added('Price a bike', 'deal', 'money', { options: ['JPY'] });
  const worth = await added('Worth', 'deal', 'formula', { formula: "Bikes * 'Price a bike'" });
  const { id } = await deal();
  expect((await values('deal', id))[worth.key]).toBe('');
  await put('deal', id, { bikes: '3', price_a_bike: '450000' });
  expect((await values('deal', id))[worth.key]).toBe('1350000');
  const renamed = { version: bikes.version, label: 'Cargo bikes' };
  await use.mara.call('PATCH /api/fields/:id', { params: { id: bikes.id }, body: renamed });
  expect((await values('deal', id))[worth.key]).toBe('1350000');
  const wrong = await add('Wrong', 'deal', 'formula', { formula: 'Vans * 2' });
  expect([wrong.status, wrong.body.fields]).toEqual([422, { formula: 'There is no field “Vans”.' }]);
  expect((await put('deal', id, { [worth.key]: '5' })).status).toBe(422);
  const { body } = await use.pell.call('POST /api/queries', {
    body: { query: { kind: 'deal', filter: { field: `custom.${worth.key}`, op: 'filled' } } },
  });
  expect(body.status).toBe(422);
});

it('what no two records may share is refused to the second, one that is hidden from them and one at the same moment too', async () => {
  const { key } = await added('Fleet number', 'company', 'text', { isUnique: true });
  const make = async (name: string, by = use.pell) =>
    (await by.call('POST /api/companies', { body: { name } })).body.company.id;
  const [first, second, third] = [await make('One'), await make('Two'), await make('Three')];
  expect((await put('company', first, { [key]: 'F-1' })).status).toBe(200);
  expect((await put('company', first, { [key]: 'F-1' })).status).toBe(200);
  const taken = await put('company', second, { [key]: 'F-1' });
  expect([taken.status, taken.body.fields]).toEqual([422, { [key]: 'is taken' }]);
  const both = await Promise.all([
    put('company', second, { [key]: 'F-2' }),
    put('company', third, { [key]: 'F-2' }),
  ]);
  expect(both.map(({ status }) => status).sort()).toEqual([200, 422]);
  await use.pell.call('PUT /api/visibility/:kind/:id', {
    params: { kind: 'companies', id: first },
    body: { visibility: 'owner' },
  });
  const hidden = await use.ines.call('PATCH /api/records/:record/:id/fields', {
    params: { record: 'company', id: third },
    body: { version: (await shown('company', third)).version, values: { [key]: 'F-1' } },
  });
  expect(hidden.status).toBe(422);
});

it('fields are for some standings only, begin with a value on new records, and are kept when they are retired', async () => {
  const plan = await added('Service plan', 'person', 'choice', {
    ...{ options: ['None', 'Gold'], preset: 'None', onlyFor: ['customer'], help: 'As signed', isAsked: true },
    ...{ tab: 'Service', part: 'Contract' },
  });
  const { person } = (await use.pell.call('POST /api/people', { body: { fullName: 'Cleo Stray' } })).body;
  const dossier = async () =>
    (await use.pell.call('GET /api/people/:id', { params: { id: person.id } })).body;
  const patch = async (body: object) =>
    use.pell.call('PATCH /api/people/:id', {
      params: { id: person.id },
      body: { version: (await dossier()).version, ...body },
    });
  const isShown = async () => (await dossier()).custom.some(({ key }) => key === plan.key);
  expect(await isShown()).toBe(false);
  await patch({ standing: 'customer' });
  expect((await dossier()).custom.find(({ key }) => key === plan.key)).toMatchObject({
    ...{ value: '', tab: 'Service', part: 'Contract', help: 'As signed', isAsked: true },
  });
  await patch({ custom: { [plan.key]: 'Gold' } });
  const retire = { version: plan.version, active: false };
  await use.mara.call('PATCH /api/fields/:id', { params: { id: plan.id }, body: retire });
  expect((await dossier()).custom.find(({ key }) => key === plan.key)?.value).toBe('Gold');
  const { person: later } = (await use.pell.call('POST /api/people', { body: { fullName: 'Dot Later' } }))
    .body;
  expect(await values('person', later.id)).not.toHaveProperty(plan.key);
  const filter = { field: `custom.${plan.key}`, op: 'is', value: 'Gold' };
  const { body } = await use.pell.call('POST /api/queries', { body: { query: { kind: 'person', filter } } });
  expect(body.items?.map(({ id }) => id)).toEqual([person.id]);
});

it('a field is for the deals of one pipeline, and only those begin with its value', async () => {
  const { id: pipelineId } = (await use.mara.call('POST /api/pipelines', { body: { name: 'Refits' } })).body;
  const crew = await added('Crew', 'deal', 'choice', {
    ...{ options: ['Ours', 'Theirs'], preset: 'Ours', onlyFor: [pipelineId] },
  });
  const { stages } = (await use.pell.call('GET /api/pipelines/:id/board', { params: { id: pipelineId } }))
    .body;
  const [usual, refit] = [await deal(), await deal('A refit', { stageId: stages[0]?.id })];
  expect(await values('deal', usual.id)).not.toHaveProperty(crew.key);
  expect(await values('deal', refit.id)).toMatchObject({ [crew.key]: 'Ours' });
});

it('a field still leads to somebody who became one with somebody else', async () => {
  const buyer = await added('Who signs', 'deal', 'person');
  const [stays, goes] = [await somebody('Stays Stray'), await somebody('Goes Stray')];
  const { id } = await deal();
  await put('deal', id, { [buyer.key]: goes });
  await use.pell.call('POST /api/merges', {
    body: { kind: 'person', survivorId: stays, mergedIds: [goes], choices: { fullName: stays } },
  });
  const item = (await shown('deal', id)).items.find(({ key }) => key === buyer.key);
  expect(item?.shown).toBe('Stays Stray');
  const filter = { field: `custom.${buyer.key}`, op: 'is', value: 'Stays Stray' };
  const { body } = await use.pell.call('POST /api/queries', { body: { query: { kind: 'deal', filter } } });
  expect(body.items?.map((one) => one.id)).toEqual([id]);
});

it('a field is refused that could hold nothing, begin with what does not fit, or be for what is not there', async () => {
  const refused = async (...given: Parameters<typeof add>) => {
    const { status, body } = await add(...given);
    return [status, ...Object.keys((body.fields as object | undefined) ?? {})];
  };
  expect(await refused('A', 'deal', 'choice')).toEqual([422, 'options']);
  expect(await refused('A', 'deal', 'several', { options: ['x', 'x'] })).toEqual([422, 'options']);
  expect(await refused('A', 'deal', 'number', { preset: 'many' })).toEqual([422, 'preset']);
  expect(await refused('A', 'deal', 'number', { preset: '1', isUnique: true })).toEqual([422, 'preset']);
  expect(await refused('A', 'deal', 'date', { isUnique: true })).toEqual([422, 'isUnique']);
  expect(await refused('A', 'deal', 'text', { onlyFor: [crypto.randomUUID()] })).toEqual([422, 'onlyFor']);
  expect(await refused('A', 'task', 'text', { onlyFor: ['customer'] })).toEqual([422, 'onlyFor']);
  expect(await refused('A', 'deal', 'money', { options: ['euro'] })).toEqual([422, 'options']);
  expect(await refused('A', 'deal', 'formula')).toEqual([422, 'formula']);
  const rep = await use.pell.call('POST /api/fields', { body: { label: 'A' } });
  expect(rep.status).toBe(403);
});

it('fields are put in order, and two companies that become one keep the values of both', async () => {
  const [a, b, c] = [
    await added('A', 'company', 'text'),
    await added('B', 'company', 'text'),
    await added('C', 'company', 'text'),
  ];
  await use.mara.call('PATCH /api/fields/:id', {
    params: { id: c.id },
    body: { version: c.version, place: 1 },
  });
  const { items } = (await use.pell.call('GET /api/fields', { query: { record: 'company' } })).body;
  const ours = items.map(({ label }) => label).filter((label) => label.length === 1);
  expect([items[0]?.label, ...ours]).toEqual(['C', 'C', 'A', 'B']);
  const make = async (name: string) =>
    (await use.pell.call('POST /api/companies', { body: { name } })).body.company.id;
  const [stays, goes] = [await make('Stays'), await make('Goes')];
  await put('company', stays, { [a.key]: 'mine' });
  await put('company', goes, { [a.key]: 'theirs', [b.key]: 'only theirs' });
  const merged = await use.pell.call('POST /api/merges', {
    body: { kind: 'company', survivorId: stays, mergedIds: [goes] },
  });
  expect([merged.status, merged.body.detail]).toEqual([201, undefined]);
  expect(await values('company', stays)).toMatchObject({ [a.key]: 'mine', [b.key]: 'only theirs' });
});
