import type { KEEPING_KINDS } from '@emporikon/contract/privacy';
import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

export type KeepingKind = (typeof KEEPING_KINDS)[number];

export class KeepingTimeRow extends Model<
  InferAttributes<KeepingTimeRow>,
  InferCreationAttributes<KeepingTimeRow>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare kind: KeepingKind;
  /** Null keeps it for ever. */
  declare months: number | null;
}

export const definePrivacyModels = (sequelize: Sequelize): void =>
  define(sequelize, KeepingTimeRow, 'keeping_times', {
    id: col.id,
    version: col.version,
    kind: col.words,
    months: { ...col.whole, allowNull: true },
  });
