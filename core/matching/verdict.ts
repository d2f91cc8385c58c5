import { comparePeople, type PersonFacts, type Reason, type Scales } from './evidence';
import { compareCompanyFacts, type CompanyFacts } from './firms';
import { NamesAtHand } from './names';
import { DEFAULT_WEIGHTS, forBook, type Weights } from './weights';

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

const SAME_FROM = 0.98;
const MAYBE_FROM = 0.1;

/** Probability from summed weights (Fellegi & Sunter 1969, by Bayes' rule). */
export const toProbability = (bits: number): number => 1 / (1 + 2 ** -bits);

function decide<Facts>(
  facts: Facts,
  candidates: readonly Candidate<Facts>[],
  prior: number,
  compare: (a: Facts, b: Facts) => Reason[],
): Verdict {
  const matches = candidates
    .map(({ id, label, facts: theirs }) => {
      const reasons = compare(facts, theirs);
      return {
        id,
        label,
        reasons,
        probability: toProbability(prior + reasons.reduce((sum, one) => sum + one.bits, 0)),
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

/** The book a verdict is given against. */
export interface Book {
  weights?: Weights;
  /** How many records there are. */
  records: number;
  /** How many have the name that was read; null where nobody counted. */
  namesakes?: number | null;
}
const SMALL: Book = { records: DEFAULT_WEIGHTS.records };

/** What is weighed with in a book, and the log2 odds that any one record of it is the one. */
export function scalesOf({ weights = DEFAULT_WEIGHTS, records, namesakes = null }: Book): {
  scales: Scales;
  prior: number;
} {
  const { bits, prior } = forBook(weights, records);
  return { scales: { bits, records: Math.max(records, DEFAULT_WEIGHTS.records), namesakes }, prior };
}

/**
 * Same, maybe or new: a person read from a capture against people who share a key with them.
 * @param book what they are found in; the larger it is, the more it takes
 */
export function decidePerson(
  facts: PersonFacts,
  candidates: readonly Candidate<PersonFacts>[],
  book: Book = SMALL,
): Verdict {
  const { scales, prior } = scalesOf(book);
  const names = new NamesAtHand([facts.fullName, ...candidates.map((one) => one.facts.fullName)]);
  return decide(facts, candidates, prior, (a, b) => comparePeople(a, b, { ...scales, names }));
}

/** The same for the company. */
export function decideCompany(
  facts: CompanyFacts,
  candidates: readonly Candidate<CompanyFacts>[],
  book: Book = SMALL,
): Verdict {
  const { scales, prior } = scalesOf(book);
  return decide(facts, candidates, prior, (a, b) => compareCompanyFacts(a, b, scales));
}
