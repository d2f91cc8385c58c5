import { useHouse } from '../testing/harness';

const { house, pell, mara } = useHouse();
let main: string;
beforeAll(async () => {
  main = (await pell.call('GET /api/pipelines')).body.items[0]?.id ?? '';
});

const stages = async (pipeline = main) =>
  (await pell.call('GET /api/stages', { query: { pipeline } })).body.items;
const board = async (query: Record<string, string> = {}, id = main) =>
  (await pell.call('GET /api/pipelines/:id/board', { params: { id }, query })).body;
const add = async (body: object) => (await pell.call('POST /api/deals', { body })).body.deal;
const deal = async (id: string) => (await pell.call('GET /api/deals/:id', { params: { id } })).body;
const patch = async (id: string, body: object) =>
  pell.call('PATCH /api/deals/:id', { params: { id }, body: { version: (await deal(id)).version, ...body } });
const undo = (id: string | null) => mara.call('POST /api/events/:id/undo', { params: { id: id ?? '' } });

describe('pipelines', () => {
  it('are added by a manager with stages of their own, and take deals of their own', async () => {
    expect((await pell.call('POST /api/pipelines', { body: { name: 'Plans' } })).status).toBe(403);
    const { body } = await mara.call('POST /api/pipelines', { body: { name: 'Plans' } });
    const own = await stages(body.id);
    expect(own.map((stage) => [stage.name, stage.kind])).toEqual([
      ['First', 'open'],
      ['Won', 'won'],
      ['Lost', 'lost'],
    ]);
    const made = await add({ title: 'A plan', stageId: own[0]?.id });
    expect((await board({}, body.id)).deals.map((deal) => deal.id)).toEqual([made.id]);
    expect((await board()).deals.map((deal) => deal.id)).not.toContain(made.id);
    expect((await mara.call('POST /api/pipelines', { body: { name: 'Plans' } })).status).toBe(422);
    const retire = () =>
      mara.call('PATCH /api/pipelines/:id', { params: { id: body.id }, body: { version: 1, active: false } });
    expect((await retire()).status).toBe(409);
    await patch(made.id, { stageId: own[2]?.id });
    expect((await retire()).status).toBe(200);
  });

  it('a new stage stands before the ends, and is moved where it is wanted', async () => {
    const { body } = await mara.call('POST /api/stages', { body: { pipelineId: main, name: 'Terms' } });
    const names = async () => (await stages()).map((stage) => stage.name);
    expect(await names()).toEqual(['Heard out', 'Proposal', 'Terms', 'Signed']);
    await mara.call('PATCH /api/stages/:id', { params: { id: body.id }, body: { version: 2, position: 1 } });
    expect(await names()).toEqual(['Terms', 'Heard out', 'Proposal', 'Signed']);
    expect((await stages()).map((stage) => stage.position)).toEqual([1, 2, 3, 4]);
  });

  it('a stage in use is not removed until it is said where its deals go, and then none is lost', async () => {
    const [terms, heard] = await stages();
    const made = await add({ title: 'In terms', stageId: terms?.id });
    const remove = (query: Record<string, string>) =>
      mara.call('DELETE /api/stages/:id', { params: { id: terms?.id ?? '' }, query });
    const refused = await remove({});
    expect([refused.status, refused.body.detail]).toEqual([
      409,
      expect.stringContaining('Terms has 1 deal. Choose the stage'),
    ]);
    expect((await remove({ to: terms?.id ?? '' })).status).toBe(422);
    const { status, body } = await remove({ to: heard?.id ?? '' });
    expect([status, body.moved]).toEqual([200, 1]);
    expect((await deal(made.id)).stageId).toBe(heard?.id);
    expect((await undo(body.eventId)).status).toBe(200);
    expect((await deal(made.id)).stageId).toBe(terms?.id);
    await remove({ to: heard?.id ?? '' });
  });

  it('while a stage is removed, a deal that comes to it is either taken along or refused', async () => {
    const { body } = await mara.call('POST /api/stages', { body: { pipelineId: main, name: 'Passing' } });
    const [heard] = await stages();
    const made = await Promise.all([1, 2, 3, 4, 5].map((at) => add({ title: `Moves ${at}` })));
    const [removed, ...moves] = await Promise.all([
      mara.call('DELETE /api/stages/:id', { params: { id: body.id }, query: { to: heard?.id ?? '' } }),
      ...made.map((one) => patch(one.id, { stageId: body.id })),
    ]);
    expect([200, 409]).toContain(removed.status);
    for (const move of moves) expect([200, 409, 422]).toContain(move.status);
    const ids = new Set((await stages()).map((stage) => stage.id));
    for (const one of made) expect(ids.has((await deal(one.id)).stageId)).toBe(true);
    if (removed.status === 409)
      await mara.call('DELETE /api/stages/:id', { params: { id: body.id }, query: { to: heard?.id ?? '' } });
  });

  it('the last stage of its kind stays', async () => {
    const won = (await stages()).find((stage) => stage.kind === 'won');
    const { status } = await mara.call('DELETE /api/stages/:id', { params: { id: won?.id ?? '' } });
    expect(status).toBe(409);
  });
});

