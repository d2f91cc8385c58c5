import { calendarActs, eventAt, inDays, outsideEvent, useCalendarHouse } from '../testing/caldav';
import { DAV_USER } from '../testing/radicale';

const use = useCalendarHouse();
const { add, calendar, fileOf, find, must, patch } = calendarActs(use);

it('an account is found by its address alone, and its only calendar is taken', async () => {
  await use.link(use.radicale.url);
  expect(await use.sync()).toMatchObject({
    state: 'current',
    trouble: '',
    calendarUrl: use.radicale.calendar,
    calendars: [{ url: use.radicale.calendar, name: 'Work' }],
    addressBooks: [{ url: use.radicale.book, name: 'Phone' }],
    username: DAV_USER,
  });
});

it('what is made here goes there, follows each change, and goes when it goes', async () => {
  const { id } = await add('Trial ride', inDays(3, 10), { place: 'Quay 4', notes: 'Helmets, eight' });
  await use.sync();
  expect(await fileOf(id)).toMatch(/SUMMARY:Trial ride/);
  expect(await fileOf(id)).toContain(`DTSTART:${inDays(3, 10).ics}`);
  await patch(id, { dueAt: inDays(4, 15).iso, title: 'Trial ride, all eight' });
  await use.sync();
  expect(await fileOf(id)).toContain(`DTSTART:${inDays(4, 15).ics}`);
  expect(await fileOf(id)).toContain('SUMMARY:Trial ride\\, all eight');
  const { body } = await use.pell.call('DELETE /api/tasks/:id', { params: { id } });
  await use.sync();
  expect(await fileOf(id)).toBeNull();
  await use.pell.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } });
  await use.sync();
  expect(await fileOf(id)).toContain('SUMMARY:Trial ride\\, all eight');
});

it('what is made there comes here, follows each change, and goes when it goes', async () => {
  const [start, end] = [inDays(5, 9), inDays(5, 10)];
  await use.radicale.put(
    'a.ics',
    eventAt('a@phone.example', 'Dentist', start.ics, end.ics, 'LOCATION:Mill Road'),
  );
  await use.sync();
  expect(await must('Dentist')).toMatchObject({ start: start.iso, end: end.iso, place: 'Mill Road' });
  // It is nobody's business but Pell's.
  expect(await find('Dentist', use.mara)).toBeUndefined();
  await use.radicale.put('a.ics', eventAt('a@phone.example', 'Dentist', inDays(6, 9).ics, inDays(6, 10).ics));
  await use.sync();
  expect(await must('Dentist')).toMatchObject({ start: inDays(6, 9).iso, place: '' });
  // Called off there is gone here, and comes back with it.
  const called = (...more: string[]) =>
    use.radicale.put(
      'a.ics',
      eventAt('a@phone.example', 'Dentist', inDays(6, 9).ics, inDays(6, 10).ics, ...more),
    );
  await called('STATUS:CANCELLED');
  await use.sync();
  expect(await find('Dentist')).toBeUndefined();
  await called();
  await use.sync();
  expect(await must('Dentist')).toMatchObject({ start: inDays(6, 9).iso });
  await use.radicale.remove('a.ics');
  await use.sync();
  expect(await find('Dentist')).toBeUndefined();
  // Nobody is told what they did themselves on their phone.
  expect((await use.pell.call('GET /api/notices')).body.items).toEqual([]);
});

it('what is made there with somebody we know is a meeting with them, for the team to see', async () => {
  await use.pell.call('POST /api/people', {
    body: { fullName: 'Ines Duarte', email: 'ines@padariasol.example' },
  });
  const attendee = 'ATTENDEE;CN=Ines Duarte;PARTSTAT=ACCEPTED:mailto:ines@padariasol.example';
  const [start, end] = [inDays(7, 9).ics, inDays(7, 10).ics];
  await use.radicale.put('b.ics', eventAt('b@phone.example', 'Price talk', start, end, attendee));
  await use.sync();
  const item = await find('Price talk', use.mara);
  expect(item).toMatchObject({ with: ['Ines Duarte'], about: 'Ines Duarte' });
  const { body } = await use.mara.call('GET /api/tasks/:id', { params: { id: item?.taskId ?? '' } });
  expect(body.people).toMatchObject([{ name: 'Ines Duarte', answer: 'accepted', invited: 'no' }]);
  await use.radicale.put(
    'b.ics',
    eventAt('b@phone.example', 'Price talk', start, end, attendee.replace('ACCEPTED', 'DECLINED')),
  );
  await use.sync();
  const again = await use.mara.call('GET /api/tasks/:id', { params: { id: item?.taskId ?? '' } });
  expect(again.body.people).toMatchObject([{ name: 'Ines Duarte', answer: 'declined' }]);
});

it('one that came from there is moved here, and keeps there what another program wrote', async () => {
  await use.radicale.put(
    'c.ics',
    eventAt(
      'c@phone.example',
      'School',
      inDays(8, 9).ics,
      inDays(8, 10).ics,
      'X-COLOUR:green',
      'CATEGORIES:family',
    ),
  );
  await use.sync();
  await patch((await must('School')).taskId, { dueAt: inDays(9, 11).iso });
  await use.sync();
  const file = await use.radicale.get('c.ics');
  expect(file).toContain(`DTSTART:${inDays(9, 11).ics}`);
  expect(file).toContain(`DTEND:${inDays(9, 12).ics}`);
  expect(file).toMatch(/X-COLOUR:green[^]*|CATEGORIES:family/);
  await use.pell.call('DELETE /api/tasks/:id', { params: { id: (await must('School')).taskId } });
  await use.sync();
  expect(await use.radicale.get('c.ics')).toBeNull();
});

