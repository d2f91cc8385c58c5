import { FIT_FIELDS, type FitFacts } from '../qualifying/fit';
import { fairness, ownerBy, type OwnerRule } from './owners';

const facts = (over: Partial<FitFacts> = {}): FitFacts => ({
  ...(Object.fromEntries(Object.keys(FIT_FIELDS).map((field) => [field, null])) as FitFacts),
  ...over,
});
const rules: OwnerRule[] = [
  { id: 'north', when: { field: 'country', condition: 'is', value: 'SE, NO' }, owners: ['ines'] },
  {
    id: 'large',
    when: { field: 'employees', condition: 'at least', value: '100' },
    owners: ['mara', 'gone'],
  },
  { id: 'rest', when: null, owners: ['pell', 'ines'] },
];
const all = new Set(['pell', 'ines', 'mara']);

describe('the owner of a new lead', () => {
  it('is by the first rule that holds: country, size, then the rest', () => {
    const of = (over: Partial<FitFacts>) => ownerBy(rules, facts(over), all, new Map())?.ownerId;
    expect(of({ country: 'NO', employees: 500 })).toBe('ines');
    expect(of({ country: 'GB', employees: 500 })).toBe('mara');
    expect(of({})).toBe('pell');
  });
  it('goes round among several: whoever waited longest', () => {
    const last = new Map([
      ['pell', '2026-11-24T10:00:00Z'],
      ['ines', '2026-11-23T10:00:00Z'],
    ]);
    expect(ownerBy(rules, facts(), all, last)?.ownerId).toBe('ines');
    last.set('ines', '2026-11-25T10:00:00Z');
    expect(ownerBy(rules, facts(), all, last)?.ownerId).toBe('pell');
  });
  it('is never somebody who is not there, and nobody’s where no rule says', () => {
    expect(ownerBy(rules, facts({ employees: 500 }), new Set(['pell']), new Map())).toEqual({
      ruleId: 'rest',
      ownerId: 'pell',
    });
    expect(ownerBy(rules, facts(), new Set(), new Map())).toBeNull();
    expect(ownerBy([], facts(), all, new Map())).toBeNull();
  });
});

describe('fairness', () => {
  // Jain, Chiu & Hawe 1984: equal shares give 1, one of n alone gives 1/n, and k of n equally give k/n.
  it.each([
    [[5, 5, 5, 5], 1],
    [[7, 0, 0, 0], 0.25],
    [[3, 3, 0, 0], 0.5],
    [[1, 2, 3], 36 / 42],
    [[0, 0], 1],
  ])('of %j is %d', (counts, index) => expect(fairness(counts)).toBeCloseTo(index));
});
