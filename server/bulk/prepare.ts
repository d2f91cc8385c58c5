import type { BulkChange, BulkPreview } from '@emporikon/contract/bulk';
import { describeSteps } from '@emporikon/core/bulk/describe';
import { judge } from '@emporikon/core/bulk/judge';
import type { BulkKind, Named, Step } from '@emporikon/core/bulk/types';
import type { Query } from '@emporikon/core/query/types';
import { Op } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import type { RowPatch } from '../commands/many';
import { BulkChangeRow } from '../db/models/bulk';
import { invalid } from '../http/problems';
import { pageOfIds } from '../query/answer';
import { schemaFor } from '../query/views';
import { checkSteps, loadNamed } from './named';
import { asRecord, loadMemberships, loadRows } from './records';
import { changesSight, MOST_LOOKED_AT, sightPatches, whoLosesSight } from './unseen';
import { asBulkChange } from './view';

const MOST = 200_000;
const AT_ONCE = 5000;
const SAMPLES = 5;
const MOST_REASONS = 12;
/** So long a preview waits to be begun: somebody may look at one in each of several tabs. */
const KEPT_MS = 30 * 60_000;

export type On = { ids: readonly string[] } | { query: Query };

/** The ids of all that meet a query, in their own order. @throws 422 where those are too many, or are of another kind */
async function idsOf(context: Context, kind: BulkKind, on: On): Promise<string[]> {
  if ('ids' in on) return [...new Set(on.ids)].sort();
  if (on.query.kind !== kind)
    throw invalid(`The query is about another kind of record.`, {
      fields: { 'on.query.kind': 'is another kind' },
    });
  const query: Query = { kind, ...(on.query.filter ? { filter: on.query.filter } : {}) };
  const schema = await schemaFor(context, query);
  const { ids, next } = await pageOfIds(context, schema, query, { limit: MOST });
  if (next)
    throw invalid(`These are more than ${MOST.toLocaleString('en-GB')} records. Narrow the view first.`, {
      fields: { 'on.query': 'meets too many' },
    });
  return ids.sort();
}

/** Adds up what would become of some records, with the first few of each outcome. */
function addUp(
  preview: BulkPreview,
  records: readonly Parameters<typeof judge>[0][],
  steps: readonly Step[],
  named: Named,
): void {
  for (const record of records) {
    const verdict = judge(record, steps, named);
    const { id, name } = record;
    if (verdict.will === 'stay') preview.stay++;
    else if (verdict.will === 'change') {
      preview.change++;
      if (preview.samples.length < SAMPLES) preview.samples.push({ id, name, said: verdict.said });
    } else {
      let reason = preview.refuse.find(({ why }) => why === verdict.why);
      if (!reason) preview.refuse.push((reason = { why: verdict.why, count: 0, samples: [] }));
      reason.count++;
      if (reason.samples.length < SAMPLES) reason.samples.push({ id, name, said: '' });
    }
  }
}

/**
 * Says what some steps would come to for many records, and keeps which records those are, so that what is begun is what
 * was looked at. Nothing of them is changed. Previews that nobody began in half an hour are dropped.
 */
export async function prepareBulk(
  context: Context,
  {
    kind,
    on,
    steps,
    pastSight = false,
  }: { kind: BulkKind; on: On; steps: readonly Step[]; pastSight?: boolean },
): Promise<{ change: BulkChange; preview: BulkPreview }> {
  const actor = requireActor(context);
  await checkSteps(context, kind, steps);
  const named = await loadNamed(context, steps);
  const wanted = await idsOf(context, kind, on);
  const preview: BulkPreview = { change: 0, stay: 0, refuse: [], samples: [], unseen: [] };
  const patches: RowPatch[] = [];
  const ids: string[] = [];
  for (let at = 0; at < wanted.length; at += AT_ONCE) {
    const rows = await loadRows(context, kind, wanted.slice(at, at + AT_ONCE));
    const known = rows.map(({ id }) => id);
    const memberships = await loadMemberships(context, steps, known);
    ids.push(...known);
    const records = rows.map((row) => asRecord(kind, row, memberships));
    addUp(preview, records, steps, named);
    if (changesSight(steps) && patches.length < MOST_LOOKED_AT)
      patches.push(
        ...sightPatches(
          kind,
          rows,
          records.map((record) => judge(record, steps, named)),
        ),
      );
  }
  preview.unseen = await whoLosesSight(context, kind, patches.slice(0, MOST_LOOKED_AT));
  preview.refuse = preview.refuse.sort((one, other) => other.count - one.count).slice(0, MOST_REASONS);
  await BulkChangeRow.destroy({
    where: { state: 'previewed', createdAt: { [Op.lt]: new Date(context.now().getTime() - KEPT_MS) } },
    transaction: context.tx,
  });
  const row = await BulkChangeRow.create(
    {
      id: context.newId(),
      kind,
      steps: [...steps],
      label: describeSteps(steps, named),
      state: 'previewed',
      total: ids.length,
      pastSight,
      createdBy: actor.id,
      createdAt: context.now(),
    },
    { transaction: context.tx },
  );
  await context.sequelize.query(
    `INSERT INTO bulk_rows (bulk_id, row, record_id)
     SELECT $id::uuid, one.at, one.id FROM unnest($ids::uuid[]) WITH ORDINALITY AS one (id, at)`,
    { bind: { id: row.id, ids }, transaction: context.tx },
  );
  return { change: asBulkChange(row, actor.name), preview };
}
