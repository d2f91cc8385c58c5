import { saying } from '../testing/saying';
import { filing } from '../testing/filing';
import { useHouse, type Client } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
const { put, files } = filing(house);
const { person, company, enter, headlines, ledger } = saying(pell);
const undo = (id: string | null | undefined, by = pell) =>
  by.call('POST /api/events/:id/undo', { params: { id: id ?? '' } });
const detail = async (id: string, by = pell) =>
  (await by.call('GET /api/projects/:id', { params: { id } })).body;
const stages = async () => (await pell.call('GET /api/project-stages')).body.items;
const stageOf = async (kind: string): Promise<string> =>
  (await stages()).find((one) => one.kind === kind && one.active)?.id ?? '';
const change = async (id: string, body: Record<string, unknown>, by: Client = pell) =>
  by.call('PATCH /api/projects/:id', {
    params: { id },
    body: { version: (await detail(id)).version, ...body },
  });

/** A deal with two people, a line, an open and a done task, and a file. */
async function wonDeal(title: string) {
  const firm = await company(`${title} Ltd`);
  const [ana, rui] = [await person(`Ana ${title}`, firm), await person(`Rui ${title}`, firm)];
  const { deal } = (
    await pell.call('POST /api/deals', { body: { title, companyId: firm, personId: ana, amountMinor: 1000 } })
  ).body;
  const { version } = (await pell.call('GET /api/deals/:id', { params: { id: deal.id } })).body;
  await pell.call('PUT /api/deals/:id/people', {
    params: { id: deal.id },
    body: {
      people: [
        { personId: ana, role: 'decides' },
        { personId: ana, role: 'pays' },
        { personId: rui, role: 'uses' },
      ],
    },
  });
  await pell.call('PUT /api/deals/:id/lines', {
    params: { id: deal.id },
    body: { version, lines: [{ name: 'Long bike', quantity: '8', unitMinor: 100, charged: 'once' }] },
  });
  await put(pell, `${title}.txt`, `the plan of ${title}`, { dealId: deal.id });
  return { deal, firm, ana, rui };
}
/** Wins it, which ends what was open to win it; then there is something to deliver. */
async function win(dealId: string): Promise<void> {
  const { items } = (await pell.call('GET /api/stages')).body;
  const { version } = (await pell.call('GET /api/deals/:id', { params: { id: dealId } })).body;
  await pell.call('PATCH /api/deals/:id', {
    params: { id: dealId },
    body: { version, stageId: items.find(({ kind }) => kind === 'won')?.id },
  });
  const task = (title: string) =>
    pell.call('POST /api/tasks', { body: { title, dueAt: '2030-01-04T10:00:00Z', dealId } });
  await task('Book the van');
  const over = (await task('Send the papers')).body.task;
  await pell.call('PATCH /api/tasks/:id', { params: { id: over.id }, body: { done: true } });
}

it('a won deal becomes a project in one step, with its people, open tasks, files and what was sold; one undo', async () => {
  const { deal, firm, ana, rui } = await wonDeal('Fleet');
  expect((await pell.call('POST /api/deals/:id/project', { params: { id: deal.id }, body: {} })).status).toBe(
    409,
  );
  await win(deal.id);
  const proposal = (await pell.call('GET /api/deals/:id/project', { params: { id: deal.id } })).body;
  expect(proposal).toMatchObject({
    title: 'Fleet',
    people: [{ name: 'Ana Fleet' }, { name: 'Rui Fleet' }],
    tasks: [{ name: 'Book the van' }],
    files: 1,
    notes: '8 × Long bike',
    projects: [],
  });
  const made = await pell.call('POST /api/deals/:id/project', {
    params: { id: deal.id },
    body: { dueOn: '2030-03-01' },
  });
  expect(made.status).toBe(201);
  const project = await detail(made.body.id);
  expect(project).toMatchObject({
    title: 'Fleet',
    company: { id: firm },
    deal: { id: deal.id },
    dueOn: '2030-03-01',
    notes: '8 × Long bike',
    progress: 0,
    tasks: 1,
    stage: { name: 'Planned', kind: 'open' },
  });
  expect(project.people.map(({ id }) => id).sort()).toEqual([ana, rui].sort());
  expect(project.moves.map(({ title }) => title)).toEqual(['Book the van']);
  expect((await files(pell, { projectId: project.id })).map(({ name }) => name)).toEqual(['Fleet.txt']);
  expect((await pell.call('GET /api/projects', { query: { dealId: deal.id } })).body.items).toHaveLength(1);
  expect((await undo(made.body.eventId)).status).toBe(200);
  expect((await pell.call('GET /api/projects/:id', { params: { id: project.id } })).status).toBe(404);
  expect((await pell.call('GET /api/deals/:id', { params: { id: deal.id } })).body.moves).toHaveLength(1);
});

