import type { ToldApart } from '@emporikon/contract/lookAlikes';
import { factsPrint } from '@emporikon/core/matching/merging';
import { companyKey } from '@emporikon/core/people/companies';
import { nameKey } from '@emporikon/core/people/names';
import { Op } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { KeptApart, LookAlikeRow } from '../db/models/lookAlikes';
import { conflict, invalid, notFound } from '../http/problems';
import { Company } from '../db/models/people';
import { checkParent } from '../companies/commands';
import type { RecordKind } from './links';
import { ask } from './move';
import { namesOf } from './queries';

/** An open group, for a judgement. @throws 404, 409 when somebody judged it already */
export async function openGroup(context: Context, id: string): Promise<LookAlikeRow> {
  const group = await LookAlikeRow.findByPk(id, { transaction: context.tx, lock: true });
  if (!group) throw notFound('There are no such look-alikes.');
  if (group.state !== 'open') throw conflict('Somebody judged these already.');
  return group;
}

interface FactRow {
  id: string;
  name: string;
  keys: string[];
}

/** The facts by which records are told apart, as one text each, to see later whether they changed. */
export async function printsOf(
  context: Context,
  kind: RecordKind,
  ids: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  const rows = await ask<FactRow>(
    context,
    kind === 'person'
      ? `SELECT p.id, p.full_name AS name, array_remove(ARRAY(SELECT k.kind || ':' || k.normalized FROM contact_points k WHERE k.person_id = p.id) || p.birthday || p.company_id::text, NULL) AS keys
           FROM people p WHERE p.id = ANY ($ids::uuid[])`
      : `SELECT id, name, array_remove(ARRAY[domain, phone, address], NULL) AS keys FROM companies WHERE id = ANY ($ids::uuid[])`,
    { ids: [...ids] },
  );
  return new Map(
    rows.map((row) => [
      row.id,
      factsPrint({ name: kind === 'person' ? nameKey(row.name) : companyKey(row.name), keys: row.keys }),
    ]),
  );
}

/** What two records said when they were judged, in an order that does not depend on how they are named. */
export const pairPrint = (prints: ReadonlyMap<string, string>, one: string, other: string): string =>
  [prints.get(one) ?? '', prints.get(other) ?? ''].sort().join('\n--\n');

/** Why two records are not one. */
export type Apart = ToldApart['how'];
const MARKED: Record<Apart, string> = {
  different: 'Marked look-alikes as different',
  namesakes: 'Marked look-alikes as namesakes',
  fatherAndSon: 'Marked look-alikes as father and son',
};

/** Remembers that pairs are not the same, with what they said when it was judged. */
export async function keepApart(
  context: Context,
  kind: RecordKind,
  pairs: readonly (readonly [string, string])[],
  how: Apart = 'different',
): Promise<void> {
  if (kind === 'company' && how === 'fatherAndSon')
    throw invalid('Only people are father and son.', { fields: { as: 'is for people' } });
  const prints = await printsOf(context, kind, [...new Set(pairs.flat())]);
  for (const pair of pairs) {
    const [one = '', other = ''] = [...pair].sort();
    const said = {
      facts: pairPrint(prints, one, other),
      how,
      saidBy: context.actor?.id ?? null,
      saidAt: context.now(),
    };
    const known = await KeptApart.findOne({ where: { one, other }, transaction: context.tx });
    if (known) await context.write.update(known, said);
    else await context.write.insert(KeptApart, { id: context.newId(), kind, one, other, ...said });
  }
}

const pairsOf = (ids: readonly string[]): [string, string][] =>
  ids.flatMap((id, at) => ids.slice(at + 1).map((other): [string, string] => [id, other]));

/**
 * The records of a group are not the same, or some of them are not the rest. It is remembered, and asked again only when
 * the facts have changed.
 * @param apart of a larger group those that differ from the others; all of them where none are named
 */
export async function judgeDifferent(
  context: Context,
  id: string,
  apart: readonly string[] = [],
  how: Apart = 'different',
): Promise<string | null> {
  const group = await openGroup(context, id);
  const few = group.members.filter((member) => apart.includes(member));
  const rest = group.members.filter((member) => !few.includes(member));
  if (apart.length && !few.length)
    throw invalid('None of those are of this group.', { fields: { ids: 'are not of this group' } });
  const pairs: [string, string][] = few.length
    ? few.flatMap((one) => rest.map((other): [string, string] => [one, other]))
    : pairsOf(group.members);
  await keepApart(context, group.kind, pairs, how);
  if (few.length && rest.length > 1) await context.write.update(group, { members: rest });
  else await context.write.update(group, { state: 'different' });
  return context.write.event('keep apart', MARKED[how], requireActor(context).id);
}

/** Records that somebody compared are not the same, whether or not they were found alike. @throws 404 */
export async function tellApart(
  context: Context,
  kind: RecordKind,
  ids: readonly string[],
  how: Apart,
): Promise<string | null> {
  const known = await namesOf(context, kind, ids);
  if (known.size < ids.length) throw notFound('One of these records is not there.');
  if (ids.length < 2) throw invalid('It takes two records.', { fields: { ids: 'are one record' } });
  await keepApart(context, kind, pairsOf(ids), how);
  const groups = await LookAlikeRow.findAll({
    where: { state: 'open', kind, members: { [Op.contained]: [...ids] } },
    transaction: context.tx,
    lock: true,
  });
  for (const group of groups) await context.write.update(group, { state: 'different' });
  return context.write.event('keep apart', MARKED[how], requireActor(context).id);
}

/** Takes such an answer back. @throws 404 */
export async function forgetApart(context: Context, id: string): Promise<string | null> {
  const kept = await KeptApart.findByPk(id, { transaction: context.tx, lock: true });
  if (!kept) throw notFound('There is no such answer.');
  await context.write.remove(kept);
  return context.write.event(
    'forget apart',
    'Took back that two records are different',
    requireActor(context).id,
  );
}

/** Companies that belong together without being one: the others become branches of one of them. */
export async function judgeRelated(context: Context, id: string, parentId: string): Promise<string | null> {
  const group = await openGroup(context, id);
  if (group.kind !== 'company') throw invalid('Only companies have branches.');
  if (!group.members.includes(parentId))
    throw invalid('That company is not of this group.', { fields: { parentId: 'is not of this group' } });
  const branches = group.members.filter((member) => member !== parentId);
  for (const branch of branches) {
    await checkParent(context, branch, parentId);
    const company = await Company.findByPk(branch, { transaction: context.tx, lock: true });
    if (company) await context.write.update(company, { parentId, updatedAt: context.now() });
  }
  await keepApart(
    context,
    'company',
    branches.map((branch): [string, string] => [branch, parentId]),
  );
  await context.write.update(group, { state: 'related' });
  return context.write.event('relate companies', 'Noted branches', requireActor(context).id);
}
