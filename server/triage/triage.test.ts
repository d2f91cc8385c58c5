import { useHouse } from '../testing/harness';

const { house, pell, mara } = useHouse();

const pile = async (query: Record<string, string> = {}) =>
  (await pell.call('GET /api/triage', { query })).body;
const decide = (id: string, body: object) => pell.call('POST /api/triage/:id', { params: { id }, body });
const add = async (fullName: string, tags: string[] = []): Promise<string> => {
  const { person } = (
    await pell.call('POST /api/people', {
      body: { fullName, jobTitle: 'Owner', companyName: `${fullName} Bread` },
    })
  ).body;
  if (tags.length)
    await pell.call('PATCH /api/people/:id', { params: { id: person.id }, body: { version: 3, tags } });
  return person.id;
};

it('shows each of the pile at a glance, oldest first, and counts what is left', async () => {
  const [first] = [await add('Ada Pile'), await add('Ben Pile')];
  const { left, items } = await pile({ limit: '1' });
  expect([left, items.length]).toEqual([2, 1]);
  expect(items[0]).toMatchObject({
    id: first,
    name: 'Ada Pile',
    jobTitle: 'Owner',
    company: { name: 'Ada Pile Bread' },
    standing: 'stranger',
    work: [],
  });
});

it('a prospect gets a lead and, by the plan, its first next move on a working day; undone in one', async () => {
  const id = await add('Cleo Prospect');
  const plan = (await pell.call('GET /api/plans')).body.items[0];
  const { body } = await decide(id, { as: 'prospect', planId: plan?.id, source: 'spring fair' });
  const lead = (await pell.call('GET /api/leads/:id', { params: { id: body.lead?.id ?? '' } })).body;
  expect(lead).toMatchObject({ source: 'spring fair', status: 'new', nextMove: { title: plan?.title } });
  expect([0, 6]).not.toContain(new Date(lead.nextMove?.dueAt ?? '').getUTCDay());
  expect((await pile()).items.map((item) => item.id)).not.toContain(id);
  await house.work();
  expect((await pell.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } })).status).toBe(
    200,
  );
  expect((await pell.call('GET /api/leads/:id', { params: { id: lead.id } })).status).toBe(404);
  expect((await pile()).items.map((item) => item.id)).toContain(id);
});

it('somebody with an open lead gets no second one', async () => {
  const id = await add('Dora Twice');
  const first = (await decide(id, { as: 'prospect' })).body.lead;
  expect((await decide(id, { as: 'prospect' })).body.lead).toEqual(first);
});

it.each([
  ['customer', { standing: 'customer', inactiveSince: null }],
  ['partner', { standing: 'partner' }],
  ['personal', { standing: 'personal' }],
  ['drop', { standing: 'stranger', inactiveSince: expect.any(String) }],
])('decided %s', async (as, wanted) => {
  const id = await add(`Edda ${as}`);
  expect((await decide(id, { as })).body.lead).toBeNull();
  expect((await pell.call('GET /api/people/:id', { params: { id } })).body).toMatchObject(wanted);
});

it('a pile can be a tag, whatever standing its people have; a plan or person that is not there is refused', async () => {
  const id = await add('Fay Fair', ['utrecht']);
  await pell.call('PATCH /api/people/:id', { params: { id }, body: { version: 4, standing: 'prospect' } });
  expect((await pile({ tag: 'utrecht' })).items.map((item) => item.id)).toEqual([id]);
  expect((await decide(id, { as: 'prospect', planId: crypto.randomUUID() })).status).toBe(422);
  expect((await decide(crypto.randomUUID(), { as: 'personal' })).status).toBe(404);
  expect((await pile({ tag: 'nobody' })).left).toBe(0);
});

it('a pile can be what an import brought', async () => {
  await add('Not Imported');
  const { body: table } = await pell.call('POST /api/imports', {
    raw: 'Name;E-mail\nHal Import;hal@import.example\n',
    type: 'text/csv',
  });
  const at = { params: { id: table.id } };
  await pell.call('PUT /api/imports/:id/mapping', {
    ...at,
    body: { version: table.version, mapping: table.mapping },
  });
  await house.work();
  await pell.call('POST /api/imports/:id/start', at);
  await house.work();
  const names = async (query: Record<string, string>) => (await pile(query)).items.map(({ name }) => name);
  expect(await names({ import: table.id })).toEqual(['Hal Import']);
  expect(await names({ list: crypto.randomUUID() })).toEqual([]);
});

it('plans are a manager’s to change, and a retired one is not followed', async () => {
  const body = { name: 'Visit', kind: 'meeting', title: 'Go and see them', days: 5 };
  expect((await pell.call('POST /api/plans', { body })).status).toBe(403);
  expect((await mara.call('POST /api/plans', { body })).status).toBe(201);
  const plan = (await mara.call('GET /api/plans')).body.items.at(-1);
  const params = { id: plan?.id ?? '' };
  expect(
    (await mara.call('PATCH /api/plans/:id', { params, body: { version: 1, active: false } })).status,
  ).toBe(200);
  expect((await mara.call('PATCH /api/plans/:id', { params, body: { version: 1, days: 2 } })).status).toBe(
    409,
  );
  expect((await decide(await add('Gus Visit'), { as: 'prospect', planId: params.id })).status).toBe(422);
});
