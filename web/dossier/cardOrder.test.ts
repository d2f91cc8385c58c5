import { firstOf, moved } from './cardOrder';

it('a fact moves by one place, and not past the ends', () => {
  expect(moved(['a', 'b', 'c'], 'b', -1)).toEqual(['b', 'a', 'c']);
  expect(moved(['a', 'b', 'c'], 'b', 1)).toEqual(['a', 'c', 'b']);
  expect(moved(['a', 'b'], 'a', -1)).toEqual(['a', 'b']);
  expect(moved(['a', 'b'], 'x', -1)).toEqual(['a', 'b']);
});

it('each kind of record has an order of its own', () => {
  expect(firstOf({ person: ['birthday'] }, 'person')).toEqual(['birthday']);
  expect(firstOf({ person: ['birthday'] }, 'deal')).toEqual([]);
  expect(firstOf(undefined, 'deal')).toEqual([]);
});
