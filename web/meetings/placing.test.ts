import { createPinia, setActivePinia } from 'pinia';
import { daysOf, movedBy, timesAt, type Place } from './placing';

const timed: Place = { start: '2026-12-03T23:50', end: '2026-12-04T00:20', allDay: false };
const day: Place = { start: '2026-12-31', end: '2027-01-01', allDay: true };
const press = (place: Place, name: string, isLonger = false) => movedBy(place, { name, isLonger });

it('moves by a quarter of an hour or a day', () => {
  expect(press(timed, 'ArrowDown')).toMatchObject({ start: '2026-12-04T00:05', end: '2026-12-04T00:35' });
  expect(press(timed, 'ArrowUp')).toMatchObject({ start: '2026-12-03T23:35', end: '2026-12-04T00:05' });
  expect(press(timed, 'ArrowRight')).toMatchObject({ start: '2026-12-04T23:50', end: '2026-12-05T00:20' });
  expect(press(day, 'ArrowRight')).toEqual({ start: '2027-01-01', end: '2027-01-02', allDay: true });
});

it('lasts longer or shorter, but never nothing', () => {
  expect(press(timed, 'ArrowDown', true)).toMatchObject({ start: timed.start, end: '2026-12-04T00:35' });
  expect(press(timed, 'ArrowUp', true)).toMatchObject({ end: '2026-12-04T00:05' });
  const quarter = { ...timed, end: '2026-12-04T00:05' };
  expect(press(quarter, 'ArrowUp', true)).toBeNull();
  expect(press(timed, 'ArrowRight', true)).toBeNull();
});

it('gives a whole day a time with the arrow down, and does nothing with any other key', () => {
  expect(press(day, 'ArrowDown')).toEqual({
    start: '2026-12-31T09:00',
    end: '2026-12-31T10:00',
    allDay: false,
  });
  expect([press(day, 'ArrowUp'), press(timed, 'Enter'), press(day, 'ArrowDown', true)]).toEqual([
    null,
    null,
    null,
  ]);
});

it('whole days are made more and fewer, but never none', () => {
  expect(press(day, 'ArrowRight', true)).toEqual({ ...day, end: '2027-01-02' });
  expect(press({ ...day, end: '2027-01-02' }, 'ArrowLeft', true)).toEqual(day);
  expect(press(day, 'ArrowLeft', true)).toBeNull();
});

it('several whole days stand on each of them that is shown, and what has a time where it begins', () => {
  const shown = { from: '2026-12-01', until: '2026-12-08' };
  const days = (start: string, end: string, allDay = true) => daysOf({ start, end, allDay }, shown);
  expect(days('2026-12-03', '2026-12-06')).toEqual(['2026-12-03', '2026-12-04', '2026-12-05']);
  expect(days('2026-11-28', '2026-12-03')).toEqual(['2026-12-01', '2026-12-02']);
  expect(days('2026-12-07', '2026-12-20')).toEqual(['2026-12-07']);
  expect(days('2026-12-03T22:00', '2026-12-04T02:00', false)).toEqual(['2026-12-03']);
});

it('what is sent of whole days says where the last ends, and of a single one that there is no end', () => {
  setActivePinia(createPinia());
  expect(timesAt({ start: '2026-10-24', end: '2026-10-27', allDay: true }, 'Europe/London')).toEqual({
    dueAt: '2026-10-23T23:00:00.000Z',
    endAt: '2026-10-27T00:00:00.000Z',
    allDay: true,
  });
  expect(timesAt(day, 'UTC')).toMatchObject({ allDay: true, endAt: null });
});
