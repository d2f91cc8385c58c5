import { readCalendar } from '@emporikon/core/formats/icalendar';
import { delegating } from '../testing/delegating';
import { saying } from '../testing/saying';
import { useHouse } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
const { person } = saying(pell);
const { idOf, task, change, detail } = delegating;

beforeEach(async () => {
  house.tools.now = () => new Date('2026-11-25T09:00:00Z');
  await house.sequelize.query('DELETE FROM tasks');
});

const WEEK = { from: '2026-11-30T00:00:00Z', until: '2026-12-07T00:00:00Z' };
const timed = (by: typeof pell, title: string, start: string, more: Record<string, unknown> = {}) =>
  task(by, { title, kind: 'meeting', dueAt: start, allDay: false, ...more });
const shown = async (by: typeof pell, query: Record<string, string> = {}) =>
  (await by.call('GET /api/calendar', { query: { ...WEEK, ...query } })).body;
const titles = async (by: typeof pell, query: Record<string, string> = {}) =>
  (await shown(by, query)).items.map(({ title, start, end }) => [
    title,
    start.slice(5, 16),
    end.slice(5, 16),
  ]);

it('shows what has a day or a time between two moments, what it takes, and what began before', async () => {
  await timed(pell, 'Stand-up', '2026-12-01T09:00:00Z', { endAt: '2026-12-01T09:15:00Z' });
  await timed(pell, 'Over night', '2026-11-29T22:00:00Z', { endAt: '2026-11-30T02:00:00Z' });
  await timed(pell, 'Ring Ana', '2026-12-02T09:00:00Z', { kind: 'call' });
  await timed(pell, 'The week after', '2026-12-07T00:00:00Z');
  await timed(pell, 'The week before', '2026-11-29T22:00:00Z', { endAt: '2026-11-30T00:00:00Z' });
  await task(pell, { title: 'Price list', dueAt: '2026-12-04T00:00:00Z' });
  await timed(ines, 'Somebody else’s', '2026-12-01T09:00:00Z');
  const mine = await shown(pell);
  expect(mine.items.map(({ title }) => title)).toEqual(['Over night', 'Stand-up', 'Ring Ana', 'Price list']);
  expect(mine.items[1]).toMatchObject({ allDay: false, end: '2026-12-01T09:15:00.000Z', isExpected: false });
  expect(mine.items[3]).toMatchObject({ allDay: true, zone: 'Europe/London' });
  expect(mine.busy).toEqual([]);
  expect((await titles(mara, { who: 'team' })).length).toBe(5);
  expect((await titles(mara, { who: await idOf(ines) })).map(([title]) => title)).toEqual([
    'Somebody else’s',
  ]);
});

it('several whole days stand until the last is over, over a change of the clocks too, and move as long as they are', async () => {
  // The clocks of London go back on 25 October 2026 and forward on 28 March 2027.
  const fair = await task(pell, {
    ...{ title: 'Trade fair', kind: 'meeting', allDay: true },
    dueAt: '2026-11-28T00:00:00Z',
    endAt: '2026-12-01T00:00:00Z',
  });
  expect(await titles(pell)).toEqual([['Trade fair', '11-28T00:00', '12-01T00:00']]);
  expect((await titles(pell, { from: '2026-12-01T00:00:00Z' })).length).toBe(0);
  const ends = async (body: Record<string, unknown>) =>
    (await change(pell, fair.task.id, body)).body.task.endAt;
  expect(await ends({ dueAt: '2026-10-24T00:00:00+01:00' })).toBe('2026-10-27T00:00:00.000Z');
  expect(await ends({ dueAt: '2027-03-27T00:00:00Z' })).toBe('2027-03-29T23:00:00.000Z');
  expect(await ends({ endAt: '2027-03-28T00:00:00Z' })).toBeNull();
  const wrong = await change(pell, fair.task.id, { endAt: '2027-03-26T00:00:00Z' });
  expect([wrong.status, wrong.body.fields]).toEqual([422, { endAt: 'is before it begins' }]);
  await ends({ endAt: '2027-03-30T00:00:00+01:00' });
  // What is given a time does not last for days.
  expect(await ends({ dueAt: '2027-03-29T09:00:00Z', allDay: false })).toBeNull();
});

