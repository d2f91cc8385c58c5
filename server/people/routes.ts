import type { Handlers } from '../http/mount';
import { addPerson, addPersonContact, changeContact, changePerson, removeContact } from './commands';
import { findOrCreatePerson } from './identity';
import { listPeople, personRow } from './list';
import { personDossier } from './queries';

export const peopleHandlers: Handlers = {
  'GET /api/people': async ({ query, context }) => listPeople(context, query),
  'POST /api/people': async ({ body, context }) => {
    const { id, eventId } = await addPerson(context, body);
    return { eventId, person: await personRow(context, id) };
  },
  'GET /api/people/:id': async ({ params, context }) => personDossier(context, params.id),
  'PATCH /api/people/:id': async ({ params, body, context }) => changePerson(context, params.id, body),
  'POST /api/people/find-or-create': async ({ body, context }) => {
    const { email, emails, phone, phones, ...rest } = body;
    const { id, outcome, matches, eventId } = await findOrCreatePerson(context, {
      ...rest,
      emails: email ? [email, ...emails] : emails,
      phones: phone ? [phone, ...phones] : phones,
    });
    return {
      outcome,
      created: outcome === 'created',
      eventId,
      matches,
      person: id ? await personRow(context, id) : null,
    };
  },
  'POST /api/people/:id/contacts': async ({ params, body, context }) => ({
    eventId: await addPersonContact(context, params.id, body.kind, body.value, body.type),
  }),
  'PATCH /api/contacts/:id': async ({ params, body, context }) => ({
    eventId: await changeContact(context, params.id, body),
  }),
  'DELETE /api/contacts/:id': async ({ params, context }) => ({
    eventId: await removeContact(context, params.id),
  }),
};
