import { useHouse } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
const idOf = async (client: typeof pell): Promise<string> => (await client.call('GET /api/session')).body.id;

async function makePerson(client: typeof pell, over: object = {}) {
  const { body } = await client.call('POST /api/people', { body: { fullName: 'Ada Holt', ...over } });
  const params = { id: body.person.id };
  const { version } = (await client.call('GET /api/people/:id', { params })).body;
  await client.call('PATCH /api/people/:id', { params, body: { version, ownerId: await idOf(client) } });
  return params;
}
const sight = (client: typeof pell, id: string, kind = 'people') =>
  client.call('GET /api/visibility/:kind/:id', { params: { kind, id } });
const choose = (client: typeof pell, id: string, body: object, kind = 'people') =>
  client.call('PUT /api/visibility/:kind/:id', { params: { kind, id }, body });
const seenBy = async (client: typeof pell, id: string): Promise<string[] | undefined> =>
  (await sight(client, id)).body.seenBy?.map(({ name }) => name.split(' ')[0] ?? '');

it('whoever is in no team with a manager is managed by all managers; a team with one is managed by that one', async () => {
  const { id } = await makePerson(pell);
  expect((await choose(pell, id, { visibility: 'owner' })).status).toBe(200);
  expect(await seenBy(pell, id)).toEqual(['Mara', 'Pell']);
  expect((await sight(ines, id)).status).toBe(404);
  const team = await mara.call('POST /api/teams', {
    body: { name: 'North', managerIds: [await idOf(ines)] },
  });
  expect(team.status).toBe(201);
  expect((await pell.call('POST /api/teams', { body: { name: 'Mine' } })).status).toBe(403);
  expect((await mara.call('POST /api/teams', { body: { name: 'North' } })).status).toBe(409);
  await mara.call('PATCH /api/users/:id', { params: { id: await idOf(pell) }, body: { team: 'North' } });
  expect(await seenBy(pell, id)).toEqual(['Ines', 'Pell']);
  expect((await sight(mara, id)).status).toBe(404);
  const [north] = (await mara.call('GET /api/teams')).body.items;
  const renamed = await mara.call('PATCH /api/teams/:id', {
    params: { id: north?.id ?? '' },
    body: { version: north?.version, name: 'Isles', managerIds: [] },
  });
  expect(renamed.status).toBe(200);
  expect((await mara.call('GET /api/teams')).body.items).toMatchObject([
    { name: 'Isles', managers: [], members: [{ name: 'Pell Garrick' }] },
  ]);
  expect(await seenBy(pell, id)).toEqual(['Mara', 'Pell']);
});

it('whoever is put into a team by its name makes it', async () => {
  await mara.call('PATCH /api/users/:id', { params: { id: await idOf(ines) }, body: { team: 'Harbour' } });
  const { items } = (await mara.call('GET /api/teams')).body;
  expect(items.find(({ name }) => name === 'Harbour')).toMatchObject({ members: [{ name: 'Ines Tolland' }] });
  await mara.call('PATCH /api/users/:id', { params: { id: await idOf(ines) }, body: { team: '' } });
});

it('a choice is taken back like any change, and nobody decides about what is somebody else’s', async () => {
  const { id } = await makePerson(pell, { fullName: 'Bea Holt' });
  expect((await choose(ines, id, { visibility: 'named', peopleIds: [await idOf(ines)] })).status).toBe(403);
  const { body } = await choose(pell, id, { visibility: 'named', peopleIds: [await idOf(pell)] });
  expect((await ines.call('GET /api/people/:id', { params: { id } })).status).toBe(404);
  await pell.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } });
  expect((await ines.call('GET /api/people/:id', { params: { id } })).status).toBe(200);
  for (const wrong of [
    { visibility: 'team' },
    { visibility: 'named', peopleIds: [] },
    { visibility: 'named', peopleIds: [crypto.randomUUID()] },
  ])
    expect((await choose(pell, id, wrong)).status).toBe(422);
  const nobodys = await pell.call('POST /api/companies', { body: { name: 'Holt Yard' } });
  await house.sequelize.query("UPDATE companies SET owner_id = NULL WHERE name = 'Holt Yard'");
  const refused = await choose(pell, nobodys.body.company.id, { visibility: 'owner' }, 'companies');
  expect([refused.status, refused.body.fields]).toEqual([422, { visibility: 'needs an owner' }]);
});

it('a new owner who takes over what only owners see, sees it; the one before does not', async () => {
  const { id } = await makePerson(pell, { fullName: 'Cyd Holt' });
  await choose(pell, id, { visibility: 'owner' });
  const { version } = (await pell.call('GET /api/people/:id', { params: { id } })).body;
  const given = await pell.call('PATCH /api/people/:id', {
    params: { id },
    body: { version, ownerId: await idOf(ines) },
  });
  expect(given.status).toBe(200);
  expect((await pell.call('GET /api/people/:id', { params: { id } })).status).toBe(404);
  expect((await ines.call('GET /api/people/:id', { params: { id } })).status).toBe(200);
});

