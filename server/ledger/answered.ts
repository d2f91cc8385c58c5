import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { conflict } from '../http/problems';
import type { LedgerOwner } from './page';
import { PEOPLE_BEHIND } from './peopleBehind';
import { turnOf } from './queries';
import { turnsOfPeople } from './turns';
import { enter, linkEntry } from './write';

/**
 * Somebody says that nothing is left to answer. It stands in the ledger, and holds until more is said.
 * @throws 409 where it is not our turn
 */
export async function markAnswered(
  context: Context,
  [owner, id]: readonly [LedgerOwner, string],
): Promise<{ eventId: string | null }> {
  const turn = await turnOf(context, owner, id);
  if (turn.turn !== 'ours') throw conflict('It is not your turn here.');
  const people = await context.sequelize.query<{ id: string }>(PEOPLE_BEHIND[owner], {
    replacements: { id },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  const turns = await turnsOfPeople(
    context,
    people.map((person) => person.id),
  );
  const waiting = [...turns].flatMap(([person, { turn: whose }]) => (whose === 'ours' ? person : []));
  const entry = await enter(
    context,
    {
      side: 'within',
      kind: 'change',
      headline: 'Marked as answered',
      body: turn.because,
      settles: true,
    },
    { [owner]: id },
  );
  for (const personId of waiting) await linkEntry(context, entry.id, { personId });
  const eventId = await context.write.event('mark answered', 'Marked as answered', requireActor(context).id);
  return { eventId };
}
