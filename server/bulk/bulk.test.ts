import type { BulkChange } from '@emporikon/contract/bulk';
import type { Step } from '@emporikon/core/bulk/types';
import { useHouse } from '../testing/harness';

const use = useHouse();
type Client = typeof use.pell;

const person = async (fullName: string, more: object = {}) =>
  (await use.pell.call('POST /api/people', { body: { fullName, ...more } })).body.person.id;
const people = async (round: string, count: number, more: object = {}): Promise<string[]> => {
  const ids = [];
  for (let at = 0; at < count; at++) ids.push(await person(`${round} Person ${at}`, more));
  return ids;
};
const userId = async (name: string): Promise<string> =>
  (await use.pell.call('GET /api/users')).body.items.find((user) => user.name === name)?.id ?? '';
const prepare = (ids: readonly string[], steps: readonly Step[], kind = 'person', by: Client = use.pell) =>
  by.call('POST /api/bulk-changes', { body: { kind, on: { ids }, steps } });
const start = (id: string, by: Client = use.pell) =>
  by.call('POST /api/bulk-changes/:id/start', { params: { id } });
const get = async (id: string): Promise<BulkChange> =>
  (await use.pell.call('GET /api/bulk-changes/:id', { params: { id } })).body;
const card = async (id: string) => (await use.pell.call('GET /api/people/:id', { params: { id } })).body;
const lines = async (id: string): Promise<string[]> =>
  (await use.pell.call('GET /api/ledger', { query: { personId: id } })).body.items
    .filter(({ kind }) => kind === 'change')
    .map(({ headline }) => headline);
/** Previews a change and does it to its end. */
async function change(ids: readonly string[], steps: readonly Step[], kind = 'person'): Promise<BulkChange> {
  const { body } = await prepare(ids, steps, kind);
  await start(body.change.id);
  await use.house.work();
  return get(body.change.id);
}
async function undo(id: string): Promise<BulkChange> {
  await use.pell.call('POST /api/bulk-changes/:id/undo', { params: { id } });
  await use.house.work();
  return get(id);
}

it('two hundred are given to a colleague and tagged: previewed, done once, said in the ledger of each, undone', async () => {
  const ids = await people('Fair', 6);
  const ines = await userId('Ines Tolland');
  await change(ids.slice(0, 1), [
    { do: 'owner', to: ines },
    { do: 'tag', tags: ['fair'] },
  ]);
  const steps: Step[] = [
    { do: 'owner', to: ines },
    { do: 'tag', tags: ['Fair', 'spring'] },
  ];
  const { body } = await prepare(ids, steps);
  expect(body.preview).toMatchObject({ change: 6, stay: 0, refuse: [] });
  expect(body.preview.samples.map(({ said }) => said)).toContain(
    'Owner: Pell Garrick → Ines Tolland · Tagged “Fair”, “spring”',
  );
  expect((await card(ids[1] ?? '')).tags).toEqual([]);
  await start(body.change.id);
  await start(body.change.id);
  await use.house.work();
  expect(await get(body.change.id)).toMatchObject({
    ...{ state: 'done', total: 6, done: 6, counts: { changed: 6, stayed: 0, refused: 0 } },
    label: 'owner to Ines Tolland, tag “Fair”, “spring”',
  });
  // Tags are the same however they are written.
  expect((await card(ids[0] ?? '')).tags).toEqual(['fair', 'spring']);
  const other = await card(ids[1] ?? '');
  expect([other.tags, other.owner?.name]).toEqual([['Fair', 'spring'], 'Ines Tolland']);
  expect(await lines(ids[1] ?? '')).toEqual(['Owner: Pell Garrick → Ines Tolland · Tagged “Fair”, “spring”']);
  expect(await undo(body.change.id)).toMatchObject({ state: 'undone', done: 0, counts: { kept: 0 } });
  const back = await card(ids[1] ?? '');
  expect([back.tags, back.owner?.name]).toEqual([[], 'Pell Garrick']);
  expect((await card(ids[0] ?? '')).tags).toEqual(['fair']);
  expect(await lines(ids[1] ?? '')).toEqual([]);
});

