import { FACT_NAMES, type FactField, type Subject } from './facts';

/** One missing or doubtful fact, and what knowing it is worth. */
export interface Wanted {
  about: Subject;
  field: FactField;
  /** Points of completeness it brings. */
  points: number;
  /** How sure we are of what stands there now; 0 when nothing does. */
  held: number;
}

/** A source that can be asked, or could be if something else were known first. */
export interface Offer {
  source: string;
  label: string;
  /** Price of one question, minor units, charged when `charges` says so. */
  price: number;
  charges: 'answers' | 'finds';
  /** What it may tell: how often it knows, and how often what it says was kept. */
  tells: readonly { about: Subject; field: FactField; coverage: number; accuracy: number }[];
  /** A fact that must be known before it can be asked; null when it can be asked now. */
  needs: { about: Subject; field: FactField } | null;
}

export interface PlannedStep {
  source: string;
  label: string;
  /** Expected worth of what it may tell, minor units. */
  gain: number;
  /** Expected price, minor units. */
  cost: number;
  /** The most it can cost. */
  price: number;
  /** What is left of the gain after the price. */
  net: number;
  /** Fields it may fill, with the chance that it does. */
  fields: { about: Subject; field: FactField; chance: number }[];
  /** The step it waits for. */
  after: string | null;
  because: string;
}

export interface PlanOptions {
  /** What a point of completeness is worth, minor units. */
  pointWorth: number;
  /** Completeness now and from which on enough is known, 0 to 100. */
  completeness: number;
  enough: number;
}

const key = (one: { about: Subject; field: FactField }): string => `${one.about}.${one.field}`;

/** The chance that a source knows anything at all: it knows its best field at least that often. */
const findChance = (offer: Offer): number => Math.max(0, ...offer.tells.map((tell) => tell.coverage));

interface State {
  wanted: Map<string, Wanted>;
  /** How likely each fact that something waits for is there. */
  known: Map<string, number>;
}

function weigh(offer: Offer, state: State, pointWorth: number): PlannedStep {
  const able = offer.needs ? (state.known.get(key(offer.needs)) ?? 0) : 1;
  const fields = offer.tells
    .map((tell) => ({ ...tell, wanted: state.wanted.get(key(tell)), chance: tell.coverage * tell.accuracy }))
    .filter((one) => one.wanted && one.wanted.held < 1 && one.chance > 0);
  const points = fields.reduce(
    (sum, one) => sum + (one.wanted?.points ?? 0) * (1 - (one.wanted?.held ?? 0)) * one.chance,
    0,
  );
  const gain = points * pointWorth * able;
  const cost = offer.price * (offer.charges === 'finds' ? findChance(offer) : 1) * able;
  return {
    source: offer.source,
    label: offer.label,
    gain,
    cost,
    price: offer.price,
    net: gain - cost,
    fields: fields.map(({ about, field, chance }) => ({ about, field, chance: chance * able })),
    after: null,
    because: '',
  };
}

/** What a step opens: the offers that wait for a fact it may bring, by what they would net once it is there. */
function opens(step: PlannedStep, offers: readonly Offer[], state: State, pointWorth: number): number {
  return offers.reduce((sum, offer) => {
    const waits =
      offer.needs && step.fields.find((field) => key(field) === (offer.needs ? key(offer.needs) : ''));
    if (!waits || !offer.needs) return sum;
    const there = state.known.get(key(offer.needs)) ?? 0;
    const open = weigh({ ...offer, needs: null }, state, pointWorth);
    return sum + Math.max(0, open.net) * waits.chance * (1 - there);
  }, 0);
}

const list = (words: readonly string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1) ?? ''}`;

/** Per cent, whole. */
const share = (chance: number): string => `${Math.round(chance * 100)} %`;

function inWords(step: PlannedStep): string {
  const byChance = new Map<string, string[]>();
  for (const one of [...step.fields].sort((a, b) => b.chance - a.chance)) {
    const chance = share(one.chance);
    byChance.set(chance, [...(byChance.get(chance) ?? []), FACT_NAMES[one.field].toLowerCase()]);
  }
  return [...byChance].map(([chance, fields]) => `${list(fields)} ${chance}`).join(', ');
}

/**
 * In which order to ask, so that each question gains the most for its price. The gain of a question is the points of
 * completeness it may bring, times how unsure we are now, times how often the source knows and how often it was right;
 * a question that opens another is given its share of that one's. What one answer is expected to settle counts less for
 * the next. Questions that cost more than they gain are left out, and so are those after enough is known.
 * @returns the questions in their order; minor units throughout
 */
export function planLookUps(
  wanted: readonly Wanted[],
  offers: readonly Offer[],
  options: PlanOptions,
): PlannedStep[] {
  const state: State = {
    wanted: new Map(wanted.map((one) => [key(one), { ...one }])),
    known: new Map(),
  };
  const left = new Set(offers);
  const steps: PlannedStep[] = [];
  let completeness = options.completeness;
  while (left.size && completeness < options.enough) {
    const best = [...left]
      .map((offer) => {
        const step = weigh(offer, state, options.pointWorth);
        const bonus = opens(
          step,
          [...left].filter((one) => one !== offer),
          state,
          options.pointWorth,
        );
        return { offer, step, worth: step.net + bonus };
      })
      .filter(({ step, worth }) => step.fields.length > 0 && step.gain > 0 && worth > 0)
      .sort(
        (a, b) =>
          b.worth - a.worth || a.offer.price - b.offer.price || (a.offer.source < b.offer.source ? -1 : 1),
      )[0];
    if (!best) break;
    const { offer, step } = best;
    left.delete(offer);
    const needs = offer.needs;
    const after = needs
      ? (steps.find((step) => step.fields.some((field) => key(field) === key(needs)))?.label ?? null)
      : null;
    steps.push({ ...step, after, because: inWords(step) });
    for (const one of step.fields) {
      const known = state.wanted.get(key(one));
      if (known) {
        completeness += known.points * (1 - known.held) * one.chance;
        known.held = 1 - (1 - known.held) * (1 - one.chance);
      }
      state.known.set(key(one), 1 - (1 - (state.known.get(key(one)) ?? 0)) * (1 - one.chance));
    }
  }
  return steps;
}
