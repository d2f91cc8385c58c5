import type { Parsed } from '@emporikon/contract';
import { requireColleague } from '../commands/colleague';
import { requireActor, type Context } from '../commands/context';
import { rowOf } from '../commands/writer';
import { Case } from '../db/models/afterDeals';
import { invalid, notFound, stale } from '../http/problems';
import { promisedTimes } from './promises';

/** @throws 404, 409 where it was changed meanwhile, 422 for nobody's case */
export async function changeCase(
  context: Context,
  id: string,
  { version, solved, ownerId, because, ...patch }: Parsed<'PATCH /api/cases/:id', 'body'>,
): Promise<{ version: number; eventId: string | null }> {
  context.write.because(because);
  const found = await Case.findByPk(id, { transaction: context.tx, lock: true });
  if (!found) throw notFound('There is no such case.');
  if (found.version !== version) throw stale(rowOf(found));
  const owner = ownerId && ownerId !== found.ownerId ? await requireColleague(context, ownerId) : null;
  const urgency = patch.urgency ?? found.urgency;
  const isMoved = urgency !== found.urgency;
  const merged = { ...found.get({ plain: true }), ...patch };
  if (!merged.personId && !merged.companyId)
    throw invalid('A case belongs to a person or a company.', { fields: { personId: 'is missing' } });
  await context.write.update(
    found,
    {
      ...patch,
      ...(owner ? { ownerId: owner } : {}),
      ...(isMoved
        ? await promisedTimes(context, { urgency, ownerId: owner ?? found.ownerId, openedAt: found.openedAt })
        : {}),
      ...(solved === undefined || solved === (found.solvedAt !== null)
        ? {}
        : { solvedAt: solved ? context.now() : null }),
    },
    version,
  );
  const did = solved === undefined ? 'Changed' : solved ? 'Solved' : 'Opened again:';
  const eventId = await context.write.event(
    solved === undefined ? 'change case' : solved ? 'solve case' : 'reopen case',
    `${did} ${found.title}`,
    requireActor(context).id,
  );
  return { version: found.version, eventId };
}
