import type { CreationAttributes } from 'sequelize';
import type { Context } from '../commands/context';
import { LedgerEntry, LedgerLink } from '../db/models/ledger';

const RECORDS = ['personId', 'companyId', 'leadId', 'dealId'] as const;
/** The records that an entry concerns. */
export type Concerned = Partial<Record<(typeof RECORDS)[number], string | null>>;

type Said = Pick<LedgerEntry, 'side' | 'kind' | 'headline'> & Partial<CreationAttributes<LedgerEntry>>;

/** Links an entry to each record it concerns, unless it is linked there already. */
export async function linkEntry(context: Context, entryId: string, about: Concerned): Promise<void> {
  for (const key of RECORDS) {
    const id = about[key];
    if (!id) continue;
    const known = await LedgerLink.findOne({ where: { entryId, [key]: id }, transaction: context.tx });
    if (!known)
      await context.write.insert(LedgerLink, {
        id: context.newId(),
        entryId,
        personId: null,
        companyId: null,
        leadId: null,
        dealId: null,
        [key]: id,
      });
  }
}

/**
 * Enters what happened into the ledger of all it concerns. What is not given: it happened now, was said by whoever acts,
 * and comes of no capture.
 */
export async function enter(context: Context, said: Said, about: Concerned): Promise<LedgerEntry> {
  const entry = await context.write.insert(LedgerEntry, {
    id: context.newId(),
    at: context.now(),
    body: '',
    asks: [],
    captureId: null,
    actorId: context.actor?.id ?? null,
    createdAt: context.now(),
    ...said,
  });
  await linkEntry(context, entry.id, about);
  return entry;
}
