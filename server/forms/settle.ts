import { normalizeEmail } from '@emporikon/core/people/emails';
import type { Context } from '../commands/context';
import { Form, FormSubmission } from '../db/models/forms';
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

const CREATES = { new: 'lead', working: 'lead', case: 'case', none: 'person' } as const;

/** What a form is set to do with whoever fills it in, as choices of a filing; nothing where the form is gone. */
export async function settingsOfForm(
  context: Context,
  captureId: string,
): Promise<{
  as?: 'person' | 'lead' | 'case';
  tags?: string[];
  source?: string;
  ownerId?: string;
  listId?: string;
  leadStatus?: 'working';
}> {
  const submission = await FormSubmission.findOne({ where: { captureId }, transaction: context.tx });
  const form = submission && (await Form.findByPk(submission.formId, { transaction: context.tx }));
  if (!form) return {};
  return {
    as: CREATES[form.leadStatus],
    tags: form.tags,
    source: form.source,
    ...(form.ownerId ? { ownerId: form.ownerId } : {}),
    ...(form.listId ? { listId: form.listId } : {}),
    ...(form.leadStatus === 'working' ? { leadStatus: 'working' } : {}),
  };
}

/** When a submission is filed from Arrivals, it belongs to whoever it was filed on, and so does what they agreed to. */
export async function settleSubmission(context: Context, captureId: string, personId: string): Promise<void> {
  const submission = await FormSubmission.findOne({
    where: { captureId },
    transaction: context.tx,
    lock: true,
  });
  if (!submission || submission.personId) return;
  const form = await Form.findByPk(submission.formId, { transaction: context.tx });
  await context.write.update(submission, { personId });
  if (submission.email && submission.confirmHash)
    await setConsent(
      context,
      submission.email,
      submission.confirmedAt ? 'agreed' : 'unconfirmed',
      form?.name || 'form',
    );
}
