import { headingOf, titleOfWork } from '@emporikon/core/reading/heading';
import type { Urgency } from '@emporikon/core/lifecycle/cases';
import { requireActor, type Context } from '../commands/context';
import { Case } from '../db/models/afterDeals';
import type { Capture } from '../db/models/captures';
import { invalid } from '../http/problems';
import { makeCase } from './open';

interface Choice {
  as?: string | undefined;
  case?: string | undefined;
  lead?: unknown;
  deal?: unknown;
  urgency?: Urgency | undefined;
  ownerId?: string | undefined;
}

const CAME_BY: Partial<Record<Capture['kind'], Case['cameBy']>> = {
  email: 'mail',
  call: 'call',
  form: 'form',
};
const MOST_WORDS = 4000;

/** What somebody writes about a case that was solved opens it again; what a machine sends does not. */
async function reopen(context: Context, found: Case, capture: Capture): Promise<Case> {
  if (found.solvedAt && capture.message.side === 'theirs' && !capture.message.nature)
    await context.write.update(found, { solvedAt: null });
  return found;
}

/**
 * The case that a capture is about: the one that is named, one that is opened for it, or the one whose exchange of mails
 * it continues; null for none.
 * @throws 422 for a case that does not exist
 */
export async function caseOfCapture(
  context: Context,
  capture: Capture,
  choice: Choice,
  { personId, companyId }: { personId: string; companyId: string | null },
): Promise<Case | null> {
  if (choice.case) {
    const found = await Case.findByPk(choice.case, { transaction: context.tx, lock: true });
    if (!found) throw invalid('There is no such case.', { fields: { case: 'does not exist' } });
    return reopen(context, found, capture);
  }
  if (choice.as === 'case')
    return makeCase(context, {
      title: titleOfWork(null, headingOf(capture.kind, capture.message).subject),
      words: (capture.message.said || capture.message.text).slice(0, MOST_WORDS),
      personId,
      companyId,
      urgency: choice.urgency ?? 'normal',
      ownerId: choice.ownerId ?? requireActor(context).id,
      cameBy: CAME_BY[capture.kind] ?? 'other',
      openedAt: capture.message.sentAt ? new Date(capture.message.sentAt) : capture.receivedAt,
      captureId: capture.id,
      thread: capture.thread ?? null,
    });
  if (!capture.thread || choice.as || choice.lead || choice.deal) return null;
  const found = await Case.findOne({
    where: { thread: capture.thread },
    order: [['openedAt', 'DESC']],
    transaction: context.tx,
    lock: true,
  });
  return found ? reopen(context, found, capture) : null;
}
