import { QUOTE_STATES } from '@emporikon/core/lifecycle/quotes';
import { z } from 'zod';
import { Day, Done, Id, IdParam, Line, Named, routes, Time, Version } from './common';

const QuoteState = z.enum(QUOTE_STATES);
export const QuoteRow = z.object({
  id: Id,
  version: z.int(),
  number: z.string(),
  state: QuoteState,
  isLapsed: z.boolean(),
  next: z.array(QuoteState),
  issuedOn: Day,
  validUntil: Day,
  currency: z.string(),
  netMinor: z.int(),
  grossMinor: z.int(),
  by: z.string(),
  createdAt: Time,
  deal: Named,
});
export type QuoteRow = z.infer<typeof QuoteRow>;
const Settings = z.object({
  version: z.int(),
  issuer: z.string(),
  terms: z.string(),
  prefix: z.string(),
  validDays: z.int(),
});

export const quoteRoutes = routes({
  'GET /api/quotes': {
    summary: 'The quotes of a deal, or of all, newest first',
    tag: 'quotes',
    right: 'deals.see',
    query: z.object({ deal: Id.optional() }),
    reply: z.object({ items: z.array(QuoteRow) }),
  },
  'POST /api/deals/:id/quotes': {
    summary: 'Make a quote from the lines of a deal: numbered, dated, and entered in the ledger',
    tag: 'quotes',
    params: IdParam,
    status: 201,
    body: z
      .object({
        personId: Id.nullish().describe('to whose attention; left out, whoever decides'),
        validUntil: Day.optional(),
        terms: z.string().trim().max(4000).optional(),
      })
      .optional(),
    reply: Done.extend({ quote: QuoteRow }),
  },
  'PATCH /api/quotes/:id': {
    summary: 'Move a quote on: sent, accepted, declined, withdrawn',
    tag: 'quotes',
    params: IdParam,
    body: z.object({ version: Version, state: QuoteState }),
    reply: Done,
  },
  'GET /api/quote-settings': { summary: 'What every quote prints', tag: 'quotes', reply: Settings },
  'PATCH /api/quote-settings': {
    summary: 'Change what every quote prints',
    tag: 'quotes',
    right: 'settings.deals',
    body: z.object({
      version: Version,
      issuer: z.string().trim().max(600).optional(),
      terms: z.string().trim().max(4000).optional(),
      prefix: Line(12)
        .regex(/^[\w-]+$/, 'letters and digits only')
        .optional(),
      validDays: z.int().min(1).max(365).optional(),
    }),
    reply: Done,
  },
});
