import type { Right } from '@emporikon/core/rights/rights';
import type { EntryReading } from '@emporikon/core/ledger/entryReading';
import type { Side, TurnOutcome } from '@emporikon/core/ledger/turn';
import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define, visibility, type Visibility } from './columns';
import type { UserRole } from './users';

export type LedgerKind =
  'mail' | 'call' | 'meeting' | 'visit' | 'form' | 'file' | 'task' | 'note' | 'change' | 'quote';

export class LedgerEntry extends Model<InferAttributes<LedgerEntry>, InferCreationAttributes<LedgerEntry>> {
  declare id: string;
  declare visibility: CreationOptional<Visibility | null>;
  declare visibleTo: CreationOptional<string[]>;
  declare at: Date;
  declare side: Side;
  declare kind: LedgerKind;
  declare headline: string;
  declare body: string;
  declare captureId: string | null;
  declare actorId: string | null;
  /** RFC 5322 Message-ID, by which the same message twice is one entry. */
  declare messageId: CreationOptional<string | null>;
  /** What keeps the entries of one conversation together. */
  declare thread: CreationOptional<string | null>;
  /** How a call or a meeting went; null where nobody said. */
  declare outcome: CreationOptional<TurnOutcome | null>;
  declare version: CreationOptional<number>;
  /** The whole of what was said, where headline and body are less. */
  declare said: CreationOptional<string>;
  /** What it leaves open and settles. */
  declare reading: CreationOptional<EntryReading | null>;
  /** Somebody marked here that nothing is left to answer. */
  declare settles: CreationOptional<boolean>;
  declare pinnedAt: CreationOptional<Date | null>;
  declare editedAt: CreationOptional<Date | null>;
  declare createdAt: Date;
}

export class LedgerLink extends Model<InferAttributes<LedgerLink>, InferCreationAttributes<LedgerLink>> {
  declare id: string;
  declare entryId: string;
  declare personId: string | null;
  declare companyId: string | null;
  declare leadId: string | null;
  declare dealId: string | null;
  declare projectId: CreationOptional<string | null>;
  declare caseId: CreationOptional<string | null>;
  /** Where the person worked when it was said; the database fills it in. */
  declare atCompany: CreationOptional<string | null>;
  /** The person was only sent a copy of it. */
  declare isCopied: CreationOptional<boolean>;
}

/** What an entry said before it was changed. */
export class LedgerRevision extends Model<
  InferAttributes<LedgerRevision>,
  InferCreationAttributes<LedgerRevision>
> {
  declare id: string;
  declare entryId: string;
  declare headline: string;
  declare body: string;
  declare kind: LedgerKind;
  declare at: Date;
  declare outcome: TurnOutcome | null;
  declare until: Date;
}

/** What somebody wrote beside an entry for themselves alone. */
export class Annotation extends Model<InferAttributes<Annotation>, InferCreationAttributes<Annotation>> {
  declare id: string;
  declare entryId: string;
  declare userId: string;
  declare words: string;
  declare updatedAt: Date;
}

/** One written row: what it was and what it became; null where it did not or does not exist. */
export interface Change {
  table: string;
  id: string;
  before: Record<string, unknown> | null;
  after: Record<string, unknown> | null;
}

export class EventRow extends Model<InferAttributes<EventRow>, InferCreationAttributes<EventRow>> {
  declare seq: CreationOptional<number>;
  declare id: string;
  declare at: Date;
  declare actorId: string | null;
  declare command: string;
  declare label: string;
  declare changes: Change[];
  declare undoes: string | null;
  /** The event that this one followed with nobody asking. */
  declare causeId: CreationOptional<string | null>;
  /** How many events led to it. */
  declare depth: CreationOptional<number>;
  /** Who may give this command, and so take it back: roles, or the one right that it takes; everybody when null. */
  declare roles: CreationOptional<(UserRole | Right)[] | null>;
  /** Since when what it said of an erased person is gone. */
  declare erasedAt: CreationOptional<Date | null>;
}

export function defineLedgerModels(sequelize: Sequelize): void {
  define(sequelize, LedgerEntry, 'ledger_entries', {
    id: col.id,
    ...visibility,
    at: col.time,
    side: col.words,
    kind: col.words,
    headline: col.words,
    body: col.words,
    captureId: col.uuid,
    actorId: col.uuid,
    messageId: col.text,
    thread: col.text,
    outcome: col.text,
    version: col.version,
    said: { ...col.words, defaultValue: '' },
    reading: col.json,
    settles: col.flag,
    pinnedAt: col.time,
    editedAt: col.time,
    createdAt: col.time,
  });
  define(sequelize, LedgerLink, 'ledger_links', {
    id: col.id,
    entryId: col.uuid,
    personId: col.uuid,
    companyId: col.uuid,
    leadId: col.uuid,
    dealId: col.uuid,
    projectId: col.uuid,
    caseId: col.uuid,
    atCompany: col.uuid,
    isCopied: col.flag,
  });
  define(sequelize, LedgerRevision, 'ledger_revisions', {
    id: col.id,
    entryId: col.uuid,
    headline: col.words,
    body: col.words,
    kind: col.words,
    at: col.time,
    outcome: col.text,
    until: col.time,
  });
  define(sequelize, Annotation, 'annotations', {
    id: col.id,
    entryId: col.uuid,
    userId: col.uuid,
    words: col.words,
    updatedAt: col.time,
  });
  define(sequelize, EventRow, 'events', {
    seq: { type: 'BIGINT', autoIncrement: true, primaryKey: true },
    id: col.uuid,
    at: col.time,
    actorId: col.uuid,
    command: col.words,
    label: col.words,
    changes: col.json,
    undoes: col.uuid,
    causeId: col.uuid,
    depth: { ...col.whole, defaultValue: 0 },
    roles: { ...col.list, allowNull: true, defaultValue: null },
    erasedAt: col.time,
  });
}
