import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { col, define } from './columns';

/** A file on a ledger entry or a task. */
export class StoredFile extends Model<InferAttributes<StoredFile>, InferCreationAttributes<StoredFile>> {
  declare id: string;
  declare version: CreationOptional<number>;
  declare entryId: string | null;
  declare taskId: string | null;
  declare name: string;
  /** That of its newest version. */
  declare number: number;
  declare addedBy: string | null;
  declare at: Date;
}

/** What a file was at one time; its content is kept by its hash. */
export class FileVersion extends Model<InferAttributes<FileVersion>, InferCreationAttributes<FileVersion>> {
  declare id: string;
  declare fileId: string;
  declare entryId: string | null;
  declare number: number;
  declare name: string;
  declare sha256: string;
  declare addedBy: string | null;
  declare at: Date;
}

/** The one row that says how large and of what kind files may be. */
export class FileLimitsRow extends Model<
  InferAttributes<FileLimitsRow>,
  InferCreationAttributes<FileLimitsRow>
> {
  declare id: string;
  declare version: CreationOptional<number>;
  /** Bytes, as text where PostgreSQL has a bigint. */
  declare mostBytes: number | string;
  declare mostFileBytes: number;
  declare refused: string[];
}

export function defineFileModels(sequelize: Sequelize): void {
  define(sequelize, StoredFile, 'files', {
    id: col.id,
    version: col.version,
    entryId: col.uuid,
    taskId: col.uuid,
    name: col.words,
    number: col.whole,
    addedBy: col.uuid,
    at: { ...col.time, allowNull: false },
  });
  define(sequelize, FileLimitsRow, 'file_limits', {
    id: col.id,
    version: col.version,
    mostBytes: { ...col.big, allowNull: false },
    mostFileBytes: col.whole,
    refused: col.list,
  });
  define(sequelize, FileVersion, 'file_versions', {
    id: col.id,
    fileId: { ...col.uuid, allowNull: false },
    entryId: col.uuid,
    number: col.whole,
    name: col.words,
    sha256: col.words,
    addedBy: col.uuid,
    at: { ...col.time, allowNull: false },
  });
}
