import { normalizeEmail } from '@emporikon/core/people/emails';
import type { Context } from '../commands/context';
import { FormSubmission } from '../db/models/forms';
import { ContactPoint } from '../db/models/people';

/** Notes whether an address may be written to, when, and by what. An agreement is never taken back by a new question. */
export async function setConsent(
  context: Context,
  email: string,
  state: NonNullable<ContactPoint['consent']>,
  source: string,
): Promise<void> {
  const contact = await ContactPoint.findOne({
    where: { kind: 'email', normalized: normalizeEmail(email) },
    transaction: context.tx,
    lock: true,
  });
  // Whoever withdrew has to agree anew, and does by the link of the mail alone.
  if (!contact || contact.consent === state || (state === 'unconfirmed' && contact.consent === 'agreed'))
    return;
  await context.write.update(contact, { consent: state, consentAt: context.now(), consentSource: source });
}

/** When a submission is filed from Arrivals, it belongs to whoever it was filed on, and so does what they agreed to. */
export async function settleSubmission(context: Context, captureId: string, personId: string): Promise<void> {
  const submission = await FormSubmission.findOne({
    where: { captureId },
    transaction: context.tx,
    lock: true,
  });
  if (!submission || submission.personId) return;
  await context.write.update(submission, { personId });
  if (submission.email && submission.confirmHash)
    await setConsent(context, submission.email, submission.confirmedAt ? 'agreed' : 'unconfirmed', 'form');
}
