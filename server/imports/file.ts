import { QueryTypes } from 'sequelize';
import type { Context, Tools } from '../commands/context';
import { notFound } from '../http/problems';
import { allocateShared } from '../http/rawBody';

/** As large as a piece may be without keeping others waiting while it is sent or taken. */
const PIECE_BYTES = 4 * 1024 * 1024;

/** Keeps the file of an import, piece by piece. */
export async function keepFile(context: Context, id: string, raw: Buffer): Promise<void> {
  for (let at = 0; at < raw.length; at += PIECE_BYTES)
    await context.sequelize.query(
      'INSERT INTO import_parts (import_id, position, bytes) VALUES ($id, $position, $bytes)',
      {
        bind: { id, position: at / PIECE_BYTES, bytes: raw.subarray(at, at + PIECE_BYTES) },
        transaction: context.tx,
      },
    );
}

/** The file of an import as it came. No connection is held between its pieces. @throws 404 */
export async function loadFile({ sequelize }: Pick<Tools, 'sequelize'>, id: string): Promise<Buffer> {
  const [told] = await sequelize.query<{ size: number | null }>(
    'SELECT sum(octet_length(bytes))::int AS size FROM import_parts WHERE import_id = :id',
    { replacements: { id }, type: QueryTypes.SELECT },
  );
  if (!told?.size) throw notFound('There is no such import.');
  const raw = allocateShared(told.size);
  for (let at = 0; at < raw.length; at += PIECE_BYTES) {
    const [part] = await sequelize.query<{ bytes: Buffer }>(
      'SELECT bytes FROM import_parts WHERE import_id = :id AND position = :position',
      { replacements: { id, position: at / PIECE_BYTES }, type: QueryTypes.SELECT },
    );
    if (!part) throw notFound('There is no such import.');
    part.bytes.copy(raw, at);
  }
  return raw;
}
