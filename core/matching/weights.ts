import { isOne, type Model, type PairClass } from './linkage/mixture';
import type { Kind } from './linkage/plan';

/** What comparing a capture's facts with a record's can come to. */
export type Outcome =
  | 'address'
  | 'sharedMailbox'
  | 'firmAddress'
  | 'otherAddress'
  | 'number'
  | 'otherNumber'
  | 'page'
  | 'name'
  | 'oneName'
  | 'initial'
  | 'nearName'
  | 'partOfName'
  | 'otherName'
  | 'company'
  | 'nearCompany'
  | 'otherCompany';

/** What each outcome says, as log2 of the likelihood ratio m/u (Fellegi & Sunter 1969), in a book of so many people. */
export interface Weights {
  records: number;
  bits: Record<Outcome, number>;
}

/** By judgement, for a book of a thousand people; estimated weights take their place outcome by outcome. */
export const DEFAULT_WEIGHTS: Weights = {
  records: 1000,
  bits: {
    address: 17,
    sharedMailbox: 4,
    firmAddress: 2.5,
    otherAddress: -1,
    number: 11,
    otherNumber: 0,
    page: 16,
    name: 9,
    oneName: 3,
    initial: 5.5,
    nearName: 6,
    partOfName: -1,
    otherName: -8,
    company: 4,
    nearCompany: 2,
    otherCompany: -2,
  },
};

/** A book with fewer people is weighed as one of so many: with next to nobody in it, nothing is rare. */
const LEAST = 1000;
/** The more people there are, the less likely it is by chance that somebody agrees on these. */
const GROWS: Partial<Record<Outcome, number>> = {
  address: 1,
  sharedMailbox: 1,
  number: 1,
  page: 1,
  name: 1,
  oneName: 0.5,
  initial: 0.5,
  nearName: 0.8,
  company: 1,
  nearCompany: 1,
};

/** The weights for a book of another size, with the log2 odds that any one record is the one meant. */
export function forBook(weights: Weights, records: number): { bits: Weights['bits']; prior: number } {
  const size = Math.max(LEAST, records);
  const grown = Math.log2(size / Math.max(LEAST, weights.records));
  const bits = { ...weights.bits };
  for (const [outcome, share] of Object.entries(GROWS) as [Outcome, number][]) bits[outcome] += share * grown;
  return { bits, prior: -Math.log2(size) };
}

/** Which outcome of a comparison of tables stands for which here. */
const FROM: readonly [Outcome, Kind, number][] = [
  ['address', 'email', 1],
  ['sharedMailbox', 'email', 2],
  ['otherAddress', 'email', 6],
  ['number', 'phone', 1],
  ['otherNumber', 'phone', 3],
  ['company', 'company', 1],
  ['nearCompany', 'company', 2],
  ['otherCompany', 'company', 3],
];
/** An estimate may move a weight so far from judgement, in bits, however many pairs it rests on. */
const FARTHEST = 3;
/** So many pairs of one person make an estimate count half. */
const HALF = 200;

const shareOf = (classes: readonly PairClass[], field: number, levels: readonly number[]): number => {
  const whole = classes.reduce((sum, one) => sum + one.share, 0);
  const at = classes.reduce(
    (sum, one) => sum + one.share * levels.reduce((odds, level) => odds + (one.odds[field]?.[level] ?? 0), 0),
    0,
  );
  return whole ? at / whole : 0;
};
const bounded = (bits: number, by: number, sure: number): number =>
  by + sure * Math.max(-FARTHEST, Math.min(FARTHEST, bits - by));

/** What a table of the book says by chance: how often two people picked at random agree. */
export type Chance = (kind: Kind, level: number) => number;

/**
 * The weights of this installation: how often pairs of one person come to each outcome, as EM found it in the book
 * itself, against how often two people come to it by chance. Where few doubles were found, judgement keeps its say.
 * @param model estimated on pairs of the book
 * @param records how many people there are
 * @param pairs how many pairs were compared
 */
export function weightsFrom(model: Model, records: number, pairs: number, chance: Chance): Weights {
  const same = model.classes.filter((one) => isOne(one.name));
  const doubles = pairs * same.reduce((sum, one) => sum + one.share, 0);
  const sure = doubles / (doubles + HALF);
  const { bits } = forBook(DEFAULT_WEIGHTS, records);
  const made = { ...bits };
  for (const [outcome, kind, level] of FROM) {
    const field = model.kinds.indexOf(kind);
    const [m, u] = [field < 0 ? 0 : shareOf(same, field, [level]), chance(kind, level)];
    if (m > 0 && u > 0) made[outcome] = bounded(Math.log2(m / u), bits[outcome], sure);
  }
  const [given, family] = [model.kinds.indexOf('given'), model.kinds.indexOf('family')];
  if (given >= 0 && family >= 0) {
    const agrees = shareOf(same, given, [1]) * shareOf(same, family, [1]);
    const differs = 1 - shareOf(same, family, [1, 2, 3, 4, 5, 7]);
    const byChance = chance('given', 1) * chance('family', 1);
    if (agrees > 0 && byChance > 0) made.name = bounded(Math.log2(agrees / byChance), bits.name, sure);
    made.otherName = bounded(Math.log2(Math.max(1e-4, differs)), bits.otherName, sure);
  }
  return { records, bits: made };
}
