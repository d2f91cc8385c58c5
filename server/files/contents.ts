import { createHash } from 'node:crypto';
import { endingOf, fileKindOf, type FileKind } from '@emporikon/core/formats/fileKinds';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { invalid } from '../http/problems';
import { addJob } from '../jobs/job';
import { loadLimits, sizeInWords } from './limits';
import { readWordsJob, scanJob } from './look';
import { keepBytes } from './parts';

/** Bytes that somebody wants to keep, with what was found out about them before the transaction. */
export interface NewContent {
  raw: Buffer;
  name: string;
  sha256: string;
  kind: FileKind;
}

export const contentOf = (name: string, raw: Buffer): NewContent => ({
  raw,
  name,
  sha256: createHash('sha256').update(raw).digest('hex'),
  kind: fileKindOf(name, raw),
});

async function isKept({ sequelize, tx }: Context, sha256: string): Promise<boolean> {
  const known = await sequelize.query('SELECT 1 FROM file_contents WHERE sha256 = $sha256', {
    bind: { sha256 },
    type: QueryTypes.SELECT,
    transaction: tx,
  });
  return known.length > 0;
}

/** Why a file is not taken; null where it is. */
export async function refusalOf(
  context: Context,
  { name, raw, kind, sha256 }: NewContent,
): Promise<string | null> {
  const limits = await loadLimits(context);
  const ending = endingOf(name);
  if (!raw.length) return `${name} is empty.`;
  if (limits.refused.includes(ending) || kind.isProgram)
    return `${name} is a program; files of this kind are not kept.`;
  if (raw.length > limits.mostFileBytes)
    return `${name} is larger than the ${sizeInWords(limits.mostFileBytes)} that a file may have.`;
  if (limits.usedBytes + raw.length > limits.mostBytes && !(await isKept(context, sha256)))
    return `The ${sizeInWords(limits.mostBytes)} for files are used up. Remove files that nobody needs, or ask a manager for more.`;
  return null;
}

/** Keeps bytes once, however many files hold them. */
async function keepContent(context: Context, { raw, sha256, kind }: NewContent): Promise<void> {
  const { sequelize, tx, now, outside } = context;
  const rows = await sequelize.query(
    `INSERT INTO file_contents (sha256, size, media_type, preview, state, added_at)
     VALUES ($sha256, $size, $mediaType, $preview, $state, $now) ON CONFLICT DO NOTHING RETURNING 1`,
    {
      bind: {
        sha256,
        size: raw.length,
        mediaType: kind.mediaType,
        preview: kind.preview,
        state: outside.scanner ? 'waiting' : 'kept',
        now: now(),
      },
      type: QueryTypes.SELECT,
      transaction: tx,
    },
  );
  if (!rows.length) return;
  await keepBytes(context, sha256, raw);
  if (outside.scanner) await addJob(context, scanJob, { sha256 }, `scan:${sha256}`);
  if (kind.preview === 'pdf' || kind.preview === 'text')
    await addJob(context, readWordsJob, { sha256 }, `words:${sha256}`);
}

/** @throws 422 for what is not taken */
export async function keepOrRefuse(context: Context, content: NewContent): Promise<void> {
  const refusal = await refusalOf(context, content);
  if (refusal) throw invalid(`${refusal} Nothing was kept.`, { fields: { name: 'is not taken' } });
  await keepContent(context, content);
}
