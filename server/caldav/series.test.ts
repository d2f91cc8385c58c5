import { calendarActs, inDays, useCalendarHouse } from '../testing/caldav';

const use = useCalendarHouse();
const { add, calendar, fileOf, patch } = calendarActs(use);
beforeAll(async () => {
  await use.link();
});

/** Of days, so that no holiday moves it. */
const EACH_WEEK = 'FREQ=DAILY;INTERVAL=7';
const nameOf = (id: string): string => `meeting.${id}@127.0.0.1.ics`;
const starts = async (title: string): Promise<string[]> =>
  (await calendar()).filter((item) => item.title === title).map(({ start }) => start);
const openTask = async (title: string) =>
  (await calendar()).find((item) => item.title === title && !item.isDone && !item.isExpected);
/** When a program that reads the file has the times of its series, in order. */
const weeks = (first: number, hour: number, ...count: number[]): string[] =>
  count.map((week) => inDays(first + 7 * week, hour).iso);

/** A time of a series as another program changes it by itself. */
const changed = (file: string, at: string, ...lines: string[]): string =>
  file.replace(
    'END:VCALENDAR',
    [
      'BEGIN:VEVENT',
      /^UID:.*(?:\r\n .*)*/m.exec(file)?.[0] ?? '',
      'DTSTAMP:20261101T080000Z',
      `RECURRENCE-ID:${at}`,
      ...lines,
      'END:VEVENT',
      'END:VCALENDAR',
    ].join('\r\n'),
  );

it('a later time that is moved there is a meeting of its own here, and the others stay', async () => {
  const { id } = await add('Tasting', inDays(4, 9), { repeat: EACH_WEEK, zone: 'UTC' });
  await use.sync();
  const file = (await fileOf(id)) ?? '';
  const moved = changed(
    file,
    inDays(11, 9).ics,
    'SUMMARY:Tasting',
    `DTSTART:${inDays(12, 14).ics}`,
    `DTEND:${inDays(12, 15).ics}`,
  );
  await use.radicale.put(nameOf(id), moved);
  await use.sync();
  const expected = [inDays(4, 9).iso, inDays(12, 14).iso, ...weeks(18, 9, 0, 1)];
  expect((await starts('Tasting')).slice(0, 4)).toEqual(expected);

  // Done, the series goes on in the same file, and past the time that was moved.
  await patch(id, { done: true });
  await use.sync();
  expect((await starts('Tasting')).slice(0, 4)).toEqual(expected);
  expect(await use.radicale.files()).toEqual([nameOf(id)]);
  expect((await openTask('Tasting'))?.start).toBe(inDays(12, 14).iso);
  expect(await fileOf(id)).toContain(`RECURRENCE-ID:${inDays(11, 9).ics}`);

  // Moved again on either side.
  const own = (await openTask('Tasting'))?.taskId ?? '';
  await patch(own, { dueAt: inDays(12, 16).iso });
  await use.sync();
  expect(await fileOf(id)).toContain(`DTSTART:${inDays(12, 16).ics}`);
  const again = ((await fileOf(id)) ?? '')
    .replace(inDays(12, 16).ics, inDays(12, 11).ics)
    .replace(inDays(12, 17).ics, inDays(12, 12).ics);
  await use.radicale.put(nameOf(id), again);
  await use.sync();
  expect((await starts('Tasting')).slice(1, 3)).toEqual([inDays(12, 11).iso, inDays(18, 9).iso]);
  await use.pell.call('DELETE /api/tasks/:id', { params: { id: own } });
  await use.sync();
  expect((await starts('Tasting')).slice(1, 2)).toEqual([inDays(18, 9).iso]);
  expect(await fileOf(id)).toMatch(new RegExp(`EXDATE[^\\n]*${inDays(11, 9).ics.slice(0, 8)}`));
});

