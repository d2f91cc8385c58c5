import { delegating } from '../testing/delegating';
import { useHouse } from '../testing/harness';
import { ANA, inviting } from '../testing/inviting';

const { house, pell, ines } = useHouse();
const { idOf, noticesOf, change, detail } = delegating;
const { state, sent, meet, mailed, eventOf, peopleOf, answer } = inviting(house, pell);

it('whoever comes is mailed an invitation that their calendar knows', async () => {
  const made = await meet();
  expect(await peopleOf(made.task.id)).toEqual([['Ana Silva', 'waiting', 'on its way']]);
  expect(await mailed()).toEqual([[ANA, 'REQUEST', 0]]);
  const [mail] = sent();
  expect(mail?.subject).toBe('Invitation: Trial ride, Thu 3 Dec 2026, 10:00–10:45 (London time)');
  expect(mail?.text).toContain('Where: Quay 4');
  expect(mail?.replyTo).toBe('pell@wharfside.example');
  expect(eventOf(mail)).toMatchObject({
    uid: `meeting.${made.task.id}@127.0.0.1`,
    title: 'Trial ride',
    start: '2026-12-03T10:00:00.000Z',
    end: '2026-12-03T10:45:00.000Z',
    place: 'Quay 4',
    organizer: { email: 'pell@wharfside.example', name: 'Pell Garrick' },
    attendees: [{ email: ANA, name: 'Ana Silva', answer: 'waiting' }],
  });
  expect(await peopleOf(made.task.id)).toEqual([['Ana Silva', 'waiting', 'yes']]);
});

it('everybody hears once of a change, of what is called off, and nobody of what is not told', async () => {
  const { task } = await meet({
    people: [{ personId: state.ana }, { email: 'rui@padariasol.example', name: 'Rui' }],
  });
  await mailed();
  house.mails.length = 0;
  await change(pell, task.id, { notes: 'Ask about the gears', priority: 'high' });
  expect(await mailed()).toEqual([]);
  await change(pell, task.id, { place: 'Quay 5' });
  expect(await mailed()).toEqual([
    [ANA, 'REQUEST', 1],
    ['rui@padariasol.example', 'REQUEST', 1],
  ]);
  house.mails.length = 0;
  await change(pell, task.id, { people: [{ personId: state.ana }] });
  expect(await mailed()).toEqual([['rui@padariasol.example', 'CANCEL', 2]]);
  house.mails.length = 0;
  const gone = await pell.call('DELETE /api/tasks/:id', { params: { id: task.id } });
  expect(await mailed()).toEqual([[ANA, 'CANCEL', 3]]);
  expect(sent()[0]?.subject).toMatch(/^Cancelled: Trial ride/);
  expect(eventOf(sent()[0]).isCancelled).toBe(true);
  house.mails.length = 0;
  await pell.call('POST /api/events/:id/undo', { params: { id: gone.body.eventId ?? '' } });
  expect(await mailed()).toEqual([[ANA, 'REQUEST', 4]]);
});

it('what is taken back before the mail went out is not mailed, and nothing is called off that nobody heard of', async () => {
  const made = await meet();
  await pell.call('POST /api/events/:id/undo', { params: { id: made.eventId ?? '' } });
  expect(await mailed()).toEqual([]);
  const { task } = await meet();
  await mailed();
  house.mails.length = 0;
  const moved = await change(pell, task.id, { dueAt: '2026-12-04T10:00:00Z' });
  await pell.call('POST /api/events/:id/undo', { params: { id: moved.body.eventId ?? '' } });
  // The change never went out, and they know the time that holds again.
  const versions = (await mailed()).map(([, method]) => method);
  expect(versions.filter((method) => method === 'CANCEL')).toEqual([]);
  expect(sent().every((mail) => eventOf(mail).start === '2026-12-03T10:00:00.000Z')).toBe(true);
});

it('a meeting without invitations mails nobody; with them from now on, everybody', async () => {
  const { task } = await meet({ isInviting: false });
  expect(await mailed()).toEqual([]);
  await change(pell, task.id, { isInviting: true });
  expect(await mailed()).toEqual([[ANA, 'REQUEST', 0]]);
});

