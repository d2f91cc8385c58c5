import type { Reach } from '@emporikon/core/outreach/consent';
import type { CompanyKind } from '@emporikon/core/lifecycle/terms';
import type { Standing } from '@emporikon/core/lifecycle/standing';
import type { PhoneType } from '@emporikon/core/people/phones';
import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define, forgetsTerm, visibility, type Visibility } from './columns';

export type ContactKind = 'email' | 'phone' | 'url' | 'profile';

export class Company extends Model<InferAttributes<Company>, InferCreationAttributes<Company>> {
  declare id: string;
  /** Values of fields of the organisation's own, by their key. */
  declare custom: CreationOptional<Record<string, string>>;
  declare visibility: CreationOptional<Visibility | null>;
  declare visibleTo: CreationOptional<string[]>;
  declare version: CreationOptional<number>;
  declare name: string;
  declare nameKey: string;
  declare domain: string | null;
  declare url: string | null;
  declare phone: string | null;
  declare address: string | null;
  declare ownerId: string | null;
  /** A household is a family as the customer. */
  declare kind: CreationOptional<CompanyKind>;
  /** Which of the organisation's own kinds it is; null for the built-in one. */
  declare kindTerm: CreationOptional<string | null>;
  /** The company it is a branch of. */
  declare parentId: CreationOptional<string | null>;
  declare legalName: CreationOptional<string | null>;
  declare industry: CreationOptional<string | null>;
  declare employees: CreationOptional<number | null>;
  declare technologies: CreationOptional<string[]>;
  /** ISO 3166-1 alpha-2. */
  declare country: CreationOptional<string | null>;
  /** IANA name. */
  declare timeZone: CreationOptional<string | null>;
  /** How often we mean to be in touch with whoever works there. */
  declare rhythmDays: CreationOptional<number | null>;
  declare isImportant: CreationOptional<boolean>;
  declare createdAt: Date;
  declare updatedAt: Date;
}

export class Person extends Model<InferAttributes<Person>, InferCreationAttributes<Person>> {
  declare id: string;
  declare visibility: CreationOptional<Visibility | null>;
  declare visibleTo: CreationOptional<string[]>;
  declare version: CreationOptional<number>;
  declare fullName: string;
  declare givenName: string;
  declare familyName: string;
  declare nameKey: string;
  declare jobTitle: string | null;
  declare address: string | null;
  declare timeZone: string | null;
  declare companyId: string | null;
  declare standing: Standing;
  /** Which of the organisation's own standings it is; null for the built-in one. */
  declare standingTerm: CreationOptional<string | null>;
  declare ownerId: string | null;
  /** ISO 8601; without a year it begins with two dashes. */
  declare birthday: CreationOptional<string | null>;
  /** What stays true of them and has no field. */
  /** Honorific prefixes as written, and where in the firm they work; empty for none. */
  declare namePrefix: CreationOptional<string>;
  declare department: CreationOptional<string>;
  declare addressType: CreationOptional<'work' | 'home' | null>;
  /** The parts of a card's address (RFC 6350 §6.3.1), as long as the address is the one they make. */
  declare addressParts: CreationOptional<string[] | null>;
  declare background: CreationOptional<string | null>;
  /** Values of the house's own fields by their key. */
  declare custom: CreationOptional<Record<string, string>>;
  declare tags: CreationOptional<string[]>;
  /** Since when nobody works with them any more; they stay, but come last. */
  declare inactiveSince: CreationOptional<Date | null>;
  /** How often we mean to be in touch; null leaves it to their company, tags and standing. */
  declare rhythmDays: CreationOptional<number | null>;
  declare isImportant: CreationOptional<boolean>;
  /** When somebody decided what they are to us. */
  declare triagedAt: CreationOptional<Date | null>;
  /** When all that told who they are was erased. No command finds such a person any more. */
  declare erasedAt: CreationOptional<Date | null>;
  declare createdAt: Date;
  declare updatedAt: Date;
}

export class ContactPoint extends Model<
  InferAttributes<ContactPoint>,
  InferCreationAttributes<ContactPoint>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare personId: string;
  declare kind: ContactKind;
  declare value: string;
  declare normalized: string;
  declare type: PhoneType | null;
  /** Of an address: whether mail arrives there, as mail servers said last. */
  declare reach: CreationOptional<Reach>;
  declare reachAt: CreationOptional<Date | null>;
  declare reachWords: CreationOptional<string>;
  declare createdAt: Date;
}

export function definePeopleModels(sequelize: Sequelize): void {
  define(sequelize, Company, 'companies', {
    id: col.id,
    custom: { ...col.json, defaultValue: {} },
    ...visibility,
    version: col.version,
    name: col.words,
    nameKey: col.words,
    domain: col.text,
    url: col.text,
    phone: col.text,
    address: col.text,
    ownerId: col.uuid,
    kind: { ...col.words, defaultValue: 'firm' },
    kindTerm: col.text,
    parentId: col.uuid,
    legalName: col.text,
    industry: col.text,
    employees: { ...col.whole, allowNull: true },
    technologies: col.list,
    country: col.text,
    timeZone: col.text,
    rhythmDays: { ...col.whole, allowNull: true },
    isImportant: col.flag,
    createdAt: col.time,
    updatedAt: col.time,
  });
  define(sequelize, Person, 'people', {
    id: col.id,
    ...visibility,
    version: col.version,
    fullName: col.words,
    givenName: col.words,
    familyName: col.words,
    nameKey: col.words,
    jobTitle: col.text,
    address: col.text,
    timeZone: col.text,
    companyId: col.uuid,
    standing: col.words,
    standingTerm: col.text,
    ownerId: col.uuid,
    birthday: col.text,
    background: col.text,
    namePrefix: { ...col.words, defaultValue: '' },
    department: { ...col.words, defaultValue: '' },
    addressType: col.text,
    addressParts: { ...col.list, allowNull: true, defaultValue: null },
    custom: { ...col.json, defaultValue: {} },
    tags: col.list,
    rhythmDays: { ...col.whole, allowNull: true },
    isImportant: col.flag,
    inactiveSince: col.time,
    triagedAt: col.time,
    erasedAt: col.time,
    createdAt: col.time,
    updatedAt: col.time,
  });
  forgetsTerm(Company, 'kind', 'kindTerm');
  forgetsTerm(Person, 'standing', 'standingTerm');
  Person.addScope('defaultScope', { where: { erasedAt: null } }, { override: true });
  define(sequelize, ContactPoint, 'contact_points', {
    id: col.id,
    version: col.version,
    personId: col.uuid,
    kind: col.words,
    value: col.words,
    normalized: col.words,
    type: col.text,
    reach: { ...col.words, defaultValue: 'good' },
    reachAt: col.time,
    reachWords: { ...col.words, defaultValue: '' },
    createdAt: col.time,
  });
}
