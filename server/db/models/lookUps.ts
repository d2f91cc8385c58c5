import type { FoundFact } from '@emporikon/core/lookups/facts';
import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

export class LookUpSourceRow extends Model<
  InferAttributes<LookUpSourceRow>,
  InferCreationAttributes<LookUpSourceRow>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare key: string;
  declare active: boolean;
  /** Failures in a row, and until when it is left alone. */
  declare failures: number;
  declare openUntil: Date | null;
  declare trouble: string | null;
}

export class LookUpRules extends Model<InferAttributes<LookUpRules>, InferCreationAttributes<LookUpRules>> {
  declare id: string;
  declare version: CreationOptional<number>;
  /** Minor units a month, for the house and for each user; null is no limit of one's own. */
  declare allowance: number;
  declare perUser: number | null;
  /** What a point of completeness is worth, minor units. */
  declare pointWorth: number;
  declare enough: number;
  declare automatic: boolean;
  declare fillBlanks: boolean;
  declare keepDays: number;
}

/** What a source answered, as it is kept. */
export interface KeptAnswer {
  facts: FoundFact[];
  /** The firm the answer is about, as the source names it. */
  name: string;
  domain: string;
}

export type LookUpState = 'asking' | 'found' | 'nothing' | 'failed';

export class LookUp extends Model<InferAttributes<LookUp>, InferCreationAttributes<LookUp>> {
  declare id: string;
  declare source: string;
  declare questionKey: string;
  declare question: Record<string, string>;
  declare state: LookUpState;
  declare answer: KeptAnswer | null;
  declare trouble: string | null;
  declare price: number;
  declare month: string;
  declare tries: CreationOptional<number>;
  declare askedBy: string | null;
  declare personId: string | null;
  declare companyId: string | null;
  declare runId: string | null;
  declare askedAt: Date;
  declare answeredAt: Date | null;
}

/** Somebody or some firm that is looked up. */
export interface LookUpSubject {
  personId: string | null;
  companyId: string | null;
}

export class LookUpRun extends Model<InferAttributes<LookUpRun>, InferCreationAttributes<LookUpRun>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare askedBy: string;
  declare subjects: LookUpSubject[];
  declare total: number;
  declare done: CreationOptional<number>;
  declare filled: CreationOptional<number>;
  declare suggested: CreationOptional<number>;
  declare state: CreationOptional<'running' | 'done' | 'stopped'>;
  declare trouble: CreationOptional<string | null>;
  declare createdAt: Date;
  declare finishedAt: CreationOptional<Date | null>;
}

export function defineLookUpModels(sequelize: Sequelize): void {
  define(sequelize, LookUpSourceRow, 'look_up_sources', {
    id: col.id,
    version: col.version,
    key: col.words,
    active: { ...col.flag, defaultValue: true },
    failures: { ...col.whole, defaultValue: 0 },
    openUntil: col.time,
    trouble: col.text,
  });
  define(sequelize, LookUpRules, 'look_up_rules', {
    id: col.id,
    version: col.version,
    allowance: col.whole,
    perUser: { ...col.whole, allowNull: true },
    pointWorth: col.whole,
    enough: col.whole,
    automatic: col.flag,
    fillBlanks: col.flag,
    keepDays: col.whole,
  });
  define(sequelize, LookUp, 'look_ups', {
    id: col.id,
    source: col.words,
    questionKey: col.words,
    question: col.json,
    state: col.words,
    answer: col.json,
    trouble: col.text,
    price: col.whole,
    month: col.words,
    tries: { ...col.whole, defaultValue: 0 },
    askedBy: col.uuid,
    personId: col.uuid,
    companyId: col.uuid,
    runId: col.uuid,
    askedAt: col.time,
    answeredAt: col.time,
  });
  define(sequelize, LookUpRun, 'look_up_runs', {
    id: col.id,
    version: col.version,
    askedBy: col.uuid,
    subjects: col.json,
    total: col.whole,
    done: { ...col.whole, defaultValue: 0 },
    filled: { ...col.whole, defaultValue: 0 },
    suggested: { ...col.whole, defaultValue: 0 },
    state: { ...col.words, defaultValue: 'running' },
    trouble: col.text,
    createdAt: col.time,
    finishedAt: col.time,
  });
}
