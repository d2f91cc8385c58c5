import { delegating } from '../testing/delegating';
import { saying } from '../testing/saying';
import { useHouse } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
const { person } = saying(pell);
const { idOf, task, change, detail } = delegating;
const undo = (by: typeof pell, eventId: string | null) =>
  by.call('POST /api/events/:id/undo', { params: { id: eventId ?? '' } });
const open = async (by: typeof pell) =>
  (await by.call('GET /api/tasks', { query: { assignee: 'all' } })).body.items;

beforeEach(() => {
  house.tools.now = () => new Date('2026-11-28T10:00:00Z');
});

it('holds all that belongs to it, and each is changed by itself', async () => {
  const made = await task(pell, {
    priority: 'high',
    notes: 'By post',
    checklist: [{ words: 'Print', isDone: false }],
  });
  const { id } = made.task;
  const before = await detail(pell, id);
  expect(before).toMatchObject({
    zone: 'Europe/London',
    priority: 'high',
    progress: 0,
    notes: 'By post',
    checklist: [{ words: 'Print', isDone: false }],
    reminders: [{ days: 1, at: '08:00' }],
    watchers: [],
    messages: [],
  });
  await change(pell, id, {
    version: before.version,
    progress: 40,
    startAt: '2026-12-01T00:00:00Z',
    reminders: [{ minutes: 30 }, { days: 2, at: '09:30' }],
    checklist: [
      { words: 'Print', isDone: true },
      { words: 'Fold', isDone: false },
    ],
    watchers: [await idOf(mara)],
    repeat: 'FREQ=WEEKLY;BYDAY=TH',
  });
  expect(await detail(pell, id)).toMatchObject({
    progress: 40,
    startAt: '2026-12-01T00:00:00.000Z',
    reminders: [{ minutes: 30 }, { days: 2, at: '09:30' }],
    checklist: [{ isDone: true }, { isDone: false }],
    watchers: [{ name: 'Mara Quill' }],
    repeat: 'FREQ=WEEKLY;BYDAY=TH',
    repeatWords: 'every Thursday',
  });
  const stale = await change(pell, id, { version: before.version, title: 'Stale' });
  expect(stale.status).toBe(409);
});

it.each([
  [{ repeat: 'FREQ=SECONDLY' }, 'repeat'],
  [{ repeat: 'FREQ=MONTHLY;BYMONTH=2;BYMONTHDAY=31' }, 'repeat'],
  [{ repeat: 'DROP TABLE' }, 'repeat'],
  [{ startAt: '2026-12-04T00:00:00Z' }, 'startAt'],
  [{ zone: 'Mars/Olympus' }, 'zone'],
  [{ kindId: '00000000-0000-4000-8000-000000000000' }, 'kindId'],
  [{ watchers: ['00000000-0000-4000-8000-000000000000'] }, 'ownerId'],
  [{ assigneeId: '00000000-0000-4000-8000-000000000000' }, 'ownerId'],
  [{ reminders: [{ days: 1, at: '25:00' }] }, 'reminders.0'],
  [{ progress: 101 }, 'progress'],
])('what makes no sense is refused, and named: %j', async (body, field) => {
  const answer = await pell.call('POST /api/tasks', {
    body: { title: 'Send', dueAt: '2026-12-03T00:00:00Z', ...body },
  });
  expect(answer.status).toBe(422);
  expect(Object.keys((answer.body as unknown as { fields: object }).fields).join()).toContain(field);
});

it('one that repeats comes again once it is done, with a fresh checklist, and undone it is one again', async () => {
  const made = await task(pell, {
    title: 'Fix the price list',
    dueAt: '2026-12-07T00:00:00Z',
    repeat: 'FREQ=MONTHLY;BYDAY=1MO',
    checklist: [{ words: 'Trailers', isDone: false }],
  });
  await change(pell, made.task.id, { checklist: [{ words: 'Trailers', isDone: true }] });
  house.tools.now = () => new Date('2026-12-07T15:00:00Z');
  const done = await change(pell, made.task.id, { done: true });
  const series = (await open(pell)).filter((one) => one.title === 'Fix the price list');
  expect(series.map(({ dueAt }) => dueAt)).toEqual(['2027-01-04T00:00:00.000Z']);
  expect((await detail(pell, series[0]?.id ?? '')).checklist).toEqual([{ words: 'Trailers', isDone: false }]);
  // Marked done twice, by two colleagues, it comes once.
  expect((await change(ines, made.task.id, { done: true })).body).toMatchObject({
    eventId: null,
    task: { doneBy: 'Pell Garrick' },
  });
  expect((await open(pell)).filter((one) => one.title === 'Fix the price list')).toHaveLength(1);
  await undo(pell, done.body.eventId);
  const again = (await open(pell)).filter((one) => one.title === 'Fix the price list');
  expect(again.map(({ dueAt }) => dueAt)).toEqual(['2026-12-07T00:00:00.000Z']);
});

it('done by two colleagues at the same moment it is done once, and comes again once', async () => {
  const made = await task(pell, { title: 'Count the stock', repeat: 'FREQ=WEEKLY;BYDAY=TH' });
  const answers = await Promise.all(
    [pell, ines, mara].map((who) => change(who, made.task.id, { done: true })),
  );
  expect(answers.map(({ status }) => status)).toEqual([200, 200, 200]);
  expect(answers.filter(({ body }) => body.eventId)).toHaveLength(1);
  expect((await open(pell)).filter((one) => one.title === 'Count the stock')).toHaveLength(1);
});

