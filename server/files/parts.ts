import type { Context, Tools } from '../commands/context';
import { keepPieces, loadPieces } from '../db/pieces';

const PARTS = { table: 'file_parts', owner: 'sha256' } as const;

export const keepBytes = (context: Context, sha256: string, raw: Buffer): Promise<void> =>
  keepPieces(context, PARTS, sha256, raw);

/** The bytes of a content; null where there are none. Outside a transaction. */
export const loadBytes = (tools: Pick<Tools, 'sequelize'>, sha256: string): Promise<Buffer | null> =>
  loadPieces(tools, PARTS, sha256);
