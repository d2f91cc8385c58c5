import { QueryTypes } from 'sequelize';
import type { Context, Tools } from '../commands/types';
import { allocateShared } from '../http/rawBody';

/** As large as a piece may be without keeping others waiting while it is sent or taken. */
const PIECE_BYTES = 4 * 1024 * 1024;

/** A table that keeps bytes in pieces: `position` from 0 and `bytes`, beside the column of what they belong to. */
export interface PieceTable {
  table: 'import_parts' | 'file_parts' | 'export_parts';
  owner: 'import_id' | 'sha256' | 'export_id';
}

/** Keeps bytes piece by piece, in the transaction of a command. */
export async function keepPieces(
  { sequelize, tx }: Pick<Context, 'sequelize' | 'tx'>,
  { table, owner }: PieceTable,
  id: string,
  raw: Buffer,
): Promise<void> {
  for (let at = 0; at < raw.length; at += PIECE_BYTES)
    await sequelize.query(
      `INSERT INTO ${table} (${owner}, position, bytes) VALUES ($id, $position, $bytes)`,
      {
        bind: { id, position: at / PIECE_BYTES, bytes: raw.subarray(at, at + PIECE_BYTES) },
        transaction: tx,
      },
    );
}

/** The bytes as they were kept, or null where there are none. No connection is held between the pieces. */
export async function loadPieces(
  { sequelize }: Pick<Tools, 'sequelize'>,
  { table, owner }: PieceTable,
  id: string,
): Promise<Buffer | null> {
  const [told] = await sequelize.query<{ size: number | null }>(
    `SELECT sum(octet_length(bytes))::int AS size FROM ${table} WHERE ${owner} = :id`,
    { replacements: { id }, type: QueryTypes.SELECT },
  );
  if (!told?.size) return null;
  const raw = allocateShared(told.size);
  for (let at = 0; at < raw.length; at += PIECE_BYTES) {
    const [part] = await sequelize.query<{ bytes: Buffer }>(
      `SELECT bytes FROM ${table} WHERE ${owner} = :id AND position = :position`,
      { replacements: { id, position: at / PIECE_BYTES }, type: QueryTypes.SELECT },
    );
    if (!part) return null;
    part.bytes.copy(raw, at);
  }
  return raw;
}
