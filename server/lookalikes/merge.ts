import { pastSight } from '../commands/sight';
import { companyKey } from '@emporikon/core/people/companies';
import { nameKey, parseName } from '@emporikon/core/people/names';
import type { Comparison } from '@emporikon/contract/lookAlikes';
import { requireActor, type Context } from '../commands/context';
import { requireRight } from '../commands/rights';
import { rowOf } from '../commands/writer';
import { ClaimRow } from '../db/models/captures';
import { Company, Person } from '../db/models/people';
import { invalid, notFound } from '../http/problems';
import { enter } from '../ledger/write';
import { compareRecords } from './compare';
import type { RecordKind } from './links';
import { TABLE } from './links';
import { ask, forward, moveLinks, recordRow, type Moved } from './move';

export interface MergeInput {
  kind: RecordKind;
  survivorId: string;
  mergedIds: readonly string[];
  /** By field the record whose value stays; fields that are not named get what is proposed. */
  choices: Readonly<Record<string, string>>;
}

/** Claims that hold one value of a record at a time. */
const SINGLE = ['fullName', 'jobTitle', 'address', 'birthday', 'timeZone', 'companyName'];

type Values = Record<string, unknown>;
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** Whose value of a field stays, among the survivor and one that goes. */
function chosen(
  comparison: Comparison,
  choices: MergeInput['choices'],
  field: string,
  ids: readonly string[],
): string | null {
  const pick = choices[field] ?? comparison.fields.find((one) => one.field === field)?.proposed ?? null;
  return pick === 'both' || (pick && ids.includes(pick)) ? pick : null;
}

function personPatch(survivor: Person, gone: Person, pick: (field: string) => string | null): Values {
  const patch: Values = {};
  for (const field of [
    'fullName',
    'jobTitle',
    'companyId',
    'address',
    'birthday',
    'timeZone',
    'standing',
    'ownerId',
  ] as const)
    if (pick(field) === gone.id) patch[field] = gone[field];
  if (patch.standing) patch.standingTerm = gone.standingTerm;
  if (patch.fullName)
    Object.assign(patch, parseName(gone.fullName), {
      fullName: gone.fullName,
      nameKey: nameKey(gone.fullName),
    });
  const background = pick('background');
  if (background === gone.id) patch.background = gone.background;
  else if (background === 'both' && gone.background && gone.background !== survivor.background)
    patch.background = [survivor.background, gone.background].filter(Boolean).join('\n');
  return {
    ...patch,
    custom: customOf(survivor, gone, pick),
    tags: [...new Set([...(survivor.tags ?? []), ...(gone.tags ?? [])])],
    inactiveSince: survivor.inactiveSince && gone.inactiveSince ? survivor.inactiveSince : null,
  };
}

/** Fields of our own: those of the one that stays, and of the other what it has besides. */
function customOf(
  survivor: Person | Company,
  gone: Person | Company,
  pick: (field: string) => string | null,
): Record<string, string> {
  const custom = { ...survivor.custom };
  for (const [key, value] of Object.entries(gone.custom ?? {}))
    if (pick(`custom:${key}`) === gone.id || !(key in custom)) custom[key] = value;
  return custom;
}

function companyPatch(survivor: Company, gone: Company, pick: (field: string) => string | null): Values {
  const patch: Values = { custom: customOf(survivor, gone, pick) };
  for (const field of ['name', 'domain', 'phone', 'address', 'url', 'kind', 'parentId', 'ownerId'] as const)
    if (pick(field) === gone.id) patch[field] = gone[field];
  if (patch.kind) patch.kindTerm = gone.kindTerm;
  if (patch.name) patch.nameKey = companyKey(gone.name);
  const parent = patch.parentId === undefined ? survivor.parentId : patch.parentId;
  // A branch that becomes one with its parent is a branch of nothing any more, or of what is above that.
  if (parent === survivor.id || parent === gone.id)
    patch.parentId = [gone.parentId, null].find((one) => one !== survivor.id) ?? null;
  return patch;
}

/** Of claims of which one can stand at a time the one whose value stays keeps standing. */
async function settleFates(
  context: Context,
  kind: RecordKind,
  ids: { survivor: string; gone: string },
  pick: (field: string) => string | null,
): Promise<Moved['fates']> {
  const owner = kind === 'person' ? 'personId' : 'companyId';
  const fates: Moved['fates'] = [];
  const claims = await ClaimRow.findAll({
    where: { [owner]: [ids.survivor, ids.gone], field: SINGLE, fate: 'current' },
    transaction: context.tx,
  });
  for (const claim of claims) {
    const column = claim.field === 'companyName' ? (kind === 'person' ? 'companyId' : 'name') : claim.field;
    const keeper = pick(column) ?? ids.survivor;
    if (keeper === 'both' || claim[owner] === keeper) continue;
    fates.push({ id: claim.id, before: claim.fate, after: 'superseded' });
    await context.write.update(claim, { fate: 'superseded' });
  }
  return fates;
}

/** Addresses and numbers of a person by which later mail and calls are told apart; of a company its domain and number. */
async function ownKeys(context: Context, kind: RecordKind, id: string): Promise<string[]> {
  const rows =
    kind === 'person'
      ? await ask<{ key: string }>(
          context,
          'SELECT normalized AS key FROM contact_points WHERE person_id = $id::uuid',
          { id },
        )
      : await ask<{ key: string }>(
          context,
          'SELECT unnest(array_remove(ARRAY[domain, phone], NULL)) AS key FROM companies WHERE id = $id::uuid',
          { id },
        );
  return rows.map((row) => row.key);
}

