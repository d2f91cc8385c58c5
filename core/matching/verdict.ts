import {
  compareCompanyFacts,
  comparePeople,
  type CompanyFacts,
  type PersonFacts,
  type Reason,
} from './evidence';

export interface Candidate<Facts> {
  id: string;
  label: string;
  facts: Facts;
}

export interface Match {
  id: string;
  label: string;
  /** 0 to 1. */
  probability: number;
  reasons: Reason[];
}

export interface Verdict {
  kind: 'same' | 'maybe' | 'new';
  /** The likeliest first; empty when new. */
  matches: Match[];
}

/** Prior log2 odds that a candidate found by a shared key is the one: about one in a thousand. */
const PRIOR_BITS = -10;
const SAME_FROM = 0.98;
const MAYBE_FROM = 0.1;

/** Probability from summed weights (Fellegi & Sunter 1969, by Bayes' rule). */
export const toProbability = (bits: number): number => 1 / (1 + 2 ** -bits);

function decide<Facts>(
  facts: Facts,
  candidates: readonly Candidate<Facts>[],
  compare: (a: Facts, b: Facts) => Reason[],
): Verdict {
  const matches = candidates
    .map(({ id, label, facts: theirs }) => {
      const reasons = compare(facts, theirs);
      return {
        id,
        label,
        reasons,
        probability: toProbability(PRIOR_BITS + reasons.reduce((sum, one) => sum + one.bits, 0)),
      };
    })
    .filter((match) => match.probability >= MAYBE_FROM)
    .sort((a, b) => b.probability - a.probability);
  const [first, second] = matches;
  if (!first) return { kind: 'new', matches: [] };
  const clear =
    first.probability >= SAME_FROM &&
    (!second || second.probability < SAME_FROM || second.probability < first.probability * 0.999);
  return { kind: clear ? 'same' : 'maybe', matches: matches.slice(0, 5) };
}

/** Same, maybe or new: a person read from a capture against people who share a key with them. */
export const decidePerson = (facts: PersonFacts, candidates: readonly Candidate<PersonFacts>[]): Verdict =>
  decide(facts, candidates, comparePeople);

/** The same for the company. */
export const decideCompany = (facts: CompanyFacts, candidates: readonly Candidate<CompanyFacts>[]): Verdict =>
  decide(facts, candidates, compareCompanyFacts);
