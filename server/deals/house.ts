import { convert, type Rate } from '@emporikon/core/lifecycle/currencies';
import type { Context } from '../commands/context';
import { CurrencyRate } from '../db/models/pipelines';

export async function loadRates(context: Pick<Context, 'tx'>): Promise<Rate[]> {
  const rows = await CurrencyRate.findAll({ order: ['day'], transaction: context.tx });
  return rows.map(({ currency, day, perHouse }) => ({ currency, day, perHouse }));
}

/** Converts sums to the house currency at the rates of a day, today where none is named; null where a rate is missing. */
export async function toHouse(
  context: Context,
): Promise<(minor: number, currency: string, day?: string) => number | null> {
  const rates = await loadRates(context);
  const today = context.now().toISOString().slice(0, 10);
  const house = context.house.currency;
  const known = new Map<string, number | null>();
  return (minor, currency, day = today) => {
    if (currency === house) return minor;
    const key = `${minor} ${currency} ${day}`;
    const before = known.get(key);
    if (before !== undefined) return before;
    const made = convert(minor, { from: currency, to: house, house, day }, rates);
    known.set(key, made);
    return made;
  };
}

type Weighed = { amountMinor: number | null; currency: string; probability: number };

/** Sums up deals in the house currency, plain and weighted by their chance; currencies without a rate are named. */
export async function inHouseCurrency(context: Context): Promise<
  (deals: readonly Weighed[]) => {
    plain: number;
    weighted: number;
    currency: string;
    missing: string[];
  }
> {
  const convertSum = await toHouse(context);
  return (deals) => {
    let [plain, weighted] = [0, 0];
    const missing = new Set<string>();
    for (const { amountMinor, currency, probability } of deals) {
      const minor = convertSum(amountMinor ?? 0, currency);
      if (minor === null) {
        if (amountMinor) missing.add(currency);
        continue;
      }
      plain += minor;
      weighted += (minor * probability) / 100;
    }
    return { plain, weighted: Math.round(weighted), currency: context.house.currency, missing: [...missing] };
  };
}
