import type { Parsed } from '@emporikon/contract';
import type { DealDetail } from '@emporikon/contract/deals';
import { totalsOf, type LineFacts, type Totals } from '@emporikon/core/lifecycle/lines';
import { requireActor, type Context } from '../commands/context';
import { rowOf } from '../commands/writer';
import { Deal } from '../db/models/deals';
import { DealLine, Product } from '../db/models/pipelines';
import { invalid, notFound, stale } from '../http/problems';

const load = (context: Context, dealId: string): Promise<DealLine[]> =>
  DealLine.findAll({ where: { dealId }, order: ['position'], transaction: context.tx });

/** A decimal without the zeros behind it that the database pads it with. */
const short = (decimal: string): string => String(Number(decimal));

/** The lines of a deal and what they come to. */
export async function linesOf(
  context: Context,
  dealId: string,
): Promise<Pick<DealDetail, 'lines' | 'totals'>> {
  const rows = await load(context, dealId);
  const totals = totalsOf(rows);
  return {
    totals,
    lines: rows.map((row, at) => ({
      id: row.id,
      productId: row.productId,
      name: row.name,
      quantity: short(row.quantity),
      unitMinor: row.unitMinor,
      discountPercent: short(row.discountPercent),
      taxPercent: short(row.taxPercent),
      charged: row.charged,
      periods: row.periods,
      netMinor: totals.lines[at] ?? 0,
    })),
  };
}

/** What lines come to. @throws 422 when that is more than can be reckoned with */
export function checkedTotals(lines: readonly LineFacts[]): Totals {
  const totals = totalsOf(lines);
  if (totals.grossMinor > Number.MAX_SAFE_INTEGER / 100)
    throw invalid('The total of these lines is too large to calculate.', {
      fields: { lines: 'are too large' },
    });
  return totals;
}

/** Sets the lines of a deal. Its amount becomes their net; without lines it stays what it was. */
export async function setLines(
  context: Context,
  dealId: string,
  { version, lines }: Parsed<'PUT /api/deals/:id/lines', 'body'>,
): Promise<{ version: number; totals: Totals; eventId: string | null }> {
  const deal = await Deal.findByPk(dealId, { transaction: context.tx, lock: true });
  if (!deal) throw notFound('There is no such deal.');
  if (deal.version !== version) throw stale(rowOf(deal));
  const products = [...new Set(lines.flatMap((line) => line.productId ?? []))];
  if ((await Product.count({ where: { id: products }, transaction: context.tx })) !== products.length)
    throw invalid('There is no such product.', { fields: { lines: 'names one that does not exist' } });
  const totals = checkedTotals(lines);
  const known = await load(context, dealId);
  for (const row of known.slice(lines.length)) await context.write.remove(row);
  for (const [position, line] of lines.entries()) {
    const values = {
      ...line,
      productId: line.productId ?? null,
      periods: line.charged === 'once' ? 1 : line.periods,
      position,
    };
    const row = known[position];
    if (row) await context.write.update(row, values);
    else await context.write.insert(DealLine, { id: context.newId(), dealId, ...values });
  }
  // The version always moves, so that two who change the lines at once do not both succeed.
  await context.write.update(deal, {
    updatedAt: context.now(),
    ...(lines.length ? { amountMinor: totals.netMinor } : {}),
  });
  const eventId = await context.write.event(
    'set deal lines',
    `Changed what ${deal.title} is made of`,
    requireActor(context).id,
  );
  return { version: deal.version, totals, eventId };
}

export const hasLines = async (context: Context, dealId: string): Promise<boolean> =>
  (await DealLine.count({ where: { dealId }, transaction: context.tx })) > 0;
