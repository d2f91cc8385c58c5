import type { Parsed } from '@emporikon/contract';
import { decimalOf } from '@emporikon/core/lifecycle/minorUnits';
import { quoteNumber, type QuoteContent } from '@emporikon/core/lifecycle/quotes';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import { localNow, requireActor, type Context } from '../commands/context';
import { Deal } from '../db/models/deals';
import { Company } from '../db/models/people';
import { Product, Quote, QuoteSettings } from '../db/models/pipelines';
import { linesOf } from '../deals/lines';
import { peopleOf } from '../deals/people';
import { invalid, notFound } from '../http/problems';
import { enter } from '../ledger/write';

export async function loadSettings(context: Context, lock = false): Promise<QuoteSettings> {
  const settings = await QuoteSettings.findOne({ transaction: context.tx, lock });
  if (!settings) throw new Error('the settings of quotes are gone');
  return settings;
}

/** The next count of a series; two who ask at once get two. */
async function nextCount(context: Context, series: string): Promise<number> {
  const [row] = await context.sequelize.query<{ last: number }>(
    'INSERT INTO number_series AS n (series, last) VALUES (:series, 1) ON CONFLICT (series) DO UPDATE SET last = n.last + 1 RETURNING last',
    { replacements: { series }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return row?.last ?? 1;
}

/** A sum in words that are the same for everybody, as it goes into the ledger. */
const moneyWords = (minor: number, currency: string): string =>
  new Intl.NumberFormat('en-GB', { style: 'currency', currency, currencyDisplay: 'code' })
    .format(Number(decimalOf(minor, currency)))
    .replace(/\u00a0/g, ' ');

async function contentOf(
  context: Context,
  deal: Deal,
  attention: { name: string; jobTitle: string | null } | undefined,
  { issuer, terms }: { issuer: string; terms: string },
): Promise<QuoteContent> {
  const { lines, totals } = await linesOf(context, deal.id);
  if (!lines.length)
    throw invalid('This deal has no lines to quote yet. Add what they buy first.', {
      fields: { lines: 'are missing' },
    });
  const codes = new Map(
    (
      await Product.findAll({
        where: { id: lines.flatMap((line) => line.productId ?? []) },
        transaction: context.tx,
      })
    ).map((one) => [one.id, one.code]),
  );
  const company = deal.companyId ? await Company.findByPk(deal.companyId, { transaction: context.tx }) : null;
  return {
    title: deal.title,
    issuer,
    to: company
      ? [company.legalName || company.name, ...(company.address ?? '').split('\n')].filter(Boolean)
      : [],
    attention: attention ? [attention.name, attention.jobTitle].filter(Boolean).join(', ') : '',
    from: requireActor(context).name,
    currency: deal.currency,
    lines: lines.map(({ productId, id: _id, ...line }) => ({
      ...line,
      code: productId ? (codes.get(productId) ?? '') : '',
    })),
    taxes: totals.taxes,
    netMinor: totals.netMinor,
    grossMinor: totals.grossMinor,
    terms,
  };
}

/**
 * Makes a quote of a deal's lines: with the next number of the year, dated today, all it prints kept with it, and
 * entered in the ledger of the deal, its company and whoever it is addressed to.
 */
export async function makeQuote(
  context: Context,
  dealId: string,
  given: NonNullable<Parsed<'POST /api/deals/:id/quotes', 'body'>>,
): Promise<{ id: string; eventId: string | null }> {
  const deal = await Deal.findByPk(dealId, { transaction: context.tx, lock: true });
  if (!deal) throw notFound('There is no such deal.');
  const settings = await loadSettings(context);
  const people = await peopleOf(context, dealId);
  const attention = given.personId ? people.find((person) => person.id === given.personId) : people[0];
  if (given.personId && !attention)
    throw invalid('They have no part in this deal.', { fields: { personId: 'is not on the deal' } });
  const today = DateTime.fromISO(localNow(context), { setZone: true });
  const issuedOn = today.toISODate() ?? '';
  const validUntil = given.validUntil ?? today.plus({ days: settings.validDays }).toISODate() ?? '';
  if (validUntil < issuedOn)
    throw invalid('A quote cannot end before it is made.', { fields: { validUntil: 'has passed' } });
  const content = await contentOf(context, deal, attention, {
    issuer: settings.issuer,
    terms: given.terms ?? settings.terms,
  });
  const series = `${settings.prefix}-${today.year}`;
  const number = quoteNumber(settings.prefix, today.year, await nextCount(context, series));
  const actor = requireActor(context);
  const now = context.now();
  const entry = await enter(
    context,
    {
      side: 'within',
      kind: 'quote',
      headline: `Quote ${number} made, ${moneyWords(content.grossMinor, content.currency)} with tax`,
      body: `Valid until ${validUntil}.`,
    },
    { personId: attention?.id, companyId: deal.companyId, dealId },
  );
  const quote = await context.write.insert(Quote, {
    id: context.newId(),
    number,
    dealId,
    entryId: entry.id,
    state: 'drafted',
    issuedOn,
    validUntil,
    content,
    createdBy: actor.id,
    createdAt: now,
  });
  return {
    id: quote.id,
    eventId: await context.write.event('make quote', `Made the quote ${number}`, actor.id),
  };
}
