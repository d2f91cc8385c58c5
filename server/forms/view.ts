import type { Form as FormView } from '@emporikon/contract/forms';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { Form } from '../db/models/forms';
import { User } from '../db/models/users';
import { notFound } from '../http/problems';

export async function asForm(context: Context, form: Form): Promise<FormView> {
  const [count] = await context.sequelize.query<{ n: number }>(
    'SELECT count(*)::int AS n FROM form_submissions WHERE form_id = :id',
    { replacements: { id: form.id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const owner = form.ownerId ? await User.findByPk(form.ownerId, { transaction: context.tx }) : null;
  return {
    id: form.id,
    version: form.version,
    slug: form.slug,
    name: form.name,
    kind: form.kind,
    recognise: form.recognise,
    fields: form.fields,
    consent: form.consent,
    purposeIds: form.purposeIds,
    thanks: form.thanks,
    ownerId: form.ownerId,
    owner: owner ? { id: owner.id, name: owner.name } : null,
    listId: form.listId,
    tags: form.tags,
    source: form.source,
    leadStatus: form.leadStatus,
    filesItself: form.filesItself,
    active: form.active,
    submissions: count?.n ?? 0,
  };
}

/** @throws 404 */
export async function loadForm(context: Context, id: string): Promise<Form> {
  const form = await Form.findByPk(id, { transaction: context.tx });
  if (!form) throw notFound('There is no such form.');
  return form;
}
