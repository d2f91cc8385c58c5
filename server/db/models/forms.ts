import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';
import type { FormField } from '@emporikon/contract/forms';

export class Form extends Model<InferAttributes<Form>, InferCreationAttributes<Form>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare slug: string;
  declare name: string;
  declare kind: 'public' | 'desk';
  declare recognise: 'email' | 'phone' | 'both' | 'ask';
  declare fields: FormField[];
  declare consent: string;
  /** What whoever ticks its box agrees to; the default purposes where it names none. */
  declare purposeIds: CreationOptional<string[]>;
  declare thanks: string;
  declare ownerId: string | null;
  declare listId: string | null;
  declare tags: string[];
  declare source: string;
  /** What filing one creates: a lead with this status, a case, or neither. */
  declare leadStatus: 'new' | 'working' | 'case' | 'none';
  declare filesItself: boolean;
  declare active: boolean;
  declare createdAt: Date;
}

export class FormSubmission extends Model<
  InferAttributes<FormSubmission>,
  InferCreationAttributes<FormSubmission>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare formId: string;
  declare captureId: string;
  declare personId: string | null;
  declare userId: string | null;
  declare submittedAt: Date;
  declare email: string | null;
  declare confirmHash: string | null;
  declare confirmedAt: CreationOptional<Date | null>;
}

export function defineFormModels(sequelize: Sequelize): void {
  define(sequelize, Form, 'forms', {
    id: col.id,
    version: col.version,
    slug: col.words,
    name: col.words,
    kind: col.words,
    recognise: col.words,
    fields: col.json,
    consent: col.words,
    purposeIds: { ...col.uuids, defaultValue: [] },
    thanks: col.words,
    ownerId: col.uuid,
    listId: col.uuid,
    tags: col.list,
    source: col.words,
    leadStatus: col.words,
    filesItself: col.flag,
    active: { ...col.flag, defaultValue: true },
    createdAt: col.time,
  });
  define(sequelize, FormSubmission, 'form_submissions', {
    id: col.id,
    version: col.version,
    formId: col.uuid,
    captureId: col.uuid,
    personId: col.uuid,
    userId: col.uuid,
    submittedAt: col.time,
    email: col.text,
    confirmHash: col.text,
    confirmedAt: col.time,
  });
}
