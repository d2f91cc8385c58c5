import { CHARGED } from '@emporikon/core/lifecycle/lines';
import { isCurrency } from '@emporikon/core/lifecycle/currencies';
import { z } from 'zod';
import { Currency, Day, Done, Id, IdParam, Line, Minor, routes, Version } from './common';

const decimal = (places: number, most: number, least = 0) =>
  z
    .union([z.number(), z.string().max(20)])
    .transform(String)
    .pipe(z.string().regex(new RegExp(`^\\d{1,9}(\\.\\d{1,${places}})?$`), `up to ${places} decimal places`))
    .refine((value) => Number(value) >= least && Number(value) <= most, `from ${least} to ${most}`);
export const Percent = decimal(2, 100);
const Charged = z.enum(CHARGED);
export const KnownCurrency = Currency.refine(isCurrency, 'is no currency of ISO 4217');

export const LineDraft = z.object({
  productId: Id.nullish(),
  name: Line(200),
  quantity: decimal(3, 999_999_999, 0.001),
  unitMinor: Minor.max(100_000_000_000),
  discountPercent: Percent.default('0'),
  taxPercent: Percent.default('0'),
  charged: Charged.default('once'),
  periods: z.int().min(1).max(1200).default(1).describe('months or years it is charged for'),
});
export const DealLine = z.object({
  id: Id,
  productId: Id.nullable(),
  name: z.string(),
  quantity: z.string(),
  unitMinor: z.int(),
  discountPercent: z.string(),
  taxPercent: z.string(),
  charged: Charged,
  periods: z.int(),
  netMinor: z.int().describe('over all its periods'),
});
export type DealLine = z.infer<typeof DealLine>;
export const Totals = z.object({
  lines: z.array(z.int()),
  netMinor: z.int(),
  taxes: z.array(z.object({ percent: z.number(), netMinor: z.int(), taxMinor: z.int() })),
  taxMinor: z.int(),
  grossMinor: z.int(),
  onceMinor: z.int(),
  monthMinor: z.int(),
  yearMinor: z.int(),
});
export type Totals = z.infer<typeof Totals>;
export const Product = z.object({
  id: Id,
  version: z.int(),
  code: z.string(),
  name: z.string(),
  taxPercent: z.string(),
  charged: Charged,
  active: z.boolean(),
  prices: z.array(z.object({ listId: Id, unitMinor: z.int() })),
});
export type Product = z.infer<typeof Product>;
export const PriceList = z.object({
  id: Id,
  version: z.int(),
  name: z.string(),
  currency: z.string(),
  active: z.boolean(),
});
export type PriceList = z.infer<typeof PriceList>;
export const RateRow = z.object({
  id: Id,
  version: z.int(),
  currency: z.string(),
  day: Day,
  perHouse: z.string(),
});
const PerHouse = decimal(8, 1e9, 1e-8);

export const productRoutes = routes({
  'GET /api/products': {
    summary: 'What is sold, with its price in each list',
    tag: 'products',
    reply: z.object({ items: z.array(Product), lists: z.array(PriceList) }),
  },
  'POST /api/products': {
    summary: 'Add a product',
    tag: 'products',
    status: 201,
    right: 'settings.deals',
    body: z.object({
      code: Line(40),
      name: Line(200),
      taxPercent: Percent.default('0'),
      charged: Charged.default('once'),
    }),
    reply: Done.extend({ id: Id }),
  },
  'PATCH /api/products/:id': {
    summary: 'Change or retire a product; lines that have it stay as they are',
    tag: 'products',
    params: IdParam,
    right: 'settings.deals',
    body: z.object({
      version: Version,
      code: Line(40).optional(),
      name: Line(200).optional(),
      taxPercent: Percent.optional(),
      charged: Charged.optional(),
      active: z.boolean().optional(),
    }),
    reply: Done,
  },
  'POST /api/price-lists': {
    summary: 'Add a price list in a currency',
    tag: 'products',
    status: 201,
    right: 'settings.deals',
    body: z.object({ name: Line(60), currency: KnownCurrency }),
    reply: Done.extend({ id: Id }),
  },
  'PATCH /api/price-lists/:id': {
    summary: 'Rename or retire a price list',
    tag: 'products',
    params: IdParam,
    right: 'settings.deals',
    body: z.object({ version: Version, name: Line(60).optional(), active: z.boolean().optional() }),
    reply: Done,
  },
  'PUT /api/price-lists/:id/prices/:productId': {
    summary: 'What a product costs in a list; null takes it off the list',
    tag: 'products',
    params: z.object({ id: Id, productId: Id }),
    right: 'settings.deals',
    body: z.object({ unitMinor: Minor.max(100_000_000_000).nullable() }),
    reply: Done,
  },
  'GET /api/products/:id/price': {
    summary: 'What a product costs in a currency on a day: by a list in it, else by another list at the rate',
    tag: 'products',
    params: IdParam,
    query: z.object({ currency: KnownCurrency, list: Id.optional(), day: Day.optional() }),
    reply: z.object({
      unitMinor: z.int().nullable(),
      list: z.string().nullable(),
      rate: z.string().nullable().describe('how it was converted, in words'),
    }),
  },
  'GET /api/rates': {
    summary: 'What one unit of your organisation’s currency bought, from which day on',
    tag: 'products',
    reply: z.object({ house: z.string(), items: z.array(RateRow) }),
  },
  'PUT /api/rates': {
    summary: 'Set the rate of a currency from a day on',
    tag: 'products',
    right: 'settings.deals',
    body: z.object({ currency: KnownCurrency, day: Day, perHouse: PerHouse }),
    reply: Done,
  },
  'DELETE /api/rates/:id': {
    summary: 'Remove a rate',
    tag: 'products',
    params: IdParam,
    right: 'settings.deals',
    reply: Done,
  },
});
