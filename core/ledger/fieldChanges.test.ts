import fc from 'fast-check';
import { fieldChanges, type RowChange } from './fieldChanges';

const FIELDS = { people: ['fullName', 'tags', 'custom', 'ownerId'] };
const change = (before: object | null, after: object | null, over: Partial<RowChange> = {}): RowChange => ({
  table: 'people',
  id: 'a',
  before: before as RowChange['before'],
  after: after as RowChange['after'],
  ...over,
});
const told = (...changes: RowChange[]) =>
  fieldChanges(changes, FIELDS).map(({ field, key, from, to }) => [
    key ? `${field}.${key}` : field,
    from,
    to,
  ]);

it('tells each field that changed, from and to, and none that is not told', () => {
  expect(
    told(
      change({ fullName: 'Ann', ownerId: 'x', version: 1 }, { fullName: 'Anne', ownerId: 'x', version: 2 }),
    ),
  ).toEqual([['fullName', 'Ann', 'Anne']]);
});

it('tells what was written in steps once, and what came back to where it was not at all', () => {
  expect(
    told(change({ fullName: 'A' }, { fullName: 'B' }), change({ fullName: 'B' }, { fullName: 'C' })),
  ).toEqual([['fullName', 'A', 'C']]);
  expect(
    told(change({ fullName: 'A' }, { fullName: 'B' }), change({ fullName: 'B' }, { fullName: 'A' })),
  ).toEqual([]);
});

it('tells with what a row was made, and what one held that is gone', () => {
  expect(told(change(null, { fullName: 'Ann', tags: [], ownerId: null }))).toEqual([
    ['fullName', null, 'Ann'],
  ]);
  expect(fieldChanges([change(null, { fullName: 'Ann' })], FIELDS)[0]?.isMade).toBe(true);
  expect(told(change({ fullName: 'Ann', tags: ['fair'] }, null))).toEqual([
    ['fullName', 'Ann', null],
    ['tags', ['fair'], null],
  ]);
});

it('tells a field that holds several by their names one by one', () => {
  expect(
    told(
      change(
        { custom: { bike: 'long', size: '' } },
        { custom: { bike: 'short', size: null, colour: 'red' } },
      ),
    ),
  ).toEqual([
    ['custom.bike', 'long', 'short'],
    ['custom.colour', null, 'red'],
  ]);
});

it('keeps rows of several tables apart, and says nothing of a table that is not told', () => {
  expect(told(change({ fullName: 'A' }, { fullName: 'B' }, { table: 'turns' }))).toEqual([]);
  expect(
    fieldChanges(
      [
        change({ fullName: 'A' }, { fullName: 'B' }),
        change({ fullName: 'A' }, { fullName: 'C' }, { id: 'b' }),
      ],
      FIELDS,
    ).map(({ id, to }) => [id, to]),
  ).toEqual([
    ['a', 'B'],
    ['b', 'C'],
  ]);
});

it('takes a key for a key, whatever every object has by that name', () => {
  const was = { fullName: 'Dot', tags: [], custom: {}, ownerId: null };
  const is = { ...was, custom: { toString: 'x', constructor: 'y' } };
  const told = fieldChanges([change(was, is)], FIELDS).map(({ key, from, to }) => [key, from, to]);
  expect(told).toEqual([
    ['toString', null, 'x'],
    ['constructor', null, 'y'],
  ]);
});

it('gives a row back as it was when all of it is taken back, whatever it was', () => {
  const row = fc.record({
    fullName: fc.option(fc.string()),
    tags: fc.array(fc.string(), { maxLength: 3 }),
    custom: fc.dictionary(fc.string({ minLength: 1 }), fc.string({ minLength: 1 }), { maxKeys: 3 }),
    ownerId: fc.option(fc.uuid()),
  });
  const plain = (value: unknown): unknown => JSON.parse(JSON.stringify(value ?? null));
  const empty = (value: unknown): unknown =>
    value === '' || (Array.isArray(value) && !value.length) ? null : value;
  fc.assert(
    fc.property(row, row, (before, after) => {
      const back: Record<string, unknown> = { ...after };
      const custom = new Map(Object.entries(after.custom));
      for (const { field, key, from } of fieldChanges([change(before, after)], FIELDS)) {
        if (!key) back[field] = from;
        else if (from === null) custom.delete(key);
        else custom.set(key, from as string);
      }
      for (const field of FIELDS.people)
        if (field !== 'custom')
          expect(plain(empty(back[field]))).toEqual(plain(empty(before[field as 'fullName'])));
      expect(Object.fromEntries(custom)).toEqual({ ...before.custom });
    }),
  );
});
