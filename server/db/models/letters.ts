import type { Follows } from '@emporikon/core/outreach/tracking';
import type { DeliveryState } from '@emporikon/core/outreach/deliveryStatus';
import type { MoveKind } from '@emporikon/core/reading/intents/moves';
import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

/** A next move that is set when the letter goes out. */
export interface FollowUp {
  title: string;
  kind: MoveKind;
  /** ISO 8601. */
  dueAt: string;
  allDay: boolean;
  /** It is dropped when they answer before. */
  unlessAnswered: boolean;
}

export class Letter extends Model<InferAttributes<Letter>, InferCreationAttributes<Letter>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare authorId: string;
  declare state: CreationOptional<'draft' | 'waiting' | 'sent' | 'failed'>;
  declare subject: CreationOptional<string>;
  declare html: CreationOptional<string>;
  declare personId: CreationOptional<string | null>;
  declare companyId: CreationOptional<string | null>;
  declare leadId: CreationOptional<string | null>;
  declare dealId: CreationOptional<string | null>;
  declare projectId: CreationOptional<string | null>;
  declare caseId: CreationOptional<string | null>;
  /** The message that it answers or hands on. */
  declare answersId: CreationOptional<string | null>;
  declare inReplyTo: CreationOptional<string | null>;
  /** Message-IDs of the thread, oldest first. */
  declare refs: CreationOptional<string[]>;
  declare templateId: CreationOptional<string | null>;
  declare followUp: CreationOptional<FollowUp | null>;
  declare followUpTaskId: CreationOptional<string | null>;
  declare messageId: string;
  /** What was sent, as it stands in the ledger. */
  declare captureId: CreationOptional<string | null>;
  declare leavesAt: CreationOptional<Date | null>;
  declare sentAt: CreationOptional<Date | null>;
  declare trouble: CreationOptional<string>;
  /** What of its reading is recorded; null until it goes out. */
  declare follows: CreationOptional<Follows | null>;
  declare createdAt: Date;
  declare updatedAt: Date;
}

export class LetterRecipient extends Model<
  InferAttributes<LetterRecipient>,
  InferCreationAttributes<LetterRecipient>
> {
  declare id: string;
  declare letterId: string;
  declare position: number;
  declare way: 'to' | 'cc' | 'bcc';
  declare personId: CreationOptional<string | null>;
  declare name: CreationOptional<string>;
  declare address: string;
  declare captureId: CreationOptional<string | null>;
  /** What mail servers said of it; null until it is sent. */
  declare state: CreationOptional<DeliveryState | null>;
  /** RFC 3463. */
  declare status: CreationOptional<string>;
  declare words: CreationOptional<string>;
  declare toldAt: CreationOptional<Date | null>;
  declare awayUntil: CreationOptional<string | null>;
  declare answeredAt: CreationOptional<Date | null>;
  /** When a person opened it first, as far as that can be told. */
  declare openedAt: CreationOptional<Date | null>;
  /** When a mail program fetched its pictures by itself. */
  declare fetchedAt: CreationOptional<Date | null>;
  declare clickedAt: CreationOptional<Date | null>;
  declare clicks: CreationOptional<number>;
}

/** An address in a letter that is followed by way of ours. */
export class LetterLink extends Model<InferAttributes<LetterLink>, InferCreationAttributes<LetterLink>> {
  declare id: string;
  declare letterId: string;
  declare url: string;
}

/** What is recorded of how letters are read; one row. */
export class TrackingRulesRow extends Model<
  InferAttributes<TrackingRulesRow>,
  InferCreationAttributes<TrackingRulesRow>
> {
  declare id: CreationOptional<number>;
  declare version: CreationOptional<number>;
  declare opens: boolean;
  declare clicks: boolean;
  declare offCountries: string[];
}

export class LetterFile extends Model<InferAttributes<LetterFile>, InferCreationAttributes<LetterFile>> {
  declare id: string;
  declare letterId: string;
  declare name: string;
  declare sha256: string;
  declare addedAt: Date;
}

export class LetterTemplate extends Model<
  InferAttributes<LetterTemplate>,
  InferCreationAttributes<LetterTemplate>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare ownerId: string;
  declare shared: CreationOptional<boolean>;
  declare folder: CreationOptional<string>;
  declare name: string;
  declare shortcut: CreationOptional<string | null>;
  declare subject: CreationOptional<string>;
  declare html: CreationOptional<string>;
  declare updatedAt: Date;
}

