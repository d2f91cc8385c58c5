import { CLONE_KINDS, type CloneKind, type ClonePart } from '@emporikon/contract/cloning';
import { delegating } from '../testing/delegating';
import { everything } from '../testing/everything';
import { useHouse, type Client } from '../testing/harness';
import { saying } from '../testing/saying';

const { house, pell, ines, mara } = useHouse();
const { person, company, enter, headlines } = saying(pell);
const { task, detail } = delegating;

const clone = (
  kind: CloneKind,
  id: string,
  name: string,
  parts: readonly ClonePart[] = [],
  by: Client = pell,
) => by.call('POST /api/clones/:kind/:id', { params: { kind, id }, body: { name, with: parts } });
const partsOf = async (kind: CloneKind, id: string) =>
  (await pell.call('GET /api/clones/:kind/:id', { params: { kind, id } })).body.parts.map(
    ({ part, count }) => `${part} ${count}`,
  );
const dealOf = async (id: string) => (await pell.call('GET /api/deals/:id', { params: { id } })).body;
const cardOf = async (id: string) => (await pell.call('GET /api/people/:id', { params: { id } })).body;
const undo = (eventId: string | null) =>
  pell.call('POST /api/events/:id/undo', { params: { id: eventId ?? '' } });

const newTask = async (body: object) =>
  (await pell.call('POST /api/tasks', { body: { dueAt: '2026-12-03T00:00:00Z', ...body } })).body.task;

let [sol, ana] = ['', ''];
beforeAll(async () => {
  sol = await company('Padaria Sol');
  ana = await person('Ana Silva', sol);
});

it('a deal is copied with its lines and people, at the first stage, as whoever copies it, without its past', async () => {
  const { id } = (
    await ines.call('POST /api/deals', {
      body: { title: 'Eight bikes', personId: ana, companyId: sol, amountMinor: 500_000 },
    })
  ).body.deal;
  const { items: stages } = (await pell.call('GET /api/stages')).body;
  const second = stages.filter(({ kind }) => kind === 'open')[1];
  await ines.call('PATCH /api/deals/:id', {
    params: { id },
    body: { version: (await dealOf(id)).version, stageId: second?.id, tags: ['spring'] },
  });
  const line = {
    name: 'Long bike',
    quantity: '8',
    unitMinor: 62_500,
    discountPercent: '0',
    taxPercent: '20',
    charged: 'once',
    periods: 1,
  };
  await ines.call('PUT /api/deals/:id/lines', {
    params: { id },
    body: { version: (await dealOf(id)).version, lines: [line] },
  });
  await enter(ines, { headline: 'Rang about the bikes' }, { dealId: id });
  await task(ines, { title: 'Send the quote', dealId: id });
  expect(await partsOf('deal', id)).toEqual(['tags 1', 'people 1', 'lines 1', 'tasks 1']);
  const { status, body } = await clone('deal', id, 'Eight more bikes', ['people', 'lines']);
  expect(status).toBe(201);
  const copy = await dealOf(body.id);
  expect(copy).toMatchObject({
    title: 'Eight more bikes',
    amountMinor: 500_000,
    tags: [],
    lines: [{ name: 'Long bike', quantity: expect.stringMatching(/^8/) }],
  });
  expect(copy.people.map(({ id: one }) => one)).toEqual([ana]);
  expect([copy.owner.name, copy.stage.id === second?.id]).toEqual(['Pell Garrick', false]);
  expect(await headlines({ dealId: body.id })).not.toContain('Rang about the bikes');
  const bare = await dealOf((await clone('deal', id, 'Bare')).body.id);
  expect([bare.lines, bare.people]).toEqual([[], []]);
});

it('a person comes with their company, tags and lists, and never with an address that tells who they are', async () => {
  await pell.call('POST /api/people/:id/contacts', {
    params: { id: ana },
    body: { kind: 'email', value: 'ana@sol.example' },
  });
  const version = (await cardOf(ana)).version;
  await pell.call('PATCH /api/people/:id', {
    params: { id: ana },
    body: { version, tags: ['baker'], background: 'Likes red' },
  });
  const { body } = await clone('person', ana, 'Rui Silva', ['facts', 'tags', 'notes', 'lists', 'fields']);
  expect(await cardOf(body.id)).toMatchObject({
    ...{ company: { id: sol }, tags: ['baker'], contacts: [], background: { value: 'Likes red' } },
    fullName: { value: 'Rui Silva', claim: { source: expect.any(String) } },
  });
});