describe('what a stage asks for', () => {
  it('is told when a deal comes to it, and the deal comes all the same', async () => {
    const [, proposal] = await stages();
    await mara.call('PATCH /api/stages/:id', {
      params: { id: proposal?.id ?? '' },
      body: { version: proposal?.version, asks: ['amount', 'decider', 'nextMove'] },
    });
    const made = await add({ title: 'Asked', amountMinor: 100 });
    const { status, body } = await patch(made.id, { stageId: proposal?.id });
    expect([status, body.notKnown]).toEqual([200, ['decider', 'nextMove']]);
    expect((await deal(made.id)).notKnown).toEqual(['decider', 'nextMove']);
  });
});

describe('an end', () => {
  it('keeps when and why, which counts; taken up again it is open as before', async () => {
    const signed = (await stages()).find((stage) => stage.kind === 'won');
    const made = await add({ title: 'Ends' });
    expect((await patch(made.id, { closeReason: 'price' })).status).toBe(422);
    await patch(made.id, { stageId: signed?.id, closeReason: 'price' });
    expect(await deal(made.id)).toMatchObject({
      probability: 100,
      closeReason: 'price',
      closedAt: expect.any(String) as string,
      winChance: null,
    });
    const figures = (await pell.call('GET /api/figures/closings', { query: { pipeline: main } })).body;
    expect(figures).toEqual({ won: 1, lost: 0, reasons: [{ kind: 'won', reason: 'price', count: 1 }] });
    await patch(made.id, { stageId: (await stages())[0]?.id });
    expect(await deal(made.id)).toMatchObject({ probability: 15, closeReason: null, closedAt: null });
  });
});

describe('chances by history', () => {
  it('are measured from closed deals, and taken by the open ones when the pipeline goes by them', async () => {
    const { body } = await mara.call('POST /api/pipelines', { body: { name: 'Measured' } });
    const [first, won, lost] = await stages(body.id);
    for (let at = 0; at < 12; at++) {
      const one = await add({ title: `Past ${at}`, stageId: first?.id });
      await patch(one.id, { stageId: at < 9 ? won?.id : lost?.id });
    }
    const open = await add({ title: 'Still open', stageId: first?.id });
    expect((await stages(body.id))[0]).toMatchObject({
      usualChance: 20,
      measured: { closed: 12, won: 9, share: 0.75 },
    });
    const set = await mara.call('PATCH /api/pipelines/:id', {
      params: { id: body.id },
      body: { version: 1, chances: 'measured' },
    });
    expect((await deal(open.id)).probability).toBe(75);
    expect((await add({ title: 'New', stageId: first?.id })).probability).toBe(75);
    await undo(set.body.eventId);
    expect((await deal(open.id)).probability).toBe(20);
  });

  it('a move that is taken back leaves no trace in what is measured', async () => {
    const made = await add({ title: 'Back and forth' });
    const { body } = await patch(made.id, { stageId: (await stages())[1]?.id });
    await undo(body.eventId);
    const [rows] = await house.sequelize.query(
      `SELECT stage_id FROM deal_states WHERE deal_id = '${made.id}' ORDER BY id`,
    );
    expect(rows).toEqual([{ stage_id: (await stages())[0]?.id }]);
  });
});

