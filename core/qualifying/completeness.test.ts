import { COMPANY_PARTS, completenessOf, isFullName, leadCompleteness, PERSON_PARTS } from './completeness';

describe('completeness', () => {
  it('of both kinds of record is out of a hundred points', () => {
    for (const parts of [PERSON_PARTS, COMPANY_PARTS])
      expect(parts.reduce((sum, one) => sum + one.points, 0)).toBe(100);
  });
  it('counts what is there and says what brings most', () => {
    const { score, missing } = completenessOf(PERSON_PARTS, (field) => ['fullName', 'email'].includes(field));
    expect(score).toBe(35);
    expect(missing.map((one) => one.label).slice(0, 3)).toEqual(['Phone', 'Company', 'Job title']);
  });
  it('is all or nothing at its ends', () => {
    expect(completenessOf(COMPANY_PARTS, () => true)).toEqual({ score: 100, missing: [] });
    expect(completenessOf(COMPANY_PARTS, () => false).score).toBe(0);
  });
  it('of a lead is that of its person and its company', () => {
    expect(leadCompleteness(100, 100)).toBe(100);
    expect(leadCompleteness(50, 100)).toBe(70);
    expect(leadCompleteness(100, null)).toBe(60);
  });
  it('takes no single word for a full name', () => {
    expect([isFullName('Ada'), isFullName('Ada Byron'), isFullName(' ')]).toEqual([false, true, false]);
  });
});
