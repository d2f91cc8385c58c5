import { standingWithWork } from '@emporikon/core/lifecycle/standing';
import { requireActor, type Context } from '../commands/context';
import { Lead } from '../db/models/deals';
import { giveByRule } from '../qualifying/owners';
import type { Person } from '../db/models/people';

/** A new lead of somebody, owned by whoever acts unless another is named; with it a stranger becomes a prospect. */
export async function makeLead(
  context: Context,
  person: Person,
  given: {
    title: string;
    companyId: string | null;
    source: string;
    ownerId?: string;
    status?: 'new' | 'working';
  },
): Promise<Lead> {
  const now = context.now();
  const standing = standingWithWork(person.standing);
  if (standing !== person.standing)
    await context.write.asConsequence(() => context.write.update(person, { standing, updatedAt: now }));
  const owner = given.ownerId
    ? { ownerId: given.ownerId }
    : ((await giveByRule(context, person, given)) ?? { ownerId: requireActor(context).id });
  return context.write.insert(Lead, {
    id: context.newId(),
    title: given.title,
    companyId: given.companyId,
    source: given.source,
    personId: person.id,
    status: given.status ?? 'new',
    statusSince: now,
    ...owner,
    createdAt: now,
    updatedAt: now,
  });
}
