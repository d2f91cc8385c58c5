import { readEntry } from '@emporikon/core/ledger/entryReading';
import type { MailNature } from '@emporikon/core/reading/types';
import type { CreationAttributes } from 'sequelize';
import type { Context } from '../commands/context';
import { LedgerEntry, LedgerLink } from '../db/models/ledger';

const RECORDS = ['personId', 'companyId', 'leadId', 'dealId', 'projectId', 'caseId'] as const;
/** The records that an entry concerns. */
export type Concerned = Partial<Record<(typeof RECORDS)[number], string | null>>;

type Said = Pick<LedgerEntry, 'side' | 'kind' | 'headline'> &
  Partial<Omit<CreationAttributes<LedgerEntry>, 'reading'>>;

/** What an entry writes with: of a command, or of what follows one. */
type Entering = Pick<Context, 'newId' | 'now' | 'actor' | 'tx'> & { write: Pick<Context['write'], 'insert'> };

/** What the reader is told beside the entry itself: the text of a mail with what it quotes, and who sent it. */
interface Told {
  text?: string;
  subject?: string;
  from?: string;
  nature?: MailNature | null;
}

type Words = Pick<LedgerEntry, 'side' | 'kind' | 'headline' | 'body'> &
  Partial<Pick<LedgerEntry, 'outcome' | 'said'>>;

/** What an entry leaves open and settles, by all its words. */
export const readingOf = (
  { side, kind, headline, body, said = '', outcome = null }: Words,
  told?: Told,
): ReturnType<typeof readEntry> =>
  readEntry({ side, kind, outcome, text: said || [headline, body].filter(Boolean).join('\n'), ...told });

/**
 * Links an entry to each record it concerns, unless it is linked there already.
 * @param isCopied the person was only sent a copy, and is not waited for
 */
export async function linkEntry(
  context: Entering,
  entryId: string,
  about: Concerned,
  isCopied = false,
): Promise<void> {
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
        projectId: null,
        caseId: null,
        isCopied: isCopied && key === 'personId',
        [key]: id,
      });
  }
}

/** Links an entry to everything that another one is linked to. */
export async function linkAlike(context: Entering, entryId: string, like: string): Promise<void> {
  const links = await LedgerLink.findAll({ where: { entryId: like }, transaction: context.tx });
  for (const link of links) await linkEntry(context, entryId, link);
}

/**
 * Enters what happened into the ledger of all it concerns, and reads what it leaves open. What is not given: it happened
 * now, was said by whoever acts, and comes of no capture.
 */
export async function enter(
  context: Entering,
  given: Said,
  about: Concerned,
  told?: Told,
): Promise<LedgerEntry> {
  const said = { body: '', ...given };
  const entry = await context.write.insert(LedgerEntry, {
    id: context.newId(),
    at: context.now(),
    captureId: null,
    actorId: context.actor?.id ?? null,
    createdAt: context.now(),
    ...said,
    reading: readingOf(said, told),
  });
  await linkEntry(context, entry.id, about);
  return entry;
}
