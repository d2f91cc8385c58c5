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

/** Sums of open deals by currency, plain and weighted by win probability; minor units, rounded half up. */
export function sumDeals(
  deals: readonly { amountMinor: number | null; currency: string; probability: number }[],
): { currency: string; plain: number; weighted: number }[] {
  const sums = new Map<string, { plain: number; weighted: number }>();
  for (const deal of deals) {
    const sum = sums.get(deal.currency) ?? { plain: 0, weighted: 0 };
    sum.plain += deal.amountMinor ?? 0;
    sum.weighted += ((deal.amountMinor ?? 0) * deal.probability) / 100;
    sums.set(deal.currency, sum);
  }
  return [...sums].map(([currency, sum]) => ({
    currency,
    plain: sum.plain,
    weighted: Math.round(sum.weighted),
  }));
}
