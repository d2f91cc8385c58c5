import type { EventFacts } from '@emporikon/core/formats/calendarObject';
import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

interface Collection {
  url: string;
  name: string;
}

/** An account of a calendar server that a user's calendar is kept in step with. */
export class CaldavLink extends Model<InferAttributes<CaldavLink>, InferCreationAttributes<CaldavLink>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare userId: string;
  declare url: string;
  declare username: string;
  declare sealed: string;
  declare calendars: CreationOptional<Collection[]>;
  declare calendarUrl: CreationOptional<string | null>;
  declare addressBooks: CreationOptional<Collection[]>;
  declare addressBookUrl: CreationOptional<string | null>;
  /** `forgetful`: most events went from it at once, and nothing was removed here yet. */
  declare state: CreationOptional<'new' | 'choose' | 'current' | 'down' | 'refused' | 'forgetful'>;
  declare trouble: CreationOptional<string>;
  /** How many meetings wait for somebody to decide what they are. */
  declare clashes: CreationOptional<number>;
  declare syncedAt: CreationOptional<Date | null>;
  declare mark: CreationOptional<string>;
  declare readOn: CreationOptional<string | null>;
  declare mayRemove: CreationOptional<boolean>;
  declare endedAt: CreationOptional<Date | null>;
  declare createdAt: Date;
}

/** A file of the other calendar as it was read or written last. */
export class CaldavObject extends Model<
  InferAttributes<CaldavObject>,
  InferCreationAttributes<CaldavObject>
> {
  declare id: string;
  declare linkId: string;
  declare href: string;
  declare uid: string;
  declare etag: string;
  declare raw: string;
}

/** An event, or an occurrence of a series, and the task here that it is. */
export class CaldavEvent extends Model<InferAttributes<CaldavEvent>, InferCreationAttributes<CaldavEvent>> {
  declare id: string;
  declare objectId: string;
  declare occurrence: string;
  declare taskId: string;
  /** Whether it was made here. */
  declare isOurs: boolean;
  declare base: EventFacts;
  /** The rule it repeats by there, of one of ours. */
  declare rule: CreationOptional<string | null>;
  /** Of a series that was made here: its tasks, and when it begins there. */
  declare seriesId: CreationOptional<string | null>;
  declare anchor: CreationOptional<string | null>;
  /** What the other calendar says where both changed the same; `isGone` where it is not there any longer. */
  declare clash: CreationOptional<(EventFacts & { isGone?: boolean }) | null>;
}

export function defineCaldavModels(sequelize: Sequelize): void {
  define(sequelize, CaldavLink, 'caldav_links', {
    id: col.id,
    version: col.version,
    userId: col.uuid,
    url: col.words,
    username: col.words,
    sealed: col.words,
    calendars: { ...col.json, defaultValue: [] },
    calendarUrl: col.text,
    addressBooks: { ...col.json, defaultValue: [] },
    addressBookUrl: col.text,
    state: { ...col.words, defaultValue: 'new' },
    trouble: { ...col.words, defaultValue: '' },
    clashes: { ...col.whole, defaultValue: 0 },
    syncedAt: col.time,
    mark: { ...col.words, defaultValue: '' },
    readOn: col.day,
    mayRemove: col.flag,
    endedAt: col.time,
    createdAt: col.time,
  });
  define(sequelize, CaldavObject, 'caldav_objects', {
    id: col.id,
    linkId: col.uuid,
    href: col.words,
    uid: col.words,
    etag: col.words,
    raw: col.words,
  });
  define(sequelize, CaldavEvent, 'caldav_events', {
    id: col.id,
    objectId: col.uuid,
    occurrence: col.words,
    taskId: col.uuid,
    isOurs: col.flag,
    base: { ...col.json, allowNull: false },
    rule: col.text,
    seriesId: col.uuid,
    anchor: col.text,
    clash: col.json,
  });
}
