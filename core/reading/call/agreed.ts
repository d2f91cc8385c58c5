import { companyKey } from '../../people/companies';
import { looksLikeName } from '../../people/names';
import { fold } from '../../people/text';
import { givenName } from '../lexicon/names';
import type { Tagged } from '../tagger/tag';
import type { Claim } from '../types';

/**
 * How often a name, firm or title is right, by who finds it: the rules and the model the same (and less where the model is not
 * sure), both but not the same (then it is the model's), the model alone from each likelihood on, the rules alone. Shares of the fitting part of the labelled notes.
 */
const SHARES = { both: 0.985, bothUnsure: 0.89, model: 0.77, rules: 0.55 };
/** From here on the model is as good as sure. */
const SURE = 0.9;
const ALONE: readonly (readonly [likelihood: number, share: number])[] = [
  [0.97, 0.89],
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
  const kept = claims.filter((claim) => !isSomethingElse(claim, tagged));
  const found = kept.map((claim): Claim => {
    const other = tagged.find(({ field }) => field === claim.field);
    if (!other) return { ...claim, confidence: Math.min(claim.confidence, SHARES.rules) };
    if (isSame(claim, other))
      return { ...claim, confidence: other.likelihood >= SURE ? SHARES.both : SHARES.bothUnsure };
    return claimOf(other, Math.min(SHARES.model, other.likelihood));
  });
  const more = tagged.flatMap((one) => {
    if (kept.some(({ field }) => field === one.field)) return [];
    const share = ALONE.find(([from]) => one.likelihood >= from)?.[1];
    return share === undefined ? [] : [claimOf(one, share)];
  });
  return [...found, ...nameInPlaceOfFirm(claims, tagged), ...more];
}

const overlaps = ({ span }: Claim, { start, end }: Tagged): boolean =>
  span !== undefined && span.start < end && start < span.end;

/** Whether the model is as good as sure that these words are something else than the rules take them for. */
const isSomethingElse = (claim: Claim, tagged: readonly Tagged[]): boolean =>
  tagged.some((one) => one.field !== claim.field && one.likelihood >= SURE && overlaps(claim, one));

/** "Eisdiele Venezia (Marco Bianchi)": a name that the rules took for the firm, where the model sees the firm elsewhere and no name. */
function nameInPlaceOfFirm(claims: readonly Claim[], tagged: readonly Tagged[]): Claim[] {
  const firm = claims.find(({ field }) => field === 'companyName');
  const isNamed =
    tagged.some(({ field }) => field === 'fullName') ||
    claims.some((claim) => claim.field === 'fullName' && !isSomethingElse(claim, tagged));
  const isFirmElsewhere = tagged.some(
    (one) => one.field === 'companyName' && one.likelihood >= SURE && firm && !overlaps(firm, one),
  );
  return firm && !isNamed && isFirmElsewhere && looksLikeName(firm.value) && givenName(firm.value) > 0
    ? [{ ...firm, field: 'fullName', confidence: SHARES.model }]
    : [];
}
