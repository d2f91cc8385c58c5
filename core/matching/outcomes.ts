import type { Features } from './linkage/features';
import { PairComparer } from './linkage/pairs';
import { FEATURE_NAMES, FEATURES } from './linkage/vector';
import type { Outcome, OutcomeShares } from './weights';

/** What in a vector of the linkage stands for which outcome of the verdict, parted by what is asked. */
const QUESTIONS: readonly (readonly (readonly [Outcome, readonly string[]])[])[] = [
  [
    ['address', ['addressSame']],
    ['sharedMailbox', ['addressMailboxOfMany']],
    [
      'otherAddress',
      ['addressAnother', 'addressAnotherAtTheSameFirm', 'addressNearly', 'addressSameBeforeTheAt'],
    ],
  ],
  [
    ['number', ['numberSame']],
    ['otherNumber', ['numberAnother', 'numberAnotherOfTheirOwn', 'numberNearly']],
  ],
  [
    ['company', ['firm1', 'firm2']],
    ['nearCompany', ['firm3', 'firm4', 'firm5']],
    ['otherCompany', ['firm6']],
  ],
  [
    ['name', ['given: same', 'given: spelling']],
    [
      'otherName',
      ['given: differs', 'given: short', 'given: initial', 'given: near', 'given: part', 'given: partly'],
    ],
  ],
  [
    ['name', ['family: same', 'family: spelling']],
    ['otherName', ['family: differs']],
    ['nearName', ['family: short', 'family: initial', 'family: near', 'family: part', 'family: partly']],
  ],
];
const placeOf = (name: string): number => {
  const at = FEATURE_NAMES.indexOf(name);
  if (at < 0) throw new Error(`${name} is not compared`);
  return at;
};
const PLACES = QUESTIONS.map((answers) =>
  answers.map(([outcome, names]) => ({ outcome, at: names.map(placeOf) })),
);

/** Counts what pairs come to, each with a weight. */
export class OutcomeCounter {
  private readonly sums = PLACES.map((answers) => answers.map(() => 0));

  add(vector: Float64Array, weight: number): void {
    for (const [question, answers] of PLACES.entries())
      for (const [answer, { at }] of answers.entries())
        if (at.some((place) => vector[place])) {
          const sums = this.sums[question];
          if (sums) sums[answer] = (sums[answer] ?? 0) + weight;
        }
  }

  shares(): OutcomeShares {
    const shares: OutcomeShares = {};
    for (const [question, answers] of PLACES.entries()) {
      const sums = this.sums[question] ?? [];
      const whole = sums.reduce((left, sum) => left + sum, 0);
      if (!whole) continue;
      for (const [answer, { outcome }] of answers.entries()) {
        const share = (sums[answer] ?? 0) / whole;
        const other = shares[outcome];
        // A name agrees in both halves, and is another in the family name.
        shares[outcome] = outcome === 'name' && other !== undefined ? other * share : share;
      }
    }
    return shares;
  }
}

const SAMPLED = 30_000;
/** A step that meets every row before it meets one again, whatever the number of rows. */
const STEP = 7919;

/** How often two rows picked at random come to each outcome: by a sample, and exactly where values are equal. */
export function chanceOf(features: Features): OutcomeShares {
  const { rows, fields } = features;
  const comparer = new PairComparer(features);
  const vector = new Float64Array(FEATURES);
  const counter = new OutcomeCounter();
  const times = Math.min(SAMPLED, (rows * (rows - 1)) / 2);
  for (let at = 0; at < times; at++) {
    const a = at % rows;
    const b = (a + 1 + ((at * STEP) % Math.max(1, rows - 1))) % rows;
    if (a === b) continue;
    comparer.compare(Math.min(a, b), Math.max(a, b), vector);
    counter.add(vector, 1);
  }
  const shares = counter.shares();
  for (const [outcome, kind] of [
    ['address', 'email'],
    ['number', 'phone'],
    ['company', 'company'],
  ] as const) {
    const [column] = fields.find((field) => field.kind === kind)?.values ?? [];
    if (column) shares[outcome] = equalShare(column);
  }
  const { of } = features.names;
  shares.name = equalShare(of);
  return shares;
}

/** How often two rows picked at random have the same value, of those that have one. */
function equalShare(column: Int32Array): number {
  const counts = new Map<number, number>();
  let all = 0;
  for (const value of column)
    if (value) {
      counts.set(value, (counts.get(value) ?? 0) + 1);
      all++;
    }
  let pairs = 0;
  for (const count of counts.values()) pairs += count * (count - 1);
  return all > 1 ? (pairs + 1) / (all * (all - 1) + 1) : 0;
}
