import { delegating } from '../testing/delegating';
import { saying } from '../testing/saying';
import { useHouse, type Client } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
const { person, company } = saying(pell);
const { idOf, noticesOf, task } = delegating;
const QUERY = { kind: 'person', filter: { all: [{ field: 'standing', op: 'is', value: ['prospect'] }] } };
const userOf = async (id: string) =>
  (await ines.call('GET /api/admin/users')).body.items.find((user) => user.id === id);
const ownerOf = async (path: 'people' | 'companies' | 'leads' | 'deals', id: string) => {
  const [rows] = await house.sequelize.query(
    `SELECT u.name FROM ${path} t JOIN users u ON u.id = t.owner_id WHERE t.id = '${id}'`,
  );
  return (rows[0] as { name: string } | undefined)?.name;
};
const belongings = async (by: Client = ines) =>
  by.call('GET /api/admin/users/:id/belongings', { params: { id: ids.pell } });
const leave = async (toId: string | null, by: Client = ines) =>
  by.call('POST /api/admin/users/:id/leaving', {
    params: { id: ids.pell },
    body: { version: (await userOf(ids.pell))?.version ?? 1, toId },
  });

const ids = { pell: '', ines: '', mara: '' };
const made = { company: '', ana: '', hidden: '', lead: '', dropped: '', deal: '', lost: '', case: '' };
beforeAll(async () => {
  for (const [name, client] of Object.entries({ pell, ines, mara })) ids[name as 'pell'] = await idOf(client);
  made.company = (await pell.call('POST /api/companies', { body: { name: 'Padaria Sol' } })).body.company.id;
  made.ana = await person('Ana Silva', made.company);
  made.hidden = await person('Rui Hidden', await company('Padaria Lua'));
  await pell.call('PUT /api/visibility/:kind/:id', {
    params: { kind: 'people', id: made.hidden },
    body: { visibility: 'owner' },
  });
  const lead = (title: string) =>
    pell.call('POST /api/leads', { body: { title, personId: made.ana } }).then(({ body }) => body.lead);
  made.lead = (await lead('Six bikes')).id;
  const dropped = await lead('No bikes');
  made.dropped = dropped.id;
  await pell.call('PATCH /api/leads/:id', {
    params: { id: dropped.id },
    body: { version: dropped.version, status: 'dropped', dropReason: 'no need' },
  });
  const deal = (title: string) =>
    pell.call('POST /api/deals', { body: { title, personId: made.ana, companyId: made.company } });
  made.deal = (await deal('Eight bikes')).body.deal.id;
  made.lost = (await deal('Nine bikes')).body.deal.id;
  const { items: stages } = (await pell.call('GET /api/stages')).body;
  const { version } = (await pell.call('GET /api/deals/:id', { params: { id: made.lost } })).body;
  await pell.call('PATCH /api/deals/:id', {
    params: { id: made.lost },
    body: { version, stageId: stages.find(({ kind }) => kind === 'won')?.id },
  });
  await task(pell, { title: 'Call Ana' });
  await task(pell, { title: 'Send the plan', assigneeId: ids.ines });
  made.case = (
    await pell.call('POST /api/cases', { body: { title: 'A flat tyre', personId: made.ana } })
  ).body.id;
  await pell.call('POST /api/views', { body: { name: 'Bakers', query: QUERY, shared: 'everybody' } });
  await pell.call('POST /api/views', { body: { name: 'My own', query: QUERY, shared: 'me' } });
  await mara.call('POST /api/views', { body: { name: 'bakers', query: QUERY, shared: 'me' } });
  await mara.call('PUT /api/owner-rules', {
    body: { rules: [{ when: null, owners: [ids.pell, ids.ines] }], seen: [] },
  });
  await house.work();
  await house.sequelize.query(
    "UPDATE users SET role = 'admin' WHERE email LIKE 'ines%'; DELETE FROM notices",
  );
  Object.assign(ines, await house.as('ines@wharfside.example'));
});

it('what a colleague looks after is counted, also what the admin cannot see; only admins ask', async () => {
  const hidden = await ines.call('GET /api/people/:id', { params: { id: made.hidden } });
  expect(hidden.status).toBe(404);
  expect((await belongings()).body).toEqual({
    ...{ people: 2, companies: 2, leads: 1, deals: 1, tasks: 1, projects: 0, cases: 1 },
    ...{ forms: 0, ownerRules: 1, views: 1 },
  });
  expect((await belongings(mara)).status).toBe(403);
  expect((await leave(ids.mara, mara)).status).toBe(403);
});

it('nobody leaves while nobody takes over, nor to themselves, nor to an account that is off', async () => {
  for (const toId of [null, ids.pell, crypto.randomUUID()]) {
    const { status, body } = await leave(toId);
    expect([status, Object.keys(body.fields ?? {})]).toEqual([422, ['toId']]);
  }
  expect((await userOf(ids.pell))?.active).toBe(true);
  expect((await belongings()).body.people).toBe(2);
});

