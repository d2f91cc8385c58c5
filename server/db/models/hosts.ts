import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

export class AllowedHost extends Model<InferAttributes<AllowedHost>, InferCreationAttributes<AllowedHost>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare host: string;
}

export function defineHostModels(sequelize: Sequelize): void {
  define(sequelize, AllowedHost, 'allowed_hosts', { id: col.id, version: col.version, host: col.words });
}
