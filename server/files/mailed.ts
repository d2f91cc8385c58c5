import { Id } from '@emporikon/contract/common';
import { z } from 'zod';
import { safeName } from '../captures/attachments';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import type { After } from '../commands/types';
import { Capture } from '../db/models/captures';
import { StoredFile } from '../db/models/files';
import type { Change } from '../db/models/ledger';
import { LedgerEntry } from '../db/models/ledger';
import { addJob, defineJob } from '../jobs/job';
import { contentOf, refusalOf } from './contents';
import { makeFile } from './add';

const Entry = z.object({ entryId: Id });
/** Beside the words of a message; what else is attached to it are files. */
const IS_PART = /^(?:text\/calendar|message\/|multipart\/|application\/(?:pgp-|pkcs7-))/;
/** Of a smaller picture within a message nobody wants to find the logo among their files. */
const SMALLEST_PICTURE_BYTES = 20_000;

const mailed = (changes: readonly Change[]): string[] =>
  changes.flatMap(({ table, id, before, after }) =>
    table === 'ledger_entries' && !before && after?.kind === 'mail' && after.captureId ? [id] : [],
  );

/** The attachments of a message that was filed, once each. What is not taken stays with the message. */
async function keepAttachments(tools: Tools, { entryId }: z.infer<typeof Entry>): Promise<void> {
  const capture = await runInTransaction(tools, null, async ({ tx }) => {
    const entry = await LedgerEntry.findByPk(entryId, { transaction: tx });
    return entry?.captureId ? Capture.findByPk(entry.captureId, { transaction: tx }) : null;
  });
  if (!capture || capture.kind !== 'email') return;
  const found = await tools.readers.run('readAttachments', { raw: capture.raw }).catch(() => []);
  const contents = found
    .map(({ name, mediaType, isInline, content }, position) => ({
      mediaType,
      isInline,
      ...contentOf(safeName(name, position), Buffer.from(content)),
    }))
    .filter(
      ({ mediaType, isInline, raw }) =>
        !IS_PART.test(mediaType) && !(isInline && raw.length < SMALLEST_PICTURE_BYTES),
    );
  if (!contents.length) return;
  await runInTransaction(tools, null, async (context: Context) => {
    const entry = await LedgerEntry.findByPk(entryId, { transaction: context.tx, lock: true });
    if (!entry || (await StoredFile.count({ where: { entryId }, transaction: context.tx }))) return;
    for (const content of contents)
      if ((await refusalOf(context, content)) === null) await makeFile(context, content, { entryId });
    await context.write.event('keep attachments', `Kept the files of “${entry.headline.slice(0, 60)}”`, null);
  });
}

export const keepAttachmentsJob = defineJob({
  name: 'keepAttachments',
  lane: 'long',
  input: Entry,
  run: keepAttachments,
});

/** What is attached to a filed message becomes files of all that the message belongs to. */
export const keepMailedFiles: After = {
  name: 'keep mailed files',
  concerns: ({ changes }) => mailed(changes).length > 0,
  follow: async (context, { changes }) => {
    for (const entryId of mailed(changes))
      await addJob(context, keepAttachmentsJob, { entryId }, `attachments:${entryId}`);
  },
};
