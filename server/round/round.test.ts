import { delegating } from '../testing/delegating';
import { saying } from '../testing/saying';
import { useHouse } from '../testing/harness';
import { mailRounds } from './mail';

const { house, pell, ines, mara } = useHouse();
const { person, company, enter } = saying(pell);
const { idOf, task, change } = delegating;

const NOW = '2026-11-27T12:00:00Z';
beforeEach(async () => {
  house.tools.now = () => new Date(NOW);
  await house.sequelize.query('DELETE FROM round_later');
});
const round = async (by = pell, query: Record<string, string> = {}) =>
  (await by.call('GET /api/round', { query })).body;
const lines = async (by = pell, query: Record<string, string> = {}) =>
  (await round(by, query)).items.map((line) => [
    line.kind,
    line.task?.title ?? line.person?.name ?? line.lead?.name,
  ]);
const own = async (fullName: string, companyId: string | null = null) => {
  const id = await person(fullName, companyId);
  const { version } = (await pell.call('GET /api/people/:id', { params: { id } })).body;
  await pell.call('PATCH /api/people/:id', { params: { id }, body: { version, ownerId: await idOf(pell) } });
  return id;
};
const patch = async (id: string, body: Record<string, unknown>) => {
  const { version } = (await pell.call('GET /api/people/:id', { params: { id } })).body;
  return pell.call('PATCH /api/people/:id', { params: { id }, body: { version, ...body } });
};
const later = (key: string, until: string, by = pell) =>
  by.call('POST /api/round/later', { body: { key, until } });

it('a meeting that a colleague asked one to come to wants one today, until it is over, declined or put off', async () => {
  const id = await person('Dora Lind');
  const { body } = await mara.call('POST /api/tasks', {
    body: {
      ...{ title: 'Price talk', kind: 'meeting', allDay: false, personId: id },
      ...{ dueAt: '2026-11-27T15:00:00Z', endAt: '2026-11-27T16:00:00Z' },
      people: [{ userId: await idOf(pell) }],
    },
  });
  const meeting = async (query: Record<string, string> = {}, by = pell) =>
    (await round(by, query)).items.filter((line) => line.task?.id === body.task.id);
  expect(await meeting()).toMatchObject([
    { kind: 'task', isAsked: true, key: `meeting:${body.task.id}`, owner: { name: 'Pell Garrick' } },
  ]);
  // Whoever holds it has it as theirs, and so has the team, once.
  expect(await meeting({}, mara)).toMatchObject([{ isAsked: false, key: `task:${body.task.id}` }]);
  expect(await meeting({ whose: 'team' }, mara)).toHaveLength(1);
  const off = await later(`meeting:${body.task.id}`, '2026-11-30');
  expect(await meeting()).toEqual([]);
  await pell.call('POST /api/events/:id/undo', { params: { id: off.body.eventId ?? '' } });
  expect(await meeting()).toHaveLength(1);
  house.tools.now = () => new Date('2026-11-27T16:30:00Z');
  expect(await meeting()).toEqual([]);
  house.tools.now = () => new Date(NOW);
  await pell.call('POST /api/tasks/:id/answer', {
    params: { id: body.task.id },
    body: { answer: 'declined' },
  });
  expect(await meeting()).toEqual([]);
  await mara.call('DELETE /api/tasks/:id', { params: { id: body.task.id } });
});

it('a meeting of several whole days wants whoever was asked to it on each of them, and not before or after', async () => {
  const { body } = await mara.call('POST /api/tasks', {
    body: {
      ...{
        title: 'Stand at the fair',
        kind: 'meeting',
        allDay: true,
        people: [{ userId: await idOf(pell) }],
      },
      ...{ dueAt: '2026-11-26T00:00:00Z', endAt: '2026-11-29T00:00:00Z', zone: 'Europe/London' },
    },
  });
  const standsOn = async (now: string) => {
    house.tools.now = () => new Date(now);
    return (await round()).items.some((line) => line.task?.id === body.task.id);
  };
  const days = [
    '2026-11-25T12:00:00Z',
    '2026-11-26T12:00:00Z',
    '2026-11-28T20:00:00Z',
    '2026-11-29T08:00:00Z',
  ];
  const stands: boolean[] = [];
  for (const day of days) stands.push(await standsOn(day));
  expect(stands).toEqual([false, true, true, false]);
  house.tools.now = () => new Date(NOW);
  await mara.call('DELETE /api/tasks/:id', { params: { id: body.task.id } });
});

