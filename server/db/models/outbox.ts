import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

export type OutboxState = 'waiting' | 'sending' | 'sent' | 'failed' | 'expired' | 'unsure';

/** One effect outside the house, from the command that wants it to what came of it. */
export class OutboxRow extends Model<InferAttributes<OutboxRow>, InferCreationAttributes<OutboxRow>> {
  declare id: string;
  declare version: CreationOptional<number>;
  /** Which `Effect` carries it out. */
  declare kind: string;
  declare payload: unknown;
  /** The row where it was caused. */
  declare aboutTable: string;
  declare aboutId: string;
  declare state: CreationOptional<OutboxState>;
  declare tries: CreationOptional<number>;
  declare trouble: CreationOptional<string | null>;
  declare createdBy: string | null;
  declare createdAt: Date;
  declare nextTryAt: CreationOptional<Date | null>;
  declare deadline: Date;
  declare endedAt: CreationOptional<Date | null>;
}

export function defineOutboxModels(sequelize: Sequelize): void {
  define(sequelize, OutboxRow, 'outbox', {
    id: col.id,
    version: col.version,
    kind: col.words,
    payload: { ...col.json, allowNull: false },
    aboutTable: col.words,
    aboutId: { ...col.uuid, allowNull: false },
    state: { ...col.words, defaultValue: 'waiting' },
    tries: { ...col.whole, defaultValue: 0 },
    trouble: col.text,
    createdBy: col.uuid,
    createdAt: col.time,
    nextTryAt: col.time,
    deadline: { ...col.time, allowNull: false },
    endedAt: col.time,
  });
}
