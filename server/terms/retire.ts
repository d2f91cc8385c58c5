import { isOwnTerm } from '@emporikon/core/lifecycle/terms';
import { replaceValue } from '@emporikon/core/query/replace';
import { startOnAll, type Started } from '../bulk/startOnAll';
import { requireActor, type Context } from '../commands/context';
import { pastSight } from '../commands/sight';
import { TermRow } from '../db/models/terms';
import { conflict, invalid } from '../http/problems';
import { called } from './commands';
import { HOLDERS, loadTerm, viewsWith } from './queries';

/** @throws 422 for a term that is not offered, or counts as something else */
async function requireOther(context: Context, term: TermRow, key: string): Promise<TermRow> {
  const other = await TermRow.findOne({ where: { list: term.list, key }, transaction: context.tx });
  if (other && !other.retiredAt && other.id !== term.id && other.countsAs === term.countsAs) return other;
  throw invalid('Choose another term that counts as the same.', {
    fields: { to: 'counts as something else' },
  });
}

/** Everything that asks for a term asks for another one. @returns what that was, in words */
async function replaceInViews(context: Context, term: TermRow, to: string): Promise<string[]> {
  const also: string[] = [];
  for (const view of await viewsWith(context, term)) {
    const { filter } = view.query;
    if (!filter) continue;
    const replaced = replaceValue(filter, HOLDERS[term.list].fields, term.key, to);
    await context.write.update(view, { query: { ...view.query, filter: replaced } });
    also.push(`the view “${view.name}”`);
  }
  return also;
}

/**
 * Stops offering a term. Records keep it, or (`to`) every one of them becomes another, in the background and with its undo.
 * @throws 409 for a built-in one
 */
export async function retireTerm(
  context: Context,
  id: string,
  to: string | null,
): Promise<{ changes: Started[]; also: string[]; eventId: string | null }> {
  const term = await loadTerm(context, id);
  if (!isOwnTerm(term)) throw conflict('This one is built in. You can rename it, but not retire it.');
  const other = to === null ? null : await requireOther(context, term, to);
  const { kind, table, column } = HOLDERS[term.list];
  const { key } = term;
  if (!term.retiredAt) await context.write.update(term, { retiredAt: context.now() });
  const { changes, also } = await pastSight(context, async () => ({
    changes: other
      ? await startOnAll(
          context,
          kind,
          [{ do: 'reterm', from: key, to: other.key }],
          `SELECT id FROM ${table} WHERE ${column}_term = $key`,
          { key },
        )
      : [],
    also: other ? await replaceInViews(context, term, other.key) : [],
  }));
  const label = other ? `Retired ${called(term)} for “${other.name}”` : `Retired ${called(term)}`;
  return {
    changes,
    also,
    eventId: await context.write.event('retire term', label, requireActor(context).id),
  };
}
