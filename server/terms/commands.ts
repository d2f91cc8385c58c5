import type { Parsed } from '@emporikon/contract';
import { countable, isOwnTerm, termKey, type TermList } from '@emporikon/core/lifecycle/terms';
import { col, fn, Op, QueryTypes, where } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { pastSight } from '../commands/sight';
import { TermRow } from '../db/models/terms';
import { conflict, invalid } from '../http/problems';
import { HOLDERS, loadTerm, viewsWith } from './queries';

const NOUNS: Readonly<Record<TermList, string>> = {
  standing: 'standing',
  leadStatus: 'lead status',
  companyKind: 'kind of company',
};
export const called = ({ list, name }: Pick<TermRow, 'list' | 'name'>): string =>
  `the ${NOUNS[list]} “${name}”`;

const inOrder = (context: Context, list: TermList): Promise<TermRow[]> =>
  TermRow.findAll({ where: { list }, order: ['position', 'name'], transaction: context.tx, lock: true });

/** @throws 422 where another term of the list has the name */
async function refuseName(context: Context, list: TermList, name: string, except = ''): Promise<void> {
  const same = await TermRow.findOne({
    where: { list, [Op.and]: where(fn('lower', col('name')), name.toLowerCase()) },
    transaction: context.tx,
  });
  if (!same || same.id === except) return;
  const retired = same.retiredAt ? ' It is retired and can be used again.' : '';
  throw invalid(`The list has “${same.name}” already.${retired}`, { fields: { name: 'is taken' } });
}

async function place(context: Context, terms: readonly TermRow[]): Promise<void> {
  for (const [at, term] of terms.entries())
    if (term.position !== at + 1) await context.write.update(term, { position: at + 1 });
}

/** A new term, after the others that count as the same. @throws 422 for a name that is taken or what nothing can count as */
export async function addTerm(
  context: Context,
  { list, name, countsAs }: Parsed<'POST /api/terms', 'body'>,
): Promise<{ id: string; key: string; eventId: string | null }> {
  if (!countable(list).includes(countsAs))
    throw invalid('Choose what it counts as.', { fields: { countsAs: 'is not on the list' } });
  await refuseName(context, list, name);
  const all = await TermRow.findAll({ attributes: ['key'], transaction: context.tx });
  const key = termKey(
    name,
    all.map((term) => term.key),
  );
  const terms = await inOrder(context, list);
  const made = await context.write.insert(TermRow, {
    ...{ id: context.newId(), list, key, name, countsAs },
    position: terms.length + 1,
  });
  terms.splice(terms.findLastIndex((term) => term.countsAs === countsAs) + 1, 0, made);
  await place(context, terms);
  const eventId = await context.write.event('add term', `Added ${called(made)}`, requireActor(context).id);
  return { id: made.id, key, eventId };
}

/** Renames a term, moves it, or offers it again. */
export async function changeTerm(
  context: Context,
  id: string,
  { version, name, position, isRetired }: Parsed<'PATCH /api/terms/:id', 'body'>,
): Promise<string | null> {
  const term = await loadTerm(context, id);
  const was = called(term);
  if (name !== undefined) await refuseName(context, term.list, name, id);
  await context.write.update(
    term,
    { ...(name === undefined ? {} : { name }), ...(isRetired === false ? { retiredAt: null } : {}) },
    version,
  );
  if (position !== undefined) {
    const others = (await inOrder(context, term.list)).filter((each) => each.id !== id);
    others.splice(position - 1, 0, term);
    await place(context, others);
  }
  return context.write.event('change term', `Changed ${was}`, requireActor(context).id);
}

/** @throws 409 for a built-in term, or one that a record has, seen or not, or that a view asks for */
export async function removeTerm(context: Context, id: string): Promise<string | null> {
  const term = await loadTerm(context, id);
  if (!isOwnTerm(term)) throw conflict('This one is built in. You can rename it, but not remove it.');
  const { table, column } = HOLDERS[term.list];
  const { isUsed, views } = await pastSight(context, async () => {
    const [row] = await context.sequelize.query<{ isUsed: boolean }>(
      `SELECT EXISTS (SELECT 1 FROM ${table} WHERE ${column}_term = $key) AS "isUsed"`,
      { bind: { key: term.key }, type: QueryTypes.SELECT, transaction: context.tx },
    );
    return { isUsed: row?.isUsed ?? false, views: await viewsWith(context, term) };
  });
  if (isUsed) throw conflict('Records have it. Retire it, and say what they become, first.');
  if (views.length) throw conflict('Views ask for it. Change those first, or retire it.');
  await context.write.remove(term);
  return context.write.event('remove term', `Removed ${called(term)}`, requireActor(context).id);
}
