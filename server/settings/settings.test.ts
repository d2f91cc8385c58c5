import { type Client, useHouse } from '../testing/harness';

const { house, pell, mara } = useHouse();

const questions = async () => (await pell.call('GET /api/questions')).body.items;
const lead = async () => {
  const { body: made } = await pell.call('POST /api/people', { body: { fullName: 'Wyn Hale' } });
  const { body } = await pell.call('POST /api/leads', { body: { title: 'Bikes', personId: made.person.id } });
  return (await pell.call('GET /api/leads/:id', { params: { id: body.lead.id } })).body;
};

describe('qualifying questions', () => {
  it('are changed by a manager and not by a rep', async () => {
    const [first] = await questions();
    const ask = (who: Client) =>
      who.call('PATCH /api/questions/:id', {
        params: { id: first?.id ?? '' },
        body: { version: first?.version ?? 0, label: 'What for' },
      });
    expect((await ask(pell)).status).toBe(403);
    expect((await ask(mara)).status).toBe(200);
    expect((await questions()).map((question) => question.label)).toContain('What for');
  });

  it('a new one is asked on the next lead, a retired one no more', async () => {
    await mara.call('POST /api/questions', { body: { label: 'Hills', help: 'How steep are their rounds?' } });
    expect((await lead()).answers.map((answer) => answer.label)).toContain('Hills');
    const hills = (await questions()).find((question) => question.label === 'Hills');
    await mara.call('PATCH /api/questions/:id', {
      params: { id: hills?.id ?? '' },
      body: { version: hills?.version ?? 0, active: false },
    });
    expect((await lead()).answers.map((answer) => answer.label)).not.toContain('Hills');
  });
});

describe('stages', () => {
  it('a stage’s usual chance is that of the deals that come to it, not of those already there', async () => {
    const { items } = (await pell.call('GET /api/stages')).body;
    const [from, to] = items;
    const made = (await pell.call('POST /api/deals', { body: { title: 'One', stageId: to?.id } })).body.deal;
    await mara.call('PATCH /api/stages/:id', {
      params: { id: to?.id ?? '' },
      body: { version: to?.version ?? 0, probability: 60 },
    });
    const other = (await pell.call('POST /api/deals', { body: { title: 'Two', stageId: from?.id } })).body
      .deal;
    await pell.call('PATCH /api/deals/:id', {
      params: { id: other.id },
      body: { version: other.version, stageId: to?.id },
    });
    const chance = async (id: string) =>
      (await pell.call('GET /api/deals/:id', { params: { id } })).body.probability;
    expect([await chance(made.id), await chance(other.id)]).toEqual([55, 60]);
  });
});

describe('next moves', () => {
  it('are given, put off, handed over and done; a done one leaves the round', async () => {
    const { items: team } = (await pell.call('GET /api/users')).body;
    const ines = team.find((one) => one.name === 'Ines Tolland');
    const { person } = (await pell.call('POST /api/people', { body: { fullName: 'Bea Lund' } })).body;
    const { task } = (
      await pell.call('POST /api/tasks', {
        body: { title: 'Call her', kind: 'call', dueAt: '2026-11-20T00:00:00Z', personId: person.id },
      })
    ).body;
    const put = (body: object) => pell.call('PATCH /api/tasks/:id', { params: { id: task.id }, body });
    const round = async (who: Client) => (await who.call('GET /api/tasks')).body.items.map((item) => item.id);
    expect(await round(pell)).toContain(task.id);
    await put({ dueAt: '2026-12-01T09:30:00Z', allDay: false });
    await put({ assigneeId: ines?.id });
    expect(await round(pell)).not.toContain(task.id);
    const hers = await house.as('ines@wharfside.example');
    expect(await round(hers)).toContain(task.id);
    await put({ done: true });
    expect(await round(hers)).not.toContain(task.id);
  });
});