it('says whose turn it is, what they asked, and how long they usually wait', async () => {
  const id = await own('Ana Silva');
  const said = (at: string, side: 'ours' | 'theirs', headline: string) =>
    enter(pell, { kind: 'mail', side, headline, at }, { personId: id });
  await said('2026-11-20T10:00:00Z', 'theirs', 'Does the box take pallets?');
  await said('2026-11-20T16:00:00Z', 'ours', 'Yes, it takes one pallet.');
  await said('2026-11-26T17:16:00Z', 'theirs', 'Could you send us the quote before Thursday?');
  const [line] = (await round()).items;
  expect(line).toMatchObject({
    kind: 'turn',
    person: { name: 'Ana Silva' },
    since: '2026-11-26T17:16:00.000Z',
    usualWaitHours: 6,
    minutes: 8,
  });
  expect(line?.because).toMatch(/quote/);
  expect(line?.points).toBe(Math.round(line?.parts.reduce((sum, { points }) => sum + points, 0) ?? 0));
  // Answered, it is gone; taken back, it is there again.
  const answered = await pell.call('POST /api/ledger/answered', { body: { personId: id } });
  expect(await lines()).toEqual([]);
  await pell.call('POST /api/events/:id/undo', { params: { id: answered.body.eventId ?? '' } });
  expect(await lines()).toEqual([['turn', 'Ana Silva']]);
  // Put off, it stays away until the day comes, or they write again.
  const off = await later(`turn:${id}`, '2026-11-30');
  expect(await lines()).toEqual([]);
  await pell.call('POST /api/events/:id/undo', { params: { id: off.body.eventId ?? '' } });
  expect(await lines()).toHaveLength(1);
  await later(`turn:${id}`, '2026-11-30');
  house.tools.now = () => new Date('2026-11-30T00:00:00Z');
  expect(await lines()).toHaveLength(1);
  house.tools.now = () => new Date(NOW);
  expect(await lines()).toEqual([]);
  house.tools.now = () => new Date('2026-11-28T12:00:00Z');
  await said('2026-11-28T11:00:00Z', 'theirs', 'And what does the trailer cost?');
  expect(await lines()).toHaveLength(1);
  house.tools.now = () => new Date(NOW);
  expect((await later(`turn:${id}`, '2026-11-27')).status).toBe(422);
  house.tools.now = () => new Date('2026-11-28T13:00:00Z');
  await pell.call('POST /api/ledger/answered', { body: { personId: id } });
});

it('has tasks that are due and no others, with an appointment of now first', async () => {
  await task(pell, { title: 'Tomorrow', dueAt: '2026-11-28T00:00:00Z' });
  const due = await task(pell, { title: 'Today', dueAt: '2026-11-27T00:00:00Z' });
  const late = await task(pell, { title: 'Late', dueAt: '2026-11-20T00:00:00Z' });
  const call = await task(pell, {
    title: 'Call',
    kind: 'call',
    dueAt: '2026-11-27T12:30:00Z',
    allDay: false,
  });
  await task(ines, { title: 'Of Ines', dueAt: '2026-11-27T00:00:00Z' });
  expect(await lines()).toEqual([
    ['task', 'Call'],
    ['task', 'Late'],
    ['task', 'Today'],
  ]);
  expect((await round()).counts).toEqual({ turn: 0, task: 3, new: 0, case: 0, stuck: 0, quiet: 0 });
  expect((await round()).minutes).toBe(10 + 15 + 15);
  for (const { task: one } of [due, late, call]) await change(pell, one.id, { done: true });
  expect(await lines()).toEqual([]);
});

