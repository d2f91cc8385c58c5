import type { Model } from 'sequelize';
import {
  DataTypes,
  type InferAttributes,
  type ModelAttributes,
  type ModelStatic,
  type Sequelize,
} from 'sequelize';

/** Column kinds, so that a model reads like the table it stands for. */
export const col = {
  id: { type: DataTypes.UUID, primaryKey: true },
  version: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 },
  uuid: { type: DataTypes.UUID, allowNull: true },
  text: { type: DataTypes.TEXT, allowNull: true },
  words: { type: DataTypes.TEXT, allowNull: false },
  time: { type: DataTypes.DATE, allowNull: true },
  day: { type: DataTypes.DATEONLY, allowNull: true },
  whole: { type: DataTypes.INTEGER, allowNull: false },
  big: { type: DataTypes.BIGINT, allowNull: true },
  decimal: { type: DataTypes.DECIMAL, allowNull: false },
  real: { type: DataTypes.REAL, allowNull: false },
  flag: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
  json: { type: DataTypes.JSONB, allowNull: true },
  uuids: { type: DataTypes.ARRAY(DataTypes.UUID), allowNull: false },
  list: { type: DataTypes.ARRAY(DataTypes.TEXT), allowNull: false, defaultValue: [] },
  bytes: { type: DataTypes.BLOB, allowNull: false },
} as const;

export type Visibility = 'everybody' | 'owner' | 'team' | 'named';

/** What was chosen about who may see a record; the database fills in the default of its kind. */
export const visibility = {
  visibility: { ...col.words, allowNull: true },
  visibleTo: { ...col.uuids, allowNull: true },
};

/** Binds a model class to its table. */
export function define<M extends Model>(
  sequelize: Sequelize,
  model: ModelStatic<M>,
  table: string,
  attributes: ModelAttributes<M, InferAttributes<M>>,
): void {
  // Sequelize writes into the definitions it is given; each attribute gets one of its own.
  const own = Object.fromEntries(
    Object.entries(attributes).map(([name, one]) => [name, { ...(one as object) }]),
  );
  model.init(own as typeof attributes, {
    sequelize,
    tableName: table,
    modelName: table,
    underscored: true,
    timestamps: false,
    // A row that has a version is written only as it was read: somebody else's write in between is told, never lost.
    ...('version' in attributes ? { version: 'version' } : {}),
  });
}

/** Whatever a record becomes, a term that counts as something else goes, unless one is set with it. */
export function forgetsTerm<M extends Model>(model: ModelStatic<M>, held: string, term: string): void {
  model.addHook('beforeUpdate', (row: M) => {
    if (row.changed(held as keyof M) && !row.changed(term as keyof M))
      row.setDataValue(term as keyof M, null as never);
  });
}
