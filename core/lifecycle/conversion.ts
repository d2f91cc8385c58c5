import type { Intent } from '../reading/types';

/** What a deal is called while nothing says what it is about. */
export const UNNAMED_DEAL = 'New deal';

export interface DealProposal {
  title: string;
  /** Minor units; null when nothing was read. */
  amountMinor: number | null;
  currency: string;
  /** ISO date (YYYY-MM-DD) the deal is expected to close; null when nothing was read. */
  expectedClose: string | null;
}

/** From which confidence a quantity counts as wanted and not only mentioned ("a bakery with nine vans"). */
const WANTED_FROM = 0.9;

/** What a rep proposes for the deal: the wish as its title, the sum as its amount, the last date named as its date. */
export function proposeDeal(
  intents: readonly Pick<Intent, 'kind' | 'value' | 'confidence'>[],
  companyName: string,
  personName: string,
  currency: string,
): DealProposal {
  const of = <K extends Intent['kind']>(kind: K): Extract<Intent, { kind: K }>[] =>
    intents.filter((intent) => intent.kind === kind) as Extract<Intent, { kind: K }>[];
  const wish = of('quantity')
    .filter((one) => one.confidence >= WANTED_FROM)
    .sort((a, b) => b.confidence - a.confidence || b.value.count - a.value.count)[0];
  const sum = of('money').sort((a, b) => b.confidence - a.confidence || b.value.minor - a.value.minor)[0];
  const dates = of('date')
    .map((one) => one.value.at.slice(0, 10))
    .sort();
  const who = companyName || personName;
  const what = wish ? `${wish.value.count} ${wish.value.of}` : '';
  return {
    title: what && who ? `${who}, ${what}` : what || who || UNNAMED_DEAL,
    amountMinor: sum?.value.minor ?? null,
    currency: sum?.value.currency ?? currency,
    expectedClose: dates.at(-1) ?? null,
  };
}

export const DEAL_ROLES = ['decides', 'influences', 'uses', 'pays', 'gatekeeper'] as const;
export type DealRole = (typeof DEAL_ROLES)[number];

/** Words of job titles by which a part in a deal is proposed, the first that holds; common practice. */
const TITLES: readonly [RegExp, DealRole][] = [
  [/\b(assistant|secretary|reception\w*|front desk|office manager|sekret\w+|assistenz)\b/i, 'gatekeeper'],
  [/\b(financ\w*|account\w*|controller|cfo|treasur\w*|payables?|billing|buchhalt\w*|finanz\w*)\b/i, 'pays'],
  [
    /\b(owner|founder|ceo|coo|managing|president|chief|director|head|partner|principal|inhaber\w*|geschäftsführ\w*|gerente|propriet\w+|dueñ\w|daglig leder|vd)\b/i,
    'decides',
  ],
  [
    /\b(driver|rider|courier|technician|mechanic|operator|workshop|warehouse|baker|florist|crew|user|fahrer\w*)\b/i,
    'uses',
  ],
];

/** The part somebody may have in a deal, by their job title; whoever brought the lead decides where the title does not say. */
export function proposeRole(jobTitle: string | null, isMain: boolean): DealRole {
  const role = TITLES.find(([pattern]) => pattern.test(jobTitle ?? ''))?.[1];
  return role ?? (isMain ? 'decides' : 'influences');
}