it('a new lead is in it until somebody spoke to them', async () => {
  const id = await own('Tamsin Vale');
  const { lead } = (await pell.call('POST /api/leads', { body: { title: 'Three bikes', personId: id } }))
    .body;
  expect(await lines()).toEqual([['new', 'Tamsin Vale']]);
  expect((await later(`new:${lead.id}`, '2026-11-30')).status).toBe(201);
  expect(await lines()).toEqual([]);
  await house.sequelize.query('DELETE FROM round_later');
  house.tools.now = () => new Date('2026-11-27T13:00:00Z');
  await enter(
    pell,
    { kind: 'call', side: 'ours', headline: 'Called her', outcome: 'spoke' },
    { personId: id },
  );
  expect(await lines()).toEqual([]);
});

it('a deal that stands far longer than usual is stuck', async () => {
  const id = await own('Jens Havnebud');
  house.tools.now = () => new Date('2026-10-27T12:00:00Z');
  const { deal } = (await pell.call('POST /api/deals', { body: { title: 'Twelve bikes', personId: id } }))
    .body;
  house.tools.now = () => new Date(NOW);
  expect((await round()).items).toMatchObject([
    {
      kind: 'stuck',
      days: 31,
      usualDays: 10,
      stage: 'Heard out',
      hasNextMove: false,
      deal: { name: 'Twelve bikes' },
    },
  ]);
  await later(`stuck:${deal.id}`, '2026-12-01');
});

it('whoever we mean to be in touch with goes quiet, by the nearest rhythm, and stays out when inactive', async () => {
  const id = await own('Marta Kestrel', await company('Kestrel Cakes'));
  await enter(
    pell,
    { kind: 'call', side: 'ours', headline: 'Called', outcome: 'spoke', at: '2026-10-24T12:00:00Z' },
    { personId: id },
  );
  const quiet = async () => (await lines(pell, { kind: 'quiet' })).length;
  const rhythm = async () => (await pell.call('GET /api/people/:id', { params: { id } })).body.rhythm;
  expect([await quiet(), (await rhythm()).days]).toEqual([0, null]);
  await patch(id, { rhythmDays: 21 });
  expect((await round(pell, { kind: 'quiet' })).items).toMatchObject([
    { kind: 'quiet', days: 34, usualDays: 21 },
  ]);
  expect(await rhythm()).toMatchObject({ days: 21, from: 'person', quietAt: '2026-11-14T12:00:00.000Z' });
  await patch(id, { rhythmDays: null, tags: ['fair'] });
  expect(await quiet()).toBe(0);
  const rule = await mara.call('PUT /api/rhythms', { body: { kind: 'tag', value: 'fair', days: 30 } });
  await house.work();
  expect([await quiet(), (await rhythm()).from]).toEqual([1, 'tag']);
  await mara.call('PUT /api/rhythms', { body: { kind: 'tag', value: 'fair', days: 60 } });
  await house.work();
  expect([await quiet(), (await pell.call('GET /api/rhythms')).body.items.length]).toEqual([0, 1]);
  await mara.call('DELETE /api/rhythms/:id', { params: { id: rule.body.id } });
  await patch(id, { rhythmDays: 21 });
  expect(await quiet()).toBe(1);
  await patch(id, { active: false });
  expect(await quiet()).toBe(0);
  await patch(id, { active: true });
  await enter(
    pell,
    { kind: 'call', side: 'theirs', headline: 'Rang us', outcome: 'spoke' },
    { personId: id },
  );
  expect(await quiet()).toBe(0);
  expect((await pell.call('PUT /api/rhythms', { body: { kind: 'tag', value: 'x', days: 3 } })).status).toBe(
    403,
  );
});

it('who is important weighs more, and the points say why', async () => {
  const [plain, dear] = [await own('Plain Person'), await own('Dear Person')];
  for (const id of [plain, dear])
    await enter(
      pell,
      { kind: 'mail', side: 'theirs', headline: 'What does it cost?', at: '2026-11-26T12:00:00Z' },
      { personId: id },
    );
  await patch(dear, { isImportant: true });
  const { items } = await round(pell, { kind: 'turn' });
  expect(items.map(({ person: one }) => one?.name)).toEqual(['Dear Person', 'Plain Person']);
  expect(items[0]?.parts).toContainEqual({ words: 'Marked as important', points: 10 });
  for (const id of [plain, dear]) await pell.call('POST /api/ledger/answered', { body: { personId: id } });
});