it('refuses a stretch that is none, or too long', async () => {
  const wrongs: Record<string, string>[] = [
    { from: WEEK.until, until: WEEK.from },
    { until: '2027-03-01T00:00:00Z' },
    { who: 'everybody' },
  ];
  for (const wrong of wrongs)
    expect((await pell.call('GET /api/calendar', { query: { ...WEEK, ...wrong } })).status).toBe(422);
});

it('a task that repeats stands on every day on which it will come, on the clock of its zone, moved off free days', async () => {
  await timed(pell, 'Weekly', '2026-12-03T10:00:00Z', {
    repeat: 'FREQ=WEEKLY;BYDAY=TH',
    endAt: '2026-12-03T10:30:00Z',
  });
  await task(pell, { title: 'After done', dueAt: '2026-12-03T00:00:00Z', repeat: 'P1W' });
  const month = { from: '2026-12-01T00:00:00Z', until: '2027-01-08T00:00:00Z' };
  const { items } = await shown(pell, month);
  const weekly = items.filter(({ title }) => title === 'Weekly');
  expect(weekly.map(({ start, isExpected }) => [start.slice(5, 16), isExpected])).toEqual([
    ['12-03T10:00', false],
    ['12-10T10:00', true],
    ['12-17T10:00', true],
    ['12-24T10:00', true],
    ['12-31T10:00', true],
    ['01-07T10:00', true],
  ]);
  expect(items.filter(({ title }) => title === 'After done')).toHaveLength(1);
  const spring = { from: '2027-03-24T00:00:00Z', until: '2027-04-03T00:00:00Z' };
  // The clocks of London go forward on 28 March 2027.
  expect((await titles(pell, spring)).map(([, start]) => start)).toEqual(['03-25T10:00', '04-01T09:00']);
});

it('a later time of what repeats is moved alone or left out, taken back, and passed over once its turn comes', async () => {
  const { task: made } = await timed(pell, 'Weekly', '2026-11-26T10:00:00Z', {
    ...{ repeat: 'FREQ=WEEKLY', endAt: '2026-11-26T10:30:00Z', people: [{ userId: await idOf(ines) }] },
  });
  const month = { from: '2026-11-24T00:00:00Z', until: '2026-12-18T00:00:00Z' };
  const times = async () => (await titles(pell, month)).map(([, start]) => start);
  const expected = async () =>
    (await shown(pell, month)).items.flatMap(({ occursAt }) => (occursAt ? [occursAt] : []));
  expect(await expected()).toEqual(['03', '10', '17'].map((day) => `2026-12-${day}T10:00:00.000Z`));
  const params = { id: made.id };
  const put = (at: string, dueAt: string) =>
    pell.call('POST /api/tasks/:id/occurrences', { params, body: { at, dueAt } });
  const moved = await put('2026-12-03T10:00:00Z', '2026-12-04T15:00:00Z');
  expect(moved.body.task).toMatchObject({
    ...{
      title: 'Weekly',
      dueAt: '2026-12-04T15:00:00.000Z',
      endAt: '2026-12-04T15:30:00.000Z',
      repeat: null,
    },
  });
  expect((await detail(pell, moved.body.task.id)).people.map(({ name }) => name)).toEqual(['Ines Tolland']);
  const at = '2026-12-10T10:00:00Z';
  const omit = () => pell.call('DELETE /api/tasks/:id/occurrences/:at', { params: { ...params, at } });
  const gone = await omit();
  expect(await times()).toEqual(['11-26T10:00', '12-04T15:00', '12-17T10:00']);
  // Neither twice, nor what is no time of it, nor one that is its turn now.
  for (const wrong of ['2026-12-03T10:00:00Z', '2026-12-11T10:00:00Z', '2026-11-26T10:00:00Z'])
    expect((await put(wrong, '2026-12-09T10:00:00Z')).body.fields).toEqual({ at: 'is no later time of it' });
  expect((await omit()).status).toBe(422);
  await pell.call('POST /api/events/:id/undo', { params: { id: gone.body.eventId ?? '' } });
  expect(await times()).toEqual(['11-26T10:00', '12-04T15:00', '12-10T10:00', '12-17T10:00']);
  await omit();
  await change(pell, made.id, { done: true });
  expect(await times()).toEqual(['11-26T10:00', '12-04T15:00', '12-17T10:00']);
});

