import { runInTransaction, type Actor, type Context, type Tools } from '@emporikon/server/commands/context';
import { Deal, DealRoleRow, Stage } from '@emporikon/server/db/models/deals';
import { Company, Person } from '@emporikon/server/db/models/people';
import {
  CurrencyRate,
  Price,
  PriceList,
  Product,
  QuoteSettings,
} from '@emporikon/server/db/models/pipelines';
import { Employment, Relation, RelationKind } from '@emporikon/server/db/models/relations';
import { findOrMakeCompany } from '@emporikon/server/companies/commands';
import { setLines } from '@emporikon/server/deals/lines';
import { addPerson } from '@emporikon/server/people/commands';
import { addPipeline, addStage } from '@emporikon/server/pipelines/commands';
import { makeQuote } from '@emporikon/server/quotes/make';
import { DateTime } from 'luxon';

/** Code, name, price in euros, tax in per cent, how it is charged. */
const PRODUCTS: readonly [string, string, number, number, Product['charged']][] = [
  ['LB-2', 'Long bike, two boxes', 4_500, 20, 'once'],
  ['LB-4', 'Long bike, four boxes', 5_200, 20, 'once'],
  ['TR-1', 'Trailer with coupling', 1_950, 20, 'once'],
  ['RC-1', 'Rain cover', 140, 20, 'once'],
  ['SV-M', 'Service plan, monthly', 39, 20, 'month'],
  ['TRAIN', 'Riding lesson, half a day', 260, 5.5, 'once'],
];
const RATES: readonly [string, string][] = [
  ['GBP', '0.86'],
  ['SEK', '11.2'],
  ['NOK', '11.6'],
  ['USD', '1.09'],
  ['AUD', '1.66'],
];

async function loadProducts(context: Context): Promise<Map<string, string>> {
  const list = await context.write.insert(PriceList, {
    id: context.newId(),
    name: 'Euro, from spring',
    currency: 'EUR',
    active: true,
  });
  const ids = new Map<string, string>();
  for (const [code, name, price, tax, charged] of PRODUCTS) {
    const product = await context.write.insert(Product, {
      id: context.newId(),
      code,
      name,
      taxPercent: String(tax),
      charged,
      active: true,
    });
    ids.set(code, product.id);
    await context.write.insert(Price, {
      id: context.newId(),
      listId: list.id,
      productId: product.id,
      unitMinor: price * 100,
    });
  }
  const day = DateTime.fromJSDate(context.now()).startOf('year').toISODate() ?? '';
  for (const [currency, perHouse] of RATES)
    await context.write.insert(CurrencyRate, { id: context.newId(), currency, day, perHouse });
  const settings = await QuoteSettings.findOne({ transaction: context.tx, rejectOnEmpty: true });
  await context.write.update(settings, {
    issuer: 'Wharfside Cargo Cycles\n4 Coal Quay, Eastwater\nhello@wharfside.example',
    terms: 'Delivery eight weeks after the order. Half is paid on order, half on delivery.',
  });
  await context.write.event('load demo', 'Set up products', null);
  return ids;
}

async function dealOf(context: Context, title: string): Promise<Deal> {
  return Deal.findOne({ where: { title }, transaction: context.tx, rejectOnEmpty: true });
}

type Item = [code: string, quantity: string, less: string, periods: number];

async function putLines(
  context: Context,
  title: string,
  products: ReadonlyMap<string, string>,
  items: readonly Item[],
): Promise<Deal> {
  const deal = await dealOf(context, title);
  await setLines(context, deal.id, {
    version: deal.version,
    lines: items.map(([code, quantity, discountPercent, periods]) => {
      const [, name = code, price = 0, tax = 0, charged = 'once'] =
        PRODUCTS.find((one) => one[0] === code) ?? [];
      return {
        productId: products.get(code) ?? null,
        name,
        quantity,
        unitMinor: price * 100,
        discountPercent,
        taxPercent: String(tax),
        charged,
        periods,
      };
    }),
  });
  return deal;
}

