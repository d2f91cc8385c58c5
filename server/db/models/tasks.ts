import type { Reminder } from '@emporikon/core/calendar/reminders';
import type { Repeat } from '@emporikon/core/calendar/repeat';
import type { MoveKind } from '@emporikon/core/reading/intents/moves';
import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define, visibility, type Visibility } from './columns';

export type Priority = 'high' | 'normal' | 'low';
/** One step of a task. */
export interface CheckItem {
  words: string;
  isDone: boolean;
}
/** Who declined a task, when (ISO 8601) and why. */
export interface Declined {
  by: string;
  at: string;
  why: string;
}

export class Task extends Model<InferAttributes<Task>, InferCreationAttributes<Task>> {
  declare id: string;
  /** Values of fields of the organisation's own, by their key. */
  declare custom: CreationOptional<Record<string, string>>;
  declare visibility: CreationOptional<Visibility | null>;
  declare visibleTo: CreationOptional<string[]>;
  declare version: CreationOptional<number>;
  declare title: string;
  declare kind: MoveKind;
  /** A kind of the organisation's own; `kind` says as what it is entered. */
  declare kindId: CreationOptional<string | null>;
  declare startsAt: CreationOptional<Date | null>;
  declare dueAt: Date;
  declare allDay: boolean;
  declare endsAt: CreationOptional<Date | null>;
  /** In which its day counts; IANA name. */
  declare zone: string;
  declare assigneeId: string;
  declare personId: string | null;
  declare companyId: string | null;
  declare leadId: string | null;
  declare dealId: string | null;
  declare projectId: CreationOptional<string | null>;
  declare caseId: CreationOptional<string | null>;
  declare priority: CreationOptional<Priority>;
  declare progress: CreationOptional<number>;
  declare notes: CreationOptional<string>;
  declare checklist: CreationOptional<CheckItem[]>;
  declare reminders: CreationOptional<Reminder[]>;
  declare watchers: CreationOptional<string[]>;
  declare repeat: CreationOptional<Repeat | null>;
  declare seriesId: CreationOptional<string | null>;
  /** The first of its series. */
  declare firstAt: CreationOptional<Date | null>;
  /** When it is due by its repeat, before a free day or a hand moved it. */
  declare occursAt: CreationOptional<Date | null>;
  /** Times of its repeat at which it does not come: they were left out, or are tasks of their own. */
  declare leftOut: CreationOptional<Date[]>;
  /** Who gave it to whoever does it; null where nobody else did. */
  declare givenBy: CreationOptional<string | null>;
  declare declined: CreationOptional<Declined | null>;
  /** When its giver asked after it last. */
  declare askedAfterAt: CreationOptional<Date | null>;
  declare doneAt: CreationOptional<Date | null>;
  declare doneBy: CreationOptional<string | null>;
  /** The entry whose words asked for it, and the sentence that did. */
  declare entryId: CreationOptional<string | null>;
  declare asked: CreationOptional<string | null>;
  /** Where it takes place. */
  declare place: CreationOptional<string>;
  /** Whoever comes is invited by mail, and told of changes. */
  declare isInviting: CreationOptional<boolean>;
  declare createdBy: string | null;
  declare createdAt: Date;
}

/** A kind of task of the organisation's own. */
export class TaskKind extends Model<InferAttributes<TaskKind>, InferCreationAttributes<TaskKind>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare name: string;
  declare actsAs: MoveKind;
  declare active: CreationOptional<boolean>;
}

/** What a colleague says about a task, here or by mail. */
export class TaskMessage extends Model<InferAttributes<TaskMessage>, InferCreationAttributes<TaskMessage>> {
  declare id: string;
  declare taskId: string;
  declare userId: string;
  declare at: Date;
  declare words: string;
  declare messageId: CreationOptional<string | null>;
}

/** Work that somebody else does while a colleague is away. */
export class Handover extends Model<InferAttributes<Handover>, InferCreationAttributes<Handover>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare fromId: string;
  declare toId: string;
  declare givenBy: string;
  declare givenAt: Date;
  /** YYYY-MM-DD; null until somebody says so. */
  declare backOn: string | null;
  declare returnedAt: CreationOptional<Date | null>;
}

/** A day on which nobody of the organisation works. */
export class ClosedDay extends Model<InferAttributes<ClosedDay>, InferCreationAttributes<ClosedDay>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare day: string;
  declare name: string;
}

export function defineTaskModels(sequelize: Sequelize): void {
  define(sequelize, Task, 'tasks', {
    id: col.id,
    custom: { ...col.json, defaultValue: {} },
    ...visibility,
    version: col.version,
    title: col.words,
    kind: col.words,
    kindId: col.uuid,
    startsAt: col.time,
    dueAt: col.time,
    allDay: col.flag,
    endsAt: col.time,
    zone: { ...col.words, defaultValue: 'UTC' },
    assigneeId: col.uuid,
    personId: col.uuid,
    companyId: col.uuid,
    leadId: col.uuid,
    dealId: col.uuid,
    projectId: col.uuid,
    caseId: col.uuid,
    priority: { ...col.words, defaultValue: 'normal' },
    progress: { ...col.whole, defaultValue: 0 },
    notes: { ...col.words, defaultValue: '' },
    checklist: { ...col.json, allowNull: false, defaultValue: [] },
    reminders: { ...col.json, allowNull: false, defaultValue: [{ days: 1, at: '08:00' }] },
    watchers: { ...col.uuids, defaultValue: [] },
    repeat: col.text,
    seriesId: col.uuid,
    firstAt: col.time,
    occursAt: col.time,
    leftOut: { type: DataTypes.ARRAY(DataTypes.DATE), allowNull: false, defaultValue: [] },
    givenBy: col.uuid,
    declined: col.json,
    askedAfterAt: col.time,
    doneAt: col.time,
    doneBy: col.uuid,
    entryId: col.uuid,
    asked: col.text,
    place: { ...col.words, defaultValue: '' },
    isInviting: col.flag,
    createdBy: col.uuid,
    createdAt: col.time,
  });
  define(sequelize, TaskKind, 'task_kinds', {
    id: col.id,
    version: col.version,
    name: col.words,
    actsAs: col.words,
    active: { ...col.flag, defaultValue: true },
  });
  define(sequelize, TaskMessage, 'task_messages', {
    id: col.id,
    taskId: col.uuid,
    userId: col.uuid,
    at: col.time,
    words: col.words,
    messageId: col.text,
  });
  define(sequelize, Handover, 'handovers', {
    id: col.id,
    version: col.version,
    fromId: col.uuid,
    toId: col.uuid,
    givenBy: col.uuid,
    givenAt: col.time,
    backOn: col.day,
    returnedAt: col.time,
  });
  define(sequelize, ClosedDay, 'closed_days', {
    id: col.id,
    version: col.version,
    day: { ...col.day, allowNull: false },
    name: col.words,
  });
}
