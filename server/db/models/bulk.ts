import type { BulkKind, Step } from '@emporikon/core/bulk/types';
import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

/** What was done to many records at once. Its rows are written by plain SQL. */
export class BulkChangeRow extends Model<
  InferAttributes<BulkChangeRow>,
  InferCreationAttributes<BulkChangeRow>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare kind: BulkKind;
  declare steps: Step[];
  declare label: string;
  declare state: 'previewed' | 'running' | 'paused' | 'done' | 'undoing' | 'undone' | 'failed';
  declare total: number;
  declare done: CreationOptional<number>;
  declare counts: CreationOptional<Partial<Record<'changed' | 'stayed' | 'refused' | 'kept', number>>>;
  /** Reaches records too that whoever began it may not see. */
  declare pastSight: CreationOptional<boolean>;
  declare trouble: CreationOptional<string>;
  declare createdBy: string;
  declare createdAt: Date;
  declare finishedAt: CreationOptional<Date | null>;
}

export const defineBulkModels = (sequelize: Sequelize): void =>
  define(sequelize, BulkChangeRow, 'bulk_changes', {
    id: col.id,
    version: col.version,
    kind: col.words,
    steps: { ...col.json, allowNull: false },
    label: col.words,
    state: col.words,
    total: col.whole,
    done: { ...col.whole, defaultValue: 0 },
    counts: { ...col.json, defaultValue: {} },
    pastSight: { ...col.flag, defaultValue: false },
    trouble: { ...col.words, defaultValue: '' },
    createdBy: { ...col.uuid, allowNull: false },
    createdAt: col.time,
    finishedAt: col.time,
  });
