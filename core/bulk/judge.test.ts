import { describeSteps } from './describe';
import { judge, judgeUndo } from './judge';
import type { BulkRecord, Named, Step } from './types';

const NAMED: Named = {
  called: (id) => ({ i: 'Ines', p: 'Pell', l: 'Spring', t: 'Talking', o: 'Offer' })[id] ?? 'nobody',
  term: (key) =>
    ({
      ...Object.fromEntries(
        ['stranger', 'prospect', 'customer', 'new', 'working', 'qualified', 'parked', 'dropped', 'firm'].map(
          (each) => [each, { countsAs: each, own: null, name: each }],
        ),
      ),
      hot: { countsAs: 'prospect', own: 'hot', name: 'Hot prospect' },
      later: { countsAs: 'parked', own: 'later', name: 'Next season' },
      council: { countsAs: 'firm', own: 'council', name: 'Council' },
    })[key] ?? null,
  label: (key) => ({ route: 'Route' })[key] ?? key,
  decidesSight: (ownerId) => ownerId !== 'i',
  stage: (id) =>
    ({
      t: { kind: 'open' as const, pipelineId: 'a', probability: 20 },
      o: { kind: 'open' as const, pipelineId: 'a', probability: 60 },
      w: { kind: 'won' as const, pipelineId: 'a', probability: 100 },
      x: { kind: 'open' as const, pipelineId: 'b', probability: 10 },
    })[id] ?? null,
  now: '2026-11-29T10:00:00.000Z',
};
const RECORD: BulkRecord = { id: '1', name: 'Ann', ownerId: 'p' };
const verdict = (steps: readonly Step[], record: Partial<BulkRecord> = {}) =>
  judge({ ...RECORD, ...record }, steps, NAMED);

it.each<[Step, Partial<BulkRecord>, object]>([
  [{ do: 'owner', to: 'i' }, {}, { patch: { ownerId: 'i' }, said: 'Owner: Pell → Ines' }],
  [{ do: 'owner', to: null }, {}, { patch: { ownerId: null }, said: 'Owner: Pell → nobody' }],
  [{ do: 'standing', to: 'customer' }, {}, { patch: { standing: 'customer', standingTerm: null } }],
  [
    { do: 'standing', to: 'hot' },
    { standing: 'prospect' },
    { patch: { standing: 'prospect', standingTerm: 'hot' }, said: 'Standing: prospect → Hot prospect' },
  ],
  [
    { do: 'standing', to: 'prospect' },
    { standing: 'prospect', standingTerm: 'hot' },
    { patch: { standing: 'prospect', standingTerm: null }, said: 'Standing: Hot prospect → prospect' },
  ],
  [
    { do: 'reterm', from: 'hot', to: 'prospect' },
    { standing: 'prospect', standingTerm: 'hot' },
    { patch: { standingTerm: null } },
  ],
  [
    { do: 'kind', to: 'council' },
    { kind: 'firm' },
    { patch: { kind: 'firm', kindTerm: 'council' }, said: 'Kind: firm → Council' },
  ],
  [
    { do: 'status', to: 'later', parkedUntil: '2027-03-01' },
    { status: 'parked', parkedFrom: 'qualified', parkedUntil: '2026-12-24' },
    { patch: { status: 'parked', statusTerm: 'later', parkedUntil: '2027-03-01', parkedFrom: 'qualified' } },
  ],
  [
    { do: 'visible', to: 'team', only: ['l'] },
    {},
    { patch: { visibility: 'team', visibleTo: ['l'] }, said: 'Visible to Spring' },
  ],
  [
    { do: 'visible', to: 'everybody' },
    { visibility: 'named', visibleTo: ['i', 'p'] },
    { patch: { visibility: 'everybody', visibleTo: [] }, said: 'Visible to everybody' },
  ],
  [{ do: 'erase', note: '' }, {}, { erases: true, patch: {}, said: 'Erased' }],
  [
    { do: 'tag', tags: ['Fair', 'new'] },
    { tags: ['fair'] },
    { patch: { tags: ['fair', 'new'] }, said: 'Tagged “new”' },
  ],
  [
    { do: 'untag', tags: ['FAIR'] },
    { tags: ['Fair', 'b'] },
    { patch: { tags: ['b'] }, said: 'Tag removed: “Fair”' },
  ],
  [
    { do: 'field', key: 'route', to: 'north' },
    { custom: { a: '1' } },
    { patch: { custom: { a: '1', route: 'north' } } },
  ],
  [
    { do: 'field', key: 'route', to: '' },
    { custom: { route: 's' } },
    { patch: { custom: {} }, said: 'Route: s → nothing' },
  ],
  [{ do: 'active', to: false }, {}, { patch: { inactiveSince: NAMED.now }, said: 'Inactive' }],
  [{ do: 'active', to: true }, { inactiveSince: NAMED.now }, { patch: { inactiveSince: null } }],
  [{ do: 'stage', to: 'o' }, { stageId: 't', probability: 20 }, { patch: { stageId: 'o', probability: 60 } }],
  [
    { do: 'stage', to: 'o' },
    { stageId: 't', probability: 35, probabilityByHand: true },
    { patch: { stageId: 'o', probability: 35 } },
  ],
  [{ do: 'list', to: 'l' }, {}, { additions: [{ add: 'list', to: 'l' }], patch: {} }],
  [{ do: 'unlist', to: 'l' }, { on: new Set(['l']) }, { leaves: ['l'] }],
  [
    { do: 'status', to: 'parked', parkedUntil: '2026-12-24' },
    { status: 'qualified' },
    { patch: { status: 'parked', parkedFrom: 'qualified', parkedUntil: '2026-12-24', dropReason: null } },
  ],
  [
    { do: 'status', to: 'parked', parkedUntil: '2027-01-07' },
    { status: 'parked', parkedUntil: '2026-12-24' },
    { said: 'Parked until 2027-01-07' },
  ],
])('%j changes what is otherwise', (step, record, expected) => {
  expect(verdict([step], record)).toMatchObject({ will: 'change', ...expected });
});

