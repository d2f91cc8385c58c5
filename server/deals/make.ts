import type { DealRole } from '@emporikon/core/lifecycle/conversion';
import type { Context } from '../commands/context';
import { Deal, DealRoleRow } from '../db/models/deals';
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
  tags?: string[] | undefined;
  role?: DealRole | undefined;
}

/** A new deal, with its person in it where it has one. */
export async function makeDeal(context: Context, personId: string | null, given: NewDeal): Promise<Deal> {
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
    tags: given.tags ?? [],
    stageId: stage.id,
    stageSince: now,
    probability: await usualChanceOf(context, stage),
    closedAt: stage.kind === 'open' ? null : now,
    probabilityByHand: false,
    createdAt: now,
    updatedAt: now,
  });
  if (personId)
    await context.write.insert(DealRoleRow, {
      id: context.newId(),
      dealId: deal.id,
      personId,
      role: given.role ?? 'decides',
    });
  return deal;
}
