import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define, visibility, type Visibility } from './columns';

export class TeamRow extends Model<InferAttributes<TeamRow>, InferCreationAttributes<TeamRow>> {
  declare id: string;
  declare version: CreationOptional<number>;
  /** What a user's `team` says. */
  declare name: string;
  declare managers: string[];
}

/** Who may see what is made from now on, of a kind, or of leads with a source. */
export class VisibilityDefault extends Model<
  InferAttributes<VisibilityDefault>,
  InferCreationAttributes<VisibilityDefault>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  /** A table. */
  declare kind: string;
  declare source: string | null;
  declare visibility: Visibility;
  declare visibleTo: string[];
}

/** Somebody came upon a record that they cannot see. */
export class HiddenMatch extends Model<InferAttributes<HiddenMatch>, InferCreationAttributes<HiddenMatch>> {
  declare id: string;
  declare recordId: string;
  /** A table. */
  declare kind: 'people' | 'companies';
  declare metBy: string;
  declare metAt: Date;
  declare settledAt: Date | null;
}

export function defineVisibilityModels(sequelize: Sequelize): void {
  define(sequelize, TeamRow, 'teams', {
    id: col.id,
    version: col.version,
    name: col.words,
    managers: col.uuids,
  });
  define(sequelize, VisibilityDefault, 'visibility_defaults', {
    id: col.id,
    version: col.version,
    kind: col.words,
    source: col.text,
    ...visibility,
  });
  define(sequelize, HiddenMatch, 'hidden_matches', {
    id: col.id,
    recordId: col.uuid,
    kind: col.words,
    metBy: col.uuid,
    metAt: col.time,
    settledAt: col.time,
  });
}
