import type { ExportFormat } from '@emporikon/core/outgoing/formats';
import type { Query } from '@emporikon/core/query/types';
import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

/** A file made of what a query shows. Its parts are written by plain SQL. */
export class ExportRow extends Model<InferAttributes<ExportRow>, InferCreationAttributes<ExportRow>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare ownerId: string;
  declare label: string;
  declare format: ExportFormat;
  declare query: Query;
  declare dateField: string | null;
  declare state: 'running' | 'done' | 'failed';
  declare total: number;
  declare done: CreationOptional<number>;
  /** Where the reading goes on: null at the beginning, empty once all is read. */
  declare cursor: CreationOptional<string | null>;
  declare parts: CreationOptional<number>;
  /** In bytes, as the driver gives large numbers. */
  declare size: CreationOptional<string>;
  declare trouble: CreationOptional<string>;
  declare createdAt: Date;
  declare finishedAt: CreationOptional<Date | null>;
}

export const defineExportModels = (sequelize: Sequelize): void =>
  define(sequelize, ExportRow, 'exports', {
    id: col.id,
    version: col.version,
    ownerId: { ...col.uuid, allowNull: false },
    label: col.words,
    format: col.words,
    query: { ...col.json, allowNull: false },
    dateField: col.text,
    state: col.words,
    total: col.whole,
    done: { ...col.whole, defaultValue: 0 },
    cursor: col.text,
    parts: { ...col.whole, defaultValue: 0 },
    size: { ...col.big, allowNull: false, defaultValue: '0' },
    trouble: { ...col.words, defaultValue: '' },
    createdAt: { ...col.time, allowNull: false },
    finishedAt: col.time,
  });