/** A second pipeline, of service plans, with two deals in it. */
async function loadPlans(context: Context): Promise<void> {
  const { id } = await addPipeline(context, 'Service plans');
  await addStage(context, { pipelineId: id, name: 'Offered', probability: 50, typicalDays: 10 });
  const stages = await Stage.findAll({
    where: { pipelineId: id },
    order: ['position'],
    transaction: context.tx,
  });
  const now = DateTime.fromJSDate(context.now());
  for (const [at, [name, domain, amount]] of (
    [
      ['Norrsken Florists', 'norrskenflorists.example', 2_800],
      ['Pão & Sal', 'paoesal.example', 936],
    ] as const
  ).entries()) {
    const company = await findOrMakeCompany(context, name, domain);
    const stage = stages[at];
    if (!stage) continue;
    const since = now.minus({ days: 3 + at * 4 }).toJSDate();
    await context.write.insert(Deal, {
      id: context.newId(),
      title: `${name}, service plan`,
      companyId: company.id,
      leadId: null,
      stageId: stage.id,
      stageSince: since,
      amountMinor: amount * 100,
      currency: 'EUR',
      probability: stage.probability,
      expectedClose: now.plus({ days: 30 + at * 20 }).toISODate(),
      ownerId: context.actor?.id ?? '',
      createdAt: since,
      updatedAt: since,
    });
  }
  await context.write.event('load demo', 'Set up service plans', context.actor?.id ?? null);
}

/** Who is who at Greenbasket, and where its owner worked before. */
async function loadPeople(context: Context): Promise<void> {
  const company = await findOrMakeCompany(context, 'Greenbasket', 'greenbasket.example');
  const owner = await Person.findOne({
    where: { companyId: company.id },
    transaction: context.tx,
    rejectOnEmpty: true,
  });
  const ids: string[] = [];
  for (const [fullName, jobTitle, local] of [
    ['Agnieszka Wilk', 'Head of Finance', 'agnieszka'],
    ['Piers Holloway', 'Fleet Manager', 'piers'],
    ['Dilys Marsh', 'Office Assistant', 'dilys'],
  ] as const)
    ids.push(
      (
        await addPerson(context, {
          fullName,
          jobTitle,
          email: `${local}@greenbasket.example`,
          companyId: company.id,
        })
      ).id,
    );
  const kinds = await RelationKind.findAll({ order: ['position'], transaction: context.tx });
  const [reports, assists] = kinds;
  const deal = await dealOf(context, 'Greenbasket, fleet');
  for (const [at, id] of ids.entries()) {
    const kind = at === 2 ? assists : reports;
    if (kind)
      await context.write.insert(Relation, {
        id: context.newId(),
        kindId: kind.id,
        fromId: id,
        toId: owner.id,
      });
    if (at < 2)
      await context.write.insert(DealRoleRow, {
        id: context.newId(),
        dealId: deal.id,
        personId: id,
        role: at ? 'influences' : 'pays',
      });
  }
  const before = await Company.findOne({ where: { name: 'Dashline Couriers' }, transaction: context.tx });
  if (before)
    await context.write.insert(Employment, {
      id: context.newId(),
      personId: owner.id,
      companyId: before.id,
      jobTitle: 'Depot Manager',
      fromDay: '2017-04-01',
      untilDay: '2021-08-31',
    });
  await context.write.event('load demo', 'Set up who is who', context.actor?.id ?? null);
}

/** What is sold and for how much, a second pipeline, lines and a quote, and who is who. */
export async function loadSales(tools: Tools, actors: ReadonlyMap<string, Actor>): Promise<void> {
  const products = await runInTransaction(tools, null, loadProducts);
  const ines = actors.get('Ines Tolland') ?? null;
  await runInTransaction(tools, ines, loadPlans);
  await runInTransaction(tools, ines, loadPeople);
  await runInTransaction(tools, ines, async (context) => {
    const deal = await putLines(context, 'Greenbasket, fleet', products, [
      ['LB-4', '8', '5', 1],
      ['LB-2', '6', '5', 1],
      ['RC-1', '14', '100', 1],
      ['SV-M', '14', '0', 24],
      ['TRAIN', '2', '0', 1],
    ]);
    await makeQuote(context, deal.id, {});
  });
  await runInTransaction(tools, actors.get('Pell Garrick') ?? null, async (context) => {
    await putLines(context, 'Rennie, 2 trailers', products, [['TR-1', '4', '0', 1]]);
  });
}
