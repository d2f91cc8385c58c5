import { REGISTRY } from './registry/index';
import { runQuery } from './run';
import type { Asking, Filter, PlainRecord, Query } from './types';

const asking: Asking = { now: '2026-11-24T10:00:00Z', zone: 'UTC', me: 'pell', team: ['pell', 'ines'] };
const people: PlainRecord[] = [
  {
    id: 'a',
    fullName: 'Ana',
    standing: 'prospect',
    owner: 'pell',
    lastSpokenTo: '2026-05-31T23:00:00Z',
    tags: ['x', 'y'],
    birthday: '--12-01',
  },
  {
    id: 'b',
    fullName: 'Åke',
    standing: 'customer',
    owner: 'ines',
    lastSpokenTo: '2026-06-01T00:00:00Z',
    tags: ['x'],
    openDealsMinor: 300,
  },
  { id: 'c', fullName: 'Bea', standing: 'prospect', owner: null, tags: [], openDealsMinor: 100 },
  {
    id: 'd',
    fullName: 'Cy',
    standing: 'prospect',
    owner: 'mara',
    lastSpokenTo: '2026-11-24T09:00:00Z',
    inactive: true,
    tags: ['y'],
  },
];
const found = (filter: Filter, more: Partial<Query> = {}): string[] =>
  runQuery({ kind: 'person', filter, ...more }, people, REGISTRY, asking).records.map(({ id }) => id);
const june = { unit: 'month', day: '2026-06-01' } as const;

it.each<[string, Filter, string[]]>([
  ['since June is from its first moment on', { field: 'lastSpokenTo', op: 'since', value: june }, ['b']],
  [
    'not since June is before it, or never',
    { not: { field: 'lastSpokenTo', op: 'since', value: june } },
    ['a', 'c'],
  ],
  ['before June is a time there is', { field: 'lastSpokenTo', op: 'before', value: june }, ['a']],
  ['never', { field: 'lastSpokenTo', op: 'empty' }, ['c']],
  ['is not meets what is not there', { field: 'owner', op: 'isNot', value: ['pell'] }, ['b', 'c']],
  ['me', { field: 'owner', op: 'is', value: ['me'] }, ['a']],
  ['my team', { field: 'owner', op: 'is', value: ['myTeam'] }, ['a', 'b']],
  ['text without case and accents', { field: 'fullName', op: 'startsWith', value: ['ak'] }, ['b']],
  ['all of some tags', { field: 'tags', op: 'hasAll', value: ['x', 'y'] }, ['a']],
  ['none of some tags', { field: 'tags', op: 'hasNone', value: ['x'] }, ['c']],
  ['the inactive only where they are spoken of', { field: 'inactive', op: 'is', value: true }, ['d']],
  [
    'a birthday without a year',
    {
      field: 'birthday',
      op: 'between',
      value: [
        { away: 0, unit: 'day' },
        { away: 14, unit: 'day' },
      ],
    },
    ['a'],
  ],
])('%s', (_, filter, ids) => expect(found(filter)).toEqual(ids));

it('puts what is missing last, whichever way it is sorted', () => {
  const order = (direction: 'asc' | 'desc') =>
    found({ all: [] }, { order: [{ field: 'openDealsMinor', direction }] });
  expect([order('asc'), order('desc')]).toEqual([
    ['c', 'b', 'a'],
    ['b', 'c', 'a'],
  ]);
});

it('adds up by group, of everything first', () => {
  const { totals } = runQuery(
    {
      kind: 'person',
      groups: [{ field: 'standing' }],
      totals: [
        { how: 'sum', field: 'openDealsMinor' },
        { how: 'median', field: 'openDealsMinor' },
      ],
    },
    people,
    REGISTRY,
    asking,
  );
  // Prospects stand before customers, as Settings has them.
  expect(totals).toEqual([
    { keys: [], count: 3, totals: [400, 200] },
    { keys: ['prospect'], count: 2, totals: [100, 100] },
    { keys: ['customer'], count: 1, totals: [300, 300] },
  ]);
});

it('“all” of those that are related wants at least one', () => {
  const firms: PlainRecord[] = [
    { id: 'none', people: [] },
    { id: 'some', people: [people[0] as PlainRecord, people[1] as PlainRecord] },
    { id: 'all', people: [people[0] as PlainRecord] },
  ];
  const where: Filter = { field: 'standing', op: 'is', value: ['prospect'] };
  const ask = (filter: Filter) =>
    runQuery({ kind: 'company', filter }, firms, REGISTRY, asking).records.map(({ id }) => id);
  expect(ask({ relation: 'people', has: 'all', where })).toEqual(['all']);
  expect(ask({ relation: 'people', has: 'none', where })).toEqual(['none']);
  expect(ask({ relation: 'people', count: { op: 'atMost', value: 1 }, where })).toEqual([
    'all',
    'none',
    'some',
  ]);
  expect(ask({ relation: 'people', count: { op: 'is', value: 1 } })).toEqual(['all']);
});
