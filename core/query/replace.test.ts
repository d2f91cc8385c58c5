import { asksFor, replaceValue } from './replace';
import type { Filter } from './types';

const TAGS = new Set(['tags']);
const fair: Filter = { field: 'tags', op: 'hasAny', value: ['fair', 'spring'] };
const other: Filter = { field: 'fullName', op: 'contains', value: 'fair' };
const nested: Filter = {
  all: [
    other,
    { any: [{ not: fair }, { relation: 'people', has: 'all', where: fair }] },
    { relation: 'deals', count: { op: 'atLeast', value: 2 }, where: { all: [fair] } },
    { relation: 'leads', has: 'none' },
  ],
};

it('a value is replaced wherever it is asked for, once where both were asked for, and in no other field', () => {
  const replaced = JSON.stringify(replaceValue(nested, TAGS, 'fair', 'trade fair'));
  expect(replaced.match(/"trade fair"/g)).toHaveLength(3);
  expect(replaced).toContain('{"field":"fullName","op":"contains","value":"fair"}');
  expect(replaceValue(fair, TAGS, 'fair', 'spring')).toEqual({ ...fair, value: ['spring'] });
  expect(replaceValue({ field: 'tags', op: 'is', value: 'fair' }, TAGS, 'fair', 'x')).toMatchObject({
    value: 'x',
  });
});

it('a filter that does not ask for it stays the very same', () => {
  for (const filter of [nested, other]) expect(replaceValue(filter, TAGS, 'Fair', 'x')).toBe(filter);
  expect(asksFor(nested, TAGS, 'spring')).toBe(true);
  expect(asksFor(nested, TAGS, 'autumn')).toBe(false);
  expect(asksFor(other, TAGS, 'fair')).toBe(false);
});