it('a time that is left out there is left out here, the one at hand and a later one', async () => {
  const { id } = await add('Wash day', inDays(3, 7), { repeat: EACH_WEEK, zone: 'UTC' });
  await use.sync();
  const file = (await fileOf(id)) ?? '';
  const without = (...days: number[]) =>
    file.replace('RRULE:', `EXDATE:${days.map((day) => inDays(day, 7).ics).join(',')}\r\nRRULE:`);
  await use.radicale.put(nameOf(id), without(17));
  await use.sync();
  expect((await starts('Wash day')).slice(0, 3)).toEqual([3, 10, 24].map((day) => inDays(day, 7).iso));
  await use.radicale.put(nameOf(id), without(17, 3));
  await use.sync();
  expect((await starts('Wash day')).slice(0, 2)).toEqual([10, 24].map((day) => inDays(day, 7).iso));
  expect((await openTask('Wash day'))?.start).toBe(inDays(10, 7).iso);
  await use.sync();
  expect(await fileOf(id)).toContain(`RRULE:${EACH_WEEK}`);
  await patch(id, { done: true });
  expect((await openTask('Wash day'))?.start).toBe(inDays(24, 7).iso);
});

it('what is moved here is moved there at that time alone; words and length at all of them', async () => {
  const { id } = await add('Rack check', inDays(5, 8), {
    repeat: 'FREQ=DAILY;INTERVAL=7;COUNT=4',
    zone: 'UTC',
  });
  await use.sync();
  await patch(id, { dueAt: inDays(6, 10).iso });
  await use.sync();
  const moved = (await fileOf(id)) ?? '';
  expect(moved).toContain(`DTSTART:${inDays(5, 8).ics}`);
  expect(moved).toContain(`RECURRENCE-ID:${inDays(5, 8).ics}`);
  expect(moved).toContain(`DTSTART:${inDays(6, 10).ics}`);
  await patch(id, { title: 'Rack and shelf check', endAt: inDays(6, 12).iso });
  await use.sync();
  const renamed = (await fileOf(id)) ?? '';
  expect(renamed.match(/SUMMARY:Rack and shelf check/g)).toHaveLength(2);
  expect(renamed).toContain(`DTEND:${inDays(5, 10).ics}`);
  expect(renamed).toContain(`DTEND:${inDays(6, 12).ics}`);
  await patch(id, { done: true });
  await use.sync();
  // Four in all, of which one is over: neither more there nor fewer here.
  expect(await fileOf(id)).toContain('COUNT=4');
  expect((await starts('Rack and shelf check')).slice(1)).toEqual(weeks(12, 8, 0, 1, 2));
  expect((await openTask('Rack and shelf check'))?.start).toBe(inDays(12, 8).iso);
});

it('moved there as a whole, all of it is moved here; removed here, what was before stays there', async () => {
  const { id } = await add('Stand check', inDays(2, 6), { repeat: EACH_WEEK, zone: 'UTC' });
  await use.sync();
  const later = ((await fileOf(id)) ?? '')
    .replace(inDays(2, 6).ics, inDays(2, 8).ics)
    .replace(inDays(2, 7).ics, inDays(2, 9).ics);
  await use.radicale.put(nameOf(id), later);
  await use.sync();
  expect((await starts('Stand check')).slice(0, 3)).toEqual(weeks(2, 8, 0, 1, 2));
  await patch(id, { done: true });
  await use.sync();
  const next = await openTask('Stand check');
  expect(next?.start).toBe(inDays(9, 8).iso);
  await use.pell.call('DELETE /api/tasks/:id', { params: { id: next?.taskId ?? '' } });
  await use.sync();
  const ended = (await fileOf(id)) ?? '';
  expect(ended).toContain(`DTSTART:${inDays(2, 8).ics}`);
  expect(ended).toMatch(/UNTIL=\d{8}T\d{6}Z/);
  await use.sync();
  expect(await openTask('Stand check')).toBeUndefined();
});
