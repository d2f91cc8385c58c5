import type { Handlers } from '../http/mount';
import { addCompany, changeCompany } from './commands';
import { findOrCreateCompany } from './identity';
import { companyDossier, companyKinds, companyRow, listCompanies } from './queries';

export const companyHandlers: Handlers = {
  'GET /api/companies': async ({ query, context }) => listCompanies(context, query),
  'POST /api/companies': async ({ body, context }) => {
    const { id, eventId } = await addCompany(context, body.name, body.domain ?? null, body.kind);
    return { eventId, company: await companyRow(context, id) };
  },
  'POST /api/companies/find-or-create': async ({ body, context }) => {
    const { id, outcome, matches, eventId } = await findOrCreateCompany(context, body);
    return {
      outcome,
      created: outcome === 'created',
      eventId,
      matches,
      company: id ? await companyRow(context, id) : null,
    };
  },
  'GET /api/companies/kinds': async ({ context }) => companyKinds(context),
  'GET /api/companies/:id': async ({ params, context }) => companyDossier(context, params.id),
  'PATCH /api/companies/:id': async ({ params, body, context }) => changeCompany(context, params.id, body),
};