it('what is so already and what cannot be is said before and after, with why', async () => {
  const one = await person('Lead Person');
  const lead = async (title: string) =>
    (await use.pell.call('POST /api/leads', { body: { personId: one, title, source: 'call' } })).body.lead;
  const [fresh, dropped, converted] = [await lead('Fresh'), await lead('Dropped'), await lead('Converted')];
  await change([dropped.id], [{ do: 'status', to: 'dropped', dropReason: 'no budget' }], 'lead');
  await use.pell.call('POST /api/leads/:id/conversion', { params: { id: converted.id }, body: {} });
  const ids = [fresh.id, dropped.id, converted.id];
  const steps: Step[] = [{ do: 'status', to: 'qualified' }];
  const { body } = await prepare([...ids, crypto.randomUUID()], steps, 'lead');
  expect(body.preview.refuse.map(({ why, count, samples }) => [why, count, samples[0]?.name]).sort()).toEqual(
    [
      ['A dropped lead cannot become qualified.', 1, 'Dropped'],
      ['This lead is converted; undo the conversion first.', 1, 'Converted'],
    ],
  );
  expect(body.preview).toMatchObject({ change: 1, stay: 0 });
  expect(body.change.total).toBe(3);
  await change(ids, steps, 'lead');
  const { id } = await change(ids, steps, 'lead');
  expect((await get(id)).counts).toMatchObject({ changed: 0, stayed: 1, refused: 2 });
  const rows = async (query: Record<string, string>) =>
    (await use.pell.call('GET /api/bulk-changes/:id/rows', { params: { id }, query })).body;
  expect((await rows({ outcome: 'refused' })).items.map(({ name }) => name).sort()).toEqual([
    'Converted',
    'Dropped',
  ]);
  const first = await rows({ limit: '2' });
  expect([first.items.length, (await rows({ after: String(first.next) })).items.length]).toEqual([2, 1]);
});

it('deals move between the open stages of their own pipeline; they are won one by one', async () => {
  const { body: pipelines } = await use.pell.call('GET /api/pipelines');
  const { stages } = (
    await use.pell.call('GET /api/pipelines/:id/board', { params: { id: pipelines.items[0]?.id ?? '' } })
  ).body;
  const [from, to] = stages.filter(({ kind }) => kind === 'open');
  const won = stages.find(({ kind }) => kind === 'won');
  const personId = await person('Deal Person');
  const deal = async (title: string) =>
    (await use.pell.call('POST /api/deals', { body: { personId, title, stageId: from?.id } })).body.deal;
  const [open, closed] = [await deal('Open one'), await deal('Closed one')];
  await use.pell.call('PATCH /api/deals/:id', {
    params: { id: closed.id },
    body: { version: closed.version, stageId: won?.id },
  });
  expect((await prepare([open.id], [{ do: 'stage', to: won?.id ?? '' }], 'deal')).status).toBe(422);
  const done = await change([open.id, closed.id], [{ do: 'stage', to: to?.id ?? '' }], 'deal');
  expect(done.counts).toMatchObject({ changed: 1, refused: 1 });
  const moved = (await use.pell.call('GET /api/deals/:id', { params: { id: open.id } })).body;
  expect([moved.stage.id, moved.probability]).toEqual([to?.id, to?.probability]);
  const states = await use.house.sequelize.query(
    'SELECT stage_id FROM deal_states WHERE deal_id = $id ORDER BY at, id',
    { bind: { id: open.id } },
  );
  expect(states[0]).toEqual([{ stage_id: from?.id }, { stage_id: to?.id }]);
  await undo(done.id);
  expect((await use.pell.call('GET /api/deals/:id', { params: { id: open.id } })).body.stage.id).toBe(
    from?.id,
  );
});

