import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

/** Records that may be the same, as the background run found them or a rep judged them. */
export class LookAlikeRow extends Model<
  InferAttributes<LookAlikeRow>,
  InferCreationAttributes<LookAlikeRow>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare kind: 'person' | 'company';
  declare members: string[];
  /** 0 to 1, that all of them are one. */
  declare probability: number;
  declare state: CreationOptional<'open' | 'merged' | 'different' | 'related'>;
  declare foundAt: Date;
}

/** Two records that somebody told apart, the one with the lower id first, and what they said then. */
export class KeptApart extends Model<InferAttributes<KeptApart>, InferCreationAttributes<KeptApart>> {
  declare id: string;
  declare kind: 'person' | 'company';
  declare one: string;
  declare other: string;
  declare facts: string;
  declare how: CreationOptional<'different' | 'namesakes' | 'fatherAndSon'>;
  declare saidBy: string | null;
  declare saidAt: Date;
}

export function defineLookAlikeModels(sequelize: Sequelize): void {
  define(sequelize, LookAlikeRow, 'look_alikes', {
    id: col.id,
    version: col.version,
    kind: col.words,
    members: { type: DataTypes.ARRAY(DataTypes.UUID), allowNull: false },
    probability: col.real,
    state: { ...col.words, defaultValue: 'open' },
    foundAt: col.time,
  });
  define(sequelize, KeptApart, 'kept_apart', {
    id: col.id,
    kind: col.words,
    one: col.uuid,
    other: col.uuid,
    facts: col.words,
    how: { ...col.words, defaultValue: 'different' },
    saidBy: col.uuid,
    saidAt: col.time,
  });
}
