import { movedBy, type Place } from './placing';

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
  expect([press(day, 'ArrowUp'), press(timed, 'Enter'), press(day, 'ArrowRight', true)]).toEqual([
    null,
    null,
    null,
  ]);
});
