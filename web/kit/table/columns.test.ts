import fc from 'fast-check';
import {
  arranged,
  moveColumn,
  nextSort,
  resizeColumn,
  turnColumn,
  type Arrangement,
  type Column,
} from './columns';

const COLUMNS: Column[] = [
  { key: 'name', title: 'Name', width: 30, isName: true, sort: 'name' },
  { key: 'title', title: 'Job title', width: 20 },
  { key: 'company', title: 'Company', width: 30 },
  { key: 'owner', title: 'Owner', width: 20, isHidden: true },
];
const keys = (kept: Arrangement, columns = COLUMNS): string[] =>
  arranged(columns, kept).map(({ key }) => key);
const total = (kept: Arrangement): number =>
  arranged(COLUMNS, kept).reduce((sum, { width }) => sum + width, 0);

it('a table that nobody arranged stands as the program has it', () =>
  expect(keys({})).toEqual(['name', 'title', 'company']));

it('a column is moved onto the place of another, both ways', () => {
  expect(keys(moveColumn(COLUMNS, {}, 'company', 'name'))).toEqual(['company', 'name', 'title']);
  expect(keys(moveColumn(COLUMNS, {}, 'name', 'company'))).toEqual(['title', 'company', 'name']);
  expect(keys(moveColumn(COLUMNS, {}, 'nothing', 'company'))).toEqual(['name', 'title', 'company']);
});

it('a column is hidden and shown again; the one that names the row stays', () => {
  const without = turnColumn(COLUMNS, {}, 'title');
  expect(keys(without)).toEqual(['name', 'company']);
  expect(keys(turnColumn(COLUMNS, without, 'title'))).toEqual(['name', 'title', 'company']);
  expect(keys(turnColumn(COLUMNS, {}, 'name'))).toContain('name');
  expect(keys(turnColumn(COLUMNS, {}, 'owner'))).toEqual(['name', 'title', 'company', 'owner']);
});

it('one that is left out at first stays out when others are moved', () =>
  expect(keys(moveColumn(COLUMNS, {}, 'company', 'title'))).toEqual(['name', 'company', 'title']));

it('a column that is new in the program stands where the program has it', () => {
  const kept = moveColumn(COLUMNS, {}, 'company', 'name');
  const withPhone = [...COLUMNS.slice(0, 2), { key: 'phone', title: 'Phone', width: 9 }, ...COLUMNS.slice(2)];
  expect(keys(kept, withPhone)).toEqual(['company', 'name', 'title', 'phone']);
  expect(keys({ ...kept, order: ['gone', ...(kept.order ?? [])] })).toEqual(['company', 'name', 'title']);
});

it('whatever is dragged, the table stays as wide as it is and no column vanishes', () =>
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom('name', 'title', 'company'), fc.integer({ min: -90, max: 90 }))),
      (steps) => {
        let kept: Arrangement = {};
        for (const [key, by] of steps) kept = resizeColumn(COLUMNS, kept, key, by);
        expect(total(kept)).toBeCloseTo(total({}));
        expect(Math.min(...arranged(COLUMNS, kept).map(({ width }) => width))).toBeGreaterThanOrEqual(4);
      },
    ),
  ));

it('the first press sorts a column the way it is mostly wanted, the second the other way', () => {
  const amount: Column = { key: 'amount', title: 'Amount', width: 9, sort: 'amount', firstWay: 'desc' };
  const first = nextSort(amount, { sort: 'name', direction: 'asc' });
  expect(first).toEqual({ sort: 'amount', direction: 'desc' });
  expect(nextSort(amount, first)).toEqual({ sort: 'amount', direction: 'asc' });
  expect(nextSort(amount, nextSort(amount, first))).toEqual(first);
});
