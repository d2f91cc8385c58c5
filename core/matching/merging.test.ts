import fc from 'fast-check';
import {
  belongsTo,
  factsPrint,
  nearerStanding,
  proposeSurvivor,
  proposeValue,
  whyProposed,
  type Held,
} from './merging';

const held = (recordId: string, over: Partial<Held> = {}): Held => ({
  recordId,
  value: recordId,
  confidence: 0.95,
  byHand: false,
  at: '2026-03-01T00:00:00Z',
  ...over,
});

describe('the value that stays', () => {
  it('is verified rather than guessed, even when it is older', () =>
    expect(proposeValue([held('guess', { confidence: 0.6, at: '2026-11-01T00:00:00Z' }), held('sure')])).toBe(
      'sure',
    ));
  it('is what a hand wrote rather than what a machine read', () =>
    expect(proposeValue([held('read', { at: '2026-11-01T00:00:00Z' }), held('hand', { byHand: true })])).toBe(
      'hand',
    ));
  it('is the newer of two that are worth the same', () =>
    expect(proposeValue([held('old'), held('new', { at: '2026-11-01T00:00:00Z' })])).toBe('new'));
  it('is never nothing while one of them says something', () => {
    expect(
      proposeValue([held('blank', { value: null, byHand: true }), held('said', { confidence: 0.1 })]),
    ).toBe('said');
    expect(proposeValue([held('blank', { value: null })])).toBeNull();
  });
  it('is the same whatever the order of the records', () => {
    const any = fc.array(
      fc.record({
        recordId: fc.uuid(),
        value: fc.option(fc.string({ minLength: 1 })),
        confidence: fc.option(fc.double({ min: 0, max: 1, noNaN: true })),
        byHand: fc.boolean(),
        at: fc.constantFrom('2026-01-01', '2026-05-01', '2026-11-01'),
      }),
      { minLength: 1, maxLength: 6 },
    );
    fc.assert(
      fc.property(any, (values) => expect(proposeValue([...values].reverse())).toBe(proposeValue(values))),
    );
  });
  it('comes with its reason', () => {
    const [guess, sure] = [held('a', { confidence: 0.5 }), held('b')];
    expect(whyProposed([guess, sure], 'b')).toBe('verified');
    expect(whyProposed([held('a', { byHand: true }), sure], 'a')).toBe('entered by hand');
    expect(whyProposed([held('a', { at: '2026-10-01' }), sure], 'a')).toBe('newer');
    expect(whyProposed([held('a', { value: 'x' }), held('b', { value: 'x' })], 'a')).toBe('the same in both');
    expect(whyProposed([held('a', { value: null }), sure], 'b')).toBe('');
  });
});

it('keeps the id that more hangs on, then the one known longer', () => {
  const records = [
    { id: 'a', work: 2, since: '2026-01-01' },
    { id: 'b', work: 5, since: '2026-06-01' },
    { id: 'c', work: 5, since: '2026-03-01' },
  ];
  expect(proposeSurvivor(records)).toBe('c');
  expect(proposeSurvivor([])).toBe('');
});

it('keeps the nearer standing', () => {
  expect(nearerStanding(['stranger', 'prospect'])).toBe('prospect');
  expect(nearerStanding(['customer', 'past customer'])).toBe('customer');
  expect(nearerStanding([])).toBe('stranger');
});

it('notices changed facts and nothing else', () => {
  const facts = { name: 'duarte ines', keys: ['email:a@b.example', 'phone:+351910555014'] };
  expect(factsPrint({ ...facts, keys: [...facts.keys].reverse() })).toBe(factsPrint(facts));
  expect(factsPrint({ ...facts, keys: facts.keys.slice(1) })).not.toBe(factsPrint(facts));
});

it('tells whose something is by the address it came from, and asks when it cannot', () => {
  const [ours, theirs] = [['ines@padariasol.example'], ['ines@freemail.example']];
  expect(belongsTo(['ines@freemail.example'], ours, theirs)).toBe('merged');
  expect(belongsTo(['ines@padariasol.example'], ours, theirs)).toBe('survivor');
  expect(belongsTo([], ours, theirs)).toBe('ask');
  expect(belongsTo([...ours, ...theirs], ours, theirs)).toBe('ask');
});
