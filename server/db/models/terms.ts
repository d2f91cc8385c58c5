import type { TermList } from '@emporikon/core/lifecycle/terms';
import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

/** One standing, lead status or kind of company. */
export class TermRow extends Model<InferAttributes<TermRow>, InferCreationAttributes<TermRow>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare list: TermList;
  declare key: string;
  declare name: string;
  /** A built-in term, by its key; what the program goes by. */
  declare countsAs: string;
  declare position: number;
  declare retiredAt: CreationOptional<Date | null>;
}

export function defineTermModels(sequelize: Sequelize): void {
  define(sequelize, TermRow, 'terms', {
    id: col.id,
    version: col.version,
    list: col.words,
    key: col.words,
    name: col.words,
    countsAs: col.words,
    position: col.whole,
    retiredAt: col.time,
  });
}
