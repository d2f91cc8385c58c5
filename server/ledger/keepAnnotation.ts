import { Id } from '@emporikon/contract/common';
import { z } from 'zod';
import { runInTransaction, type Context } from '../commands/context';
import { pastSight } from '../commands/sight';
import { Annotation, LedgerLink, type LedgerEntry } from '../db/models/ledger';
import { addJob, defineJob } from '../jobs/job';
import { findActorById } from '../session/identify';
import { enter, linkEntry } from './write';

const Link = z.object({
  ...{ personId: Id.nullable(), companyId: Id.nullable(), leadId: Id.nullable() },
  ...{ dealId: Id.nullable(), projectId: Id.nullable(), caseId: Id.nullable() },
});
const TABLES = {
  ...{ personId: 'people', companyId: 'companies', leadId: 'leads' },
  ...{ dealId: 'deals', projectId: 'projects', caseId: 'cases' },
} as const;

/** Of the records that an entry was on, those that are still there. */
async function remaining(context: Context, link: z.infer<typeof Link>): Promise<z.infer<typeof Link>> {
  const found = { ...link };
  for (const key of Object.keys(TABLES) as (keyof typeof TABLES)[]) {
    const id = link[key];
    const model = context.sequelize.model(TABLES[key]);
    if (id && !(await model.findByPk(id, { attributes: ['id'], transaction: context.tx }))) found[key] = null;
  }
  return found;
}

/** Makes what somebody had written beside an entry that was removed a note that they alone see, on the same records. */
export const keepAnnotationJob = defineJob({
  name: 'keepAnnotation',
  lane: 'short',
  input: z.object({ userId: Id, words: z.string(), at: z.string(), links: z.array(Link) }),
  async run(tools, { userId, words, at, links }) {
    const actor = await findActorById(userId);
    if (!actor) return;
    await runInTransaction(tools, actor, async (context) => {
      const [headline = '', ...rest] = words.split('\n');
      const note = await enter(
        context,
        {
          ...{ side: 'within', kind: 'note', headline: headline.trim(), body: rest.join('\n').trim() },
          ...{ at: new Date(at), visibility: 'named', visibleTo: [userId] },
        },
        {},
      );
      for (const link of links) await linkEntry(context, note.id, await remaining(context, link));
      await context.write.event(
        'keep annotation',
        'Kept your private note; the entry it was beside was removed',
        userId,
      );
    });
  },
});

/**
 * Sees to it that what colleagues wrote beside an entry outlives it. What whoever removes the entry wrote themselves goes
 * with it, and comes back with it.
 */
export async function releaseAnnotations(context: Context, entry: LedgerEntry): Promise<void> {
  const where = { where: { entryId: entry.id }, transaction: context.tx };
  for (const own of await Annotation.findAll({
    where: { ...where.where, userId: context.actor?.id ?? '' },
    transaction: context.tx,
  }))
    await context.write.remove(own);
  const others = await pastSight(context, () => Annotation.findAll(where));
  if (!others.length) return;
  const links = await pastSight(context, () => LedgerLink.findAll(where));
  for (const { id, userId, words } of others)
    await addJob(
      context,
      keepAnnotationJob,
      { userId, words, at: entry.at.toISOString(), links: links.map((link) => Link.parse(link.get())) },
      `annotation:${id}`,
    );
}
