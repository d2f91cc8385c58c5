import type { Charged } from '@emporikon/core/lifecycle/lines';
import type { QuoteContent, QuoteState } from '@emporikon/core/lifecycle/quotes';
import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

export class PipelineRow extends Model<InferAttributes<PipelineRow>, InferCreationAttributes<PipelineRow>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare name: string;
  declare position: number;
  /** Whether a stage's chance is the one somebody gave it, or the one its history shows. */
  declare chances: CreationOptional<'given' | 'measured'>;
  declare active: CreationOptional<boolean>;
}

export class CloseReason extends Model<InferAttributes<CloseReason>, InferCreationAttributes<CloseReason>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare kind: 'won' | 'lost';
  declare position: number;
  declare words: string;
  declare active: CreationOptional<boolean>;
}

export class Product extends Model<InferAttributes<Product>, InferCreationAttributes<Product>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare code: string;
  declare name: string;
  /** A decimal as text: PostgreSQL's numeric is not squeezed into a float. */
  declare taxPercent: string;
  declare charged: Charged;
  declare active: CreationOptional<boolean>;
}

export class PriceList extends Model<InferAttributes<PriceList>, InferCreationAttributes<PriceList>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare name: string;
  declare currency: string;
  declare active: CreationOptional<boolean>;
}

export class Price extends Model<InferAttributes<Price>, InferCreationAttributes<Price>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare listId: string;
  declare productId: string;
  declare unitMinor: number;
}

export class DealLine extends Model<InferAttributes<DealLine>, InferCreationAttributes<DealLine>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare dealId: string;
  declare productId: string | null;
  declare position: number;
  declare name: string;
  declare quantity: string;
  declare unitMinor: number;
  declare discountPercent: string;
  declare taxPercent: string;
  declare charged: Charged;
  declare periods: number;
}

export class CurrencyRate extends Model<
  InferAttributes<CurrencyRate>,
  InferCreationAttributes<CurrencyRate>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare currency: string;
  declare day: string;
  declare perHouse: string;
}

export class QuoteSettings extends Model<
  InferAttributes<QuoteSettings>,
  InferCreationAttributes<QuoteSettings>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare issuer: string;
  declare terms: string;
  declare prefix: string;
  declare validDays: number;
}

export class Quote extends Model<InferAttributes<Quote>, InferCreationAttributes<Quote>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare number: string;
  declare dealId: string;
  declare entryId: string;
  declare state: CreationOptional<QuoteState>;
  declare issuedOn: string;
  declare validUntil: string;
  /** All that is printed, as it was when the quote was made. */
  declare content: QuoteContent;
  declare createdBy: string;
  declare createdAt: Date;
}

export function definePipelineModels(sequelize: Sequelize): void {
  const active = { ...col.flag, defaultValue: true };
  define(sequelize, PipelineRow, 'pipelines', {
    id: col.id,
    version: col.version,
    name: col.words,
    position: col.whole,
    chances: { ...col.words, defaultValue: 'given' },
    active,
  });
  define(sequelize, CloseReason, 'close_reasons', {
    id: col.id,
    version: col.version,
    kind: col.words,
    position: col.whole,
    words: col.words,
    active,
  });
  define(sequelize, Product, 'products', {
    id: col.id,
    version: col.version,
    code: col.words,
    name: col.words,
    taxPercent: col.decimal,
    charged: col.words,
    active,
  });
  define(sequelize, PriceList, 'price_lists', {
    id: col.id,
    version: col.version,
    name: col.words,
    currency: col.words,
    active,
  });
  define(sequelize, Price, 'prices', {
    id: col.id,
    version: col.version,
    listId: col.uuid,
    productId: col.uuid,
    unitMinor: col.big,
  });
  define(sequelize, DealLine, 'deal_lines', {
    id: col.id,
    version: col.version,
    dealId: col.uuid,
    productId: col.uuid,
    position: col.whole,
    name: col.words,
    quantity: col.decimal,
    unitMinor: col.big,
    discountPercent: col.decimal,
    taxPercent: col.decimal,
    charged: col.words,
    periods: col.whole,
  });
  define(sequelize, CurrencyRate, 'currency_rates', {
    id: col.id,
    version: col.version,
    currency: col.words,
    day: col.day,
    perHouse: col.decimal,
  });
  define(sequelize, QuoteSettings, 'quote_settings', {
    id: col.id,
    version: col.version,
    issuer: col.words,
    terms: col.words,
    prefix: col.words,
    validDays: col.whole,
  });
  define(sequelize, Quote, 'quotes', {
    id: col.id,
    version: col.version,
    number: col.words,
    dealId: col.uuid,
    entryId: col.uuid,
    state: { ...col.words, defaultValue: 'drafted' },
    issuedOn: col.day,
    validUntil: col.day,
    content: col.json,
    createdBy: col.uuid,
    createdAt: col.time,
  });
}
