import { IdParam } from '@emporikon/contract/common';
import type { QuoteRow } from '@emporikon/contract/quotes';
import { isLapsed, nextQuoteStates, type QuoteState } from '@emporikon/core/lifecycle/quotes';
import type { FastifyInstance } from 'fastify';
import { localNow, runInTransaction, requireActor, type Context, type Tools } from '../commands/context';
import { Deal } from '../db/models/deals';
import { LedgerLink } from '../db/models/ledger';
import { Quote } from '../db/models/pipelines';
import { User } from '../db/models/users';
import { fileSchema } from '../http/openapi';
import type { Handlers } from '../http/mount';
import { conflict, notFound } from '../http/problems';
import { enter } from '../ledger/write';
import { loadSettings, makeQuote } from './make';
import { printQuote } from './pdf';

const SAID = {
  sent: 'sent',
  accepted: 'accepted by them',
  declined: 'declined by them',
  withdrawn: 'withdrawn',
  drafted: 'drafted',
} as const;
const SIDES = {
  sent: 'ours',
  accepted: 'theirs',
  declined: 'theirs',
  withdrawn: 'within',
  drafted: 'within',
} as const;

/** What became of a quote is an entry of its own, beside the one that says it was made; whose word it is tells the turn. */
async function sayState(context: Context, quote: Quote, state: QuoteState): Promise<void> {
  const links = await LedgerLink.findAll({ where: { entryId: quote.entryId }, transaction: context.tx });
  const of = (key: 'personId' | 'companyId' | 'leadId' | 'dealId'): string | null =>
    links.find((link) => link[key])?.[key] ?? null;
  await enter(
    context,
    { side: SIDES[state], kind: 'quote', headline: `Quote ${quote.number} ${SAID[state]}` },
    {
      personId: of('personId'),
      companyId: of('companyId'),
      leadId: of('leadId'),
      dealId: of('dealId'),
    },
  );
}

async function rowsOf(context: Context, where: { dealId?: string; id?: string }): Promise<QuoteRow[]> {
  const quotes = await Quote.findAll({
    where,
    order: [
      ['createdAt', 'DESC'],
      ['number', 'DESC'],
    ],
    limit: 500,
    transaction: context.tx,
  });
  const tx = { transaction: context.tx };
  const users = new Map(
    (await User.findAll({ where: { id: quotes.map((quote) => quote.createdBy) }, ...tx })).map((one) => [
      one.id,
      one.name,
    ]),
  );
  const deals = new Map(
    (await Deal.findAll({ where: { id: quotes.map((quote) => quote.dealId) }, ...tx })).map((one) => [
      one.id,
      one.title,
    ]),
  );
  const today = localNow(context).slice(0, 10);
  return quotes.map((quote) => {
    const state = quote.state ?? 'drafted';
    return {
      id: quote.id,
      version: quote.version ?? 1,
      number: quote.number,
      state,
      isLapsed: isLapsed(state, quote.validUntil, today),
      next: [...nextQuoteStates(state)],
      issuedOn: quote.issuedOn,
      validUntil: quote.validUntil,
      currency: quote.content.currency,
      netMinor: quote.content.netMinor,
      grossMinor: quote.content.grossMinor,
      by: users.get(quote.createdBy) ?? '',
      createdAt: quote.createdAt.toISOString(),
      deal: { id: quote.dealId, name: deals.get(quote.dealId) ?? '' },
    };
  });
}

export const quoteHandlers: Handlers = {
  'GET /api/quotes': async ({ query, context }) => ({
    items: await rowsOf(context, query.deal ? { dealId: query.deal } : {}),
  }),
  'POST /api/deals/:id/quotes': async ({ params, body, context }) => {
    const { id, eventId } = await makeQuote(context, params.id, body ?? {});
    const [quote] = await rowsOf(context, { id });
    if (!quote) throw notFound('The quote is gone.');
    return { quote, eventId };
  },
  'PATCH /api/quotes/:id': async ({ params, body, context }) => {
    const quote = await Quote.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!quote) throw notFound('There is no such quote.');
    const from = quote.state ?? 'drafted';
    if (from !== body.state && !nextQuoteStates(from).includes(body.state))
      throw conflict(`A quote that is ${from} cannot become ${body.state}.`);
    await context.write.update(quote, { state: body.state }, body.version);
    if (from !== body.state) await sayState(context, quote, body.state);
    return {
      eventId: await context.write.event(
        'move quote',
        `${quote.number} ${SAID[body.state]}`,
        requireActor(context).id,
      ),
    };
  },
  'GET /api/quote-settings': async ({ context }) => {
    const { version, issuer, terms, prefix, validDays } = await loadSettings(context);
    return { version: version ?? 1, issuer, terms, prefix, validDays };
  },
  'PATCH /api/quote-settings': async ({ body: { version, ...patch }, context }) => {
    const settings = await loadSettings(context, true);
    await context.write.update(settings, patch, version);
    return {
      eventId: await context.write.event(
        'change quote settings',
        'Changed what every quote prints',
        requireActor(context).id,
      ),
    };
  },
};

/** The printable document of a quote. */
export function mountQuoteFiles(app: FastifyInstance, tools: Tools): void {
  app.get<{ Params: { id: string } }>(
    '/api/quotes/:id/quote.pdf',
    {
      schema: fileSchema('GET /api/quotes/:id/quote.pdf', {
        summary: 'A quote as a printable document',
        tag: 'quotes',
        params: IdParam,
        mediaType: 'application/pdf',
      }),
    },
    async (request, reply) => {
      const quote = await runInTransaction(tools, request.actor, (context) =>
        Quote.findByPk(request.params.id, { transaction: context.tx }),
      );
      if (!quote) throw notFound('There is no such quote.');
      return reply
        .type('application/pdf')
        .header('content-disposition', `inline; filename="${quote.number}.pdf"`)
        .send(await printQuote(quote));
    },
  );
}
