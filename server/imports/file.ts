import type { Context, Tools } from '../commands/context';
import { keepPieces, loadPieces } from '../db/pieces';
import { notFound } from '../http/problems';

const PARTS = { table: 'import_parts', owner: 'import_id' } as const;

/** Keeps the file of an import, piece by piece. */
export const keepFile = (context: Context, id: string, raw: Buffer): Promise<void> =>
  keepPieces(context, PARTS, id, raw);

/** The file of an import as it came. @throws 404 */
export async function loadFile(tools: Pick<Tools, 'sequelize'>, id: string): Promise<Buffer> {
  const raw = await loadPieces(tools, PARTS, id);
  if (!raw) throw notFound('There is no such import.');
  return raw;
}