it('everything goes over at once, hidden or not; what is closed stays; the account is off', async () => {
  const { status, body } = await leave(ids.mara);
  expect([status, body.user.active]).toEqual([200, false]);
  expect(body.changes.map(({ kind, total }) => [kind, total])).toEqual([
    ['person', 2],
    ['company', 2],
    ['lead', 1],
    ['deal', 1],
  ]);
  expect((await pell.call('GET /api/session')).status).toBe(401);
  await house.work();
  expect((await belongings()).body).toEqual({
    ...{ people: 0, companies: 0, leads: 0, deals: 0, tasks: 0, projects: 0, cases: 0 },
    ...{ forms: 0, ownerRules: 0, views: 0 },
  });
  const owners = {
    ana: await ownerOf('people', made.ana),
    hidden: await ownerOf('people', made.hidden),
    company: await ownerOf('companies', made.company),
    lead: await ownerOf('leads', made.lead),
    dropped: await ownerOf('leads', made.dropped),
    deal: await ownerOf('deals', made.deal),
    lost: await ownerOf('deals', made.lost),
  };
  expect(owners).toEqual({
    ...{
      ana: 'Mara Quill',
      hidden: 'Mara Quill',
      company: 'Mara Quill',
      lead: 'Mara Quill',
      deal: 'Mara Quill',
    },
    ...{ dropped: 'Pell Garrick', lost: 'Pell Garrick' },
  });
  expect((await mara.call('GET /api/cases/:id', { params: { id: made.case } })).body.owner.name).toBe(
    'Mara Quill',
  );
  const tasks = (await mara.call('GET /api/tasks')).body.items.map(({ title }) => title);
  expect(tasks).toEqual(['Call Ana']);
  // Who takes over hears when delegated work is done, and each kind of thing is told once.
  const [rows] = await house.sequelize.query("SELECT given_by FROM tasks WHERE title = 'Send the plan'");
  expect(rows).toEqual([{ given_by: ids.mara }]);
  expect(
    (await noticesOf(mara))
      .filter(([kind]) => kind === 'owner')
      .map(([, title]) => title)
      .sort(),
  ).toEqual(expect.arrayContaining(['1 deal', '1 lead', '2 companies', '2 people']));
  const rules = (await mara.call('GET /api/owner-rules')).body;
  expect(JSON.stringify(rules)).not.toContain(ids.pell);
  const views = (await mara.call('GET /api/views', { query: { kind: 'person' } })).body.items;
  expect(views.map(({ name }) => name)).toEqual(expect.arrayContaining(['bakers', 'Bakers (Pell Garrick)']));
  expect(views.map(({ name }) => name)).not.toContain('My own');
});

it('the admin still sees nothing of the hidden one, in the list of what changed neither, and undo reaches it', async () => {
  const hidden = () => ines.call('GET /api/people/:id', { params: { id: made.hidden } });
  expect((await hidden()).status).toBe(404);
  const { items } = (await ines.call('GET /api/bulk-changes')).body;
  const people = items.find(({ kind }) => kind === 'person');
  expect(people).toMatchObject({ state: 'done', counts: { changed: 2 }, by: 'Ines Tolland' });
  const rows = await ines.raw('GET', `/api/bulk-changes/${people?.id ?? ''}/rows`);
  expect(rows.text).toContain('Ana Silva');
  expect(rows.text).not.toContain('Rui Hidden');
  await ines.call('POST /api/bulk-changes/:id/undo', { params: { id: people?.id ?? '' } });
  await house.work();
  expect([await ownerOf('people', made.ana), await ownerOf('people', made.hidden)]).toEqual([
    'Pell Garrick',
    'Pell Garrick',
  ]);
  expect((await leave(ids.mara)).status).toBe(409);
});

it('the only admin does not leave, and who looks after nothing leaves without an heir', async () => {
  await house.sequelize.query("UPDATE users SET active = true WHERE email LIKE 'pell%'");
  const own = await ines.call('POST /api/admin/users/:id/leaving', {
    params: { id: ids.ines },
    body: { version: (await userOf(ids.ines))?.version ?? 1, toId: ids.mara },
  });
  expect(own.status).toBe(409);
  const nia = (
    await ines.call('POST /api/admin/users', {
      body: { name: 'Nia New', email: 'nia@wharfside.example', password: 'a long password of hers' },
    })
  ).body;
  const gone = await ines.call('POST /api/admin/users/:id/leaving', {
    params: { id: nia.id },
    body: { version: nia.version, toId: null },
  });
  expect([gone.status, gone.body.changes, gone.body.user.active]).toEqual([200, [], false]);
});
