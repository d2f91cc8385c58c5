import { readTypedTime } from './typedTime';

it.each([
  ['9', '09:00'],
  ['9:30', '09:30'],
  ['9.30', '09:30'],
  ['930', '09:30'],
  ['1545', '15:45'],
  ['3pm', '15:00'],
  ['3.15 p.m.', '15:15'],
  ['12 am', '00:00'],
  ['12pm', '12:00'],
  ['15h', '15:00'],
  ['9 Uhr', '09:00'],
  [' 00:05 ', '00:05'],
])('reads the time %j as %s', (text, time) => {
  expect(readTypedTime(text)).toBe(time);
});

it.each(['', 'noonish', '24', '9:60', '13pm', '0am', '99999', '9:3', '-1'])('finds no time in %j', (text) => {
  expect(readTypedTime(text)).toBeNull();
});
