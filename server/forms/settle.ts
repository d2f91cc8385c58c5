import type { Context } from '../commands/context';
import { keepStatements, personOfAddress, purposesMeant } from '../consent/statements';
import { Form, FormSubmission } from '../db/models/forms';

/** Keeps what somebody agreed to in a form: that they ticked its box, or that they confirmed it by the link of the mail. */
export async function keepAgreement(
  context: Context,
  { email, captureId }: FormSubmission,
  form: Form | null,
  state: 'agreed' | 'unconfirmed',
): Promise<void> {
  const personId = email ? await personOfAddress(context, email) : null;
  if (!personId) return;
  const purposes = await purposesMeant(context, form?.purposeIds ?? []);
  await keepStatements(
    context,
    personId,
    purposes.map((purposeId) => ({
      ...{ personId, purposeId, state, how: state === 'agreed' ? ('confirmed' as const) : ('form' as const) },
      ...{ words: form?.consent ?? '', source: form?.name ?? 'a form', address: email, captureId },
    })),
  );
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
    await keepAgreement(context, submission, form, submission.confirmedAt ? 'agreed' : 'unconfirmed');
}
