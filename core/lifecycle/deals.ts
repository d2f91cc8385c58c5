export interface StageFacts {
  id: string;
  /** Per cent, 0 to 100. */
  probability: number;
}

export interface DealFacts {
  stageId: string;
  probability: number;
  /** Whether a person set the probability themselves. */
  probabilityByHand: boolean;
}

/** A deal moved to a stage: the stage's usual win probability moves with it, unless a person had set their own. */
export function moveDeal(deal: DealFacts, to: StageFacts): DealFacts {
  return {
    stageId: to.id,
    probability: deal.probabilityByHand ? deal.probability : to.probability,
    probabilityByHand: deal.probabilityByHand,
  };
}

/** Whole days a deal has stood in its stage; times in ISO 8601. */
export const daysInStage = (since: string, now: string): number =>
  Math.max(0, Math.floor((Date.parse(now) - Date.parse(since)) / 86_400_000));

/** Deals in one currency: how many, their sum in minor units, and that times their win probability in per cent. */
export interface CurrencySum {
  currency: string;
  deals: number;
  plain: number;
  weighted: number;
}

export interface Totals {
  count: number;
  sums: { currency: string; plain: number; weighted: number }[];
  total: { plain: number; weighted: number; currency: string; missing: string[] };
}

/**
 * Adds sums up by currency, and all of them in the house currency; minor units, rounded half up. Currencies that cannot be
 * converted are left out of the total and named.
 * @param convert to the house currency; null without a rate
 */
export function addUpSums(
  given: readonly CurrencySum[],
  house: string,
  convert: (minor: number, currency: string) => number | null,
): Totals {
  const sums = new Map<string, { currency: string; plain: number; weighted: number }>();
  for (const { currency, plain, weighted } of given) {
    const known = sums.get(currency) ?? { currency, plain: 0, weighted: 0 };
    sums.set(currency, {
      currency,
      plain: known.plain + plain,
      weighted: known.weighted + weighted / 100,
    });
  }
  const total = { plain: 0, weighted: 0, currency: house, missing: [] as string[] };
  for (const { currency, plain, weighted } of sums.values()) {
    if (!plain) continue;
    const inHouse = convert(plain, currency);
    if (inHouse === null) {
      total.missing.push(currency);
      continue;
    }
    total.plain += inHouse;
    total.weighted += (inHouse * weighted) / plain;
  }
  return {
    count: given.reduce((all, { deals }) => all + deals, 0),
    sums: [...sums.values()].map((sum) => ({ ...sum, weighted: Math.round(sum.weighted) })),
    total: { ...total, weighted: Math.round(total.weighted) },
  };
}