it('what was held is over: nothing more is told of it', async () => {
  const { task } = await meet({ dueAt: '2026-11-24T10:00:00Z', endAt: '2026-11-24T11:00:00Z' });
  expect(await mailed()).toEqual([]);
  const upcoming = await meet();
  await mailed();
  house.mails.length = 0;
  await change(pell, upcoming.task.id, { done: true });
  await change(pell, task.id, { done: true });
  expect(await mailed()).toEqual([]);
});

it('one of whole days is an invitation for those days, and nobody hears that it is off once its time is gone', async () => {
  const { task } = await meet();
  await mailed();
  house.mails.length = 0;
  const days = { dueAt: '2026-12-03T00:00:00Z', endAt: '2026-12-05T00:00:00Z', allDay: true };
  await change(pell, task.id, days);
  expect(await mailed()).toEqual([[ANA, 'REQUEST', 1]]);
  expect(sent()[0]?.subject).toBe('Changed: Trial ride, Thu 3 Dec 2026 – Fri 4 Dec 2026');
  expect(eventOf(sent()[0])).toMatchObject({ start: '2026-12-03', end: '2026-12-05', allDay: true });
  house.mails.length = 0;
  await change(pell, task.id, { endAt: null });
  expect(await mailed()).toEqual([[ANA, 'REQUEST', 2]]);
  expect(sent()[0]?.subject).toBe('Changed: Trial ride, Thu 3 Dec 2026');
});

it('a colleague is told, sees it in their calendar, and answers here', async () => {
  const made = await meet({ people: [{ userId: await idOf(ines) }, { userId: await idOf(pell) }] });
  expect(await peopleOf(made.task.id)).toEqual([['Ines Tolland', 'waiting', 'on its way']]);
  expect(await noticesOf(ines)).toEqual([['invited', 'Trial ride', 'Thu 3 Dec, 10:00']]);
  const within = { from: '2026-12-01T00:00:00Z', until: '2026-12-08T00:00:00Z' };
  const seen = async () =>
    (await ines.call('GET /api/calendar', { query: within })).body.items.map(({ title, answer: one }) => [
      title,
      one,
    ]);
  expect(await seen()).toEqual([['Trial ride', 'waiting']]);
  const say = (who: typeof pell, word: string) =>
    who.call('POST /api/tasks/:id/answer', { params: { id: made.task.id }, body: { answer: word } });
  expect((await say(pell, 'accepted')).status).toBe(403);
  expect((await say(ines, 'accepted')).status).toBe(200);
  expect(await noticesOf(pell)).toEqual([['coming', 'Trial ride', 'Ines Tolland accepted']]);
  await say(ines, 'declined');
  expect(await seen()).toEqual([]);
});

it('a meeting that repeats comes again with the same people, who are asked anew', async () => {
  const { task } = await meet({
    repeat: 'FREQ=WEEKLY;BYDAY=TH',
    dueAt: '2026-11-26T10:00:00Z',
    endAt: '2026-11-26T10:30:00Z',
  });
  await mailed();
  await answer(eventOf(sent()[0]), 'accepted');
  house.mails.length = 0;
  await change(pell, task.id, { done: true });
  expect(await mailed()).toEqual([[ANA, 'REQUEST', 0]]);
  expect(eventOf(sent()[0])).toMatchObject({
    start: '2026-12-03T10:00:00.000Z',
    end: '2026-12-03T10:30:00.000Z',
  });
});

it('a person’s address makes them that person, and one who is invited twice is invited once', async () => {
  const { task } = await meet({
    people: [{ email: ANA.toUpperCase() }, { personId: state.ana }, { email: 'INES@wharfside.example' }],
  });
  const { people } = await detail(pell, task.id);
  expect(people.map(({ name, personId, userId }) => [name, personId !== null, userId !== null])).toEqual([
    ['Ana Silva', true, false],
    ['Ines Tolland', false, true],
  ]);
  expect(await mailed()).toEqual([
    [ANA, 'REQUEST', 0],
    ['ines@wharfside.example', 'REQUEST', 0],
  ]);
  const moves = (await pell.call('GET /api/people/:id', { params: { id: state.ana } })).body.moves;
  expect(moves.map(({ id }) => id)).toContain(task.id);
});