describe('the board', () => {
  it('is filtered by owner, team, tag and when it is expected, and sums up in the house currency', async () => {
    const { items: team } = (await pell.call('GET /api/users')).body;
    const me = team.find((one) => one.name === 'Pell Garrick');
    const put = await mara.call('PATCH /api/users/:id', {
      params: { id: me?.id ?? '' },
      body: { team: 'north' },
    });
    expect(put.status).toBe(200);
    expect(await house.as('pell@wharfside.example')).toBeDefined();
    await mara.call('PUT /api/rates', { body: { currency: 'GBP', day: '2020-01-01', perHouse: '0.8' } });
    const late = { expectedClose: '2031-05-10', tags: ['far'] };
    await add({ title: 'In euros', amountMinor: 10_000, ...late });
    await add({ title: 'In pounds', amountMinor: 8000, currency: 'GBP', ...late });
    await add({ title: 'In francs', amountMinor: 500, currency: 'CHF', ...late });
    const far = await board({ tag: 'far' });
    expect(far.deals).toHaveLength(3);
    expect(far.total).toEqual({ plain: 20_000, weighted: 3000, currency: 'EUR', missing: ['CHF'] });
    expect(far.sums).toHaveLength(3);
    expect((await board({ from: '2031-05-01', until: '2031-05-31' })).deals).toHaveLength(3);
    expect((await board({ from: '2031-06-01' })).deals).toHaveLength(0);
    expect((await board({ tag: 'far', team: 'north' })).deals).toHaveLength(3);
    expect((await board({ tag: 'far', team: 'south' })).deals).toHaveLength(0);
    expect((await board({ tag: 'far', owner: me?.id ?? '' })).deals).toHaveLength(3);
    expect(far.tags).toContain('far');
    expect(far.teams).toEqual(['north']);
  });

  it('and the list of deals is paged through without a gap', async () => {
    const seen: string[] = [];
    let cursor: string | null = null;
    do {
      const query: Record<string, string> = { limit: '7', ...(cursor ? { cursor } : {}) };
      const { body } = await pell.call('GET /api/deals', { query });
      seen.push(...body.items.map((item) => item.id));
      cursor = body.next;
    } while (cursor);
    expect(new Set(seen).size).toBe(seen.length);
    expect(seen.length).toBe(await house.count('deals'));
  });
});

describe('reasons', () => {
  it('are added and retired; what a deal was closed with stays and counts', async () => {
    expect((await pell.call('POST /api/close-reasons', { body: { kind: 'lost', words: 'x' } })).status).toBe(
      403,
    );
    await mara.call('POST /api/close-reasons', { body: { kind: 'lost', words: 'hills too steep' } });
    const reasons = async () => (await pell.call('GET /api/close-reasons')).body.items;
    const made = (await reasons()).find((reason) => reason.words === 'hills too steep');
    const { body } = await mara.call('POST /api/pipelines', { body: { name: 'Steep' } });
    const [first, , lost] = await stages(body.id);
    const one = await add({ title: 'Up the hill', stageId: first?.id });
    await patch(one.id, { stageId: lost?.id, closeReason: 'hills too steep' });
    await mara.call('PATCH /api/close-reasons/:id', {
      params: { id: made?.id ?? '' },
      body: { version: 1, active: false },
    });
    expect((await reasons()).find((each) => each.id === made?.id)?.active).toBe(false);
    const figures = (await pell.call('GET /api/figures/closings', { query: { pipeline: body.id } })).body;
    expect(figures).toEqual({
      won: 0,
      lost: 1,
      reasons: [{ kind: 'lost', reason: 'hills too steep', count: 1 }],
    });
  });
});

describe('the list of deals', () => {
  it('is filtered by state and by when they closed', async () => {
    const signed = (await stages()).find((stage) => stage.kind === 'won');
    const { id } = await add({ title: 'Closed long ago', stageId: signed?.id, tags: ['old'] });
    await house.sequelize.query(`UPDATE deals SET closed_at = '2024-03-10' WHERE id = '${id}'`);
    const list = async (query: Record<string, string>) =>
      (await pell.call('GET /api/deals', { query })).body.items.map((item) => item.title);
    expect(await list({ tag: 'old' })).toEqual(['Closed long ago']);
    expect(await list({ tag: 'old', state: 'open' })).toEqual([]);
    expect(await list({ state: 'won', from: '2024-03-01', until: '2024-03-31' })).toEqual([
      'Closed long ago',
    ]);
    expect(await list({ state: 'won', until: '2024-02-28' })).toEqual([]);
    expect((await board({ tag: 'old' })).deals).toEqual([]);
  });
});

describe('the past of a deal', () => {
  it('is kept with every change of stage, sum, chance, day and owner, and with nothing else', async () => {
    const { items: team } = (await pell.call('GET /api/users')).body;
    const { id } = await add({ title: 'Has a past', amountMinor: 100 });
    const count = async () => {
      const [rows] = await house.sequelize.query(
        `SELECT count(*)::int AS n FROM deal_states WHERE deal_id = '${id}'`,
      );
      return (rows[0] as { n: number }).n;
    };
    expect(await count()).toBe(1);
    await patch(id, { title: 'Another name', tags: ['x'] });
    expect(await count()).toBe(1);
    for (const body of [
      { amountMinor: 200 },
      { expectedClose: '2030-01-01' },
      { probability: 40 },
      { ownerId: team.find((one) => one.name === 'Ines Tolland')?.id },
      { stageId: (await stages())[1]?.id },
    ])
      await patch(id, body);
    expect(await count()).toBe(6);
  });
});