type Model = Person | Company;
const load = async (context: Context, kind: RecordKind, id: string): Promise<Model> => {
  const options = { transaction: context.tx, lock: true } as const;
  const found = kind === 'person' ? await Person.findByPk(id, options) : await Company.findByPk(id, options);
  if (!found) throw notFound(`There is no such ${kind}.`);
  return found;
};
const nameOf = (one: Model): string => ('fullName' in one ? one.fullName : one.name);

async function mergeOne(
  context: Context,
  kind: RecordKind,
  survivor: Model,
  gone: Model,
  pick: (field: string) => string | null,
): Promise<string> {
  const table = TABLE[kind];
  const record = await recordRow(context, table, gone.id);
  const own = {
    survivor: await ownKeys(context, kind, survivor.id),
    merged: await ownKeys(context, kind, gone.id),
  };
  const before = rowOf(survivor);
  const patch: Values =
    kind === 'person'
      ? personPatch(survivor as Person, gone as Person, pick)
      : companyPatch(survivor as Company, gone as Company, pick);
  const fates = await settleFates(context, kind, { survivor: survivor.id, gone: gone.id }, pick);
  // What is under the one that goes must not end up under itself.
  if (kind === 'company' && (survivor as Company).parentId === gone.id)
    await context.write.update(survivor as Company, { parentId: null });
  // All of it goes along, also what whoever merges cannot see.
  const { rows, doubles } = await pastSight(context, () => moveLinks(context, kind, gone.id, survivor.id));
  requireRight(context, kind === 'person' ? 'people.change' : 'companies.change');
  await context.write.asConsequence(() => context.write.remove(gone));
  await context.write.update(survivor as Person, { ...patch, updatedAt: context.now() });
  const after = rowOf(survivor);
  const values: Moved['values'] = {};
  for (const [key, value] of Object.entries(after))
    if (key !== 'version' && !same(before[key], value))
      values[key] = { before: before[key] ?? null, after: value };
  const entry = await enter(
    context,
    { side: 'within', kind: 'change', headline: `Merged with ${nameOf(gone)}` },
    kind === 'person' ? { personId: survivor.id } : { companyId: survivor.id },
  );
  const moved: Moved = {
    entry: entry.id,
    record: record ?? {},
    rows,
    doubles,
    values,
    fates,
    forwarded: await forward(context, gone.id, survivor.id),
    own,
  };
  const id = context.newId();
  await context.sequelize.query(
    `INSERT INTO merges (id, kind, survivor_id, merged_id, label, moved, actor_id, at)
     VALUES ($id::uuid, $kind, $survivor::uuid, $gone::uuid, $label, $moved::jsonb, $actor::uuid, $at::timestamptz)`,
    {
      bind: {
        id,
        kind,
        survivor: survivor.id,
        gone: gone.id,
        label: nameOf(gone),
        moved: JSON.stringify(moved),
        actor: context.actor?.id ?? null,
        at: context.now(),
      },
      transaction: context.tx,
    },
  );
  context.write.note({
    table: 'merges',
    id,
    before: null,
    after: { id, kind, label: nameOf(gone), survivorId: survivor.id, mergedId: gone.id },
  });
  return id;
}

/** Look-alikes that held one of the merged: with two left they stay open for what is left, else they are done with. */
const settleGroups = (context: Context, survivorId: string, mergedIds: readonly string[]): Promise<unknown> =>
  context.sequelize.query(
    `UPDATE look_alikes g SET members = left_over.members,
            state = CASE WHEN g.state <> 'open' THEN g.state WHEN cardinality(left_over.now) < 2 THEN 'merged' ELSE 'open' END, version = version + 1
       FROM (SELECT id, CASE WHEN cardinality(now) < 2 THEN members ELSE now END AS members, now FROM (
               SELECT id, members, ARRAY(SELECT DISTINCT CASE WHEN m = ANY ($gone::uuid[]) THEN $survivor::uuid ELSE m END FROM unnest(members) m) AS now
                 FROM look_alikes WHERE members && $gone::uuid[]) g) left_over
      WHERE left_over.id = g.id`,
    { bind: { gone: [...mergedIds], survivor: survivorId }, transaction: context.tx },
  );

/**
 * Makes several records one, in one transaction. Everything that hung on those that go hangs on the survivor afterwards,
 * every claim is kept, and their ids lead to it.
 * @throws 404 for a record that is not there, 422 where a record is to be merged with itself
 */
export async function mergeRecords(
  context: Context,
  { kind, survivorId, mergedIds, choices }: MergeInput,
): Promise<{ id: string; mergeIds: string[]; eventId: string | null }> {
  requireActor(context);
  const ids = [...new Set([survivorId, ...mergedIds])];
  if (ids.length !== mergedIds.length + 1)
    throw invalid('A record cannot be merged with itself.', {
      fields: { mergedIds: 'holds a record twice' },
    });
  const models = new Map<string, Model>();
  for (const id of [...ids].sort()) models.set(id, await load(context, kind, id));
  const comparison = await compareRecords(context, kind, ids, survivorId);
  const survivor = models.get(survivorId) as Model;
  const mergeIds: string[] = [];
  for (const id of mergedIds) {
    const gone = models.get(id) as Model;
    mergeIds.push(
      await mergeOne(context, kind, survivor, gone, (field) =>
        chosen(comparison, choices, field, [survivorId, id]),
      ),
    );
  }
  await settleGroups(context, survivorId, mergedIds);
  const labels = mergedIds.map((id) => nameOf(models.get(id) as Model));
  return {
    id: survivorId,
    mergeIds,
    eventId: await context.write.event(
      `merge ${TABLE[kind]}`,
      `Merged ${labels.join(', ')} into ${nameOf(survivor)}`,
      context.actor?.id ?? null,
    ),
  };
}