it('of what a colleague keeps to themselves only that they are busy', async () => {
  const secret = await timed(ines, 'Doctor', '2026-12-01T09:00:00Z', { endAt: '2026-12-01T10:00:00Z' });
  await ines.call('PUT /api/visibility/:kind/:id', {
    params: { kind: 'tasks', id: secret.task.id },
    body: { visibility: 'named', peopleIds: [await idOf(ines)] },
  });
  const seen = await shown(pell, { who: 'team' });
  expect(JSON.stringify(seen)).not.toContain('Doctor');
  expect(JSON.stringify(seen)).not.toContain(secret.task.id);
  expect(seen.busy).toEqual([
    {
      who: { id: await idOf(ines), name: 'Ines Tolland' },
      start: '2026-12-01T09:00:00.000Z',
      end: '2026-12-01T10:00:00.000Z',
    },
  ]);
});

it('a colleague who is asked to a meeting sees it, however few others do, and no longer once they are not', async () => {
  const pells = await idOf(pell);
  const { task: made } = await timed(ines, 'Offer to buy', '2026-12-01T09:00:00Z');
  await ines.call('PUT /api/visibility/:kind/:id', {
    params: { kind: 'tasks', id: made.id },
    body: { visibility: 'named', peopleIds: [await idOf(ines)] },
  });
  const sees = async (who: typeof pell) =>
    (await who.call('GET /api/tasks/:id', { params: { id: made.id } })).status;
  expect([await sees(ines), await sees(pell), await sees(mara)]).toEqual([200, 404, 404]);
  await change(ines, made.id, { people: [{ userId: pells }] });
  expect([await sees(ines), await sees(pell), await sees(mara)]).toEqual([200, 200, 404]);
  expect(await titles(pell)).toHaveLength(1);
  const answer = { params: { id: made.id }, body: { answer: 'accepted' } };
  expect((await pell.call('POST /api/tasks/:id/answer', answer)).status).toBe(200);
  await change(ines, made.id, { people: [] });
  expect([await sees(pell), await titles(pell)]).toEqual([404, []]);
});

describe('what came of a meeting', () => {
  const held = (id: string, body: object) => pell.call('POST /api/tasks/:id/held', { params: { id }, body });

  it('is entered where and when it took place with all who came, sets what follows, and is one undo', async () => {
    const [ana, rui] = [await person('Ana Held'), await person('Rui Held')];
    const { task: meeting } = await timed(pell, 'Trial ride', '2026-11-24T10:00:00Z', {
      endAt: '2026-11-24T11:00:00Z',
      personId: ana,
      people: [{ personId: ana }, { personId: rui }],
    });
    const done = await held(meeting.id, { words: 'Liked the long bike. Send the quote tomorrow' });
    expect([done.status, done.body.saved]).toEqual([201, ['meeting', 'next move']]);
    for (const personId of [ana, rui]) {
      const { items } = (await pell.call('GET /api/ledger', { query: { personId } })).body;
      expect(items.filter(({ kind }) => kind === 'meeting')).toMatchObject([
        { at: '2026-11-24T10:00:00.000Z', side: 'ours', headline: 'Liked the long bike', outcome: 'spoke' },
      ]);
    }
    expect(await detail(pell, meeting.id)).toMatchObject({ doneBy: 'Pell Garrick' });
    const { moves } = (await pell.call('GET /api/people/:id', { params: { id: ana } })).body;
    expect(moves.map(({ title }) => title)).toEqual(['Send the quote']);
    expect((await held(meeting.id, { words: 'Again' })).status).toBe(409);
    await pell.call('POST /api/events/:id/undo', { params: { id: done.body.eventId ?? '' } });
    expect(await detail(pell, meeting.id)).toMatchObject({ doneAt: null });
    const { items } = (await pell.call('GET /api/ledger', { query: { personId: rui } })).body;
    expect(items.filter(({ kind }) => kind === 'meeting')).toEqual([]);
  });

  it('of one that is about nobody is done all the same, and what is left out is not set', async () => {
    const { task: meeting } = await timed(pell, 'Stand-up', '2026-11-24T10:00:00Z');
    const done = await held(meeting.id, { words: 'Ring Joss tomorrow', leaveOut: ['nextMove'] });
    expect([done.status, done.body.saved]).toEqual([201, ['meeting']]);
    const { items } = (await pell.call('GET /api/tasks')).body;
    expect(items).toEqual([]);
  });

  it('nobody came: it is entered so', async () => {
    const ana = await person('Ana Missed');
    const { task: meeting } = await timed(pell, 'Trial ride', '2026-11-24T10:00:00Z', { personId: ana });
    await held(meeting.id, { words: 'She did not come', outcome: 'no answer' });
    const { items } = (await pell.call('GET /api/ledger', { query: { personId: ana } })).body;
    expect(items[0]).toMatchObject({ kind: 'meeting', outcome: 'no answer' });
  });
});

