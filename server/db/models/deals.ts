import type { DealRole } from '@emporikon/core/lifecycle/conversion';
import type { DealAsk } from '@emporikon/core/lifecycle/stages';
import type { LeadRating, LeadStatus } from '@emporikon/core/lifecycle/statuses';
import type { Span } from '@emporikon/core/reading/types';
import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define, forgetsTerm, visibility, type Visibility } from './columns';

export class Stage extends Model<InferAttributes<Stage>, InferCreationAttributes<Stage>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare name: string;
  declare position: number;
  declare kind: 'open' | 'won' | 'lost';
  declare probability: number;
  declare typicalDays: number;
  declare pipelineId: string;
  /** What should be known of a deal before it comes here. */
  declare asks: CreationOptional<DealAsk[]>;
}

export class Question extends Model<InferAttributes<Question>, InferCreationAttributes<Question>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare label: string;
  declare help: string;
  declare position: number;
  declare active: boolean;
}

export class Lead extends Model<InferAttributes<Lead>, InferCreationAttributes<Lead>> {
  declare id: string;
  /** Values of fields of the organisation's own, by their key. */
  declare custom: CreationOptional<Record<string, string>>;
  declare visibility: CreationOptional<Visibility | null>;
  declare visibleTo: CreationOptional<string[]>;
  declare version: CreationOptional<number>;
  declare title: string;
  declare personId: string;
  declare companyId: string | null;
  declare status: LeadStatus;
  /** Which of the organisation's own statuses it is; null for the built-in one. */
  declare statusTerm: CreationOptional<string | null>;
  declare statusSince: Date;
  declare source: string;
  declare ownerId: string;
  /** The owner rule that chose its owner; null where a person did. */
  declare givenBy: CreationOptional<string | null>;
  declare parkedUntil: CreationOptional<string | null>;
  declare dropReason: CreationOptional<string | null>;
  declare rating: CreationOptional<LeadRating | null>;
  /** The open status a parked lead comes back to. */
  declare parkedFrom: CreationOptional<'new' | 'working' | 'qualified' | null>;
  /** The deal it was converted to. */
  declare dealId: CreationOptional<string | null>;
  declare createdAt: Date;
  declare updatedAt: Date;
}

export class LeadAnswer extends Model<InferAttributes<LeadAnswer>, InferCreationAttributes<LeadAnswer>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare leadId: string;
  declare questionId: string;
  declare answer: string;
  declare answeredBy: string;
  declare answeredAt: Date;
  /** The capture whose words answered it, and which; null where somebody typed it. */
  declare captureId: CreationOptional<string | null>;
  declare span: CreationOptional<Span | null>;
}

export class Deal extends Model<InferAttributes<Deal>, InferCreationAttributes<Deal>> {
  declare id: string;
  /** Values of fields of the organisation's own, by their key. */
  declare custom: CreationOptional<Record<string, string>>;
  declare visibility: CreationOptional<Visibility | null>;
  declare visibleTo: CreationOptional<string[]>;
  declare version: CreationOptional<number>;
  declare title: string;
  declare companyId: string | null;
  declare leadId: string | null;
  declare stageId: string;
  declare stageSince: Date;
  declare amountMinor: number | null;
  declare currency: string;
  declare probability: number;
  declare probabilityByHand: CreationOptional<boolean>;
  declare expectedClose: string | null;
  declare ownerId: string;
  declare tags: CreationOptional<string[]>;
  declare closeReason: CreationOptional<string | null>;
  declare closedAt: CreationOptional<Date | null>;
  declare createdAt: Date;
  declare updatedAt: Date;
}

export class DealRoleRow extends Model<InferAttributes<DealRoleRow>, InferCreationAttributes<DealRoleRow>> {
  declare id: string;
  declare dealId: string;
  declare personId: string;
  declare role: DealRole;
}

export function defineDealModels(sequelize: Sequelize): void {
  define(sequelize, Stage, 'stages', {
    id: col.id,
    version: col.version,
    name: col.words,
    position: col.whole,
    kind: col.words,
    probability: col.whole,
    typicalDays: col.whole,
    pipelineId: col.uuid,
    asks: col.list,
  });
  define(sequelize, Question, 'questions', {
    id: col.id,
    version: col.version,
    label: col.words,
    help: col.words,
    position: col.whole,
    active: col.flag,
  });
  define(sequelize, Lead, 'leads', {
    id: col.id,
    custom: { ...col.json, defaultValue: {} },
    ...visibility,
    version: col.version,
    title: col.words,
    personId: col.uuid,
    companyId: col.uuid,
    status: col.words,
    statusTerm: col.text,
    statusSince: col.time,
    source: col.words,
    ownerId: col.uuid,
    givenBy: col.uuid,
    parkedUntil: col.day,
    dropReason: col.text,
    rating: col.text,
    parkedFrom: col.text,
    dealId: col.uuid,
    createdAt: col.time,
    updatedAt: col.time,
  });
  forgetsTerm(Lead, 'status', 'statusTerm');
  define(sequelize, LeadAnswer, 'lead_answers', {
    id: col.id,
    version: col.version,
    leadId: col.uuid,
    questionId: col.uuid,
    answer: col.words,
    answeredBy: col.uuid,
    answeredAt: col.time,
    captureId: col.uuid,
    span: col.json,
  });
  define(sequelize, Deal, 'deals', {
    id: col.id,
    custom: { ...col.json, defaultValue: {} },
    ...visibility,
    version: col.version,
    title: col.words,
    companyId: col.uuid,
    leadId: col.uuid,
    stageId: col.uuid,
    stageSince: col.time,
    amountMinor: col.big,
    currency: col.words,
    probability: col.whole,
    probabilityByHand: col.flag,
    expectedClose: col.day,
    ownerId: col.uuid,
    tags: col.list,
    closeReason: col.text,
    closedAt: col.time,
    createdAt: col.time,
    updatedAt: col.time,
  });
  define(sequelize, DealRoleRow, 'deal_roles', {
    id: col.id,
    dealId: col.uuid,
    personId: col.uuid,
    role: col.words,
  });
}
