import type { DealRole } from '@emporikon/core/lifecycle/conversion';
import type { Context } from '../commands/context';
import { Deal, DealRoleRow } from '../db/models/deals';
import type { Person } from '../db/models/people';
import { stageFor, usualChanceOf } from '../pipelines/stages';

export interface NewDeal {
  title: string;
  companyId: string | null;
  leadId: string | null;
  stageId?: string | undefined;
  amountMinor: number | null;
  currency: string;
  expectedClose: string | null;
  ownerId: string;
  role?: DealRole | undefined;
}

/** A new deal with its person in it. */
export const makeDeal = (context: Context, person: Person, given: NewDeal): Promise<Deal> =>
  insertDeal(context, person, given);

/** A new deal, with its person in it where it has one. */
export async function insertDeal(context: Context, person: Person | null, given: NewDeal): Promise<Deal> {
  const stage = await stageFor(context, given.stageId);
  const now = context.now();
  const deal = await context.write.insert(Deal, {
    id: context.newId(),
    title: given.title,
    companyId: given.companyId,
    leadId: given.leadId,
    amountMinor: given.amountMinor,
    currency: given.currency,
    expectedClose: given.expectedClose,
    ownerId: given.ownerId,
    stageId: stage.id,
    stageSince: now,
    probability: await usualChanceOf(context, stage),
    closedAt: stage.kind === 'open' ? null : now,
    probabilityByHand: false,
    createdAt: now,
    updatedAt: now,
  });
  if (person)
    await context.write.insert(DealRoleRow, {
      id: context.newId(),
      dealId: deal.id,
      personId: person.id,
      role: given.role ?? 'decides',
    });
  return deal;
}