it('belongs to whoever looks after somebody; a manager sees the team’s, a rep does not', async () => {
  const id = await own('Oda Lunde');
  await enter(pell, { kind: 'mail', side: 'theirs', headline: 'What does it cost?' }, { personId: id });
  const turns = (by: typeof pell) => lines(by, { kind: 'turn' });
  expect([await turns(pell), await turns(ines)]).toEqual([[['turn', 'Oda Lunde']], []]);
  await patch(id, { ownerId: await idOf(ines) });
  expect([await turns(pell), await turns(ines)]).toEqual([[], [['turn', 'Oda Lunde']]]);
  const team = await round(mara, { whose: 'team' });
  expect(team.items.find(({ person: one }) => one?.name === 'Oda Lunde')?.owner.name).toBe('Ines Tolland');
  expect((await ines.call('GET /api/round', { query: { whose: 'team' } })).status).toBe(403);
});

it('nothing of what is hidden from whoever asks is in their team’s round', async () => {
  const id = await own('Hidden Person');
  await enter(pell, { kind: 'mail', side: 'theirs', headline: 'What does it cost?' }, { personId: id });
  await pell.call('PUT /api/visibility/:kind/:id', {
    params: { kind: 'people', id },
    body: { visibility: 'named', peopleIds: [await idOf(pell)] },
  });
  const names = (await round(mara, { whose: 'team' })).items.map(({ person: one }) => one?.name);
  expect(names).not.toContain('Hidden Person');
});

it('is mailed in the morning to whoever wants it, once a working day', async () => {
  await pell.call('PATCH /api/notices/settings', { body: { roundMail: true, digestAt: '08:00' } });
  await task(pell, { title: 'Send the list', dueAt: '2026-11-27T00:00:00Z' });
  const mailedAt = async (iso: string): Promise<number> => {
    house.tools.now = () => new Date(iso);
    const sent = await Promise.all([mailRounds(house.tools), mailRounds(house.tools)]);
    await house.work();
    return sent.reduce((sum, count) => sum + count);
  };
  house.mails.length = 0;
  expect(await mailedAt('2026-11-27T07:59:00Z')).toBe(0);
  expect(await mailedAt('2026-11-27T08:00:00Z')).toBe(1);
  expect(await mailedAt('2026-11-27T12:00:00Z')).toBe(0);
  // A Saturday.
  expect(await mailedAt('2026-11-28T08:00:00Z')).toBe(0);
  const [mail] = house.mails.filter(({ to }) => to === 'pell@wharfside.example');
  expect(mail?.subject).toMatch(/^Your round: \d+ today$/);
  expect(mail?.text).toMatch(/Send the list\n {3}due Fri 27 Nov/);
  expect(house.mails.filter(({ subject }) => subject.startsWith('Your round'))).toHaveLength(1);
});

it('what is set on a company holds for whoever works there', async () => {
  house.tools.now = () => new Date(NOW);
  const firm = await company('Liffey Linen');
  const id = await own('Aoife Nolan', firm);
  await enter(
    pell,
    { kind: 'call', side: 'ours', headline: 'Called', outcome: 'spoke', at: '2026-11-01T12:00:00Z' },
    { personId: id },
  );
  const change = async (body: Record<string, unknown>) => {
    const { version } = (await pell.call('GET /api/companies/:id', { params: { id: firm } })).body;
    return pell.call('PATCH /api/companies/:id', { params: { id: firm }, body: { version, ...body } });
  };
  const aoife = async () =>
    (await round(pell, { kind: 'quiet' })).items.find(({ person: one }) => one?.name === 'Aoife Nolan');
  expect(await aoife()).toBeUndefined();
  const set = await change({ rhythmDays: 14, isImportant: true });
  expect(await aoife()).toMatchObject({ days: 26, usualDays: 14, isImportant: true });
  await pell.call('POST /api/events/:id/undo', { params: { id: set.body.eventId ?? '' } });
  expect(await aoife()).toBeUndefined();
});
