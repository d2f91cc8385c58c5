import type { CompanyOnly } from '@emporikon/core/lookups/facts';
import type { PhoneType } from '@emporikon/core/people/phones';
import type { Bin, Steps } from '@emporikon/core/reading/refit';
import type {
  CaptureKind,
  Claim,
  Intent,
  IntentKind,
  MessageView,
  Span,
} from '@emporikon/core/reading/types';
import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define, visibility, type Visibility } from './columns';

export type CaptureState = 'waiting' | 'filed' | 'set aside';
export type CameBy =
  'upload' | 'paste' | 'post' | 'api' | 'clipper' | 'fetch' | 'exchange' | 'form' | 'mailbox' | 'letter';

export class Capture extends Model<InferAttributes<Capture>, InferCreationAttributes<Capture>> {
  declare id: string;
  declare visibility: CreationOptional<Visibility | null>;
  declare visibleTo: CreationOptional<string[]>;
  declare version: CreationOptional<number>;
  declare kind: CaptureKind;
  declare mediaType: string;
  declare sha256: string;
  declare raw: Buffer;
  declare cameBy: CameBy;
  declare capturedBy: string | null;
  declare receivedAt: Date;
  declare message: MessageView;
  declare notices: string[];
  declare messageId: CreationOptional<string | null>;
  /** What a message says without how it was carried; null for anything else. */
  declare contentSha256: CreationOptional<string | null>;
  /** The first message of the conversation it belongs to. */
  declare thread: CreationOptional<string | null>;
  declare state: CreationOptional<CaptureState>;
  declare filedAt: CreationOptional<Date | null>;
}

/** One field of one kind of capture: what people decided of its claims, and the confidences fitted to that. */
export interface ReadingFit {
  kind: CaptureKind;
  field: string;
  right: number;
  /** Corrected or refused. */
  wrong: number;
  /** Added by hand, because the reader had missed it. */
  missed: number;
  bins: Bin[];
  steps: Steps;
}

export type Fate = 'current' | 'proposed' | 'superseded' | 'rejected';

export class ClaimRow extends Model<InferAttributes<ClaimRow>, InferCreationAttributes<ClaimRow>> {
  declare id: string;
  declare captureId: string | null;
  declare personId: CreationOptional<string | null>;
  declare companyId: CreationOptional<string | null>;
  declare field: Claim['field'] | CompanyOnly;
  declare value: string;
  declare normalized: string | null;
  declare type: PhoneType | null;
  declare confidence: number;
  /** What the reader itself gave, before it was fitted to what people decided; null where that is the confidence. */
  declare readConfidence: CreationOptional<number | null>;
  declare span: Span | null;
  declare source: string;
  declare byHand: CreationOptional<boolean>;
  declare actorId: CreationOptional<string | null>;
  declare fate: Fate;
  declare replaces: CreationOptional<string | null>;
  /** The question to a source that it answers, and whether that answer was kept; null while undecided. */
  declare lookUpId: CreationOptional<string | null>;
  declare kept: CreationOptional<boolean | null>;
  declare createdAt: Date;
}

export class IntentRow extends Model<InferAttributes<IntentRow>, InferCreationAttributes<IntentRow>> {
  declare id: string;
  declare captureId: string;
  declare kind: IntentKind;
  declare text: string;
  declare value: Intent['value'];
  declare confidence: number;
  declare span: Span;
  declare fate: CreationOptional<'proposed' | 'rejected'>;
}

/** How right the reader was, as of some time, and how sure it may be since. */
export class ReadingFitRow extends Model<
  InferAttributes<ReadingFitRow>,
  InferCreationAttributes<ReadingFitRow>
> {
  declare id: string;
  declare madeAt: Date;
  declare captures: number;
  declare fits: ReadingFit[];
}

export function defineCaptureModels(sequelize: Sequelize): void {
  define(sequelize, Capture, 'captures', {
    id: col.id,
    ...visibility,
    version: col.version,
    kind: col.words,
    mediaType: col.words,
    sha256: col.words,
    raw: col.bytes,
    cameBy: col.words,
    capturedBy: col.uuid,
    receivedAt: col.time,
    message: col.json,
    notices: col.json,
    messageId: col.text,
    contentSha256: col.text,
    thread: col.text,
    state: { ...col.words, defaultValue: 'waiting' },
    filedAt: col.time,
  });
  define(sequelize, ClaimRow, 'claims', {
    id: col.id,
    captureId: col.uuid,
    personId: col.uuid,
    companyId: col.uuid,
    field: col.words,
    value: col.words,
    normalized: col.text,
    type: col.text,
    confidence: col.real,
    readConfidence: { ...col.real, allowNull: true },
    span: col.json,
    source: col.words,
    byHand: col.flag,
    actorId: col.uuid,
    fate: col.words,
    replaces: col.uuid,
    lookUpId: col.uuid,
    kept: { ...col.flag, allowNull: true, defaultValue: null },
    createdAt: col.time,
  });
  define(sequelize, ReadingFitRow, 'reading_fits', {
    id: col.id,
    madeAt: col.time,
    captures: col.whole,
    fits: col.json,
  });
  define(sequelize, IntentRow, 'intents', {
    id: col.id,
    captureId: col.uuid,
    kind: col.words,
    text: col.words,
    value: col.json,
    confidence: col.real,
    span: col.json,
    fate: { ...col.words, defaultValue: 'proposed' },
  });
}
