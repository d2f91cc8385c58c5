import { createHash, randomBytes } from 'node:crypto';
import type { FormField } from '@emporikon/contract/forms';
import { isEmail } from '@emporikon/core/people/emails';
import { readPhone } from '@emporikon/core/people/phones';
import { Op, QueryTypes } from 'sequelize';
import type { Actor, Context } from '../commands/context';
import { readOwnRecord } from '../captures/arrivals';
import { storeCapture } from '../captures/store';
import { fileCapture } from '../captures/filing';
import { recognise } from '../captures/recognise';
import { loadClaims } from '../captures/view';
import type { Capture } from '../db/models/captures';
import { Form, FormSubmission } from '../db/models/forms';
import { Person } from '../db/models/people';
import { User } from '../db/models/users';
import { invalid } from '../http/problems';
import { actorOf } from '../session/identify';
import { requestConsent } from './askConsent';
import { keepAgreement } from './settle';

export interface Submitted {
  answers: Readonly<Record<string, string>>;
  /** Whether the box of the consent was ticked. */
  agreed: boolean;
  personId?: string | undefined;
  page?: string | undefined;
}

/** What is wrong with the answers, by field; empty when nothing is. */
export function wrongAnswers(
  fields: readonly FormField[],
  answers: Readonly<Record<string, string>>,
  country: string,
): Record<string, string> {
  const wrong: Record<string, string> = {};
  for (const field of fields) {
    const value = (answers[field.name] ?? '').trim();
    if (!value) {
      if (field.required) wrong[field.name] = 'is missing';
    } else if (field.field === 'email' && !isEmail(value)) wrong[field.name] = 'is not an email address';
    else if (field.field === 'phone' && !readPhone(value, [country]))
      wrong[field.name] = 'is not a phone number';
    else if (field.kind === 'choice' && !field.options.includes(value))
      wrong[field.name] = 'is not one of the choices';
    else if (field.kind === 'number' && !/^-?\d+(?:[.,]\d+)?$/.test(value))
      wrong[field.name] = 'is not a number';
    else if (field.kind === 'date' && !/^\d{4}-\d\d-\d\d$/.test(value)) wrong[field.name] = 'is not a day';
  }
  return wrong;
}

async function knownBy(context: Context, form: Form, captureId: string): Promise<string | null> {
  if (form.recognise === 'ask') return null;
  const claims = await loadClaims(context, captureId);
  const of = (field: string): string[] =>
    claims.filter((claim) => claim.field === field).map((claim) => claim.normalized ?? claim.value);
  const find = async (kind: 'email' | 'phone'): Promise<string[]> => {
    const values = of(kind);
    if (!values.length) return [];
    const rows = await context.sequelize.query<{ personId: string }>(
      `SELECT DISTINCT person_id AS "personId" FROM contact_points
        WHERE kind = '${kind}' AND normalized ${kind === 'phone' ? 'COLLATE "C" ' : ''}= ANY($values::text[])`,
      { bind: { values }, type: QueryTypes.SELECT, transaction: context.tx },
    );
    return rows.map((row) => row.personId);
  };
  const byEmail = form.recognise === 'phone' ? [] : await find('email');
  const byPhone = form.recognise === 'email' ? [] : await find('phone');
  if (form.recognise === 'both')
    return byEmail.length === 1 && byPhone.includes(byEmail[0] ?? '') ? (byEmail[0] ?? null) : null;
  const found = [...byEmail, ...byPhone];
  return found.length === 1 ? (found[0] ?? null) : null;
}

/** Who files what a form files by itself: its owner, else the first manager. */
async function filerOf(context: Context, form: Form): Promise<Actor | null> {
  const user =
    (form.ownerId
      ? await User.findOne({ where: { id: form.ownerId, active: true }, transaction: context.tx })
      : null) ??
    (await User.findOne({
      where: { active: true, role: { [Op.in]: ['manager', 'admin'] } },
      transaction: context.tx,
    }));
  return user ? actorOf(user, context.tx) : null;
}

