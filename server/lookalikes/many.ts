import type { Reply } from '@emporikon/contract';
import { runInTransaction, type Actor, type Context, type Tools } from '../commands/context';
import { LookAlikeRow } from '../db/models/lookAlikes';
import { ProblemError } from '../http/problems';
import { compareRecords } from './compare';
import { openGroup } from './judge';
import { mergeRecords } from './merge';

/** What merging the groups as proposed would do, a group a line. */
export async function previewMany(
  context: Context,
  ids: readonly string[],
): Promise<Reply<'POST /api/look-alikes/preview'>> {
  const items: Reply<'POST /api/look-alikes/preview'>['items'] = [];
  for (const id of ids) {
    const group = await LookAlikeRow.findOne({ where: { id, state: 'open' }, transaction: context.tx });
    if (!group) continue;
    const { records, survivorId, moves, fields } = await compareRecords(context, group.kind, group.members);
    const survivor = records.find((record) => record.id === survivorId);
    if (!survivor) continue;
    const valueOf = (field: (typeof fields)[number], recordId: string | null): string | null =>
      field.values.find((value) => value.recordId === recordId)?.value ?? null;
    items.push({
      id,
      kind: group.kind,
      survivor: { id: survivor.id, name: survivor.name },
      merged: records.filter((record) => record !== survivor).map(({ id: one, name }) => ({ id: one, name })),
      probability: group.probability,
      moves,
      changed: fields
        .filter((field) => field.choice && field.proposed && field.proposed !== survivorId)
        .map((field) => ({
          label: field.label,
          from: valueOf(field, survivorId),
          to: field.proposed === 'both' ? 'both, one under the other' : valueOf(field, field.proposed),
        }))
        .filter((one) => one.from !== one.to),
    });
  }
  return { items };
}

/** Merges groups as proposed, each in a transaction of its own: one that cannot be merged leaves the others done. */
export async function mergeMany(
  tools: Tools,
  actor: Actor | null,
  ids: readonly string[],
): Promise<Reply<'POST /api/look-alikes/merge'>> {
  const merged: Reply<'POST /api/look-alikes/merge'>['merged'] = [];
  const left: Reply<'POST /api/look-alikes/merge'>['left'] = [];
  for (const id of [...new Set(ids)])
    try {
      const done = await runInTransaction(tools, actor, async (own) => {
        const group = await openGroup(own, id);
        const { survivorId } = await compareRecords(own, group.kind, group.members);
        return mergeRecords(own, {
          kind: group.kind,
          survivorId,
          mergedIds: group.members.filter((member) => member !== survivorId),
          choices: {},
        });
      });
      merged.push({ id, survivorId: done.id, eventId: done.eventId });
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      left.push({ id, reason: error.problem.detail });
    }
  return { merged, left };
}
