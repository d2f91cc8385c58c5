import { requireActor, type Context } from '../commands/context';
import { Annotation, LedgerEntry } from '../db/models/ledger';
import { notFound } from '../http/problems';
import { enter, linkAlike } from './write';

const own = (context: Context, entryId: string): Promise<Annotation | null> =>
  Annotation.findOne({
    where: { entryId, userId: requireActor(context).id },
    transaction: context.tx,
    lock: true,
  });

/** Writes, changes or removes what somebody has beside an entry for themselves alone. */
export async function annotate(
  context: Context,
  entryId: string,
  words: string,
): Promise<{ eventId: string | null }> {
  if (!(await LedgerEntry.findByPk(entryId, { attributes: ['id'], transaction: context.tx })))
    throw notFound('There is no such entry.');
  const { id: userId } = requireActor(context);
  const known = await own(context, entryId);
  const written = { words, updatedAt: context.now() };
  if (known && !words) await context.write.remove(known);
  else if (known) await context.write.update(known, written);
  else if (words)
    await context.write.insert(Annotation, { id: context.newId(), entryId, userId, ...written });
  return { eventId: await context.write.event('annotate', 'Wrote a private note', userId) };
}

/** Makes somebody's own annotation a note of the team, on all that the entry belongs to. */
export async function shareAnnotation(
  context: Context,
  entryId: string,
): Promise<{ id: string; eventId: string | null }> {
  const known = await own(context, entryId);
  if (!known) throw notFound('You have written nothing beside this entry.');
  const [headline = '', ...rest] = known.words.split('\n');
  const note = await enter(
    context,
    { side: 'within', kind: 'note', headline: headline.trim(), body: rest.join('\n').trim() },
    {},
  );
  await linkAlike(context, note.id, entryId);
  await context.write.remove(known);
  const eventId = await context.write.event(
    'share annotation',
    'Shared a private note',
    requireActor(context).id,
  );
  return { id: note.id, eventId };
}
