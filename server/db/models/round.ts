import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

/** How often we mean to be in touch with everybody of a standing or with a tag. */
export class RhythmRow extends Model<InferAttributes<RhythmRow>, InferCreationAttributes<RhythmRow>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare kind: 'standing' | 'tag';
  declare value: string;
  declare days: number;
}

/** Something somebody put off in their round. */
export class RoundLater extends Model<InferAttributes<RoundLater>, InferCreationAttributes<RoundLater>> {
  declare id: string;
  declare userId: string;
  /** What it is and of which record: `turn:…`. */
  declare key: string;
  declare until: Date;
  declare createdAt: Date;
}

export function defineRoundModels(sequelize: Sequelize): void {
  define(sequelize, RhythmRow, 'rhythms', {
    id: col.id,
    version: col.version,
    kind: col.words,
    value: col.words,
    days: col.whole,
  });
  define(sequelize, RoundLater, 'round_later', {
    id: col.id,
    userId: col.uuid,
    key: col.words,
    until: col.time,
    createdAt: col.time,
  });
}
