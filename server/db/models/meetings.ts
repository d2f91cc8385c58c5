import type { Answer } from '@emporikon/core/formats/icalendar';
import type { MeetingFacts } from '@emporikon/core/calendar/invitations';
import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

/** Somebody who comes to a meeting: a person, a colleague, or anybody by their address. */
export class TaskPerson extends Model<InferAttributes<TaskPerson>, InferCreationAttributes<TaskPerson>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare taskId: string;
  declare personId: string | null;
  declare userId: string | null;
  declare name: string;
  /** Lower case; empty where none is known. */
  declare email: string;
  declare answer: CreationOptional<Answer>;
  declare answeredAt: CreationOptional<Date | null>;
  /** What they added to their answer. */
  declare comment: CreationOptional<string>;
  declare proposesStart: CreationOptional<Date | null>;
  declare proposesEnd: CreationOptional<Date | null>;
}

/** What an address was mailed last about a meeting. */
export class Invitation extends Model<InferAttributes<Invitation>, InferCreationAttributes<Invitation>> {
  declare id: string;
  declare taskId: string;
  declare email: string;
  declare name: string;
  declare organizerId: string;
  declare sequence: number;
  declare told: MeetingFacts | null;
  declare sentAt: CreationOptional<Date | null>;
}

export function defineMeetingModels(sequelize: Sequelize): void {
  define(sequelize, TaskPerson, 'task_people', {
    id: col.id,
    version: col.version,
    taskId: col.uuid,
    personId: col.uuid,
    userId: col.uuid,
    name: col.words,
    email: col.words,
    answer: { ...col.words, defaultValue: 'waiting' },
    answeredAt: col.time,
    comment: { ...col.words, defaultValue: '' },
    proposesStart: col.time,
    proposesEnd: col.time,
  });
  define(sequelize, Invitation, 'invitations', {
    id: col.id,
    taskId: col.uuid,
    email: col.words,
    name: col.words,
    organizerId: col.uuid,
    sequence: col.whole,
    told: col.json,
    sentAt: col.time,
  });
}
