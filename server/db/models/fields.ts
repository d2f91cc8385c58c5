import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

export type FieldKind = 'text' | 'number' | 'date' | 'choice' | 'yes or no';

export class CustomField extends Model<InferAttributes<CustomField>, InferCreationAttributes<CustomField>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare key: string;
  declare label: string;
  declare kind: FieldKind;
  declare options: string[];
  declare position: number;
  declare active: CreationOptional<boolean>;
  /** Whether it stands with what is personal. */
  declare isPersonal: CreationOptional<boolean>;
}

export class FieldMapping extends Model<
  InferAttributes<FieldMapping>,
  InferCreationAttributes<FieldMapping>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare field: string;
  declare target: string;
}

export class List extends Model<InferAttributes<List>, InferCreationAttributes<List>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare name: string;
  declare createdAt: Date;
}

export class ListMember extends Model<InferAttributes<ListMember>, InferCreationAttributes<ListMember>> {
  declare id: string;
  declare listId: string;
  declare personId: string;
  declare createdAt: Date;
}

export function defineFieldModels(sequelize: Sequelize): void {
  define(sequelize, CustomField, 'custom_fields', {
    id: col.id,
    version: col.version,
    key: col.words,
    label: col.words,
    kind: col.words,
    options: col.json,
    position: col.whole,
    active: { ...col.flag, defaultValue: true },
    isPersonal: col.flag,
  });
  define(sequelize, FieldMapping, 'field_mappings', {
    id: col.id,
    version: col.version,
    field: col.words,
    target: col.words,
  });
  define(sequelize, List, 'lists', {
    id: col.id,
    version: col.version,
    name: col.words,
    createdAt: col.time,
  });
  define(sequelize, ListMember, 'list_members', {
    id: col.id,
    listId: col.uuid,
    personId: col.uuid,
    createdAt: col.time,
  });
}