describe('the address for calendar programs', () => {
  const read = async (url: string) => {
    const response = await house.app.inject({ method: 'GET', url: new URL(url).pathname });
    return { status: response.statusCode, type: response.headers['content-type'], text: response.body };
  };

  it('gives what its owner sees, to whoever has it, until a new one is made or it is ended', async () => {
    const personId = await person('Ana Feed');
    await timed(pell, 'Trial ride', '2026-12-01T09:00:00Z', {
      endAt: '2026-12-01T10:00:00Z',
      personId,
      place: 'Quay 4',
    });
    await task(pell, { title: 'Price list', dueAt: '2026-12-04T00:00:00Z' });
    await timed(ines, 'Not mine', '2026-12-01T09:00:00Z');
    expect((await pell.call('GET /api/calendar/feed')).body).toEqual({ madeAt: null, readAt: null });
    const { url } = (await pell.call('POST /api/calendar/feed', { body: {} })).body;
    const answer = await read(url);
    expect([answer.status, answer.type]).toEqual([200, 'text/calendar; charset=utf-8']);
    const calendar = readCalendar(answer.text);
    expect(calendar?.method).toBe('PUBLISH');
    expect(calendar?.events.map(({ title, start, end, place }) => [title, start, end, place])).toEqual([
      ['Trial ride', '2026-12-01T09:00:00.000Z', '2026-12-01T10:00:00.000Z', 'Quay 4'],
      ['Price list', '2026-12-04', '2026-12-05', ''],
    ]);
    expect((await pell.call('GET /api/calendar/feed')).body.readAt).not.toBeNull();
    const next = (await pell.call('POST /api/calendar/feed', { body: {} })).body.url;
    expect((await read(url)).status).toBe(404);
    expect((await read(next)).status).toBe(200);
    expect((await pell.call('DELETE /api/calendar/feed')).body.ended).toBe(true);
    expect((await read(next)).status).toBe(404);
    expect((await pell.call('DELETE /api/calendar/feed')).body.ended).toBe(false);
  });

  it('is not kept as it is, and ends with the account', async () => {
    const { url } = (await ines.call('POST /api/calendar/feed', { body: {} })).body;
    const [rows] = await house.sequelize.query('SELECT * FROM calendar_feeds');
    expect(JSON.stringify(rows)).not.toContain(new URL(url).pathname.split('/').at(-1)?.replace('.ics', ''));
    await house.sequelize.query("UPDATE users SET active = false WHERE email LIKE 'ines%'");
    expect((await read(url)).status).toBe(404);
    await house.sequelize.query("UPDATE users SET active = true WHERE email LIKE 'ines%'");
    expect((await read('http://127.0.0.1/calendars/x.ics')).status).toBe(404);
    expect((await read('http://127.0.0.1/calendars/%2e%2e%2fx.ics')).status).toBe(404);
  });
});

it('a meeting that is removed comes back with who was to come and what was said about it', async () => {
  const { task: meeting } = await timed(pell, 'Trial ride', '2026-12-01T09:00:00Z', {
    people: [{ personId: await person('Ana Back') }],
  });
  await pell.call('POST /api/tasks/:id/messages', {
    params: { id: meeting.id },
    body: { words: 'Bring helmets' },
  });
  const gone = await pell.call('DELETE /api/tasks/:id', { params: { id: meeting.id } });
  await pell.call('POST /api/events/:id/undo', { params: { id: gone.body.eventId ?? '' } });
  const back = await detail(pell, meeting.id);
  expect([back.people.length, back.messages.length]).toEqual([1, 1]);
  await change(pell, meeting.id, { done: true });
});
