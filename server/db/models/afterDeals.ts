import type { Urgency } from '@emporikon/core/lifecycle/cases';
import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

export type ProjectStageKind = 'open' | 'done' | 'stopped';

export class ProjectStage extends Model<
  InferAttributes<ProjectStage>,
  InferCreationAttributes<ProjectStage>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare name: string;
  declare kind: ProjectStageKind;
  declare position: number;
  declare active: CreationOptional<boolean>;
}

/** What is to be done for a company, mostly because a deal was won. */
export class Project extends Model<InferAttributes<Project>, InferCreationAttributes<Project>> {
  declare id: string;
  /** Values of fields of the organisation's own, by their key. */
  declare custom: CreationOptional<Record<string, string>>;
  declare version: CreationOptional<number>;
  declare title: string;
  declare stageId: string;
  declare stageSince: Date;
  declare companyId: string | null;
  declare dealId: string | null;
  declare ownerId: string;
  declare startsOn: string | null;
  declare dueOn: string | null;
  /** In per cent, where somebody set it. */
  declare progress: CreationOptional<number | null>;
  declare notes: CreationOptional<string>;
  declare createdAt: Date;
  declare closedAt: CreationOptional<Date | null>;
}

export class ProjectPerson extends Model<
  InferAttributes<ProjectPerson>,
  InferCreationAttributes<ProjectPerson>
> {
  declare id: string;
  declare projectId: string;
  declare personId: string;
  declare role: CreationOptional<string>;
}

/** Somebody's trouble, from when it was told until it is solved. */
export class Case extends Model<InferAttributes<Case>, InferCreationAttributes<Case>> {
  declare id: string;
  /** Values of fields of the organisation's own, by their key. */
  declare custom: CreationOptional<Record<string, string>>;
  declare version: CreationOptional<number>;
  declare title: string;
  declare words: CreationOptional<string>;
  declare personId: string | null;
  declare companyId: string | null;
  declare dealId: string | null;
  declare captureId: string | null;
  /** The exchange of mails in which it came. */
  declare thread: string | null;
  declare cameBy: 'mail' | 'call' | 'form' | 'other';
  declare urgency: Urgency;
  declare ownerId: string;
  declare openedBy: string | null;
  declare openedAt: Date;
  declare answerBy: Date;
  declare solveBy: Date;
  declare solvedAt: CreationOptional<Date | null>;
  declare solution: CreationOptional<string>;
}

/** Within how many working hours a case of some urgency is answered, and solved. */
export class CasePromise extends Model<InferAttributes<CasePromise>, InferCreationAttributes<CasePromise>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare urgency: Urgency;
  declare answerHours: number;
  declare solveHours: number;
}

export function defineAfterDealModels(sequelize: Sequelize): void {
  define(sequelize, ProjectStage, 'project_stages', {
    id: col.id,
    version: col.version,
    name: col.words,
    kind: col.words,
    position: col.whole,
    active: { ...col.flag, defaultValue: true },
  });
  define(sequelize, Project, 'projects', {
    id: col.id,
    custom: { ...col.json, defaultValue: {} },
    version: col.version,
    title: col.words,
    stageId: col.uuid,
    stageSince: col.time,
    companyId: col.uuid,
    dealId: col.uuid,
    ownerId: col.uuid,
    startsOn: col.day,
    dueOn: col.day,
    progress: { ...col.whole, allowNull: true },
    notes: { ...col.words, defaultValue: '' },
    createdAt: col.time,
    closedAt: col.time,
  });
  define(sequelize, ProjectPerson, 'project_people', {
    id: col.id,
    projectId: col.uuid,
    personId: col.uuid,
    role: { ...col.words, defaultValue: '' },
  });
  define(sequelize, Case, 'cases', {
    id: col.id,
    custom: { ...col.json, defaultValue: {} },
    version: col.version,
    title: col.words,
    words: { ...col.words, defaultValue: '' },
    personId: col.uuid,
    companyId: col.uuid,
    dealId: col.uuid,
    captureId: col.uuid,
    thread: col.text,
    cameBy: col.words,
    urgency: col.words,
    ownerId: col.uuid,
    openedBy: col.uuid,
    openedAt: col.time,
    answerBy: col.time,
    solveBy: col.time,
    solvedAt: col.time,
    solution: { ...col.words, defaultValue: '' },
  });
  define(sequelize, CasePromise, 'case_promises', {
    id: col.id,
    version: col.version,
    urgency: col.words,
    answerHours: col.whole,
    solveHours: col.whole,
  });
}
