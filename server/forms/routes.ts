import type { FormField } from '@emporikon/contract/forms';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { List } from '../db/models/fields';
import { Form } from '../db/models/forms';
import { Person } from '../db/models/people';
import { User } from '../db/models/users';
import type { Handlers } from '../http/mount';
import { conflict, invalid } from '../http/problems';
import { requireKnownField } from '../fields/mapping';
import { deliveriesOf } from '../outbox/queries';
import { submitForm } from './submit';
import { asForm, loadForm } from './view';

/** What a form refers to must be there, its names must differ, and a choice needs options. */
async function checkForm(
  context: Context,
  given: {
    fields?: readonly FormField[] | undefined;
    ownerId?: string | null | undefined;
    listId?: string | null | undefined;
  },
): Promise<void> {
  const names = (given.fields ?? []).map((field) => field.name);
  const double = names.find((name, index) => names.indexOf(name) !== index);
  if (double)
    throw invalid('Two fields have the same name.', { fields: { fields: `${double} appears twice` } });
  for (const field of given.fields ?? []) {
    if (field.kind === 'choice' && !field.options.length)
      throw invalid(`“${field.label}” needs at least one choice.`, {
        fields: { [field.name]: 'has no options' },
      });
    await requireKnownField(context, field.field ?? '', field.name);
  }
  if (given.ownerId && !(await User.findByPk(given.ownerId, { transaction: context.tx })))
    throw invalid('There is no such colleague.', { fields: { ownerId: 'does not exist' } });
  if (given.listId && !(await List.findByPk(given.listId, { transaction: context.tx })))
    throw invalid('There is no such list.', { fields: { listId: 'does not exist' } });
}

async function checkSlug(context: Context, slug: string, own?: string): Promise<void> {
  const taken = await Form.findOne({ where: { slug }, transaction: context.tx });
  if (taken && taken.id !== own)
    throw conflict(`There is a form at /f/${slug} already.`, { fields: { slug: 'is taken' } });
}

interface Row {
  id: string;
  form_id: string;
  form: string;
  capture_id: string;
  at: Date;
  by: string | null;
  confirmed_at: Date | null;
  text: string;
}

export const formHandlers: Handlers = {
  'GET /api/forms': async ({ context }) => {
    const forms = await Form.findAll({ order: [['active', 'DESC'], 'name'], transaction: context.tx });
    const items = [];
    for (const form of forms) items.push(await asForm(context, form));
    return { items };
  },
  'GET /api/forms/:id': async ({ params, context }) => asForm(context, await loadForm(context, params.id)),
  'POST /api/forms': async ({ body, context }) => {
    await checkForm(context, body);
    await checkSlug(context, body.slug);
    const form = await context.write.insert(Form, {
      id: context.newId(),
      ...body,
      ownerId: body.ownerId ?? null,
      listId: body.listId ?? null,
      active: true,
      createdAt: context.now(),
    });
    const eventId = await context.write.event(
      'add form',
      `Designed the form ${body.name}`,
      requireActor(context).id,
    );
    return { eventId, form: await asForm(context, form) };
  },
  'PATCH /api/forms/:id': async ({ params, body, context }) => {
    const form = await loadForm(context, params.id);
    const { version, ...patch } = body;
    await checkForm(context, patch);
    if (patch.slug) await checkSlug(context, patch.slug, form.id);
    await context.write.update(form, patch, version);
    const eventId = await context.write.event(
      'change form',
      `Changed the form ${form.name}`,
      requireActor(context).id,
    );
    return { eventId, form: await asForm(context, form) };
  },
  'POST /api/forms/:id/submissions': async ({ params, body, context }) => {
    const form = await loadForm(context, params.id);
    if (!form.active) throw conflict('This form is retired.');
    if (
      body.personId &&
      body.personId !== 'new' &&
      !(await Person.findByPk(body.personId, { transaction: context.tx }))
    )
      throw invalid('There is no such person.', { fields: { personId: 'does not exist' } });
    const { submission, person } = await submitForm(context, form, body);
    return {
      eventId: null,
      captureId: submission.captureId,
      person: person ? { id: person.id, name: person.fullName } : null,
      filed: person !== null,
    };
  },
  'GET /api/submissions': async ({ query, context }) => {
    const rows = await context.sequelize.query<Row>(
      `SELECT s.id, f.id AS form_id, f.name AS form, s.capture_id, s.submitted_at AS at, u.name AS by, s.confirmed_at, c.message->>'text' AS text
         FROM form_submissions s JOIN forms f ON f.id = s.form_id JOIN captures c ON c.id = s.capture_id LEFT JOIN users u ON u.id = s.user_id
        WHERE (:personId::uuid IS NULL OR s.person_id = :personId) AND (:formId::uuid IS NULL OR s.form_id = :formId)
        ORDER BY s.submitted_at DESC LIMIT 200`,
      {
        replacements: { personId: query.personId ?? null, formId: query.formId ?? null },
        type: QueryTypes.SELECT,
        transaction: context.tx,
      },
    );
    const deliveries = await deliveriesOf(
      context,
      rows.map(({ id }) => id),
    );
    return {
      items: rows.map((row) => ({
        id: row.id,
        delivery: deliveries.get(row.id) ?? null,
        form: { id: row.form_id, name: row.form },
        captureId: row.capture_id,
        at: row.at.toISOString(),
        by: row.by,
        confirmedAt: row.confirmed_at?.toISOString() ?? null,
        answers: answersIn(row.text),
      })),
    };
  },
};

/** The answers as the reading of a form writes them out, `Label: value` a line; a value may go on over lines. */
function answersIn(text: string): { label: string; value: string }[] {
  const answers: { label: string; value: string }[] = [];
  for (const line of text.split('\n')) {
    const head = /^([^:\n]{1,120}): (.*)$/.exec(line);
    const last = answers.at(-1);
    if (head) answers.push({ label: head[1] ?? '', value: head[2] ?? '' });
    else if (last) last.value += `\n${line}`;
  }
  return answers;
}
