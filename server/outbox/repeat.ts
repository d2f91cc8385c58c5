import { requireActor, type Context } from '../commands/context';
import { OutboxRow } from '../db/models/outbox';
import { conflict, notFound } from '../http/problems';

/**
 * Tries again what was given up or may not have gone out.
 * @returns the event
 * @throws 404, 409 while it is still being tried or once it went out, and what the kind of effect refuses
 */
export async function repeatDelivery(context: Context, id: string): Promise<string | null> {
  const row = await OutboxRow.findByPk(id, { transaction: context.tx, lock: true });
  const effect = row && context.effects.find(({ name }) => name === row.kind);
  if (!row || !effect) throw notFound('Nothing of this kind goes out.');
  if (row.state === 'sent') throw conflict('This went out already.');
  if (row.state === 'waiting' || row.state === 'sending') throw conflict('This is still being tried.');
  await effect.repeat(context, row);
  return context.write.event(
    'try again',
    'Tried again to send what had not gone out',
    requireActor(context).id,
  );
}