/** Whether a form may file what came in, and on whom: only where nothing is left to decide. */
async function sureChoice(context: Context, form: Form, captureId: string): Promise<string | null> {
  const known = await knownBy(context, form, captureId);
  if (known) return known;
  if (form.recognise === 'ask') return null;
  const { person, facts } = await recognise(context, await loadClaims(context, captureId));
  if (person.kind === 'same') return person.matches[0]?.id ?? null;
  return person.kind === 'new' && (facts.person.fullName || facts.person.emails.length) ? 'new' : null;
}

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/**
 * Takes in a filled form: kept as a capture and read, filed by itself where the form may and the verdict is sure.
 * @throws 422 naming the fields that are wrong
 */
export async function submitForm(
  context: Context,
  form: Form,
  given: Submitted,
): Promise<{ submission: FormSubmission; person: Person | null }> {
  const wrong = wrongAnswers(form.fields, given.answers, context.house.country);
  if (Object.keys(wrong).length) throw invalid('Some answers are missing or not valid.', { fields: wrong });
  const id = context.newId();
  const answers = form.fields
    .filter((field) => (given.answers[field.name] ?? '').trim())
    .map((field) => ({
      name: field.name,
      label: field.label,
      value: (given.answers[field.name] ?? '').trim(),
      field: field.field ?? (field.kind === 'text' ? 'note' : null),
    }));
  const record = { kind: 'form', form: form.name, id, page: given.page ?? null, answers };
  const { capture } = await storeCapture(context, await readOwnRecord(context, record), { by: 'form' });
  const emailField = form.fields.find((field) => field.field === 'email');
  const email = emailField ? (given.answers[emailField.name] ?? '').trim() || null : null;
  const token = given.agreed && email && form.consent ? randomBytes(24).toString('base64url') : null;
  const submission = await context.write.insert(FormSubmission, {
    id,
    formId: form.id,
    captureId: capture.id,
    personId: null,
    userId: context.actor?.id ?? null,
    submittedAt: context.now(),
    email,
    confirmHash: token ? hashOf(token) : null,
  });
  if (token) await requestConsent(context, id, token);
  // The submission is an event of its own: taking back how it was filed leaves it, and its consent link, where they are.
  await context.write.event('submit form', `Filled in ${form.name}`, context.actor?.id ?? null);
  const choice = given.personId ?? (form.filesItself ? await sureChoice(context, form, capture.id) : null);
  const person = choice ? await fileSubmission(context, form, capture, choice) : null;
  return { submission, person };
}

async function fileSubmission(
  context: Context,
  form: Form,
  capture: Capture,
  choice: string,
): Promise<Person | null> {
  const actor = context.actor ?? (await filerOf(context, form));
  if (!actor) return null;
  const filed = await fileCapture({ ...context, actor }, capture.id, { person: choice });
  return Person.findByPk(filed.person.id, { transaction: context.tx });
}

/** Whether a token is one of ours; confirms nothing. */
export const isConsentToken = async ({ tx }: Pick<Context, 'tx'>, token: string): Promise<boolean> =>
  (await FormSubmission.count({ where: { confirmHash: hashOf(token) }, transaction: tx })) > 0;

/** Confirms an address by the token of its mail. @returns whether the token was one of ours */
export async function confirmConsent(context: Context, token: string): Promise<boolean> {
  const submission = await FormSubmission.findOne({
    where: { confirmHash: hashOf(token) },
    transaction: context.tx,
    lock: true,
  });
  if (!submission?.email) return false;
  if (!submission.confirmedAt) await context.write.update(submission, { confirmedAt: context.now() });
  const form = await Form.findByPk(submission.formId, { transaction: context.tx });
  await keepAgreement(context, submission, form, 'agreed');
  await context.write.event('confirm consent', `${submission.email} agreed to be written to`, null);
  return true;
}
