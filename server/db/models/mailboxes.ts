import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

export class Mailbox extends Model<InferAttributes<Mailbox>, InferCreationAttributes<Mailbox>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare userId: string;
  declare address: string;
  declare host: string;
  declare port: number;
  declare secure: boolean;
  declare username: string;
  declare sealed: string;
  declare choice: CreationOptional<'all' | 'ask' | 'none'>;
  declare never: CreationOptional<string[]>;
  declare state: CreationOptional<'new' | 'reading' | 'current' | 'down' | 'refused'>;
  declare trouble: CreationOptional<string>;
  declare readAt: CreationOptional<Date | null>;
  declare createdAt: Date;
}

export function defineMailboxModels(sequelize: Sequelize): void {
  define(sequelize, Mailbox, 'mailboxes', {
    id: col.id,
    version: col.version,
    userId: col.uuid,
    address: col.words,
    host: col.words,
    port: col.whole,
    secure: col.flag,
    username: col.words,
    sealed: col.words,
    choice: { ...col.words, defaultValue: 'all' },
    never: col.list,
    state: { ...col.words, defaultValue: 'new' },
    trouble: { ...col.words, defaultValue: '' },
    readAt: col.time,
    createdAt: col.time,
  });
}
