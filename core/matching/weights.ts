/** What comparing a capture's facts with a record's can come to. */
export type Outcome =
  | 'address'
  | 'sharedMailbox'
  | 'firmAddress'
  | 'otherAddress'
  | 'number'
  | 'otherNumber'
  | 'otherMobile'
  | 'page'
  | 'name'
  | 'oneName'
  | 'initial'
  | 'nearName'
  | 'partOfName'
  | 'otherGiven'
  | 'otherName'
  | 'birthday'
  | 'otherBirthday'
  | 'company'
  | 'nearCompany'
  | 'otherCompany';

/** Of each outcome the share that it has where its question is answered at all; of names the product of both halves. */
export type OutcomeShares = Partial<Record<Outcome, number>>;

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
    otherMobile: -2,
    page: 16,
    name: 9,
    oneName: 3,
    initial: 5.5,
    nearName: 6,
    partOfName: -1,
    otherGiven: -7,
    otherName: -8,
    birthday: 8,
    otherBirthday: -6,
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
  // What was learnt before an outcome was thought of says nothing of it.
  const bits = { ...DEFAULT_WEIGHTS.bits, ...weights.bits };
  for (const [outcome, share] of Object.entries(GROWS) as [Outcome, number][]) bits[outcome] += share * grown;
  return { bits, prior: -Math.log2(size) };
}

/** What is learnt from a book; the others are seen too seldom. */
const LEARNT: readonly Outcome[] = [
  'address',
  'sharedMailbox',
  'otherAddress',
  'number',
  'otherNumber',
  'company',
  'nearCompany',
  'otherCompany',
  'name',
  'otherName',
];
/** An estimate may move a weight so far from judgement, in bits, however many pairs it rests on. */
const FARTHEST = 3;
/** So many pairs of one person make an estimate count half. */
const HALF = 200;

const bounded = (bits: number, by: number, sure: number): number =>
  by + sure * Math.max(-FARTHEST, Math.min(FARTHEST, bits - by));

/**
 * The weights of this installation: how often pairs of one person come to each outcome in the book itself, against how often two
 * people come to it by chance. Where few doubles were found, judgement keeps its say.
 * @param same of each outcome its share among pairs of one person
 * @param chance its share among any two people
 * @param doubles how many pairs of one person were found
 * @param records how many people there are
 */
export function weightsFrom(
  same: OutcomeShares,
  chance: OutcomeShares,
  doubles: number,
  records: number,
): Weights {
  const sure = doubles / (doubles + HALF);
  const { bits } = forBook(DEFAULT_WEIGHTS, records);
  const made = { ...bits };
  for (const outcome of LEARNT) {
    const [m = 0, u = 0] = [same[outcome], chance[outcome]];
    if (m > 0 && u > 0) made[outcome] = bounded(Math.log2(m / u), bits[outcome], sure);
  }
  return { records, bits: made };
}