it('what is moved to a hidden company is hidden with it, and comes back with a move away', async () => {
  const firm = await pell.call('POST /api/companies', { body: { name: 'Kiln Street' } });
  const { id } = await makePerson(pell, { fullName: 'Dov Holt' });
  await choose(
    pell,
    firm.body.company.id,
    { visibility: 'named', peopleIds: [await idOf(pell)] },
    'companies',
  );
  const move = async (companyId: string | null): Promise<void> => {
    const { version } = (await pell.call('GET /api/people/:id', { params: { id } })).body;
    const moved = await pell.call('PATCH /api/people/:id', { params: { id }, body: { version, companyId } });
    expect(moved.status).toBe(200);
  };
  const toInes = async (): Promise<number> =>
    (await ines.call('GET /api/people/:id', { params: { id } })).status;
  expect(await toInes()).toBe(200);
  await move(firm.body.company.id);
  expect(await toInes()).toBe(404);
  expect((await sight(pell, id)).body.because).toEqual([
    { kind: 'companies', id: firm.body.company.id, name: 'Kiln Street' },
  ]);
  await move(null);
  expect(await toInes()).toBe(200);
});

it('new records follow the defaults of their kind, and leads those of their source', async () => {
  const put = await mara.call('PUT /api/visibility-defaults', {
    body: {
      items: [
        { kind: 'tasks', visibility: 'owner' },
        { kind: 'leads', source: 'referral', visibility: 'owner' },
        { kind: 'deals', visibility: 'everybody' },
      ],
    },
  });
  expect(put.status).toBe(200);
  expect((await pell.call('PUT /api/visibility-defaults', { body: { items: [] } })).status).toBe(403);
  expect((await ines.call('GET /api/visibility-defaults')).body.items).toEqual([
    { kind: 'leads', source: 'referral', visibility: 'owner' },
    { kind: 'tasks', visibility: 'owner' },
  ]);
  const { id: personId } = await makePerson(pell, { fullName: 'Eli Holt' });
  const task = await pell.call('POST /api/tasks', {
    body: { title: 'Call Eli', dueAt: '2026-12-01T09:00:00Z', personId },
  });
  const { id } = task.body.task;
  expect((await sight(pell, id, 'tasks')).body.visibility).toBe('owner');
  expect((await sight(ines, id, 'tasks')).status).toBe(404);
  const lead = await pell.call('POST /api/leads', { body: { title: 'Eli, by hand', personId } });
  expect((await sight(ines, lead.body.lead.id, 'leads')).body.visibility).toBe('everybody');
  await house.sequelize.query(
    `INSERT INTO leads (id, version, title, person_id, status, status_since, source, owner_id, created_at, updated_at)
     SELECT gen_random_uuid(), 1, 'Eli, sent by a friend', person_id, 'new', now(), 'referral', owner_id, now(), now() FROM leads WHERE id = '${lead.body.lead.id}'`,
  );
  const titles = async (client: typeof pell): Promise<string[]> =>
    (await client.call('GET /api/leads')).body.items.map(({ title }) => title);
  expect(await titles(pell)).toContain('Eli, sent by a friend');
  expect(await titles(ines)).not.toContain('Eli, sent by a friend');
  for (const wrong of [
    [{ kind: 'people', source: 'referral', visibility: 'owner' }],
    [
      { kind: 'people', visibility: 'owner' },
      { kind: 'people', visibility: 'everybody' },
    ],
  ])
    expect((await mara.call('PUT /api/visibility-defaults', { body: { items: wrong } })).status).toBe(422);
});

it('sums and counts are of what one may see', async () => {
  const { items: pipelines } = (await pell.call('GET /api/pipelines')).body;
  const params = { id: pipelines[0]?.id ?? '' };
  const openIn = async (client: typeof pell): Promise<number> =>
    (await client.call('GET /api/pipelines/:id/board', { params })).body.stages.reduce(
      (sum, { count }) => sum + count,
      0,
    );
  const before = [await openIn(pell), await openIn(ines)];
  const { body } = await pell.call('POST /api/deals', {
    body: { title: 'Twelve trailers', companyName: 'Holt Yard', amountMinor: 5000 },
  });
  await choose(pell, body.deal.id, { visibility: 'owner' }, 'deals');
  expect([await openIn(pell), await openIn(ines)]).toEqual([(before[0] ?? 0) + 1, before[1]]);
  await house.sequelize.query(
    "SELECT graphile_worker.add_job('keepSums'), graphile_worker.add_job('keepTags')",
  );
  await house.work();
  expect([await openIn(pell), await openIn(ines)]).toEqual([(before[0] ?? 0) + 1, before[1]]);
});
