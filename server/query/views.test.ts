import { useHouse } from '../testing/harness';

const use = useHouse();

describe('views', () => {
  const QUERY = { kind: 'person', filter: { all: [{ field: 'standing', op: 'is', value: ['prospect'] }] } };
  const save = async (name: string, more: object = {}, by = use.pell) =>
    by.call('POST /api/views', { body: { name, query: QUERY, ...more } });
  const listed = async (by = use.pell) =>
    (await by.call('GET /api/views', { query: { kind: 'person' } })).body;

  it('begin with a set that everybody has and that answers', async () => {
    for (const kind of ['person', 'company', 'lead', 'deal', 'task']) {
      const { items } = (await use.pell.call('GET /api/views', { query: { kind } })).body;
      expect(items.length).toBeGreaterThan(1);
      for (const { query } of items)
        expect((await use.pell.call('POST /api/queries', { body: { query } })).status).toBe(200);
    }
  });

  it('are saved, changed, shared, remembered, deleted, and taken back', async () => {
    const { view } = (await save('Mine alone')).body;
    expect((await listed(use.ines)).items.map((one) => one.name)).not.toContain('Mine alone');
    expect((await use.ines.call('GET /api/views/:id', { params: { id: view.id } })).status).toBe(404);
    const shared = await use.pell.call('PATCH /api/views/:id', {
      params: { id: view.id },
      body: { version: view.version, shared: 'everybody', name: 'All of us' },
    });
    expect(shared.body.view).toMatchObject({ name: 'All of us', shared: 'everybody', mayChange: true });
    const opened = await use.ines.call('GET /api/views/:id', { params: { id: view.id } });
    expect(opened.body).toMatchObject({ name: 'All of us', query: QUERY, mayChange: false });
    const seen = (await listed(use.ines)).items.find((one) => one.name === 'All of us');
    expect(seen).toMatchObject({ mayChange: false, owner: 'Pell Garrick' });
    const refused = await use.ines.call('PATCH /api/views/:id', {
      params: { id: view.id },
      body: { version: shared.body.view.version, name: 'Ines’s now' },
    });
    expect(refused.status).toBe(403);
    const late = await use.pell.call('PATCH /api/views/:id', {
      params: { id: view.id },
      body: { version: view.version, name: 'Too late' },
    });
    expect(late.status).toBe(409);
    await use.ines.call('PUT /api/views/:id/last', { params: { id: view.id } });
    expect((await listed(use.ines)).last).toBe(view.id);
    const gone = await use.pell.call('DELETE /api/views/:id', { params: { id: view.id } });
    expect((await listed(use.ines)).last).toBeNull();
    await use.pell.call('POST /api/events/:id/undo', { params: { id: String(gone.body.eventId) } });
    expect((await listed()).items.map((one) => one.name)).toContain('All of us');
  });

  it('have a name once for each of their owners, and are shared with a team by whoever is in one', async () => {
    expect((await save('Twice')).status).toBe(201);
    expect((await save('twice')).status).toBe(409);
    expect((await save('Twice', {}, use.ines)).status).toBe(201);
    expect((await save('Ours', { shared: 'team' })).status).toBe(422);
    await use.house.sequelize.query(
      "UPDATE users SET team = 'North' WHERE name LIKE 'Pell%' OR name LIKE 'Mara%'",
    );
    expect((await save('Ours', { shared: 'team' })).status).toBe(201);
    expect((await listed(use.mara)).items.map((one) => one.name)).toContain('Ours');
    expect((await listed(use.ines)).items.map((one) => one.name)).not.toContain('Ours');
  });

  it('keep what a change leaves out, and stand in lanes only by a field of a few values, in a calendar by one of days', async () => {
    const lanes = { as: 'lanes', by: 'standing' };
    const { view } = (await save('Lanes', { shared: 'everybody', layout: lanes })).body;
    expect(view.layout).toEqual(lanes);
    const patch = (body: object) =>
      use.pell.call('PATCH /api/views/:id', {
        params: { id: view.id },
        body: { version: view.version, ...body },
      });
    for (const layout of [
      { as: 'lanes' },
      { as: 'lanes', by: 'jobTitle' },
      { as: 'lanes', by: 'tags' },
      { as: 'cards', by: 'standing' },
      { as: 'calendar' },
      { as: 'calendar', by: 'standing' },
    ])
      expect([layout, (await patch({ layout })).status]).toEqual([layout, 422]);
    const { view: changed } = (
      await patch({ query: { ...QUERY, order: [{ field: 'fullName', direction: 'desc' }] } })
    ).body;
    expect(changed).toMatchObject({ name: 'Lanes', shared: 'everybody', layout: lanes });
    const calendar = { as: 'calendar', by: 'birthday' };
    const birthdays = await save('Birthdays by day', { layout: calendar });
    expect([birthdays.status, birthdays.body.view.layout]).toEqual([201, calendar]);
  });
});
