import { fitOf, type FitFacts, type FitRule } from '../qualifying/fit';

/** Who gets a new lead: the first rule that holds says who, and among several it goes round. */
export interface OwnerRule {
  id: string;
  /** Null for the rule of all the rest. */
  when: Pick<FitRule, 'field' | 'condition' | 'value'> | null;
  /** User ids. */
  owners: readonly string[];
}

/** When each was last given a lead, ISO 8601; nobody who never was. */
export type LastGiven = ReadonlyMap<string, string>;

/**
 * The owner of a new lead by the rules. Among the owners of the rule it is whoever was given a lead longest ago, those
 * who never were first, in their order on the rule (round robin).
 * @param able who may be given leads now
 * @returns the rule and its owner; null when no rule holds or none of its owners is able
 */
export function ownerBy(
  rules: readonly OwnerRule[],
  facts: FitFacts,
  able: ReadonlySet<string>,
  last: LastGiven,
): { ruleId: string; ownerId: string } | null {
  for (const rule of rules) {
    const holds =
      !rule.when || fitOf([{ ...rule.when, id: rule.id, points: 1 }], facts).parts[0]?.outcome === 'holds';
    const owners = rule.owners.filter((owner) => able.has(owner));
    if (!holds || !owners.length) continue;
    const given = (id: string): string => last.get(id) ?? '';
    const ownerId = owners.reduce((best, one) => (given(one) < given(best) ? one : best));
    return { ruleId: rule.id, ownerId };
  }
  return null;
}

/**
 * How evenly leads went to people: (Σx)² / (n · Σx²), 1 when all got as many, 1/n when one got all.
 * Source: Jain, Chiu & Hawe, "A Quantitative Measure of Fairness …", DEC-TR-301, 1984.
 */
export function fairness(counts: readonly number[]): number {
  const sum = counts.reduce((total, one) => total + one, 0);
  const squares = counts.reduce((total, one) => total + one * one, 0);
  return squares === 0 ? 1 : (sum * sum) / (counts.length * squares);
}
