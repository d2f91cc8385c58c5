import type { Model, ModelStatic, WhereOptions } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { CurrencyRate, Price, PriceList, Product } from '../db/models/pipelines';
import type { Handlers } from '../http/mount';
import { invalid, notFound } from '../http/problems';
import { priceOf } from './price';

async function refuseTaken<M extends Model & { id: string }>(
  context: Context,
  model: ModelStatic<M>,
  field: 'code' | 'name',
  value: string | undefined,
  except = '',
): Promise<void> {
  if (value === undefined) return;
  const where = { [field]: value } as unknown as WhereOptions;
  const same = await model.findOne({ where, transaction: context.tx });
  if (same && same.id !== except)
    throw invalid(`There is one with that ${field}.`, { fields: { [field]: 'is taken' } });
}

const short = (decimal: string): string => String(Number(decimal));

export const productHandlers: Handlers = {
  'GET /api/products': async ({ context }) => {
    const tx = { transaction: context.tx };
    const [products, lists, prices] = [
      await Product.findAll({ order: ['name'], ...tx }),
      await PriceList.findAll({ order: ['name'], ...tx }),
      await Price.findAll(tx),
    ];
    return {
      items: products.map(({ id, version, code, name, taxPercent, charged, active }) => ({
        id,
        version,
        code,
        name,
        taxPercent: short(taxPercent),
        charged,
        active: active ?? true,
        prices: prices
          .filter((price) => price.productId === id)
          .map(({ listId, unitMinor }) => ({ listId, unitMinor })),
      })),
      lists: lists.map(({ id, version, name, currency, active }) => ({
        id,
        version,
        name,
        currency,
        active: active ?? true,
      })),
    };
  },
  'POST /api/products': async ({ body, context }) => {
    await refuseTaken(context, Product, 'code', body.code);
    const made = await context.write.insert(Product, { id: context.newId(), ...body, active: true });
    return {
      id: made.id,
      eventId: await context.write.event('add product', `Added ${made.name}`, requireActor(context).id),
    };
  },
  'PATCH /api/products/:id': async ({ params, body: { version, ...patch }, context }) => {
    const product = await Product.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!product) throw notFound('There is no such product.');
    await refuseTaken(context, Product, 'code', patch.code, product.id);
    await context.write.update(product, patch, version);
    return {
      eventId: await context.write.event(
        'change product',
        `Changed ${product.name}`,
        requireActor(context).id,
      ),
    };
  },
  'POST /api/price-lists': async ({ body, context }) => {
    await refuseTaken(context, PriceList, 'name', body.name);
    const made = await context.write.insert(PriceList, { id: context.newId(), ...body, active: true });
    return {
      id: made.id,
      eventId: await context.write.event(
        'add price list',
        `Added the price list ${made.name}`,
        requireActor(context).id,
      ),
    };
  },
  'PATCH /api/price-lists/:id': async ({ params, body: { version, ...patch }, context }) => {
    const list = await PriceList.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!list) throw notFound('There is no such price list.');
    await refuseTaken(context, PriceList, 'name', patch.name, list.id);
    await context.write.update(list, patch, version);
    return {
      eventId: await context.write.event(
        'change price list',
        `Changed the price list ${list.name}`,
        requireActor(context).id,
      ),
    };
  },
  'PUT /api/price-lists/:id/prices/:productId': async ({ params, body: { unitMinor }, context }) => {
    const list = await PriceList.findByPk(params.id, { transaction: context.tx, lock: true });
    const product = await Product.findByPk(params.productId, { transaction: context.tx });
    if (!list || !product) throw notFound('There is no such price list or product.');
    const known = await Price.findOne({
      where: { listId: list.id, productId: product.id },
      transaction: context.tx,
    });
    if (unitMinor === null) {
      if (known) await context.write.remove(known);
    } else if (known) await context.write.update(known, { unitMinor });
    else
      await context.write.insert(Price, {
        id: context.newId(),
        listId: list.id,
        productId: product.id,
        unitMinor,
      });
    return {
      eventId: await context.write.event(
        'set price',
        `Changed the price of ${product.name} in ${list.name}`,
        requireActor(context).id,
      ),
    };
  },
  'GET /api/products/:id/price': async ({ params, query, context }) => priceOf(context, params.id, query),
  'GET /api/rates': async ({ context }) => {
    const rows = await CurrencyRate.findAll({
      order: [
        ['currency', 'ASC'],
        ['day', 'DESC'],
      ],
      transaction: context.tx,
    });
    return {
      house: context.house.currency,
      items: rows.map(({ id, version, currency, day, perHouse }) => ({
        id,
        version,
        currency,
        day,
        perHouse: short(perHouse),
      })),
    };
  },
  'PUT /api/rates': async ({ body, context }) => {
    if (body.currency === context.house.currency)
      throw invalid('This is your organisation’s own currency.', { fields: { currency: 'needs no rate' } });
    const known = await CurrencyRate.findOne({
      where: { currency: body.currency, day: body.day },
      transaction: context.tx,
      lock: true,
    });
    if (known) await context.write.update(known, { perHouse: body.perHouse });
    else await context.write.insert(CurrencyRate, { id: context.newId(), ...body });
    return {
      eventId: await context.write.event(
        'set rate',
        `Set the rate of ${body.currency} from ${body.day}`,
        requireActor(context).id,
      ),
    };
  },
  'DELETE /api/rates/:id': async ({ params, context }) => {
    const rate = await CurrencyRate.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!rate) throw notFound('There is no such rate.');
    await context.write.remove(rate);
    return {
      eventId: await context.write.event(
        'remove rate',
        `Removed the rate of ${rate.currency} from ${rate.day}`,
        requireActor(context).id,
      ),
    };
  },
};
