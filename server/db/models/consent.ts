import type { ConsentState, ConsentWay } from '@emporikon/core/outreach/consent';
import type { Places } from '@emporikon/core/outreach/coverage';
import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

/** Name and sentence in a language of the page on which people choose. */
export type Translations = Record<string, { name: string; words: string }>;

/** What people may agree to be written to about. */
export class Purpose extends Model<InferAttributes<Purpose>, InferCreationAttributes<Purpose>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare name: string;
  /** The sentence that they agree to. */
  declare words: CreationOptional<string>;
  /** What is meant where somebody agreed and nothing says to what. */
  declare isDefault: CreationOptional<boolean>;
  declare translations: CreationOptional<Translations>;
  declare position: number;
  /** mail: being written to; tracking: that opens and clicks are recorded. */
  declare kind: CreationOptional<'mail' | 'tracking'>;
  declare retiredAt: CreationOptional<Date | null>;
}

/** What of a purpose somebody can subscribe to. */
export class Topic extends Model<InferAttributes<Topic>, InferCreationAttributes<Topic>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare purposeId: string;
  declare name: string;
  declare words: CreationOptional<string>;
  /** Whoever subscribes says for which places. */
  declare byArea: CreationOptional<boolean>;
  declare translations: CreationOptional<Translations>;
  declare position: number;
  declare retiredAt: CreationOptional<Date | null>;
}

export class Area extends Model<InferAttributes<Area>, InferCreationAttributes<Area>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare name: string;
  /** Longitude, latitude, longitude, … */
  declare corners: number[];
  declare retiredAt: CreationOptional<Date | null>;
}

/** One statement of a person; it is never changed. */
export class Consent extends Model<InferAttributes<Consent>, InferCreationAttributes<Consent>> {
  declare id: string;
  declare personId: string;
  declare purposeId: string;
  declare topicId: CreationOptional<string | null>;
  declare state: ConsentState;
  declare at: Date;
  declare how: ConsentWay;
  /** What they were shown or said. */
  declare words: CreationOptional<string>;
  /** A form, a page, a file, a letter. */
  declare source: CreationOptional<string>;
  declare address: CreationOptional<string | null>;
  declare places: CreationOptional<Places | null>;
  /** Who noted it; null where they said it themselves. */
  declare actorId: CreationOptional<string | null>;
  declare captureId: CreationOptional<string | null>;
  declare importId: CreationOptional<string | null>;
}

const blank = { ...col.words, defaultValue: '' };
const translations = { ...col.json, allowNull: false, defaultValue: {} };

export function defineConsentModels(sequelize: Sequelize): void {
  define(sequelize, Purpose, 'purposes', {
    id: col.id,
    version: col.version,
    name: col.words,
    words: blank,
    isDefault: col.flag,
    translations,
    position: col.whole,
    kind: { ...col.words, defaultValue: 'mail' },
    retiredAt: col.time,
  });
  define(sequelize, Topic, 'topics', {
    id: col.id,
    version: col.version,
    purposeId: col.uuid,
    name: col.words,
    words: blank,
    byArea: col.flag,
    translations,
    position: col.whole,
    retiredAt: col.time,
  });
  define(sequelize, Area, 'areas', {
    id: col.id,
    version: col.version,
    name: col.words,
    corners: { type: DataTypes.ARRAY(DataTypes.DOUBLE), allowNull: false },
    retiredAt: col.time,
  });
  define(sequelize, Consent, 'consents', {
    id: col.id,
    personId: col.uuid,
    purposeId: col.uuid,
    topicId: col.uuid,
    state: col.words,
    at: col.time,
    how: col.words,
    words: blank,
    source: blank,
    address: col.text,
    places: col.json,
    actorId: col.uuid,
    captureId: col.uuid,
    importId: col.uuid,
  });
}
