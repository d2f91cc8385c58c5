import { wilson } from '../qualifying/calibration';

/** What a stage can ask for: each is known or not of a deal. */
export const DEAL_ASKS = {
  amount: 'what it is worth',
  expectedClose: 'when it is expected',
  company: 'which company it is with',
  decider: 'who decides',
  payer: 'who pays',
  lines: 'what they buy, line by line',
  nextMove: 'the next move',
} as const;
export type DealAsk = keyof typeof DEAL_ASKS;
export const DEAL_ASK_KEYS = Object.keys(DEAL_ASKS) as [DealAsk, ...DealAsk[]];

/** What is asked for before a stage and not known yet. It is asked for, never forced: the move is made all the same. */
export const notKnown = (asks: readonly DealAsk[], known: ReadonlySet<DealAsk>): DealAsk[] =>
  DEAL_ASK_KEYS.filter((ask) => asks.includes(ask) && !known.has(ask));

/** The way of a closed deal: the stages it came to, each with how long it stayed, and how it ended. */
export interface DealWay {
  won: boolean;
  stays: readonly { stageId: string; days: number }[];
}

export interface Measured {
  stageId: string;
  /** Closed deals that had come to the stage, and how many of them were won. */
  closed: number;
  won: number;
  share: number;
  /** The 95 per cent interval of the share (Wilson). */
  low: number;
  high: number;
  /** Median days that won deals stayed; null where fewer than `LEAST` are known. */
  typicalDays: number | null;
}

/** From so many closed deals on, what was measured is trusted. */
export const LEAST_MEASURED = 10;
const LEAST_STAYS = 5;

const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 ? (sorted[middle] ?? 0) : ((sorted[middle - 1] ?? 0) + (sorted[middle] ?? 0)) / 2;
};

/** What history says of each stage: the share of the deals that came to it which were won, and how long won ones stayed. */
export function measureStages(ways: readonly DealWay[]): Map<string, Measured> {
  const ids = new Set(ways.flatMap((way) => way.stays.map((stay) => stay.stageId)));
  return new Map(
    [...ids].map((stageId) => {
      const came = ways.filter((way) => way.stays.some((stay) => stay.stageId === stageId));
      const won = came.filter((way) => way.won);
      // A deal that went back stayed as long as all its stays together.
      const days = won.map((way) =>
        way.stays.filter((stay) => stay.stageId === stageId).reduce((sum, stay) => sum + stay.days, 0),
      );
      const { low, high } = wilson(won.length, came.length);
      return [
        stageId,
        {
          stageId,
          closed: came.length,
          won: won.length,
          share: won.length / came.length,
          low,
          high,
          typicalDays: days.length >= LEAST_STAYS ? Math.max(1, Math.round(median(days))) : null,
        },
      ];
    }),
  );
}

/**
 * The usual chance of a stage, in whole per cent: the given one, or where the pipeline goes by its history and there is
 * enough of it, the measured share. Won and lost stages are 100 and 0.
 */
export function usualChance(
  stage: { kind: 'open' | 'won' | 'lost'; probability: number },
  chances: 'given' | 'measured',
  measured: Measured | undefined,
): number {
  if (stage.kind !== 'open') return stage.kind === 'won' ? 100 : 0;
  if (chances === 'given' || !measured || measured.closed < LEAST_MEASURED) return stage.probability;
  return Math.round(measured.share * 100);
}

const odds = (share: number): number => share / (1 - share);
const within = (share: number): number => Math.min(0.99, Math.max(0.01, share));

/**
 * The win chance of a deal from that of its lead and from its stage, taken as independent signs (odds multiplied, the
 * naive Bayes rule): a stage that raises the chance of any deal threefold in odds raises this one's so too. Without a
 * lead it is that of the stage.
 * @param lead the learnt chance of its lead, 0 to 1, null where there is none
 * @param base the share of all that is won, 0 to 1
 * @param stage the usual chance of its stage, 0 to 1
 */
export function dealChance(lead: number | null, base: number, stage: number): number {
  if (lead === null || stage <= 0 || stage >= 1) return stage;
  const joined = (odds(within(lead)) * odds(within(stage))) / odds(within(base));
  return joined / (1 + joined);
}
