import type { Actor } from '../commands/context';
import { User } from '../db/models/users';
import { actorOf } from '../session/identify';

/** Who asked for an import: it is judged by what they may see. Null when their account is gone. */
export async function importer(userId: string): Promise<Actor | null> {
  const user = await User.findByPk(userId);
  return user ? actorOf(user) : null;
}
