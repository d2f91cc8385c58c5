import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';
import type { ImportChoices, ImportReading, ImportState, Mapping } from '@emporikon/contract/imports';

export class Import extends Model<InferAttributes<Import>, InferCreationAttributes<Import>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare name: string;
  declare createdBy: string;
  declare createdAt: Date;
  declare kind: 'table' | 'cards';
  declare reading: CreationOptional<ImportReading | null>;
  declare mapping: CreationOptional<Mapping | null>;
  declare choices: CreationOptional<Partial<ImportChoices>>;
  declare state: ImportState;
  declare total: CreationOptional<number>;
  declare done: CreationOptional<number>;
  declare counts: CreationOptional<Record<string, number>>;
  declare trouble: CreationOptional<string>;
  declare finishedAt: CreationOptional<Date | null>;
}

export function defineImportModels(sequelize: Sequelize): void {
  define(sequelize, Import, 'imports', {
    id: col.id,
    version: col.version,
    name: col.words,
    createdBy: col.uuid,
    createdAt: col.time,
    kind: col.words,
    reading: col.json,
    mapping: col.json,
    choices: { ...col.json, defaultValue: {} },
    state: col.words,
    total: { ...col.whole, defaultValue: 0 },
    done: { ...col.whole, defaultValue: 0 },
    counts: { ...col.json, defaultValue: {} },
    trouble: { ...col.words, defaultValue: '' },
    finishedAt: col.time,
  });
}
