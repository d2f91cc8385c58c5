import { User } from '../db/models/users';
import { invalid } from '../http/problems';
import type { Context } from './context';

/**
 * Somebody records can be given to.
 * @returns the same id
 * @throws ProblemError 422 when there is no such colleague, or they are switched off
 */
export async function requireColleague(context: Context, ownerId: string): Promise<string> {
  if (await User.findOne({ where: { id: ownerId, active: true }, transaction: context.tx })) return ownerId;
  throw invalid('There is no such colleague.', { fields: { ownerId: 'does not exist' } });
}
