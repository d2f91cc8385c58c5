import type { Parsed, Reply } from '@emporikon/contract';
import { convert, rateOn } from '@emporikon/core/lifecycle/currencies';
import type { Context } from '../commands/context';
import { Price, PriceList } from '../db/models/pipelines';
import { loadRates } from '../deals/house';

/**
 * What a product costs: by the list named, else by one in the currency, else by another one converted at the rates of
 * the day, which is told.
 */
export async function priceOf(
  context: Context,
  productId: string,
  { currency, list, day }: Parsed<'GET /api/products/:id/price', 'query'>,
): Promise<Reply<'GET /api/products/:id/price'>> {
  const lists = new Map(
    (await PriceList.findAll({ where: { active: true }, order: ['name'], transaction: context.tx })).map(
      (one) => [one.id, one],
    ),
  );
  const prices = (await Price.findAll({ where: { productId }, transaction: context.tx })).filter((price) =>
    lists.has(price.listId),
  );
  const { house } = context;
  const rank = (price: Price): number =>
    price.listId === list
      ? 0
      : lists.get(price.listId)?.currency === currency
        ? 1
        : lists.get(price.listId)?.currency === house.currency
          ? 2
          : 3;
  const [best] = prices.sort(
    (a, b) =>
      rank(a) - rank(b) || ((lists.get(a.listId)?.name ?? '') < (lists.get(b.listId)?.name ?? '') ? -1 : 1),
  );
  const of = best && lists.get(best.listId);
  if (!of) return { unitMinor: null, list: null, rate: null };
  if (of.currency === currency) return { unitMinor: best.unitMinor, list: of.name, rate: null };
  const on = day ?? context.now().toISOString().slice(0, 10);
  const rates = await loadRates(context);
  const unitMinor = convert(
    best.unitMinor,
    { from: of.currency, to: currency, house: house.currency, day: on },
    rates,
  );
  const words = [of.currency, currency]
    .filter((one) => one !== house.currency)
    .map((one) => {
      const rate = rateOn(rates, one, on);
      return rate
        ? `1 ${house.currency} = ${Number(rate.perHouse)} ${one} from ${rate.day}`
        : `no rate for ${one}`;
    });
  return { unitMinor, list: of.name, rate: words.join(', ') };
}