it('only what is wanted goes along', async () => {
  const { deal } = await wonDeal('Little');
  await win(deal.id);
  const { id } = (
    await pell.call('POST /api/deals/:id/project', {
      params: { id: deal.id },
      body: { title: 'Little fleet', take: { people: false, tasks: false, files: false, notes: false } },
    })
  ).body;
  expect(await detail(id)).toMatchObject({
    title: 'Little fleet',
    people: [],
    moves: [],
    notes: '',
    tasks: 0,
  });
  expect(await files(pell, { projectId: id })).toEqual([]);
});

it('what is said with its people while it runs stands on it, and not what is about another, or came before or after', async () => {
  const firm = await company('Rolling Ltd');
  const ana = await person('Ana Rolling', firm);
  const said = { kind: 'call', side: 'ours', outcome: 'spoke' };
  await enter(pell, { ...said, headline: 'Long before', at: '2026-01-05T10:00:00Z' }, { personId: ana });
  const { id } = (
    await pell.call('POST /api/projects', { body: { title: 'Roll out', companyId: firm, people: [ana] } })
  ).body;
  const other = (await pell.call('POST /api/projects', { body: { title: 'Other', companyId: firm } })).body
    .id;
  await enter(pell, { ...said, headline: 'On the way' }, { personId: ana });
  await enter(pell, { ...said, headline: 'About the other' }, { projectId: other, personId: ana });
  await enter(pell, { headline: 'Only here' }, { projectId: id });
  expect((await headlines({ projectId: id })).sort()).toEqual(['On the way', 'Only here']);
  expect(await headlines({ companyId: firm })).toContain('Only here');
  const line = await pell.call('POST /api/ledger', {
    body: { line: 'call Ana on Friday about the racks', about: { projectId: id } },
  });
  expect(line.status).toBe(201);
  expect((await detail(id)).moves[0]).toMatchObject({ project: { id }, person: { id: ana } });
});

it('its progress is that of its tasks, or as it is set; a stage that ends it closes it, and says so in the ledger', async () => {
  const { id } = (await pell.call('POST /api/projects', { body: { title: 'Racks' } })).body;
  expect((await detail(id)).progress).toBeNull();
  const tasks: string[] = [];
  for (const title of ['One', 'Two', 'Three'])
    tasks.push(
      (
        await pell.call('POST /api/tasks', {
          body: { title, dueAt: '2030-01-04T10:00:00Z', projectId: id },
        })
      ).body.task.id,
    );
  await pell.call('PATCH /api/tasks/:id', { params: { id: tasks[0] ?? '' }, body: { done: true } });
  expect(await detail(id)).toMatchObject({ progress: 33, tasksDone: 1, progressByHand: false });
  await change(id, { progress: 80 });
  expect(await detail(id)).toMatchObject({ progress: 80, progressByHand: true });
  await change(id, { progress: null });
  const moved = await change(id, { stageId: await stageOf('done'), because: 'All racks stand' });
  expect(await detail(id)).toMatchObject({ progress: 100, stage: { kind: 'done' } });
  const { items } = await ledger({ projectId: id });
  expect(items[0]).toMatchObject({ headline: 'Stage: Planned → Handed over', body: 'All racks stand' });
  const list = async (state: string) =>
    (await pell.call('GET /api/projects', { query: { state, q: 'rack' } })).body.items.length;
  expect([await list('open'), await list('done'), await list('stopped'), await list('all')]).toEqual([
    0, 1, 0, 1,
  ]);
  await undo(moved.body.eventId);
  expect([await list('open'), (await detail(id)).closedAt]).toEqual([1, null]);
});

