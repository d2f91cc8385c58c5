import { QueryTypes } from 'sequelize';
import { z } from 'zod';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { addJob, defineJob } from '../jobs/job';
import { loadBytes } from './parts';
import { tellOfFiles } from './tell';

const Content = z.object({ sha256: z.string().regex(/^[0-9a-f]{64}$/) });

const facts = async (
  tools: Tools,
  sha256: string,
): Promise<{ preview: string | null; state: string } | undefined> =>
  (
    await tools.sequelize.query<{ preview: string | null; state: string }>(
      'SELECT preview, state FROM file_contents WHERE sha256 = :sha256',
      { replacements: { sha256 }, type: QueryTypes.SELECT },
    )
  )[0];

/** Reads what a text or a PDF says, so that it is found by its words. One that cannot be read is found by its name. */
async function readWords(tools: Tools, { sha256 }: z.infer<typeof Content>): Promise<void> {
  const known = await facts(tools, sha256);
  const raw = known && (await loadBytes(tools, sha256));
  if (!raw) return;
  const { words, folded } = await tools.readers
    .run('readFileWords', { raw, preview: known.preview })
    .catch(() => ({ words: '', folded: '' }));
  await runInTransaction(tools, null, async (context) => {
    await context.sequelize.query(
      `UPDATE file_contents SET words = $words, found = CASE WHEN $folded = '' THEN NULL ELSE to_tsvector('simple', $folded) END
        WHERE sha256 = $sha256`,
      { bind: { sha256, words, folded }, transaction: context.tx },
    );
    await tellOfFiles(context, sha256);
  });
}
export const readWordsJob = defineJob({
  name: 'readFileWords',
  lane: 'long',
  input: Content,
  run: readWords,
});

/** Has a content scanned. Where the scanner cannot be reached, the queue tries again. */
async function scan(tools: Tools, { sha256 }: z.infer<typeof Content>): Promise<void> {
  const { scanner } = tools.outside;
  if (!scanner || (await facts(tools, sha256))?.state !== 'waiting') return;
  const raw = await loadBytes(tools, sha256);
  if (!raw) return;
  const finding = await scanner.scan(raw);
  await runInTransaction(tools, null, async (context) => {
    await context.sequelize.query(
      `UPDATE file_contents SET state = $state, finding = $finding WHERE sha256 = $sha256 AND state = 'waiting'`,
      {
        bind: {
          sha256,
          state: finding === null ? 'clean' : 'infected',
          finding: finding?.slice(0, 200) ?? '',
        },
        transaction: context.tx,
      },
    );
    await tellOfFiles(context, sha256);
  });
}
export const scanJob = defineJob({ name: 'scanFile', lane: 'outside', input: Content, run: scan });

const MOST_AT_ONCE = 1000;
/** So long a removed file can come back by undoing its removal. */
const KEPT_DAYS = 90;

async function askAgain(context: Context): Promise<void> {
  const waiting = await context.sequelize.query<{ sha256: string }>(
    `SELECT sha256 FROM file_contents WHERE state = 'waiting' ORDER BY added_at LIMIT ${MOST_AT_ONCE}`,
    { type: QueryTypes.SELECT, transaction: context.tx },
  );
  for (const { sha256 } of waiting) await addJob(context, scanJob, { sha256 }, `scan:${sha256}`);
}

/** Has those scanned that a scanner out of order left waiting, and lets go of contents that no file holds any more. */
export const tidyFilesJob = defineJob({
  name: 'tidyFiles',
  lane: 'long',
  cron: '50 * * * *',
  input: z.unknown(),
  run: (tools) =>
    runInTransaction(tools, null, async (context) => {
      if (context.outside.scanner) await askAgain(context);
      await context.sequelize.query(
        `DELETE FROM file_contents c WHERE c.added_at < $until AND NOT EXISTS (SELECT 1 FROM file_versions v WHERE v.sha256 = c.sha256)
           AND NOT EXISTS (SELECT 1 FROM letter_files l WHERE l.sha256 = c.sha256)`,
        {
          bind: { until: new Date(context.now().getTime() - KEPT_DAYS * 86_400_000) },
          transaction: context.tx,
        },
      );
    }),
});
