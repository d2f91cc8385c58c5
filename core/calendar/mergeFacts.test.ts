import { differences, isForgetful, mergeFacts } from './mergeFacts';
import type { EventFacts } from '../formats/calendarObject';

const BASE: EventFacts = {
  title: 'Trial ride',
  start: '2026-12-03T10:00:00.000Z',
  end: '2026-12-03T11:00:00.000Z',
  allDay: false,
  place: 'Quay 4',
  notes: '',
};
const later = { start: '2026-12-03T14:00:00.000Z', end: '2026-12-03T15:00:00.000Z' };

it.each([
  ['nobody changed anything', {}, {}, {}, []],
  ['they moved it', {}, later, later, []],
  ['we moved it', later, {}, later, []],
  ['both moved it to the same time', later, later, later, []],
  ['we gave it a place, they a time', { place: 'Shed' }, later, { place: 'Shed', ...later }, []],
  [
    'both moved it differently: ours stands until somebody decides',
    later,
    { start: '2026-12-04T10:00:00.000Z', end: '2026-12-04T11:00:00.000Z' },
    later,
    ['time'],
  ],
  [
    'one moved its end and the other its beginning: nobody chose the time that would come of it',
    { end: '2026-12-03T12:00:00.000Z' },
    { start: '2026-12-03T09:00:00.000Z' },
    { end: '2026-12-03T12:00:00.000Z' },
    ['time'],
  ],
  [
    'a clash of titles, and a place that only they changed',
    { title: 'Ride' },
    { title: 'Test ride', place: 'Shed' },
    { title: 'Ride', place: 'Shed' },
    ['title'],
  ],
  ['they emptied the place', {}, { place: '' }, { place: '' }, []],
])('%s', (_, ours, theirs, merged, clashes) => {
  expect(mergeFacts(BASE, { ...BASE, ...ours }, { ...BASE, ...theirs })).toEqual({
    facts: { ...BASE, ...merged },
    clashes,
  });
});

it('says which parts are different, a time as one', () => {
  expect(differences(BASE, { ...BASE, ...later, notes: 'x' })).toEqual(['time', 'notes']);
});

it('most of a calendar gone at once is a question, a few are not', () => {
  expect([isForgetful(8, 8), isForgetful(12, 5), isForgetful(3, 3), isForgetful(9, 5)]).toEqual([
    true,
    false,
    false,
    true,
  ]);
});
