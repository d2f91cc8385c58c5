import { brier, reliability, wilson, type Bin, type Forecasted } from './calibration';
import { predict, trainLogistic } from './logistic';

/** What a win chance is judged by; numbers are taken as they are, words become one feature a value. */
export interface WinFacts {
  fit: number;
  warmth: number;
  completeness: number;
  /** Days since it came in; only whole ones count. */
  daysOpen: number;
  /** Share of the qualifying questions that are answered, 0 to 1. */
  answered: number;
  /** Hours until we answered them first; null when we have not, or need not. */
  responseHours: number | null;
  /** Whether a sum was named. */
  hasAmount: boolean;
  source: string;
  /** The stage of its deal; empty for a lead. */
  stage: string;
}

export interface Closed {
  facts: WinFacts;
  won: boolean;
  /** When it was closed, ISO 8601. */
  at: string;
}

interface Feature {
  key: string;
  label: string;
  mean: number;
  spread: number;
  weight: number;
}

export interface WinModel {
  /** `base` while there is too little to learn from: everybody gets the base rate. */
  kind: 'learnt' | 'base';
  intercept: number;
  features: Feature[];
  /** Closed ones it was made from, and how many of them were won. */
  closed: number;
  won: number;
  /** How it did on the newest fifth, which it was not trained on; null where there is too little. */
  held: { count: number; brier: number; baseBrier: number; bins: Bin[] } | null;
}

export interface WinReason {
  words: string;
  /** By how much it moves the chance from what the average one has, in points of per cent. */
  points: number;
}
export interface WinChance {
  /** 0 to 1. */
  chance: number;
  reasons: WinReason[];
  /** The 95 per cent interval of the base rate, where only that is known. */
  base: { low: number; high: number; closed: number; won: number } | null;
}

/** How many spreads from the mean a feature counts at most, so that nothing is foretold far beyond what was seen. */
export const FARTHEST = 4;
const LEAST_CLOSED = 40;
const LEAST_OF_EACH = 8;
const LEAST_OF_A_WORD = 5;

/** After so many days without an answer nobody can say that it was not due yet. */
const DUE_DAYS = 7;
const SLOWEST_HOURS = 168;

/** Null where it is not known, and then it counts neither for nor against. */
const NUMBERS: readonly [key: string, label: string, value: (facts: WinFacts) => number | null][] = [
  ['fit', 'fit', (facts) => facts.fit / 100],
  ['warmth', 'warmth', (facts) => facts.warmth / 100],
  ['completeness', 'how much is known', (facts) => facts.completeness / 100],
  ['days', 'how long it is open', (facts) => Math.log1p(Math.floor(Math.max(0, facts.daysOpen)))],
  ['answered', 'questions answered', (facts) => facts.answered],
  [
    'response',
    'how fast we answered',
    (facts) => {
      const hours = facts.responseHours ?? (facts.daysOpen >= DUE_DAYS ? SLOWEST_HOURS : null);
      return hours === null ? null : -Math.log1p(Math.min(hours, SLOWEST_HOURS));
    },
  ],
  ['amount', 'a sum was named', (facts) => Number(facts.hasAmount)],
];

/** The features of one, by key; words as one feature a value. */
function featuresOf(facts: WinFacts): Map<string, { label: string; value: number | null }> {
  return new Map([
    ...NUMBERS.map(([key, label, value]) => [key, { label, value: value(facts) }] as const),
    ...(['source', 'stage'] as const)
      .filter((key) => facts[key] !== '')
      .map((key) => [`${key}:${facts[key]}`, { label: `${key} ${facts[key]}`, value: 1 }] as const),
  ]);
}

function columns(closed: readonly Closed[]): { key: string; label: string }[] {
  const counts = new Map<string, { label: string; count: number }>();
  for (const one of closed)
    for (const [key, { label }] of featuresOf(one.facts))
      counts.set(key, { label, count: (counts.get(key)?.count ?? 0) + 1 });
  return [...counts]
    .filter(([key, { count }]) => !key.includes(':') || count >= LEAST_OF_A_WORD)
    .map(([key, { label }]) => ({ key, label }))
    .sort((a, b) => (a.key < b.key ? -1 : 1));
}

const scaled = (value: number | null, { mean, spread }: { mean: number; spread: number }): number =>
  value === null ? 0 : Math.max(-FARTHEST, Math.min(FARTHEST, (value - mean) / spread));

/**
 * Age is only allowed to speak against: that those which are still open after long are won more often says that the lost
 * ones were dropped early, not that a fresh one is worth little. Where it would, the model is made without it.
 */
