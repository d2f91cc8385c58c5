import { AGREES, Comparer, MISSING } from './compare';
import type { Features } from './features';
import { isOne, likelihoodOf, type Model, type PairClass } from './mixture';

/** How much rarer or commoner than usual a shared value can be counted. */
const RAREST = 1 / 64;
const COMMONEST = 64;

/** Scores pairs by a model, with rare values that are shared counting for more than common ones. */
export class Scorer {
  private readonly levels: Uint8Array;
  private readonly comparer: Comparer;
  private readonly rarity: Float64Array;
  private readonly usual: number[];
  private readonly same: PairClass[];
  private readonly others: PairClass[];

  constructor(
    private readonly features: Features,
    private readonly model: Model,
  ) {
    this.levels = new Uint8Array(features.fields.length);
    this.rarity = new Float64Array(features.fields.length);
    this.comparer = new Comparer(features);
    this.usual = features.fields.map((field) => usualShare(field.counts));
    this.same = model.classes.filter((one) => isOne(one.name));
    this.others = model.classes.filter((one) => !isOne(one.name));
  }

  /** The natural logarithm of the odds that two rows are of one person. */
  logOdds(a: number, b: number): number {
    this.comparer.compare(a, b, this.levels);
    return this.fromLevels(this.levels, 0, a, b);
  }

  /** The same for levels that are known already, from `at` on. */
  fromLevels(levels: Uint8Array, at: number, a: number, b: number): number {
    const { features, rarity } = this;
    for (let index = 0; index < features.fields.length; index++) {
      const values = features.fields[index]?.values[0] as Int32Array;
      rarity[index] =
        levels[at + index] === AGREES ? this.rarityOf(index, values[a] as number, values[b] as number) : 1;
    }
    return this.oddsOf(levels, at);
  }

  /** The same where nothing is known of how rare the shared values are. */
  usualOdds(levels: Uint8Array, at: number): number {
    this.rarity.fill(1);
    return this.oddsOf(levels, at);
  }

  private oddsOf(levels: Uint8Array, at: number): number {
    const { features, same, rarity } = this;
    const fields = features.fields.length;
    let left = 0;
    for (const one of same) left += one.share * likelihoodOf(one, levels, at, fields);
    let right = 0;
    for (const one of this.others) {
      let product = one.share;
      for (let index = 0; index < features.fields.length; index++) {
        const level = levels[at + index] as number;
        if (level === MISSING) continue;
        const odd = (one.odds[index] as Float64Array)[level] as number;
        // Where a class has a value in common as a rule, it is no chance that it has.
        product *= level === AGREES && odd < 0.5 ? Math.min(0.9, odd * (rarity[index] as number)) : odd;
        if (level === AGREES && odd >= 0.5 && isName(this.model.kinds[index]))
          product *= Math.min(2, rarity[index] as number);
      }
      right += product;
    }
    return Math.log(left) - Math.log(right);
  }

  private rarityOf(index: number, a: number, b: number): number {
    if (a !== b || !a) return 1;
    const { counts } = this.features.fields[index] as Features['fields'][number];
    const share = (counts[a] ?? 1) / this.features.rows;
    const usual = this.usual[index] as number;
    return Math.max(RAREST, Math.min(COMMONEST, share / usual));
  }
}

const isName = (kind: string | undefined): boolean => kind === 'given' || kind === 'family';

/** The share of the rows that has the value which a chance pair that agrees agrees on. */
function usualShare(counts: Uint32Array): number {
  let [rows, squares] = [0, 0];
  for (let id = 1; id < counts.length; id++) {
    const count = counts[id] as number;
    rows += count;
    squares += count * count;
  }
  return rows ? squares / rows / rows : 1;
}

export const probabilityOf = (logOdds: number): number => 1 / (1 + Math.exp(-logOdds));
