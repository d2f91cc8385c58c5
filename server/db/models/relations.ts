import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

/** Where else somebody works, or worked before. */
export class Employment extends Model<InferAttributes<Employment>, InferCreationAttributes<Employment>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare personId: string;
  declare companyId: string;
  declare jobTitle: string;
  declare fromDay: string | null;
  declare untilDay: string | null;
}

export class RelationKind extends Model<
  InferAttributes<RelationKind>,
  InferCreationAttributes<RelationKind>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare position: number;
  declare name: string;
  /** What it is called seen from the other end. */
  declare reverse: string;
  /** Whether the org chart is drawn from it. */
  declare isLine: CreationOptional<boolean>;
  declare active: CreationOptional<boolean>;
}

export class Relation extends Model<InferAttributes<Relation>, InferCreationAttributes<Relation>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare kindId: string;
  declare fromId: string;
  declare toId: string;
}

export function defineRelationModels(sequelize: Sequelize): void {
  define(sequelize, Employment, 'employments', {
    id: col.id,
    version: col.version,
    personId: col.uuid,
    companyId: col.uuid,
    jobTitle: col.words,
    fromDay: col.day,
    untilDay: col.day,
  });
  define(sequelize, RelationKind, 'relation_kinds', {
    id: col.id,
    version: col.version,
    position: col.whole,
    name: col.words,
    reverse: col.words,
    isLine: col.flag,
    active: { ...col.flag, defaultValue: true },
  });
  define(sequelize, Relation, 'relations', {
    id: col.id,
    version: col.version,
    kindId: col.uuid,
    fromId: col.uuid,
    toId: col.uuid,
  });
}