it('moved once by hand it keeps its rule', async () => {
  const made = await task(pell, {
    title: 'Water',
    dueAt: '2026-12-03T00:00:00Z',
    repeat: 'FREQ=WEEKLY;BYDAY=TH',
  });
  await change(pell, made.task.id, { dueAt: '2026-12-04T00:00:00Z' });
  house.tools.now = () => new Date('2026-12-04T15:00:00Z');
  await change(pell, made.task.id, { done: true });
  expect((await open(pell)).find((one) => one.title === 'Water')?.dueAt).toBe('2026-12-10T00:00:00.000Z');
});

it('repeats leave out holidays and closed days', async () => {
  await mara.call('POST /api/closed-days', { body: { day: '2026-12-24', name: 'Stocktaking' } });
  // 24 December is closed; the working day before is the 23rd.
  const made = await task(pell, {
    title: 'Tills',
    dueAt: '2026-12-17T00:00:00Z',
    repeat: 'FREQ=WEEKLY;BYDAY=TH',
  });
  house.tools.now = () => new Date('2026-12-17T15:00:00Z');
  await change(pell, made.task.id, { done: true });
  expect((await open(pell)).find((one) => one.title === 'Tills')?.dueAt).toBe('2026-12-23T00:00:00.000Z');
});

it('a whole day is the same date for a colleague in another zone', async () => {
  await ines.call('PATCH /api/session', { body: { timeZone: 'America/New_York' } });
  // Midnight of the 28th in London is still the 27th in New York.
  const made = await task(pell, {
    title: 'Today',
    dueAt: '2026-11-28T00:00:00Z',
    assigneeId: await idOf(ines),
  });
  const seen = (await ines.call('GET /api/tasks')).body.items.find(({ id }) => id === made.task.id);
  expect(seen?.state).toBe('today');
  await ines.call('PATCH /api/session', { body: { timeZone: 'Europe/London' } });
});

it('a line of plain words gives a colleague a task that repeats', async () => {
  const personId = await person('Lea Brink');
  const line = '@ines fix the price list every first Monday, urgent';
  const read = (await pell.call('POST /api/composer', { body: { line, about: { personId } } })).body;
  expect(read.nextMove).toMatchObject({
    assignee: 'Ines Tolland',
    repeatWords: 'every first Monday of the month',
    isUrgent: true,
  });
  await pell.call('POST /api/ledger', { body: { line, about: { personId } } });
  const [move] = (await pell.call('GET /api/people/:id', { params: { id: personId } })).body.moves;
  expect(move).toMatchObject({
    title: 'Fix the price list',
    assignee: { name: 'Ines Tolland' },
    givenBy: { name: 'Pell Garrick' },
    priority: 'high',
    dueAt: '2026-12-07T00:00:00.000Z',
    repeat: 'FREQ=MONTHLY;BYDAY=1MO',
  });
});

it('kinds of one’s own act as what they stand for', async () => {
  const { id } = (await mara.call('POST /api/task-kinds', { body: { name: 'Test ride', actsAs: 'meeting' } }))
    .body;
  expect((await mara.call('POST /api/task-kinds', { body: { name: 'test RIDE' } })).status).toBe(409);
  expect((await pell.call('POST /api/task-kinds', { body: { name: 'Mine' } })).status).toBe(403);
  const personId = await person('Oda Lunde');
  const made = await task(pell, { title: 'Long bike by the quay', kindId: id, personId });
  expect(made.task).toMatchObject({ kind: 'meeting', ownKind: { name: 'Test ride' } });
  await change(pell, made.task.id, { done: true });
  const { items } = (await pell.call('GET /api/ledger', { query: { personId } })).body;
  expect(items.map(({ kind, headline }) => [kind, headline])).toEqual([['meeting', 'Long bike by the quay']]);
  await mara.call('DELETE /api/task-kinds/:id', { params: { id } });
  expect((await pell.call('GET /api/task-kinds')).body.items).toEqual([]);
  expect((await detail(pell, made.task.id)).ownKind).toMatchObject({ name: 'Test ride' });
  expect(
    (await mara.call('POST /api/task-kinds', { body: { name: 'Test ride', actsAs: 'visit' } })).body.id,
  ).toBe(id);
});

it('is removed, and comes back', async () => {
  const made = await task(pell, { title: 'Not needed' });
  const gone = await pell.call('DELETE /api/tasks/:id', { params: { id: made.task.id } });
  expect((await pell.call('GET /api/tasks/:id', { params: { id: made.task.id } })).status).toBe(404);
  await undo(pell, gone.body.eventId);
  expect((await detail(pell, made.task.id)).title).toBe('Not needed');
});

it('free days are those of one’s own place and of the organisation', async () => {
  const closed = async () =>
    new Map((await pell.call('GET /api/calendar/free-days')).body.closed.map(({ day, name }) => [day, name]));
  const day = (await mara.call('POST /api/closed-days', { body: { day: '2026-12-31', name: 'Inventory' } }))
    .body;
  expect(
    (await mara.call('POST /api/closed-days', { body: { day: '2026-12-31', name: 'Again' } })).status,
  ).toBe(409);
  expect([(await closed()).get('2026-12-31'), (await closed()).has('2026-06-10')]).toEqual([
    'Inventory',
    false,
  ]);
  await pell.call('PATCH /api/session', { body: { holidays: 'PT' } });
  expect((await closed()).has('2026-06-10')).toBe(true);
  expect((await pell.call('PATCH /api/session', { body: { holidays: 'XX' } })).status).toBe(422);
  const { items } = (await pell.call('GET /api/calendar/places')).body;
  expect(items.find(({ code }) => code === 'DE-BY')?.name).toBe('Germany, Bayern');
  expect((await pell.call('GET /api/closed-days')).body.items.map(({ name }) => name)).toContain('Inventory');
  await mara.call('DELETE /api/closed-days/:id', { params: { id: day.id } });
  expect((await closed()).has('2026-12-31')).toBe(false);
});