it('lists, projects and next moves come and go; a next move that was done stays', async () => {
  const ids = await people('Move', 3);
  const list = (await use.pell.call('POST /api/lists', { body: { name: 'Spring ride' } })).body.list.id;
  const project = (await use.pell.call('POST /api/projects', { body: { title: 'Depot' } })).body.id;
  const steps: Step[] = [
    { do: 'list', to: list },
    { do: 'project', to: project },
    { do: 'next move', title: 'Call about spring', due: '2031-03-03' },
  ];
  const done = await change(ids, steps);
  expect(done.counts).toMatchObject({ changed: 3 });
  const on = async (id: string) => (await card(id)).lists.map(({ name }) => name);
  expect(await on(ids[0] ?? '')).toEqual(['Spring ride']);
  const { items } = (await use.pell.call('GET /api/tasks')).body;
  const task = items.find(({ title, person }) => title === 'Call about spring' && person?.id === ids[0]);
  expect(task).toMatchObject({ allDay: true, assignee: { name: 'Pell Garrick' } });
  const off = await change(ids.slice(0, 1), [{ do: 'unlist', to: list }]);
  expect(await on(ids[0] ?? '')).toEqual([]);
  await undo(off.id);
  expect(await on(ids[0] ?? '')).toEqual(['Spring ride']);
  await use.pell.call('PATCH /api/tasks/:id', {
    params: { id: task?.id ?? '' },
    body: { version: task?.version, done: true },
  });
  expect((await undo(done.id)).counts).toMatchObject({ kept: 1 });
  expect(await on(ids[0] ?? '')).toEqual([]);
  const left = await use.house.sequelize.query(
    "SELECT count(*)::int AS n FROM tasks WHERE title = 'Call about spring'",
  );
  expect(left[0]).toEqual([{ n: 1 }]);
});

it('what was changed since stays, and the rest goes back', async () => {
  const [one = '', two = ''] = await people('Since', 2);
  await use.mara.call('POST /api/fields', { body: { label: 'Route', kind: 'text' } });
  const done = await change(
    [one, two],
    [
      { do: 'standing', to: 'partner' },
      { do: 'tag', tags: ['depot'] },
      { do: 'field', key: 'route', to: 'north' },
      { do: 'important', to: true },
    ],
  );
  const { version } = await card(one);
  await use.pell.call('PATCH /api/people/:id', {
    params: { id: one },
    body: { version, standing: 'customer', tags: ['depot', 'own'], custom: { route: 'south' } },
  });
  expect((await undo(done.id)).counts).toMatchObject({ kept: 1 });
  const route = ({ custom }: Awaited<ReturnType<typeof card>>) =>
    custom.find(({ key }) => key === 'route')?.value;
  const [changed, other] = [await card(one), await card(two)];
  expect(changed).toMatchObject({ standing: 'customer', tags: ['own'], isImportant: false });
  expect(other).toMatchObject({ standing: 'stranger', tags: [] });
  expect([route(changed), route(other)]).toEqual(['south', '']);
});

it('steps that say nothing are refused with what is wrong', async () => {
  const [id = ''] = await people('Wrong', 1);
  const refused: [Step[], string, string][] = [
    [[{ do: 'owner', to: crypto.randomUUID() }], 'person', 'ownerId'],
    [[{ do: 'stage', to: crypto.randomUUID() }], 'person', 'steps.0'],
    [[{ do: 'list', to: crypto.randomUUID() }], 'person', 'steps.0'],
    [[{ do: 'field', key: 'nowhere', to: 'x' }], 'person', 'steps.0'],
    [
      [
        { do: 'active', to: true },
        { do: 'active', to: false },
      ],
      'person',
      'steps.1',
    ],
    [[{ do: 'owner', to: null }], 'deal', 'steps.0'],
    [[{ do: 'status', to: 'parked' }], 'lead', 'steps.0'],
    [[{ do: 'status', to: 'dropped' }], 'lead', 'steps.0'],
  ];
  for (const [steps, kind, field] of refused) {
    const { status, body } = await prepare([id], steps, kind);
    expect([steps, status, Object.keys(body.fields ?? {})]).toEqual([steps, 422, [field]]);
  }
});