export class Signature extends Model<InferAttributes<Signature>, InferCreationAttributes<Signature>> {
  declare userId: string;
  declare version: CreationOptional<number>;
  declare html: CreationOptional<string>;
  declare picture: CreationOptional<Buffer | null>;
  declare pictureType: CreationOptional<string | null>;
}

export class Submission extends Model<InferAttributes<Submission>, InferCreationAttributes<Submission>> {
  declare userId: string;
  declare version: CreationOptional<number>;
  declare host: string;
  declare port: number;
  declare secure: boolean;
  declare username: string;
  declare sealed: string;
  declare state: CreationOptional<'new' | 'works' | 'down' | 'refused'>;
  declare trouble: CreationOptional<string>;
  declare triedAt: CreationOptional<Date | null>;
}

export class MailDomain extends Model<InferAttributes<MailDomain>, InferCreationAttributes<MailDomain>> {
  declare domain: string;
  declare version: CreationOptional<number>;
  declare selector: string;
  declare sealed: string;
  declare publicKey: string;
  declare createdAt: Date;
}

const blank = { ...col.words, defaultValue: '' };

export function defineLetterModels(sequelize: Sequelize): void {
  define(sequelize, Letter, 'letters', {
    id: col.id,
    version: col.version,
    authorId: col.uuid,
    state: { ...col.words, defaultValue: 'draft' },
    subject: blank,
    html: blank,
    personId: col.uuid,
    companyId: col.uuid,
    leadId: col.uuid,
    dealId: col.uuid,
    projectId: col.uuid,
    caseId: col.uuid,
    answersId: col.uuid,
    inReplyTo: col.text,
    refs: col.list,
    templateId: col.uuid,
    followUp: col.json,
    followUpTaskId: col.uuid,
    messageId: col.words,
    captureId: col.uuid,
    leavesAt: col.time,
    sentAt: col.time,
    trouble: blank,
    follows: col.text,
    createdAt: col.time,
    updatedAt: col.time,
  });
  define(sequelize, LetterRecipient, 'letter_recipients', {
    id: col.id,
    letterId: col.uuid,
    position: col.whole,
    way: col.words,
    personId: col.uuid,
    name: blank,
    address: col.words,
    captureId: col.uuid,
    state: col.text,
    status: blank,
    words: blank,
    toldAt: col.time,
    awayUntil: col.day,
    answeredAt: col.time,
    openedAt: col.time,
    fetchedAt: col.time,
    clickedAt: col.time,
    clicks: { ...col.whole, defaultValue: 0 },
  });
  define(sequelize, LetterLink, 'letter_links', { id: col.id, letterId: col.uuid, url: col.words });
  define(sequelize, TrackingRulesRow, 'tracking_rules', {
    id: { ...col.whole, primaryKey: true, defaultValue: 1 },
    version: col.version,
    opens: col.flag,
    clicks: col.flag,
    offCountries: col.list,
  });
  define(sequelize, LetterFile, 'letter_files', {
    id: col.id,
    letterId: col.uuid,
    name: col.words,
    sha256: col.words,
    addedAt: col.time,
  });
  define(sequelize, LetterTemplate, 'letter_templates', {
    id: col.id,
    version: col.version,
    ownerId: col.uuid,
    shared: col.flag,
    folder: blank,
    name: col.words,
    shortcut: col.text,
    subject: blank,
    html: blank,
    updatedAt: col.time,
  });
  define(sequelize, Signature, 'signatures', {
    userId: col.id,
    version: col.version,
    html: blank,
    picture: { type: DataTypes.BLOB, allowNull: true },
    pictureType: col.text,
  });
  define(sequelize, Submission, 'submissions', {
    userId: col.id,
    version: col.version,
    host: col.words,
    port: col.whole,
    secure: col.flag,
    username: col.words,
    sealed: col.words,
    state: { ...col.words, defaultValue: 'new' },
    trouble: blank,
    triedAt: col.time,
  });
  define(sequelize, MailDomain, 'mail_domains', {
    domain: { ...col.words, primaryKey: true },
    version: col.version,
    selector: col.words,
    sealed: col.words,
    publicKey: col.words,
    createdAt: col.time,
  });
}
