import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import type { OwnKind, OwnRecord } from '@emporikon/core/fields/own';
import type { Level } from '@emporikon/core/fields/rights';
import { col, define } from './columns';

export class CustomField extends Model<InferAttributes<CustomField>, InferCreationAttributes<CustomField>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare key: string;
  declare label: string;
  declare record: CreationOptional<OwnRecord>;
  declare kind: OwnKind;
  /** Choices; of money its currency. */
  declare options: string[];
  declare tab: CreationOptional<string>;
  /** The heading it stands under. */
  declare part: CreationOptional<string>;
  declare help: CreationOptional<string>;
  /** Whether it is worth asking for while it is empty. */
  declare isAsked: CreationOptional<boolean>;
  /** What new records begin with. */
  declare preset: CreationOptional<string>;
  /** Whether no two records may have the same. */
  declare isUnique: CreationOptional<boolean>;
  /** Standings of people, kinds of companies, ids of pipelines; for all of them where empty. */
  declare onlyFor: CreationOptional<string[]>;
  declare formula: CreationOptional<string>;
  declare seenBy: CreationOptional<Level>;
  declare changedBy: CreationOptional<Level>;
  declare position: number;
  declare active: CreationOptional<boolean>;
  /** Whether it stands with what is personal. */
  declare isPersonal: CreationOptional<boolean>;
}

export class FieldMapping extends Model<
  InferAttributes<FieldMapping>,
  InferCreationAttributes<FieldMapping>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare field: string;
  declare target: string;
}

export class List extends Model<InferAttributes<List>, InferCreationAttributes<List>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare name: string;
  declare createdAt: Date;
}

export class ListMember extends Model<InferAttributes<ListMember>, InferCreationAttributes<ListMember>> {
  declare id: string;
  declare listId: string;
  declare personId: string;
  declare createdAt: Date;
}

/** What a tag means, by which it is coloured. */
export class TagMeaningRow extends Model<
  InferAttributes<TagMeaningRow>,
  InferCreationAttributes<TagMeaningRow>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare tag: string;
  declare meaning: 'ours' | 'theirs' | 'waiting' | 'warning';
}

export function defineFieldModels(sequelize: Sequelize): void {
  define(sequelize, TagMeaningRow, 'tag_meanings', {
    id: col.id,
    version: col.version,
    tag: col.words,
    meaning: col.words,
  });
  define(sequelize, CustomField, 'custom_fields', {
    id: col.id,
    version: col.version,
    key: col.words,
    label: col.words,
    record: { ...col.words, defaultValue: 'person' },
    kind: col.words,
    options: col.json,
    tab: { ...col.words, defaultValue: '' },
    part: { ...col.words, defaultValue: '' },
    help: { ...col.words, defaultValue: '' },
    isAsked: col.flag,
    preset: { ...col.words, defaultValue: '' },
    isUnique: col.flag,
    onlyFor: { ...col.json, allowNull: false, defaultValue: [] },
    formula: { ...col.words, defaultValue: '' },
    seenBy: { ...col.words, defaultValue: 'everybody' },
    changedBy: { ...col.words, defaultValue: 'everybody' },
    position: col.whole,
    active: { ...col.flag, defaultValue: true },
    isPersonal: col.flag,
  });
  define(sequelize, FieldMapping, 'field_mappings', {
    id: col.id,
    version: col.version,
    field: col.words,
    target: col.words,
  });
  define(sequelize, List, 'lists', {
    id: col.id,
    version: col.version,
    name: col.words,
    createdAt: col.time,
  });
  define(sequelize, ListMember, 'list_members', {
    id: col.id,
    listId: col.uuid,
    personId: col.uuid,
    createdAt: col.time,
  });
}
