import { caseState, type CaseFacts } from './cases';
import { progressOf, soldInWords } from './projects';

const FACTS: CaseFacts = {
  answerBy: '2026-11-26T12:00:00Z',
  solveBy: '2026-11-30T12:00:00Z',
  answeredAt: null,
  turn: 'ours',
  solvedAt: null,
};
it.each([
  [{}, '2026-11-26T11:00:00Z', { state: 'new', dueAt: FACTS.answerBy, late: null }],
  [{}, '2026-11-26T12:00:01Z', { state: 'new', dueAt: FACTS.answerBy, late: 'answer' }],
  [
    { answeredAt: '2026-11-26T11:00:00Z', turn: 'theirs' },
    '2026-11-27T11:00:00Z',
    { state: 'theirs', dueAt: FACTS.solveBy, late: null },
  ],
  [
    { answeredAt: '2026-11-26T11:00:00Z', turn: 'ours' },
    '2026-12-01T11:00:00Z',
    { state: 'ours', dueAt: FACTS.solveBy, late: 'solution' },
  ],
  [
    { solvedAt: '2026-11-29T11:00:00Z' },
    '2026-12-09T11:00:00Z',
    { state: 'solved', dueAt: null, late: null },
  ],
  [
    { solvedAt: '2026-12-02T11:00:00+01:00' },
    '2026-12-09T11:00:00Z',
    { state: 'solved', dueAt: null, late: 'solution' },
  ],
  [
    { answeredAt: '2026-11-26T11:00:00Z', turn: 'nobody' },
    '2026-11-27T11:00:00Z',
    { state: 'answered', dueAt: FACTS.solveBy, late: null },
  ],
] as const)('a case of %j stands at %s as %j', (over, now, state) =>
  expect(caseState({ ...FACTS, ...over }, now)).toEqual(state),
);

it.each([
  [{ kind: 'open', byHand: null, tasks: 3, tasksDone: 2 }, 66],
  [{ kind: 'open', byHand: 10, tasks: 3, tasksDone: 2 }, 10],
  [{ kind: 'open', byHand: null, tasks: 0, tasksDone: 0 }, null],
  [{ kind: 'done', byHand: 10, tasks: 3, tasksDone: 2 }, 100],
  [{ kind: 'stopped', byHand: null, tasks: 4, tasksDone: 1 }, 25],
] as const)('%j is so far: %s', (project, far) => expect(progressOf(project)).toBe(far));

it('what was sold is told in words', () =>
  expect(
    soldInWords([
      { name: 'Long bike', quantity: 8 },
      { name: 'Service plan', quantity: 1 },
    ]),
  ).toBe('8 × Long bike\n1 × Service plan'));