it('all that meets a query is changed, as far as whoever asks may see it, and nobody else steers it', async () => {
  const ids = await people('Query', 3, { jobTitle: 'Harbour pilot' });
  const hidden = ids[2] ?? '';
  await use.pell.call('PUT /api/visibility/:kind/:id', {
    params: { kind: 'people', id: hidden },
    body: { visibility: 'owner' },
  });
  const body = {
    kind: 'person',
    on: { query: { kind: 'person', filter: { field: 'jobTitle', op: 'is', value: 'harbour pilot' } } },
    steps: [{ do: 'tag', tags: ['pilots'] }],
  };
  const { body: theirs } = await use.ines.call('POST /api/bulk-changes', { body });
  expect([theirs.change.total, theirs.preview.change]).toEqual([2, 2]);
  expect((await use.ines.call('POST /api/bulk-changes', { body: { ...body, kind: 'company' } })).status).toBe(
    422,
  );
  const params = { id: theirs.change.id };
  for (const name of ['GET /api/bulk-changes/:id', 'GET /api/bulk-changes/:id/rows'] as const)
    expect((await use.pell.call(name, { params })).status).toBe(404);
  expect((await start(theirs.change.id)).status).toBe(404);
  const { body: again } = await use.ines.call('POST /api/bulk-changes', { body });
  // One in another tab stays good for a while, and is gone when nobody began it.
  expect((await use.ines.call('GET /api/bulk-changes/:id', { params })).body.state).toBe('previewed');
  await use.house.sequelize.query(
    "UPDATE bulk_changes SET created_at = created_at - interval '1 hour' WHERE id = $id",
    {
      bind: { id: theirs.change.id },
    },
  );
  await use.ines.call('POST /api/bulk-changes', { body });
  expect((await start(theirs.change.id, use.ines)).status).toBe(404);
  await start(again.change.id, use.ines);
  await use.house.work();
  expect([(await card(ids[0] ?? '')).tags, (await card(hidden)).tags]).toEqual([['pilots'], []]);
  const listed = async (by: Client) =>
    (await by.call('GET /api/bulk-changes', { query: { limit: '100' } })).body.items.map(({ id }) => id);
  expect(await listed(use.ines)).toContain(again.change.id);
  expect(await listed(use.pell)).not.toContain(again.change.id);
});

it('records given away that their giver sees no more are not taken back, and that is said', async () => {
  const [id = ''] = await people('Private', 1);
  await use.pell.call('PUT /api/visibility/:kind/:id', {
    params: { kind: 'people', id },
    body: { visibility: 'owner' },
  });
  const done = await change([id], [{ do: 'owner', to: await userId('Ines Tolland') }]);
  expect(done.counts).toMatchObject({ changed: 1 });
  expect((await use.pell.call('GET /api/people/:id', { params: { id } })).status).toBe(404);
  expect((await undo(done.id)).counts).toMatchObject({ kept: 1 });
});

it('its new owner is told once, and a part of it cannot be undone by itself', async () => {
  const ids = await people('Told', 25);
  const before = (await use.ines.call('GET /api/notices')).body.items.length;
  const done = await change(ids, [{ do: 'owner', to: await userId('Ines Tolland') }]);
  const { items } = (await use.ines.call('GET /api/notices')).body;
  expect([items.length - before, items[0]?.title]).toEqual([1, '25 people']);
  const [[event]] = (await use.house.sequelize.query(
    "SELECT id FROM events WHERE command = 'change many' ORDER BY seq DESC LIMIT 1",
  )) as [{ id: string }[], unknown];
  expect((await use.pell.call('POST /api/events/:id/undo', { params: { id: event?.id ?? '' } })).status).toBe(
    409,
  );
  expect((await undo(done.id)).state).toBe('undone');
  expect((await start(done.id)).status).toBe(409);
});
