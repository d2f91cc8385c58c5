import type { Parsed } from '@emporikon/contract';
import type { FileLimits } from '@emporikon/contract/files';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { FileLimitsRow } from '../db/models/files';

interface Limits {
  mostBytes: number;
  mostFileBytes: number;
  refused: readonly string[];
  usedBytes: number;
}

const load = (context: Context, lock = false): Promise<FileLimitsRow> =>
  FileLimitsRow.findOne({ rejectOnEmpty: true, transaction: context.tx, lock });

export async function loadLimits(context: Context): Promise<Limits> {
  const { mostBytes, mostFileBytes, refused } = await load(context);
  const [used] = await context.sequelize.query<{ bytes: string }>('SELECT bytes FROM file_usage', {
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  return { mostBytes: Number(mostBytes), mostFileBytes, refused, usedBytes: Number(used?.bytes ?? 0) };
}

export async function showLimits(context: Context): Promise<FileLimits> {
  const { version } = await load(context);
  const [row] = await context.sequelize.query<{ n: number }>(
    "SELECT count(*)::int AS n FROM (SELECT 1 FROM file_contents WHERE state = 'waiting' LIMIT 1001) w",
    { type: QueryTypes.SELECT, transaction: context.tx },
  );
  const limits = await loadLimits(context);
  return {
    ...limits,
    version,
    refused: [...limits.refused],
    scans: context.outside.scanner !== null,
    waiting: row?.n ?? 0,
  };
}

export async function changeLimits(
  context: Context,
  { version, ...patch }: Parsed<'PATCH /api/file-limits', 'body'>,
): Promise<{ eventId: string | null }> {
  const row = await load(context, true);
  const { refused, ...sizes } = patch;
  await context.write.update(
    row,
    { ...sizes, ...(refused ? { refused: [...new Set(refused)].sort() } : {}) },
    version,
  );
  return {
    eventId: await context.write.event(
      'change file limits',
      'Changed the limits of files',
      requireActor(context).id,
    ),
  };
}

const UNITS = ['bytes', 'KB', 'MB', 'GB', 'TB'];
/** A size for a message: `25 MB`. */
export function sizeInWords(bytes: number): string {
  const step = Math.min(Math.floor(Math.log2(Math.max(bytes, 1)) / 10), UNITS.length - 1);
  return `${Math.round((bytes / 1024 ** step) * 10) / 10} ${UNITS[step] ?? 'bytes'}`;
}
