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
