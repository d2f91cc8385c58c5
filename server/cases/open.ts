import type { Parsed } from '@emporikon/contract';
import type { Urgency } from '@emporikon/core/lifecycle/cases';
import { requireColleague } from '../commands/colleague';
import { requireActor, type Context } from '../commands/context';
import { Case } from '../db/models/afterDeals';
import { Capture } from '../db/models/captures';
import { Deal } from '../db/models/deals';
import { LedgerEntry } from '../db/models/ledger';
import { Company, Person } from '../db/models/people';
import { invalid } from '../http/problems';
import { enter, linkEntry } from '../ledger/write';
import { promisedTimes } from './promises';

interface NewCase {
  title: string;
  words?: string | undefined;
  personId: string | null;
  companyId: string | null;
  dealId?: string | null | undefined;
  urgency: Urgency;
  ownerId: string;
  cameBy: Case['cameBy'];
  openedAt?: Date;
  captureId?: string | null;
  thread?: string | null;
}

/** Opens a case, with what is promised by its urgency from the moment it was told. */
export async function makeCase(context: Context, given: NewCase): Promise<Case> {
  const openedAt = given.openedAt ?? context.now();
  return context.write.insert(Case, {
    id: context.newId(),
    title: given.title,
    words: given.words ?? '',
    personId: given.personId,
    companyId: given.companyId,
    dealId: given.dealId ?? null,
    captureId: given.captureId ?? null,
    thread: given.thread ?? null,
    cameBy: given.cameBy,
    urgency: given.urgency,
    ownerId: given.ownerId,
    openedBy: context.actor?.id ?? null,
    openedAt,
    ...(await promisedTimes(context, { urgency: given.urgency, ownerId: given.ownerId, openedAt })),
  });
}

const CAME_BY: Partial<Record<LedgerEntry['kind'], Case['cameBy']>> = {
  mail: 'mail',
  call: 'call',
  form: 'form',
};

/** @throws 422 for a person, company or deal that does not exist, or for nobody */
async function whose(
  context: Context,
  given: {
    personId?: string | null | undefined;
    companyId?: string | null | undefined;
    dealId?: string | null | undefined;
  },
): Promise<{ personId: string | null; companyId: string | null }> {
  const person = given.personId ? await Person.findByPk(given.personId, { transaction: context.tx }) : null;
  if (given.personId && !person)
    throw invalid('There is no such person.', { fields: { personId: 'does not exist' } });
  if (given.companyId && !(await Company.findByPk(given.companyId, { transaction: context.tx })))
    throw invalid('There is no such company.', { fields: { companyId: 'does not exist' } });
  if (given.dealId && !(await Deal.findByPk(given.dealId, { transaction: context.tx })))
    throw invalid('There is no such deal.', { fields: { dealId: 'does not exist' } });
  const companyId = given.companyId ?? person?.companyId ?? null;
  if (!person && !companyId) throw invalid('Say whose case it is.', { fields: { personId: 'is missing' } });
  return { personId: person?.id ?? null, companyId };
}

/** Opens a case by hand: told in an entry of the ledger, or just now. */
export async function openCase(
  context: Context,
  { entryId, ownerId, title, words, urgency, dealId, ...about }: Parsed<'POST /api/cases', 'body'>,
): Promise<{ id: string; eventId: string | null }> {
  const { personId, companyId } = await whose(context, { ...about, dealId });
  const entry = entryId ? await LedgerEntry.findByPk(entryId, { transaction: context.tx }) : null;
  if (entryId && !entry) throw invalid('There is no such entry.', { fields: { entryId: 'does not exist' } });
  const capture = entry?.captureId
    ? await Capture.findByPk(entry.captureId, { transaction: context.tx })
    : null;
  const actor = requireActor(context);
  const made = await makeCase(context, {
    title,
    words,
    personId,
    companyId,
    dealId,
    urgency,
    ownerId: ownerId ? await requireColleague(context, ownerId) : actor.id,
    cameBy: (entry && CAME_BY[entry.kind]) ?? 'other',
    ...(entry ? { openedAt: entry.at } : {}),
    captureId: capture?.id ?? null,
    thread: entry?.thread ?? null,
  });
  if (entry) await linkEntry(context, entry.id, { caseId: made.id });
  else
    await enter(
      context,
      { side: 'within', kind: 'change', headline: `Case opened: ${title}`, body: words?.slice(0, 280) ?? '' },
      { caseId: made.id, personId, companyId },
    );
  const eventId = await context.write.event('open case', `Opened the case ${title}`, actor.id);
  return { id: made.id, eventId };
}
