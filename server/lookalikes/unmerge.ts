import { LedgerEntry, LedgerLink } from '../db/models/ledger';
import { keepTurns } from '../ledger/turns';
import { pastSight } from '../commands/sight';
import type { Reply } from '@emporikon/contract';
import { belongsTo } from '@emporikon/core/matching/merging';
import type { Context } from '../commands/context';
import { rowOf } from '../commands/writer';
import { ClaimRow } from '../db/models/captures';
import { Company, Person } from '../db/models/people';
import { choiceNeeded, conflict, notFound } from '../http/problems';
import { keepApart } from './judge';
import { TABLE, type RecordKind } from './links';
import { asNote, MERGES, type MergeRow } from './merged';
import { ask, currentIds, moveBack, putRow, recordRow, stopForwarding, type Moved } from './move';
import { sinceMerge, type SinceRow } from './since';

async function loadMerge(context: Context, id: string): Promise<{ merge: MergeRow; holder: string }> {
  const [merge] = await ask<MergeRow>(context, `${MERGES} WHERE m.id = $id::uuid FOR UPDATE OF m`, { id });
  if (!merge) throw notFound('There is no such merge.');
  if (merge.unmerged_at) throw conflict('This merge was undone already.');
  const holder = (await currentIds(context, [merge.survivor_id])).get(merge.survivor_id) ?? merge.survivor_id;
  return { merge, holder };
}

/** Where each thing that happened since belongs, going by whose address or number it came from. */
async function placed(context: Context, merge: MergeRow, holder: string): Promise<SinceRow[]> {
  const rows = await sinceMerge(context, merge.kind, holder, merge.at, merge.moved);
  return rows.map((row) => {
    if (row.belongs !== 'ask') return row;
    const side = belongsTo(row.from, merge.moved.own.survivor, merge.moved.own.merged);
    return { ...row, belongs: side, why: side === 'ask' ? row.why : 'by its address or number' };
  });
}

