import { type Client, useHouse } from '../testing/harness';

const { pell, mara } = useHouse();

const person = async (fullName: string, companyName?: string) =>
  (await pell.call('POST /api/people', { body: { fullName, companyName } })).body.person;
const kinds = async () => (await pell.call('GET /api/relation-kinds')).body.items;
const relate = async (from: string, name: string, to: string, isReverse = false) =>
  pell.call('POST /api/people/:id/relations', {
    params: { id: from },
    body: { kindId: (await kinds()).find((kind) => kind.name === name)?.id, personId: to, isReverse },
  });
const relations = async (id: string) =>
  (await pell.call('GET /api/people/:id/relations', { params: { id } })).body;
const words = async (id: string) =>
  (await relations(id)).items.map((item) => `${item.words} ${item.person.name}`);
const undo = (id: string | null) => pell.call('POST /api/events/:id/undo', { params: { id: id ?? '' } });

describe('relations', () => {
  it('are seen from both ends, are not doubled, and are taken back', async () => {
    const [ann, bo] = [await person('Ann Line'), await person('Bo Line')];
    const { body } = await relate(ann.id, 'reports to', bo.id);
    expect((await relate(bo.id, 'reports to', ann.id, true)).body.id).toBe(body.id);
    expect([await words(ann.id), await words(bo.id)]).toEqual([['reports to Bo Line'], ['manages Ann Line']]);
    await relate(ann.id, 'spouse of', bo.id);
    expect((await relate(bo.id, 'spouse of', ann.id)).body.eventId).toBeNull();
    await undo(body.eventId);
    expect(await words(ann.id)).toEqual(['spouse of Bo Line']);
    expect((await relate(ann.id, 'reports to', ann.id)).status).toBe(422);
  });

  it('are removed from both ends and come back by undo', async () => {
    const [ann, bo] = [await person('Ann Gone'), await person('Bo Gone')];
    const { body } = await relate(ann.id, 'spouse of', bo.id);
    const removed = await pell.call('DELETE /api/relations/:id', { params: { id: body.id } });
    expect([removed.status, await words(ann.id), await words(bo.id)]).toEqual([200, [], []]);
    expect((await pell.call('DELETE /api/relations/:id', { params: { id: body.id } })).status).toBe(404);
    await undo(removed.body.eventId);
    expect(await words(bo.id)).toEqual(['spouse of Ann Gone']);
  });

  it('have kinds that a manager adds and renames', async () => {
    const make = (who: Client) =>
      who.call('POST /api/relation-kinds', { body: { name: 'mentor of', reverse: 'mentored by' } });
    expect((await make(pell)).status).toBe(403);
    const { body } = await make(mara);
    await mara.call('PATCH /api/relation-kinds/:id', {
      params: { id: body.id },
      body: { version: 1, name: 'teaches', reverse: 'learns from' },
    });
    const [ann, bo] = [await person('Ann Kind'), await person('Bo Kind')];
    await relate(ann.id, 'teaches', bo.id);
    expect(await words(bo.id)).toEqual(['learns from Ann Kind']);
  });

  it('of two who turn out to be one go when they are merged, and come back when they are not', async () => {
    const [ann, bo, cy] = [await person('Ann One'), await person('Ann One'), await person('Cy One')];
    await relate(ann.id, 'reports to', bo.id);
    await relate(bo.id, 'reports to', cy.id);
    const { status, body } = await pell.call('POST /api/merges', {
      body: { kind: 'person', survivorId: ann.id, mergedIds: [bo.id] },
    });
    expect(status).toBe(201);
    expect(await words(ann.id)).toEqual(['reports to Cy One']);
    expect((await undo(body.eventId)).status).toBe(200);
    expect([await words(ann.id), await words(bo.id)]).toEqual([
      ['reports to Ann One'],
      ['manages Ann One', 'reports to Cy One'],
    ]);
  });
});

describe('an org chart', () => {
  it('is drawn without the line that would close a loop, which is told', async () => {
    const ann = await person('Ann Chart', 'Chart Works');
    const [bo, cy] = [await person('Bo Chart', 'Chart Works'), await person('Cy Chart')];
    for (const [from, to] of [
      [bo.id, ann.id],
      [cy.id, bo.id],
      [ann.id, cy.id],
    ] as const)
      await relate(from, 'reports to', to);
    const { body } = await pell.call('GET /api/companies/:id/chart', {
      params: { id: ann.company?.id ?? '' },
    });
    expect(body.lines.length + body.loops.length).toBe(3);
    expect(body.loops).toHaveLength(1);
    expect(body.people.map((person) => [person.name, person.isOutside])).toEqual([
      ['Ann Chart', false],
      ['Bo Chart', false],
      ['Cy Chart', true],
    ]);
  });
});

describe('where somebody worked', () => {
  it('is kept when they change company, by whatever command, and taken back with it', async () => {
    const ann = await person('Ann Moves', 'First Firm');
    const second = (await person('Bo Stays', 'Second Firm')).company?.id ?? '';
    const { version } = (await pell.call('GET /api/people/:id', { params: { id: ann.id } })).body;
    const { body } = await pell.call('PATCH /api/people/:id', {
      params: { id: ann.id },
      body: { version, companyId: second },
    });
    const employments = async () =>
      (await relations(ann.id)).employments.map((employment) => [
        employment.company.name,
        employment.isFormer,
      ]);
    expect(await employments()).toEqual([['First Firm', true]]);
    const chart = await pell.call('GET /api/companies/:id/chart', { params: { id: ann.company?.id ?? '' } });
    expect(chart.body.employments.map((employment) => employment.person.name)).toEqual(['Ann Moves']);
    expect((await undo(body.eventId)).status).toBe(200);
    expect(await employments()).toEqual([]);
  });

  it('is written by hand too, for several companies at once', async () => {
    const ann = await person('Ann Many', 'Main Firm');
    const at = (body: object) =>
      pell.call('POST /api/people/:id/employments', { params: { id: ann.id }, body });
    expect((await at({ companyName: 'Side Firm', jobTitle: 'Partner' })).status).toBe(201);
    expect(
      (await at({ companyName: 'Old Firm', fromDay: '2019-01-01', untilDay: '2018-01-01' })).status,
    ).toBe(422);
    const { body } = await at({ companyName: 'Old Firm', fromDay: '2016-01-01', untilDay: '2018-01-01' });
    expect(
      (await relations(ann.id)).employments.map((employment) => [
        employment.company.name,
        employment.isFormer,
      ]),
    ).toEqual([
      ['Side Firm', false],
      ['Old Firm', true],
    ]);
    const change = await pell.call('PATCH /api/employments/:id', {
      params: { id: body.id },
      body: { version: 1, untilDay: '2015-01-01' },
    });
    expect(change.status).toBe(422);
    const later = {
      params: { id: body.id },
      body: { version: 1, jobTitle: 'Clerk', untilDay: '2019-06-30' },
    };
    expect((await pell.call('PATCH /api/employments/:id', later)).status).toBe(200);
    expect((await pell.call('PATCH /api/employments/:id', later)).status).toBe(409);
    expect((await relations(ann.id)).employments).toContainEqual(
      expect.objectContaining({ id: body.id, jobTitle: 'Clerk', untilDay: '2019-06-30' }),
    );
    expect((await pell.call('DELETE /api/employments/:id', { params: { id: body.id } })).status).toBe(200);
  });
});