it('a series from there is a meeting for each time; one is moved there, one here, one left out on either side', async () => {
  const start = inDays(10, 8);
  const series = (...more: string[]) =>
    eventAt('d@phone.example', 'Stand-up', start.ics, inDays(10, 9).ics, 'RRULE:FREQ=DAILY;COUNT=5', ...more);
  await use.radicale.put('d.ics', series());
  await use.sync();
  const times = async () =>
    (await calendar()).filter(({ title }) => title === 'Stand-up').map((item) => item.start);
  expect(await times()).toEqual([10, 11, 12, 13, 14].map((days) => inDays(days, 8).iso));
  await use.radicale.put('d.ics', series(`EXDATE:${inDays(11, 8).ics}`));
  await use.sync();
  expect(await times()).toEqual([10, 12, 13, 14].map((days) => inDays(days, 8).iso));
  const third = (await calendar()).find((item) => item.start === inDays(12, 8).iso);
  await patch(third?.taskId ?? '', { dueAt: inDays(12, 16).iso });
  const fourth = (await calendar()).find((item) => item.start === inDays(13, 8).iso);
  await use.pell.call('DELETE /api/tasks/:id', { params: { id: fourth?.taskId ?? '' } });
  await use.sync();
  const file = (await use.radicale.get('d.ics')) ?? '';
  expect(file).toContain(`RECURRENCE-ID:${inDays(12, 8).ics}`);
  expect(file).toContain(`DTSTART:${inDays(12, 16).ics}`);
  expect(file).toContain(`EXDATE:${inDays(13, 8).ics}`);
  await use.sync();
  expect(await times()).toEqual([inDays(10, 8), inDays(12, 16), inDays(14, 8)].map(({ iso }) => iso));
});

it('a series that is moved as a whole keeps its meetings, with all that is known of them', async () => {
  const series = (days: number) =>
    eventAt(
      'e@phone.example',
      'Rounds',
      inDays(days, 8).ics,
      inDays(days, 9).ics,
      'RRULE:FREQ=DAILY;COUNT=3',
    );
  await use.radicale.put('e.ics', series(20));
  await use.sync();
  const rounds = async () => (await calendar()).filter(({ title }) => title === 'Rounds');
  const before = (await rounds()).map(({ taskId }) => taskId);
  await use.radicale.put('e.ics', series(30));
  await use.sync();
  expect((await rounds()).map(({ taskId }) => taskId)).toEqual(before);
  expect((await rounds()).map(({ start }) => start)).toEqual([30, 31, 32].map((days) => inDays(days, 8).iso));
});

it('one of ours that repeats repeats there, and its rule is changed from either side', async () => {
  const { id } = await add('Stock count', inDays(15, 7), { repeat: 'FREQ=WEEKLY' });
  await use.sync();
  expect(await fileOf(id)).toContain('RRULE:FREQ=WEEKLY');
  await patch(id, { repeat: 'FREQ=MONTHLY' });
  await use.sync();
  const file = (await fileOf(id)) ?? '';
  expect(file).toContain('RRULE:FREQ=MONTHLY');
  await use.radicale.put(
    `meeting.${id}@127.0.0.1.ics`,
    file.replace('FREQ=MONTHLY', 'FREQ=WEEKLY;INTERVAL=2'),
  );
  await use.sync();
  const { body } = await use.pell.call('GET /api/tasks/:id', { params: { id } });
  expect(body.repeat).toBe('FREQ=WEEKLY;INTERVAL=2');
  await patch(id, { done: true });
  await use.sync();
  expect(await fileOf(id)).toContain('RRULE:FREQ=WEEKLY;INTERVAL=2');
  const next = (await calendar()).filter((item) => item.title === 'Stock count' && !item.isDone);
  expect(await fileOf(next[0]?.taskId ?? '')).toBeNull();
});

it('a whole day is a day on both sides', async () => {
  const day = inDays(25, 0).ics.slice(0, 8);
  const after = inDays(27, 0).ics.slice(0, 8);
  await use.radicale.put(
    'f.ics',
    outsideEvent(
      'f@phone.example',
      'SUMMARY:Trade fair',
      `DTSTART;VALUE=DATE:${day}`,
      `DTEND;VALUE=DATE:${after}`,
    ),
  );
  await use.sync();
  const item = await must('Trade fair');
  expect(item.allDay).toBe(true);
  await patch(item.taskId, { dueAt: new Date(Date.parse(item.start) + 86_400_000).toISOString() });
  await use.sync();
  const file = await use.radicale.get('f.ics');
  expect(file).toContain(`DTSTART;VALUE=DATE:${inDays(26, 0).ics.slice(0, 8)}`);
  expect(file).toContain(`DTEND;VALUE=DATE:${inDays(28, 0).ics.slice(0, 8)}`);
  // Made shorter here, it is shorter there.
  await patch(item.taskId, { endAt: null });
  await use.sync();
  expect(await use.radicale.get('f.ics')).toContain(`DTEND;VALUE=DATE:${inDays(27, 0).ics.slice(0, 8)}`);
  // Ours of two days goes there as such; work that is due on a day does not.
  const [from, until] = [inDays(30, 0), inDays(32, 0)];
  const ours = await add('Stand at the fair', from, { allDay: true, endAt: until.iso });
  const work = await add('Price list', from, { allDay: true, kind: 'task' });
  await use.sync();
  expect(await fileOf(ours.id)).toContain(`DTEND;VALUE=DATE:${until.ics.slice(0, 8)}`);
  expect(await fileOf(work.id)).toBeNull();
});