it('own fields come along but for those that are one record’s alone', async () => {
  const field = (label: string, more: object = {}) =>
    mara.call('POST /api/fields', { body: { record: 'company', label, kind: 'text', ...more } });
  const [route, number] = [
    (await field('Route')).body.field,
    (await field('Customer number', { isUnique: true })).body.field,
  ];
  const { version } = (await pell.call('GET /api/companies/:id', { params: { id: sol } })).body;
  const put = await pell.call('PATCH /api/records/:record/:id/fields', {
    params: { record: 'company', id: sol },
    body: { version, values: { [route.key]: 'North', [number.key]: 'K-1' } },
  });
  expect(put.status).toBe(200);
  const { body } = await clone('company', sol, 'Padaria Sol Norte', ['fields', 'facts']);
  const [rows] = await house.sequelize.query(`SELECT custom, domain FROM companies WHERE id = '${body.id}'`);
  expect(rows).toEqual([{ custom: { [route.key]: 'North' }, domain: null }]);
});

it('a copy is seen by no more people than what it was copied from, and what is hidden cannot be copied', async () => {
  const id = await person('Hidden One');
  await pell.call('PUT /api/visibility/:kind/:id', {
    params: { kind: 'people', id },
    body: { visibility: 'owner' },
  });
  expect((await clone('person', id, 'Mine now', [], ines)).status).toBe(404);
  const { body } = await clone('person', id, 'Hidden Two');
  expect((await ines.call('GET /api/people/:id', { params: { id: body.id } })).status).toBe(404);
});

it('a task that is over is due again from now on, open, without the answers of whoever was invited', async () => {
  const { id } = await newTask({
    title: 'Trial ride',
    dueAt: '2025-01-07T10:00:00Z',
    notes: 'Bring the red one',
    personId: ana,
  });
  await pell.call('PATCH /api/tasks/:id', {
    params: { id },
    body: { version: (await detail(pell, id)).version, done: true },
  });
  house.tools.now = () => new Date('2026-11-25T09:00:00Z');
  const copy = await detail(pell, (await clone('task', id, 'Second ride', ['notes'])).body.id);
  expect([copy.doneAt, copy.notes, copy.dueAt]).toEqual([
    null,
    'Bring the red one',
    '2026-11-25T09:00:00.000Z',
  ]);
  house.tools.now = () => new Date();
});

it('every kind can be copied whole, and one undo leaves everything as it was', async () => {
  const made: Record<CloneKind, string> = {
    person: ana,
    company: sol,
    lead: (await pell.call('POST /api/leads', { body: { title: 'Bikes', personId: ana } })).body.lead.id,
    deal: (await pell.call('POST /api/deals', { body: { title: 'Bikes', personId: ana, companyId: sol } }))
      .body.deal.id,
    task: (await newTask({ title: 'Call' })).id,
    project: (await pell.call('POST /api/projects', { body: { title: 'Delivery', people: [ana] } })).body.id,
    case: (await pell.call('POST /api/cases', { body: { title: 'Flat tyre', personId: ana } })).body.id,
  };
  await house.work();
  for (const kind of CLONE_KINDS) {
    const before = await everything(house.sequelize);
    const parts = (await pell.call('GET /api/clones/:kind/:id', { params: { kind, id: made[kind] } })).body
      .parts;
    const { status, body } = await clone(
      kind,
      made[kind],
      `Copy of a ${kind}`,
      parts.map(({ part }) => part),
    );
    expect([kind, status]).toEqual([kind, 201]);
    expect([kind, (await undo(body.eventId)).status]).toEqual([kind, 200]);
    expect([kind, await everything(house.sequelize)]).toEqual([kind, before]);
  }
}, 60_000);