it('a change on an older version, days the wrong way round and things that do not exist are refused', async () => {
  const { id } = (await pell.call('POST /api/projects', { body: { title: 'Strict', dueOn: '2030-01-10' } }))
    .body;
  const { version } = await detail(id);
  await change(id, { title: 'Stricter' });
  const stale = { params: { id }, body: { version, title: 'Old' } };
  expect((await pell.call('PATCH /api/projects/:id', stale)).status).toBe(409);
  expect((await change(id, { startsOn: '2030-01-11' })).status).toBe(422);
  expect((await change(id, { stageId: id })).status).toBe(422);
  expect((await change(id, { companyId: id })).status).toBe(422);
  expect(
    (await pell.call('PUT /api/projects/:id/people/:personId', { params: { id, personId: id }, body: {} }))
      .status,
  ).toBe(422);
});

it('people come on and go off with what they do; the history tells each field', async () => {
  const ana = await person('Ana Crew');
  const { id } = (await pell.call('POST /api/projects', { body: { title: 'Crewed' } })).body;
  const on = (role: string) =>
    pell.call('PUT /api/projects/:id/people/:personId', { params: { id, personId: ana }, body: { role } });
  await on('');
  await on('drives');
  expect((await detail(id)).people).toMatchObject([{ name: 'Ana Crew', role: 'drives' }]);
  const off = await pell.call('DELETE /api/projects/:id/people/:personId', { params: { id, personId: ana } });
  expect((await detail(id)).people).toEqual([]);
  await undo(off.body.eventId);
  expect((await detail(id)).people).toMatchObject([{ role: 'drives' }]);
  await change(id, { notes: 'Mind the step' });
  await change(id, { stageId: (await stages())[1]?.id ?? '' });
  const { items } = (await pell.call('GET /api/changes', { query: { recordId: id } })).body;
  expect(items.map(({ caption, to }) => [caption, to])).toEqual(
    expect.arrayContaining([
      ['Stage', 'In progress'],
      ['Notes', 'Mind the step'],
    ]),
  );
});

it('a project of a record one does not see is not there', async () => {
  const firm = await company('Hidden Works');
  const { id } = (
    await pell.call('POST /api/projects', { body: { title: 'Xenolith relocation', companyId: firm } })
  ).body;
  const found = async (by: Client) =>
    (await by.call('GET /api/search', { query: { q: 'xenolith' } })).body.items.map(({ kind }) => kind);
  expect(await found(ines)).toEqual(['project']);
  await pell.call('PUT /api/visibility/:kind/:id', {
    params: { kind: 'companies', id: firm },
    body: { visibility: 'owner' },
  });
  expect([await found(ines), await found(pell)]).toEqual([[], ['project']]);
  expect((await ines.call('GET /api/projects/:id', { params: { id } })).status).toBe(404);
  expect((await ines.call('GET /api/projects', { query: { q: 'xenolith' } })).body.items).toEqual([]);
});

it('stages are added, moved and retired by managers; not the last open one, nor one in use', async () => {
  expect((await pell.call('POST /api/project-stages', { body: { name: 'X', kind: 'open' } })).status).toBe(
    403,
  );
  const { id } = (await mara.call('POST /api/project-stages', { body: { name: 'Waiting', kind: 'open' } }))
    .body;
  const set = async (stage: string, body: Record<string, unknown>) =>
    mara.call('PATCH /api/project-stages/:id', {
      params: { id: stage },
      body: { version: (await stages()).find((one) => one.id === stage)?.version, ...body },
    });
  expect((await set(id, { name: 'On hold', position: 2 })).status).toBe(200);
  const project = (await pell.call('POST /api/projects', { body: { title: 'Held', stageId: id } })).body.id;
  expect((await set(id, { active: false })).status).toBe(409);
  await change(project, { stageId: await stageOf('stopped') });
  expect((await set(id, { active: false })).status).toBe(200);
  expect((await pell.call('POST /api/projects', { body: { title: 'No', stageId: id } })).status).toBe(422);
});

it('pages of projects follow each other whichever way they are sorted', async () => {
  for (const [sort, direction] of [
    ['dueOn', 'asc'],
    ['title', 'desc'],
    ['createdAt', 'asc'],
  ] as const) {
    const seen: string[] = [];
    let cursor: string | undefined;
    do {
      const { body } = await pell.call('GET /api/projects', {
        query: { state: 'all', sort, direction, limit: '3', ...(cursor ? { cursor } : {}) },
      });
      seen.push(...body.items.map(({ id }) => id));
      cursor = body.next ?? undefined;
    } while (cursor);
    expect([sort, seen.length, new Set(seen).size]).toEqual([
      sort,
      await house.count('projects'),
      seen.length,
    ]);
  }
});
