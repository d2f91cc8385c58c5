import type { Layout } from '@emporikon/core/query/layout';
import type { Query, RecordKind } from '@emporikon/core/query/types';
import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

/** A question that is kept. Without an owner it came with the program. */
export class ViewRow extends Model<InferAttributes<ViewRow>, InferCreationAttributes<ViewRow>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare kind: RecordKind;
  declare name: string;
  declare query: Query;
  declare layout: CreationOptional<Layout>;
  declare shared: 'me' | 'team' | 'everybody';
  declare team: string | null;
  declare ownerId: string | null;
  declare position: CreationOptional<number>;
  declare createdAt: Date;
  declare updatedAt: Date;
}

export const defineViewModels = (sequelize: Sequelize): void =>
  define(sequelize, ViewRow, 'views', {
    id: col.id,
    version: col.version,
    kind: col.words,
    name: col.words,
    query: { ...col.json, allowNull: false },
    layout: { ...col.json, allowNull: false, defaultValue: { as: 'table' } },
    shared: col.words,
    team: col.text,
    ownerId: col.uuid,
    position: { ...col.whole, defaultValue: 0 },
    createdAt: col.time,
    updatedAt: col.time,
  });
