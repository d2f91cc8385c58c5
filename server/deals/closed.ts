import { standingWhenWon } from '@emporikon/core/lifecycle/standing';
import type { Context } from '../commands/context';
import { DealRoleRow, type Deal } from '../db/models/deals';
import { Task } from '../db/models/tasks';
import { Person } from '../db/models/people';

/**
 * What follows from the end of a deal: whoever bought is a customer, and the moves that were to win it are settled. All of
 * it is part of the command that closed the deal, and taken back with it.
 */
export const settleClosed = (context: Context, deal: Deal, end: 'won' | 'lost'): Promise<void> =>
  context.write.asConsequence(async () => {
    const options = { transaction: context.tx, lock: true };
    const now = context.now();
    for (const move of await Task.findAll({ where: { dealId: deal.id, doneAt: null }, ...options }))
      await context.write.update(move, { doneAt: now });
    if (end === 'lost') return;
    const roles = await DealRoleRow.findAll({ where: { dealId: deal.id }, transaction: context.tx });
    for (const person of await Person.findAll({
      where: { id: roles.map((role) => role.personId) },
      ...options,
    })) {
      const standing = standingWhenWon(person.standing);
      if (standing !== person.standing) await context.write.update(person, { standing, updatedAt: now });
    }
  });
