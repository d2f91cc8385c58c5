import fc from 'fast-check';
import { proposeDeal, proposeRole } from './conversion';
import { addUpSums, daysInStage, moveDeal } from './deals';
import { isOpenLead, LEAD_STATUSES, nextStatuses, statusProblem } from './statuses';

describe('lead statuses', () => {
  it('let nothing but an undo out of converted, and nothing but a conversion in', () => {
    expect(nextStatuses('converted')).toEqual([]);
    for (const from of LEAD_STATUSES) expect(nextStatuses(from)).not.toContain('converted');
  });
  it('offer exactly what they accept', () => {
    fc.assert(
      fc.property(fc.constantFrom(...LEAD_STATUSES), fc.constantFrom(...LEAD_STATUSES), (from, to) => {
        const problem = statusProblem(from, to, { parkedUntil: '2027-01-01', dropReason: 'too far' });
        expect(problem === null).toBe(from === to || nextStatuses(from).includes(to));
      }),
    );
  });
  it('ask for the day of a parked lead and the reason of a dropped one', () => {
    expect(statusProblem('new', 'parked', {})).toMatch(/day it comes back/);
    expect(statusProblem('new', 'dropped', { dropReason: ' ' })).toMatch(/reason/);
  });
  it('know which leads want work', () =>
    expect(LEAD_STATUSES.filter(isOpenLead)).toEqual(['new', 'working', 'qualified']));
});

describe('a proposed deal', () => {
  const quantity = (count: number, of: string, confidence: number) => ({
    kind: 'quantity' as const,
    value: { count, of },
    confidence,
  });
  const money = {
    kind: 'money' as const,
    value: { minor: 4_000_000, currency: 'GBP', approximate: true },
    confidence: 0.96,
  };
  it('has the wish as title, the sum as amount and the last date named', () => {
    const when = (at: string) => ({ kind: 'date' as const, value: { at, allDay: true }, confidence: 0.9 });
    expect(
      proposeDeal(
        [quantity(8, 'long bikes', 0.92), money, when('2026-11-26T00:00:00Z'), when('2027-03-01T00:00:00Z')],
        'Padaria Sol',
        'Ines',
        'EUR',
      ),
    ).toEqual({
      title: 'Padaria Sol, 8 long bikes',
      amountMinor: 4_000_000,
      currency: 'GBP',
      expectedClose: '2027-03-01',
    });
  });
  it('does not take for a wish what is only mentioned', () =>
    expect(proposeDeal([quantity(9, 'vans', 0.8)], 'Padaria Sol', 'Ines', 'EUR')).toEqual({
      title: 'Padaria Sol',
      amountMinor: null,
      currency: 'EUR',
      expectedClose: null,
    }));
});

describe('a deal', () => {
  it('takes the usual probability of its stage along, unless a hand set another (common practice)', () => {
    expect(
      moveDeal({ stageId: 'a', probability: 15, probabilityByHand: false }, { id: 'b', probability: 55 }),
    ).toEqual({ stageId: 'b', probability: 55, probabilityByHand: false });
    expect(
      moveDeal({ stageId: 'a', probability: 70, probabilityByHand: true }, { id: 'b', probability: 55 })
        .probability,
    ).toBe(70);
  });
  it('counts whole days', () => {
    expect(daysInStage('2026-11-20T12:00:00Z', '2026-11-24T11:59:00Z')).toBe(3);
    expect(daysInStage('2026-11-25T00:00:00Z', '2026-11-24T00:00:00Z')).toBe(0);
  });
  it('is summed by currency and in that of the house, in whole minor units', () => {
    const sums = [
      { currency: 'EUR', deals: 1, plain: 101, weighted: 101 * 50 },
      { currency: 'EUR', deals: 1, plain: 0, weighted: 0 },
      { currency: 'GBP', deals: 2, plain: 200, weighted: 200 * 10 },
      { currency: 'CHF', deals: 1, plain: 5, weighted: 5 * 10 },
      { currency: 'NOK', deals: 1, plain: 0, weighted: 0 },
    ];
    const convert = (minor: number, currency: string) =>
      ({ EUR: minor, GBP: minor * 2, CHF: null })[currency] ?? null;
    expect(addUpSums(sums, 'EUR', convert)).toEqual({
      count: 6,
      sums: [
        { currency: 'EUR', plain: 101, weighted: 51 },
        { currency: 'GBP', plain: 200, weighted: 20 },
        { currency: 'CHF', plain: 5, weighted: 1 },
        { currency: 'NOK', plain: 0, weighted: 0 },
      ],
      total: { plain: 501, weighted: 91, currency: 'EUR', missing: ['CHF'] },
    });
    expect(addUpSums([], 'EUR', convert).total).toEqual({
      plain: 0,
      weighted: 0,
      currency: 'EUR',
      missing: [],
    });
  });
});

describe('a part in a deal', () => {
  it.each([
    ['Owner', 'decides'],
    ['Managing Director', 'decides'],
    ['Geschäftsführerin', 'decides'],
    ['Gerente', 'decides'],
    ['Head of Finance', 'pays'],
    ['CFO', 'pays'],
    ['Accounts Payable Clerk', 'pays'],
    ['Assistant to the Managing Director', 'gatekeeper'],
    ['Office Manager', 'gatekeeper'],
    ['Courier', 'uses'],
    ['Workshop Technician', 'uses'],
    ['Botanist', 'influences'],
    ['', 'influences'],
    [null, 'influences'],
  ] as const)('of “%s” is proposed as “%s” (common practice)', (title, role) =>
    expect(proposeRole(title, false)).toBe(role),
  );
  it('of whoever brought the lead is to decide, unless the title says otherwise', () =>
    expect([proposeRole('Botanist', true), proposeRole('Head of Finance', true)]).toEqual([
      'decides',
      'pays',
    ]));
});
