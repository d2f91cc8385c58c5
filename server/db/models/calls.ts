import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

export type CallState = 'placing' | 'failed' | 'ringing' | 'answered' | 'ended' | 'missed';

export class PhoneLine extends Model<InferAttributes<PhoneLine>, InferCreationAttributes<PhoneLine>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare userId: string;
  declare number: string;
}

export class Call extends Model<InferAttributes<Call>, InferCreationAttributes<Call>> {
  declare id: string;
  declare version: CreationOptional<number>;
  /** The call's id at the exchange; null until it has taken the call. */
  declare exchangeId: string | null;
  declare direction: 'in' | 'out';
  declare fromNumber: string;
  declare toNumber: string;
  declare userId: string | null;
  declare personId: string | null;
  declare state: CallState;
  declare startedAt: Date;
  declare answeredAt: CreationOptional<Date | null>;
  declare endedAt: CreationOptional<Date | null>;
  declare transcript: CreationOptional<string | null>;
  declare note: CreationOptional<string>;
  declare captureId: CreationOptional<string | null>;
  declare savedAt: CreationOptional<Date | null>;
}

export function defineCallModels(sequelize: Sequelize): void {
  define(sequelize, PhoneLine, 'phone_lines', {
    id: col.id,
    version: col.version,
    userId: col.uuid,
    number: col.words,
  });
  define(sequelize, Call, 'calls', {
    id: col.id,
    version: col.version,
    exchangeId: col.text,
    direction: col.words,
    fromNumber: col.words,
    toNumber: col.words,
    userId: col.uuid,
    personId: col.uuid,
    state: col.words,
    startedAt: col.time,
    answeredAt: col.time,
    endedAt: col.time,
    transcript: col.text,
    note: { ...col.words, defaultValue: '' },
    captureId: col.uuid,
    savedAt: col.time,
  });
}