it.each<[Step, Partial<BulkRecord>]>([
  [{ do: 'owner', to: 'p' }, {}],
  [{ do: 'tag', tags: ['FAIR'] }, { tags: ['fair'] }],
  [{ do: 'untag', tags: ['x'] }, { tags: ['fair'] }],
  [{ do: 'field', key: 'route', to: '' }, {}],
  [{ do: 'list', to: 'l' }, { on: new Set(['l']) }],
  [{ do: 'unlist', to: 'l' }, {}],
  [{ do: 'active', to: true }, {}],
  [{ do: 'status', to: 'working' }, { status: 'working' }],
  [
    { do: 'standing', to: 'hot' },
    { standing: 'prospect', standingTerm: 'hot' },
  ],
  [{ do: 'reterm', from: 'hot', to: 'prospect' }, { standing: 'prospect' }],
])('%j leaves what is so already', (step, record) => {
  expect(verdict([step], record)).toEqual({ will: 'stay' });
});

it.each<[Step, Partial<BulkRecord>, string]>([
  [
    { do: 'status', to: 'new' },
    { status: 'converted' },
    'This lead is converted; undo the conversion first.',
  ],
  [{ do: 'status', to: 'dropped' }, { status: 'new' }, 'A dropped lead needs a reason.'],
  [{ do: 'status', to: 'later' }, { status: 'new' }, 'A parked lead needs the day it comes back.'],
  [{ do: 'standing', to: 'gone' }, {}, 'What it is to be is no longer on the list.'],
  [{ do: 'stage', to: 'o' }, { stageId: 'w' }, 'The deal is closed.'],
  [{ do: 'stage', to: 'o' }, { stageId: 'x' }, 'The deal is in another pipeline.'],
])('%j cannot be taken, and no other step with it', (step, record, why) => {
  expect(verdict([{ do: 'important', to: true }, step], record)).toEqual({ will: 'refuse', why });
});

it('takes steps one after the other, each on what the one before left', () => {
  const steps: Step[] = [
    { do: 'tag', tags: ['fair', 'spring'] },
    { do: 'untag', tags: ['fair'] },
    { do: 'owner', to: 'p' },
  ];
  expect(verdict(steps)).toMatchObject({
    patch: { tags: ['spring'] },
    said: 'Tagged “fair”, “spring” · Tag removed: “fair”',
  });
  expect(describeSteps([...steps, { do: 'next move', title: 'Call', due: '2026-12-01' }], NAMED)).toBe(
    'tag “fair”, “spring”, tag “fair” removed, owner to Pell, next move “Call”',
  );
});

it.each([
  [
    'what still is as it was left goes back',
    { a: 2 },
    { a: 1 },
    { a: 2 },
    { patch: { a: 1 }, isKept: false },
  ],
  ['what was changed since stays', { a: 3 }, { a: 1 }, { a: 2 }, { patch: {}, isKept: true }],
  [
    'tags given since stay',
    { tags: ['x', 'fair', 'own'] },
    { tags: ['x'] },
    { tags: ['x', 'fair'] },
    { patch: { tags: ['x', 'own'] }, isKept: false },
  ],
  [
    'a tag taken away comes back once',
    { tags: ['own'] },
    { tags: ['fair', 'x'] },
    { tags: ['x'] },
    { patch: { tags: ['own', 'fair'] }, isKept: false },
  ],
  [
    'another field stays, a changed one too',
    { custom: { a: '9', b: '2', c: '3' } },
    { custom: { a: '1' } },
    { custom: { a: '2', b: '2' } },
    { patch: { custom: { a: '9', c: '3' } }, isKept: true },
  ],
])('of a change that is undone: %s', (_name, now, before, after, expected) => {
  expect(judgeUndo(now, before, after)).toEqual(expected);
});

it.each<[Step, Partial<BulkRecord>, object]>([
  [{ do: 'visible', to: 'everybody' }, {}, { will: 'stay' }],
  [
    { do: 'visible', to: 'named', only: ['p', 'i'] },
    { visibility: 'named', visibleTo: ['i', 'p'] },
    { will: 'stay' },
  ],
  [
    { do: 'visible', to: 'owner' },
    { ownerId: 'i' },
    { will: 'refuse', why: 'Only its owner, a manager or an admin decides who sees it.' },
  ],
  [{ do: 'visible', to: 'owner' }, { ownerId: null }, { will: 'refuse', why: 'Nobody owns it yet.' }],
])('who sees a record is decided by whose it is: %j', (step, record, wanted) =>
  expect(verdict([step], record)).toEqual(wanted),
);
