import type { FitCondition, FitField } from '@emporikon/core/qualifying/fit';
import type { MoveKind } from '@emporikon/core/reading/intents/moves';
import type { TouchKind } from '@emporikon/core/qualifying/warmth';
import type { WinModel } from '@emporikon/core/qualifying/winChance';
import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

export class FitRuleRow extends Model<InferAttributes<FitRuleRow>, InferCreationAttributes<FitRuleRow>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare position: number;
  declare field: FitField;
  declare condition: FitCondition;
  declare value: string;
  declare points: number;
}

export class WarmthRulesRow extends Model<
  InferAttributes<WarmthRulesRow>,
  InferCreationAttributes<WarmthRulesRow>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare halfLifeDays: number;
  declare points: Partial<Record<TouchKind, number>>;
}

export class Signal extends Model<InferAttributes<Signal>, InferCreationAttributes<Signal>> {
  declare id: string;
  declare personId: string;
  declare kind: 'opened' | 'clicked' | 'visited' | 'met';
  declare at: Date;
  declare words: string;
  declare createdAt: Date;
}

export class WinModelRow extends Model<InferAttributes<WinModelRow>, InferCreationAttributes<WinModelRow>> {
  declare id: string;
  declare madeAt: Date;
  declare model: WinModel;
}

export class Plan extends Model<InferAttributes<Plan>, InferCreationAttributes<Plan>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare position: number;
  declare name: string;
  declare kind: MoveKind;
  declare title: string;
  /** Working days until it is due. */
  declare days: number;
  declare active: CreationOptional<boolean>;
}

export class OwnerRuleRow extends Model<
  InferAttributes<OwnerRuleRow>,
  InferCreationAttributes<OwnerRuleRow>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare position: number;
  /** Null for the rule of all the rest. */
  declare field: FitField | null;
  declare condition: FitCondition | null;
  declare value: string;
  declare owners: string[];
}

export function defineQualifyingModels(sequelize: Sequelize): void {
  define(sequelize, Plan, 'plans', {
    id: col.id,
    version: col.version,
    position: col.whole,
    name: col.words,
    kind: col.words,
    title: col.words,
    days: col.whole,
    active: { ...col.flag, defaultValue: true },
  });
  define(sequelize, OwnerRuleRow, 'owner_rules', {
    id: col.id,
    version: col.version,
    position: col.whole,
    field: col.text,
    condition: col.text,
    value: col.words,
    owners: col.list,
  });
  define(sequelize, FitRuleRow, 'fit_rules', {
    id: col.id,
    version: col.version,
    position: col.whole,
    field: col.words,
    condition: col.words,
    value: col.words,
    points: col.whole,
  });
  define(sequelize, WarmthRulesRow, 'warmth_rules', {
    id: col.id,
    version: col.version,
    halfLifeDays: col.whole,
    points: col.json,
  });
  define(sequelize, Signal, 'signals', {
    id: col.id,
    personId: col.uuid,
    kind: col.words,
    at: col.time,
    words: col.words,
    createdAt: col.time,
  });
  define(sequelize, WinModelRow, 'win_models', { id: col.id, madeAt: col.time, model: col.json });
}