/** What undoing a merge would do. @throws 404, 409 */
export async function unmergePlan(
  context: Context,
  id: string,
): Promise<Reply<'GET /api/merges/:id/unmerge'>> {
  const { merge, holder } = await loadMerge(context, id);
  const since = await placed(context, merge, holder);
  const [name] = await ask<{ name: string }>(
    context,
    `SELECT ${merge.kind === 'person' ? 'full_name' : 'name'} AS name FROM ${TABLE[merge.kind]} WHERE id = $id::uuid`,
    { id: holder },
  );
  return {
    merge: asNote(merge),
    survivor: name?.name ?? '',
    since: since.map(({ table, key, what, at, belongs, why }) => ({
      table,
      key,
      what,
      at: at?.toISOString() ?? null,
      belongs,
      why,
    })),
  };
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** The survivor's values that the merge changed and nobody changed since become what they were. */
async function restoreValues(
  context: Context,
  kind: RecordKind,
  holder: string,
  moved: Moved,
): Promise<void> {
  const options = { transaction: context.tx, lock: true } as const;
  const model =
    kind === 'person' ? await Person.findByPk(holder, options) : await Company.findByPk(holder, options);
  if (!model) throw notFound('The record it was merged into is gone.');
  const current = rowOf(model);
  const changed = Object.entries(moved.values).filter(([key]) => key !== 'updatedAt');
  const untouched = changed.every(([key, { after }]) => same(current[key], after));
  const patch = Object.fromEntries(
    changed.filter(([key, { after }]) => same(current[key], after)).map(([key, { before }]) => [key, before]),
  );
  const asBefore =
    untouched && moved.values.updatedAt && same(current.updatedAt, moved.values.updatedAt.after);
  await context.write.update(model as Person, {
    ...patch,
    updatedAt: asBefore ? new Date(String(moved.values.updatedAt?.before)) : context.now(),
  });
}

const reopen = ({ sequelize, tx }: Context, members: readonly string[]): Promise<unknown> =>
  sequelize.query(
    `UPDATE look_alikes SET state = 'open', version = version + 1 WHERE state = 'merged' AND members @> $members::uuid[]`,
    { bind: { members: [...members] }, transaction: tx },
  );

/** A record that comes back points to what its company or parent is called by now. */
async function withCurrentLinks(
  context: Context,
  table: string,
  record: Moved['record'],
): Promise<Moved['record']> {
  const links = (context.tables.find((rule) => rule.table === table)?.refers ?? [])
    .map(({ column }) => column)
    .filter((column) => typeof record[column] === 'string');
  const current = await currentIds(
    context,
    links.map((column) => String(record[column])),
  );
  return {
    ...record,
    ...Object.fromEntries(
      links.map((column) => [column, current.get(String(record[column])) ?? record[column]]),
    ),
  };
}

/** Takes away what the ledger says of the merge. */
async function removeNote(context: Context, entryId: string): Promise<void> {
  const about = { where: { entryId }, transaction: context.tx };
  for (const link of await LedgerLink.findAll(about)) await context.write.remove(link);
  const entry = await LedgerEntry.findByPk(entryId, { transaction: context.tx });
  if (entry) await context.write.remove(entry);
}

/**
 * Takes a merge apart: the record is there again with all that came from it, and what happened since goes where it
 * belongs.
 * @param choices by `table:key` for what cannot be told
 * @param undo given when it is the undo of the merge, with the event that is undone by the last of its merges
 * @throws 404; 409 when it was taken apart before, or somebody has to say where something belongs
 */
export async function unmerge(
  context: Context,
  id: string,
  choices: Readonly<Record<string, 'survivor' | 'merged'>>,
  undo: { eventId: string | null } | null = null,
): Promise<{ id: string; eventId: string | null }> {
  const { merge, holder } = await loadMerge(context, id);
  const since = await placed(context, merge, holder);
  const open = since.filter((row) => row.belongs === 'ask' && !choices[`${row.table}:${row.key}`]);
  if (open.length)
    throw choiceNeeded(
      `Say where ${open.length === 1 ? 'this belongs' : 'these belong'}: ${open
        .slice(0, 3)
        .map((row) => row.what)
        .join('; ')}. Nothing was separated.`,
      { reasons: open.map((row) => `${row.table}:${row.key} ${row.what}`) },
    );
  const { kind, moved, merged_id: mergedId } = merge;
  const table = TABLE[kind];
  // The values go back first: the domain or the name may be what the record that comes back had.
  await restoreValues(context, kind, holder, moved);
  await putRow(context, table, {
    ...(await withCurrentLinks(context, table, moved.record)),
    version: Number(moved.record.version ?? 1) + 1,
  });
  const back = await recordRow(context, table, mergedId);
  if (!back) throw conflict('Something of it belongs to somebody else now, so they cannot be separated.');
  await pastSight(context, () => moveBack(context, kind, moved, holder, mergedId));
  for (const row of since) {
    const side = choices[`${row.table}:${row.key}`] ?? row.belongs;
    if (side !== 'merged') continue;
    await context.sequelize.query(
      `UPDATE ${row.table} t SET ${row.column} = $to::uuid WHERE t.id = $key::uuid AND t.${row.column} = $holder::uuid`,
      { bind: { to: mergedId, holder, key: row.key }, transaction: context.tx },
    );
  }
  for (const fate of moved.fates) {
    const claim = await ClaimRow.findOne({
      where: { id: fate.id, fate: fate.after },
      transaction: context.tx,
    });
    if (claim) await context.write.update(claim, { fate: fate.before as ClaimRow['fate'] });
  }
  await stopForwarding(context, mergedId, moved.forwarded);
  await context.sequelize.query(
    'UPDATE merges SET unmerged_at = $at::timestamptz, version = version + 1 WHERE id = $id::uuid',
    {
      bind: { at: context.now(), id },
      transaction: context.tx,
    },
  );
  if (moved.entry) await removeNote(context, moved.entry);
  if (kind === 'person') await keepTurns(context, [holder, mergedId]);
  // Undone at once it was a slip, and the look-alikes stand open again; taken apart later, it is an answer.
  if (undo) await reopen(context, [holder, mergedId]);
  else await keepApart(context, kind, [[holder, mergedId]]);
  const model =
    kind === 'person'
      ? await Person.findByPk(mergedId, { transaction: context.tx })
      : await Company.findByPk(mergedId, { transaction: context.tx });
  if (model) context.write.note({ table, id: mergedId, before: null, after: rowOf(model) });
  return {
    id: mergedId,
    eventId: await context.write.event(
      `unmerge ${table}`,
      `Separated ${merge.label}`,
      context.actor?.id ?? null,
      undo?.eventId ?? null,
    ),
  };
}