function fitModel(closed: readonly Closed[]): Pick<WinModel, 'intercept' | 'features'> {
  const fitted = fitColumns(closed, columns(closed));
  const age = fitted.features.find((feature) => feature.key === 'days');
  return age && age.weight > 0
    ? fitColumns(
        closed,
        columns(closed).filter((column) => column.key !== 'days'),
      )
    : fitted;
}

function fitColumns(
  closed: readonly Closed[],
  named: readonly { key: string; label: string }[],
): Pick<WinModel, 'intercept' | 'features'> {
  const raw = closed.map((one) => {
    const features = featuresOf(one.facts);
    return named.map(({ key }) => (features.has(key) ? (features.get(key)?.value ?? null) : 0));
  });
  const scales = named.map((_, at) => {
    const values = raw.flatMap((row) => row[at] ?? []);
    const count = Math.max(1, values.length);
    const mean = values.reduce((sum, value) => sum + value, 0) / count;
    const spread = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / count);
    return { mean, spread: spread || 1 };
  });
  const rows = raw.map((row) => row.map((value, at) => scaled(value, scales[at] ?? { mean: 0, spread: 1 })));
  const trained = trainLogistic(
    rows,
    closed.map((one) => Number(one.won)),
    0.5,
  );
  return {
    intercept: trained.intercept,
    features: named.map(({ key, label }, at) => ({
      key,
      label,
      mean: scales[at]?.mean ?? 0,
      spread: scales[at]?.spread ?? 1,
      weight: trained.weights[at] ?? 0,
    })),
  };
}

const isEnough = (closed: readonly Closed[]): boolean => {
  const won = closed.filter((one) => one.won).length;
  return closed.length >= LEAST_CLOSED && Math.min(won, closed.length - won) >= LEAST_OF_EACH;
};

/** The share of those won, shrunk to a half by one of each (Laplace's rule of succession). */
const baseRate = (won: number, closed: number): number => (won + 1) / (closed + 2);

/** The share of all that was closed which was won, as the model knows it, 0 to 1. */
export const shareOfWins = ({ won, closed }: Pick<WinModel, 'won' | 'closed'>): number =>
  baseRate(won, closed);

/**
 * Learns from the house's own closed leads and deals. It is held against the newest fifth, which a model of the older
 * ones has not seen, and must beat the base rate there; else, or with too little to learn from, the base rate is used.
 */
export function trainWinModel(given: readonly Closed[]): WinModel {
  const closed = [...given].sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0));
  const won = closed.filter((one) => one.won).length;
  const base: WinModel = { kind: 'base', intercept: 0, features: [], closed: closed.length, won, held: null };
  const older = closed.slice(0, Math.floor(closed.length * 0.8));
  if (!isEnough(closed) || !isEnough(older)) return base;
  const newer = closed.slice(older.length);
  const trial: WinModel = { ...base, kind: 'learnt', ...fitModel(older) };
  const rate = baseRate(older.filter((one) => one.won).length, older.length);
  const made = newer.map<Forecasted>((one) => ({
    chance: winChance(trial, one.facts).chance,
    outcome: Number(one.won),
  }));
  const held = {
    count: newer.length,
    brier: brier(made),
    baseBrier: brier(made.map((one) => ({ ...one, chance: rate }))),
    bins: reliability(made),
  };
  if (held.brier > held.baseBrier) return { ...base, held };
  return { ...base, kind: 'learnt', ...fitModel(closed), held };
}

/** The chance that it is won, and what moves it, most first. */
export function winChance(model: WinModel, facts: WinFacts): WinChance {
  if (model.kind === 'base')
    return {
      chance: baseRate(model.won, model.closed),
      reasons: [],
      base: { ...wilson(model.won, model.closed), closed: model.closed, won: model.won },
    };
  const features = featuresOf(facts);
  const row = model.features.map(({ key, mean, spread }) =>
    scaled(features.has(key) ? (features.get(key)?.value ?? null) : 0, { mean, spread }),
  );
  const fitted = { weights: model.features.map((feature) => feature.weight), intercept: model.intercept };
  const chance = predict(fitted, row);
  const reasons = model.features.map<WinReason>((feature, at) => {
    const without = row.map((value, index) => (index === at ? 0 : value));
    const points = (chance - predict(fitted, without)) * 100;
    const way = points > 0 ? 'speaks for it' : 'speaks against it';
    return { words: `${feature.label} ${way}`, points };
  });
  return {
    chance,
    reasons: reasons
      .filter((reason) => Math.abs(reason.points) >= 0.5)
      .sort((a, b) => Math.abs(b.points) - Math.abs(a.points)),
    base: null,
  };
}
