import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import type { CODE_RULES } from '@emporikon/contract/secondStep';
import type { TokenRights } from '@emporikon/contract/session';
import type { Right } from '@emporikon/core/rights/rights';
import { col, define } from './columns';

export type UserRole = 'rep' | 'manager' | 'admin';

export class User extends Model<InferAttributes<User>, InferCreationAttributes<User>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare email: string;
  declare name: string;
  /** One that is always there; what their own one is based on, where they have one. */
  declare role: UserRole;
  /** A role of the organisation's own: its rights count. */
  declare roleId: CreationOptional<string | null>;
  declare timeZone: string;
  /** How they write days and numbers (BCP 47); null follows their browser. */
  declare locale: CreationOptional<string | null>;
  /** Whose public holidays they keep (PT, DE-BY); those of the organisation where it is null. */
  declare holidays: CreationOptional<string | null>;
  /** When their working day begins and ends, on their clock (HH:MM). */
  declare worksFrom: CreationOptional<string>;
  declare worksUntil: CreationOptional<string>;
  /** By kind of record the keys of the facts that stand first on a card. */
  declare cardFirst: CreationOptional<Record<string, string[]>>;
  /** When the mail of the day with notices goes out, on their clock (HH:MM). */
  declare digestAt: CreationOptional<string>;
  /** Whether their round is mailed to them in the morning. */
  declare roundMail: CreationOptional<boolean>;
  /** From when to when no notice is mailed, on their clock (HH:MM). */
  declare quietFrom: CreationOptional<string | null>;
  declare quietUntil: CreationOptional<string | null>;
  declare passwordHash: string;
  declare active: boolean;
  /** Whose figures are looked at together; empty for none. */
  declare team: CreationOptional<string>;
  declare createdAt: Date;
}

/** A role of the organisation's own. */
export class RoleRow extends Model<InferAttributes<RoleRow>, InferCreationAttributes<RoleRow>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare name: string;
  declare basedOn: Exclude<UserRole, 'admin'>;
  declare rights: Right[];
}

export class Session extends Model<InferAttributes<Session>, InferCreationAttributes<Session>> {
  declare tokenHash: string;
  declare userId: string;
  declare createdAt: Date;
  declare lastSeenAt: Date;
  declare expiresAt: Date;
  /** What the browser said it is, and where it came from. */
  declare device: CreationOptional<string>;
  declare address: CreationOptional<string>;
  /** Begun by a provider of sign-in, whose own second step counts. */
  declare byProvider: CreationOptional<boolean>;
}

/** One row: who has to sign in with a code as well. */
export class SignInRules extends Model<InferAttributes<SignInRules>, InferCreationAttributes<SignInRules>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare codes: (typeof CODE_RULES)[number];
}

export class AccessToken extends Model<InferAttributes<AccessToken>, InferCreationAttributes<AccessToken>> {
  declare id: string;
  declare userId: string;
  declare name: string;
  declare tokenHash: string;
  declare createdAt: Date;
  declare lastUsedAt: Date | null;
  declare revokedAt: Date | null;
  /** What it may do: all that its owner may, only read, or only hand in captures. */
  declare rights: CreationOptional<TokenRights>;
  declare expiresAt: CreationOptional<Date | null>;
}

export function defineUserModels(sequelize: Sequelize): void {
  define(sequelize, User, 'users', {
    id: col.id,
    version: col.version,
    email: col.words,
    name: col.words,
    role: col.words,
    roleId: col.uuid,
    timeZone: col.words,
    locale: col.text,
    holidays: col.text,
    worksFrom: { ...col.words, defaultValue: '09:00' },
    worksUntil: { ...col.words, defaultValue: '17:30' },
    cardFirst: { ...col.json, defaultValue: {} },
    roundMail: col.flag,
    digestAt: { ...col.words, defaultValue: '08:00' },
    quietFrom: col.text,
    quietUntil: col.text,
    passwordHash: col.words,
    active: col.flag,
    team: { ...col.words, defaultValue: '' },
    createdAt: col.time,
  });
  define(sequelize, RoleRow, 'roles', {
    id: col.id,
    version: col.version,
    name: col.words,
    basedOn: col.words,
    rights: col.list,
  });
  define(sequelize, Session, 'sessions', {
    tokenHash: { ...col.words, primaryKey: true },
    userId: col.uuid,
    createdAt: col.time,
    lastSeenAt: col.time,
    expiresAt: col.time,
    device: { ...col.words, defaultValue: '' },
    address: { ...col.words, defaultValue: '' },
    byProvider: { ...col.flag, defaultValue: false },
  });
  define(sequelize, SignInRules, 'sign_in_rules', {
    id: col.id,
    version: col.version,
    codes: col.words,
  });
  define(sequelize, AccessToken, 'access_tokens', {
    id: col.id,
    userId: col.uuid,
    name: col.words,
    tokenHash: col.words,
    createdAt: col.time,
    lastUsedAt: col.time,
    revokedAt: col.time,
    rights: { ...col.words, defaultValue: 'all' },
    expiresAt: col.time,
  });
}
