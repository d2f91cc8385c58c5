import { companyKey } from '../../people/companies';
import { fold } from '../../people/text';
import type { Tagged } from '../tagger/tag';
import type { Claim } from '../types';

/**
 * How often a name, firm or title is right, by who finds it: the rules and the model the same (and less where the model is not
 * sure), both but not the same (then it is the model's), the model alone from each likelihood on, the rules alone. Shares of the fitting part of the labelled notes.
 */
const SHARES = { both: 0.97, bothUnsure: 0.88, model: 0.75, rules: 0.55 };
/** From here on the model is as good as sure. */
const SURE = 0.9;
const ALONE: readonly (readonly [likelihood: number, share: number])[] = [
  [0.97, 0.88],
  [0.7, 0.8],
  [0.5, 0.65],
];

const isSame = (claim: Claim, tagged: Tagged): boolean =>
  claim.field === 'companyName'
    ? companyKey(claim.value) === companyKey(tagged.value)
    : fold(claim.value) === fold(tagged.value);

const claimOf = ({ field, value, start, end }: Tagged, confidence: number): Claim => ({
  field,
  value,
  confidence,
  span: { part: 'text', start, end },
  source: 'the note',
});

/** What the rules found of somebody in a note, and what the model did, put together. */
export function agreed(claims: readonly Claim[], tagged: readonly Tagged[]): Claim[] {
  const found = claims.map((claim): Claim => {
    const other = tagged.find(({ field }) => field === claim.field);
    if (!other) return { ...claim, confidence: Math.min(claim.confidence, SHARES.rules) };
    if (isSame(claim, other))
      return { ...claim, confidence: other.likelihood >= SURE ? SHARES.both : SHARES.bothUnsure };
    return claimOf(other, Math.min(SHARES.model, other.likelihood));
  });
  const more = tagged.flatMap((one) => {
    if (claims.some(({ field }) => field === one.field)) return [];
    const share = ALONE.find(([from]) => one.likelihood >= from)?.[1];
    return share === undefined ? [] : [claimOf(one, share)];
  });
  return [...found, ...more];
}
